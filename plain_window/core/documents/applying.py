"""An author's changes, applied to a document and checked as a whole."""

from ..errors import DocumentFaults, Fault, InputFaults
from ..fields import check_inputs
from .answer_edits import changed_answer
from .document import Confirmable, DemoDocument, Sample
from .edits import DemoChanges
from .field_edits import changed_fields

__all__ = ["apply_changes"]


def apply_changes(document: DemoDocument, changes: DemoChanges) -> DemoDocument:
    """The document with an author's changes, checked as a whole.

    Parameters
    ----------
    document : DemoDocument
        Not touched.
    changes : DemoChanges

    Returns
    -------
    DemoDocument

    Raises
    ------
    DocumentFaults
        With one fault for everything that does not fit.
    """
    wanted = changes.model_dump(exclude_unset=True)
    plain = {
        key: value for key, value in wanted.items() if key not in ("fields", "answer", "parts") and value is not None
    }
    faults: list[Fault] = []
    if wanted.get("parts"):
        shown = {name: is_shown for name, is_shown in wanted["parts"].items() if is_shown is not None}
        plain["parts"] = document.parts.model_copy(update=shown)
    changed = document.model_copy(update=plain)
    if wanted.get("fields") is not None:
        changed.fields = changed_fields(document.fields, wanted["fields"], faults)
        if changed.fields and all(field.hidden for field in changed.fields):
            message = "Every field would be fixed and hidden: visitors would have nothing to ask. Show one of them."
            faults.append(Fault("fields", message))
        if any(field.get("preparation") for field in wanted["fields"]):
            _confirm(changed, "preparation", changes)
    if wanted.get("answer") is not None:
        changed.answer = changed_answer(document.answer, wanted["answer"], faults)
        if wanted["answer"].get("reading"):
            _confirm(changed, "reading", changes)
    if wanted.get("samples") is not None:
        changed.samples = changes.samples or []
    if wanted.get("sample_films") is not None:
        changed.sample_films = changes.sample_films or []
    if wanted.get("fields") is not None or wanted.get("samples") is not None:
        changed.samples = _of_shown_fields(changed, was_hidden={one.name for one in document.fields if one.hidden})
    faults += _sample_faults(changed)
    if faults:
        raise DocumentFaults(faults)
    return changed


def _confirm(document: DemoDocument, name: Confirmable, changes: DemoChanges) -> None:
    """Whoever says how it is has not left it to a guess, unless they say so too."""
    if changes.confirmed is None and name not in document.confirmed:
        document.confirmed = [*document.confirmed, name]


def _of_shown_fields(document: DemoDocument, was_hidden: set[str]) -> list[Sample]:
    """Ready cases without what visitors do not see, and with what they see again."""
    hidden = {field.name for field in document.fields if field.hidden}
    again = {field.name: field.default for field in document.fields if field.name in was_hidden - hidden}
    return [
        sample.model_copy(
            update={"inputs": {**again, **{name: value for name, value in sample.inputs.items() if name not in hidden}}}
        )
        for sample in document.samples
    ]


def _sample_faults(document: DemoDocument) -> list[Fault]:
    """What is wrong with ready cases: they must be cases a visitor could enter."""
    faults = []
    for at, sample in enumerate(document.samples):
        try:
            check_inputs(document.fields, sample.inputs)
        except InputFaults as error:
            faults += [
                Fault(f"samples.{at}.{fault.field}", f"Sample “{sample.title}”: {fault.message}")
                for fault in error.faults
            ]
    return faults
