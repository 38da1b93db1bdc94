"""What a model is brought with: the parts of an upload, and the words beside them."""

from collections.abc import Mapping
from typing import Literal, TypedDict, cast

from ..authoring.submission import ModelSubmission
from ..core.contract.model_facts import AnswerKind
from ..core.documents import TITLE_CHARACTERS
from ..core.environments.requirements import MOST_BYTES as REQUIREMENTS_BYTES
from ..core.errors import DocumentFaults, Fault
from ..core.fields.calendars import CALENDARS, Calendar
from ..store.addresses import slug_fault
from ..store.demos import find_demo
from .problems import ApiProblem
from .state import state
from .uploads import Upload

__all__ = ["WORD_BYTES", "BroughtWords", "brought_words", "model_of_upload", "submission_of", "upload_parts"]

WORD_BYTES = 1000
# How a table may write numbers.
NUMBERS_WRITTEN: dict[str, Literal["point", "comma"] | None] = {
    "": None,
    "1,234.5": "point",
    "1.234,5": "comma",
    "point": "point",
    "comma": "comma",
}
ANSWER_KINDS = ("class", "labels", "number", "numbers", "picture", "mask", "text", "table")


def upload_parts() -> tuple[dict[str, int], dict[str, int]]:
    """The files and texts that a model comes with, and how many bytes each may be."""
    limits = state().services.settings.limits
    files = {
        "model": limits.model_bytes,
        "function": limits.source_bytes,
        "beside": limits.model_bytes,
        "preprocessor": limits.model_bytes,
        "reference": limits.reference_bytes,
        "known": limits.reference_bytes,
    }
    words = ("target", "answer", "numbers", "dates", "function_name", "known_group")
    texts = {"labels": limits.labels_bytes, "requirements": REQUIREMENTS_BYTES}
    return files, {**texts, **dict.fromkeys(words, WORD_BYTES)}


def model_of_upload(upload: Upload) -> str | None:
    """The part that the model came as: `model`, or `function` for a Python file; None if neither came.

    Parameters
    ----------
    upload : Upload

    Raises
    ------
    DocumentFaults
        If both came.
    """
    there = [name for name in ("model", "function") if name in upload.files]
    if len(there) > 1:
        message = "A demo has a `model` or a `function`; both came. Leave one of them out."
        raise DocumentFaults([Fault("function", message)])
    return there[0] if there else None


class BroughtWords(TypedDict, total=False):
    """What is said of a model that is brought; None for what was sent empty."""

    target: str | None
    function_name: str | None
    known_group: str | None
    requirements: str | None
    labels: list[str] | None
    answer_kind: AnswerKind | None
    numbers: Literal["point", "comma"] | None
    dates: Calendar | None


def brought_words(texts: Mapping[str, str]) -> BroughtWords:
    """Outcome, names and kind of answer as they were sent; None for what was sent empty.

    Parameters
    ----------
    texts : mapping
        By name.

    Raises
    ------
    DocumentFaults
        If there is no such kind of answer.
    """
    words: BroughtWords = {}
    if "target" in texts:
        words["target"] = texts["target"].strip() or None
    if "function_name" in texts:
        words["function_name"] = texts["function_name"].strip() or None
    if "known_group" in texts:
        words["known_group"] = texts["known_group"].strip() or None
    if "requirements" in texts:
        words["requirements"] = texts["requirements"] if texts["requirements"].strip() else None
    if "labels" in texts:
        words["labels"] = [line.strip() for line in texts["labels"].splitlines() if line.strip()] or None
    if "answer" in texts:
        wanted = texts["answer"].strip()
        if wanted and wanted not in ANSWER_KINDS:
            kinds = ", ".join(f"`{kind}`" for kind in ANSWER_KINDS)
            raise DocumentFaults([Fault("answer", f'`answer` may be {kinds}. Got "{wanted[:60]}".')])
        words["answer_kind"] = cast("AnswerKind", wanted) if wanted else None
    if "numbers" in texts:
        written = texts["numbers"].strip()
        if written not in NUMBERS_WRITTEN:
            ways = " or ".join(f"`{way}`" for way in NUMBERS_WRITTEN if way)
            raise DocumentFaults([Fault("numbers", f'`numbers` may be {ways}. Got "{written[:60]}".')])
        words["numbers"] = NUMBERS_WRITTEN[written]
    if "dates" in texts:
        counted = texts["dates"].strip()
        if counted and counted not in CALENDARS:
            ways = ", ".join(f"`{way}`" for way in CALENDARS)
            raise DocumentFaults([Fault("dates", f'`dates` may be {ways}. Got "{counted[:60]}".')])
        words["dates"] = counted or None
    return words


def submission_of(upload: Upload) -> ModelSubmission:
    """What is submitted with a model that a new demo is made of; its files are taken.

    Parameters
    ----------
    upload : Upload

    Raises
    ------
    DocumentFaults
        If there is no model, or something of what is said of it cannot be.
    ApiProblem
        409 for an address that another demo has.
    """
    faults = []
    model_part = model_of_upload(upload)
    if model_part is None:
        came = ", ".join(f"`{name}`" for name in upload.files) or "no file"
        faults.append(
            Fault(
                "model",
                f"`model` is missing; {came} came. Send the file your training script saved as it, or a Python file as "
                "`function`.",
            )
        )
    title, slug = upload.texts.get("title", "").strip(), upload.texts.get("slug", "").strip()
    if len(title) > TITLE_CHARACTERS:
        faults.append(
            Fault("title", f"`title` has {len(title)} characters; the limit is {TITLE_CHARACTERS}. Shorten it.")
        )
    if slug and (wrong := slug_fault(slug)):
        faults.append(Fault("slug", wrong))
    if slug and find_demo(slug):
        taken = f"Another demo has the address `{slug}`. Choose another."
        raise ApiProblem(409, "Address taken", taken, faults=[Fault("slug", taken)])
    if faults:
        raise DocumentFaults(faults)
    files = state().services.files
    words = brought_words(upload.texts)
    return ModelSubmission(
        model_file=files.take(upload.files[model_part or "model"]),
        beside_file=files.take(upload.files["beside"]) if "beside" in upload.files else None,
        reference_file=files.take(upload.files["reference"]) if "reference" in upload.files else None,
        preprocessor_file=files.take(upload.files["preprocessor"]) if "preprocessor" in upload.files else None,
        known_file=files.take(upload.files["known"]) if "known" in upload.files else None,
        **words,
        title=title or None,
        slug=slug or None,
    )
