"""One demo as a document: what its page says, its fields and its answer.

A document starts from what was inferred from model and table. What an author sets, in the workbench, through the API
or in a `demo.toml`, is a set of changes to it, in one and the same form.
"""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, ValidationError
from pydantic import Field as Constrained

from .answers import AnyAnswerSetting
from .errors import DocumentFaults, Fault, InputFaults
from .fields import (
    AnyField,
    ChoiceField,
    DrawingField,
    NumberField,
    Option,
    PictureField,
    Scalar,
    YesNoField,
    check_inputs,
)

__all__ = [
    "BACKGROUND_ROWS",
    "MOST_FIELDS",
    "AnswerChanges",
    "DemoChanges",
    "DemoDocument",
    "FieldChanges",
    "Parts",
    "Sample",
    "apply_changes",
    "faults_of",
]

TITLE_CHARACTERS = 200
# What a model and a document may have of anything: lists from outside end somewhere.
MOST_FIELDS, MOST_OPTIONS, MOST_OUTPUTS = 5000, 5000, 5000
# Reference rows that contributions are counted against, unless the author sets another number.
BACKGROUND_ROWS = 100

Title = Annotated[str, Constrained(min_length=1, max_length=TITLE_CHARACTERS)]
Sentence = Annotated[str, Constrained(max_length=500)]
Paragraphs = Annotated[str, Constrained(max_length=20_000)]
ShortText = Annotated[str, Constrained(max_length=500)]
FiniteNumber = Annotated[float, Constrained(allow_inf_nan=False)]


class Parts(BaseModel):
    """Which parts of the visitor's page are shown. Those about reference rows show visitors rows of that table."""

    model_config = ConfigDict(extra="forbid")

    curves: bool = Constrained(True, description="The curve of the answer under each field.")
    pushes: bool = Constrained(True, description="How far each value pushed the answer.")
    changes: bool = Constrained(True, description="What would change the answer.")
    similar: bool = Constrained(True, description="The reference rows most like the case, with what happened to them.")
    among: bool = Constrained(True, description="The case drawn among the reference rows.")
    overall: bool = Constrained(True, description="What matters overall.")
    compare: bool = Constrained(True, description="Keeping answers and comparing them.")
    outcomes: bool = Constrained(True, description="Visitors may say whether an answer was right; that is kept.")
    truth: bool = Constrained(False, description="They may also say what it really was.")


class Sample(BaseModel):
    """A ready case that a visitor can press to see the demo work at once."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Constrained(min_length=1, max_length=TITLE_CHARACTERS)]
    inputs: dict[str, Scalar | dict[str, Any] | None]


class PartsChanges(BaseModel):
    """Parts to show or not; what is left out stays as it is."""

    model_config = ConfigDict(extra="forbid")

    curves: bool | None = None
    pushes: bool | None = None
    changes: bool | None = None
    similar: bool | None = None
    among: bool | None = None
    overall: bool | None = None
    compare: bool | None = None
    outcomes: bool | None = None
    truth: bool | None = None


Samples = Annotated[list[Sample], Constrained(max_length=20)]
BackgroundRows = Annotated[int, Constrained(ge=1, le=1000)]
# Checks whose finding was concluded, and which the author may confirm.
Confirmable = Literal["features", "class-order", "preparation"]


class DemoDocument(BaseModel):
    """All that an author can set about a demo. `fields` stand in the order visitors read them."""

    title: Title
    purpose: Sentence = Constrained("", description="One sentence in the visitor's words.")
    description: Paragraphs = Constrained("", description="Markdown.")
    not_for: Sentence = Constrained("", description="What the demo is not for.")
    licence: Sentence = ""
    record_inputs: bool = Constrained(False, description="Keep what visitors enter; the page then says so.")
    parts: Parts = Parts()
    samples: Samples = Constrained([], description="Ready cases; each needs a value for every field.")
    background_rows: BackgroundRows = Constrained(
        BACKGROUND_ROWS, description="Reference rows that contributions are counted against, at the most."
    )
    confirmed: list[Confirmable] = Constrained([], description="What was concluded and the author has confirmed.")
    fields: list[AnyField]
    answer: AnyAnswerSetting


class FieldChanges(BaseModel):
    """Settings of one field, found by its name. What is left out stays as it is."""

    model_config = ConfigDict(extra="forbid")

    name: ShortText
    label: Annotated[str, Constrained(min_length=1, max_length=500)] | None = None
    help: str | None = None
    group: str | None = None
    unit: str | None = None
    minimum: FiniteNumber | None = None
    maximum: FiniteNumber | None = None
    step: FiniteNumber | None = None
    default: Scalar | None = None
    options: Annotated[list[Option], Constrained(max_length=MOST_OPTIONS)] | None = None
    other: bool | None = None
    max_length: int | None = None
    changeable: bool | None = None
    direction: Literal["any", "up", "down"] | None = None
    preparation: dict[str, Any] | None = None
    behind: Annotated[list[int], Constrained(max_length=4)] | None = None
    line_width: float | None = None
    centred: bool | None = None
    # Facts, which may be sent back unchanged.
    kind: str | None = None
    seen: dict[str, Any] | None = None
    optional: bool | None = None
    no: Scalar | None = None
    yes: Scalar | None = None


class AnswerChanges(BaseModel):
    """Settings of the answer. `classes` and `labels` are found by name, `values` by position."""

    model_config = ConfigDict(extra="forbid")

    kind: str | None = None
    noun: str | None = None
    noun_one: str | None = None
    name: str | None = None
    unit: str | None = None
    decimals: int | None = None
    better: str | None = None
    classes: Annotated[list[dict[str, str]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    labels: Annotated[list[dict[str, Any]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    values: Annotated[list[dict[str, Any]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    low: float | None = None
    high: float | None = None
    counts: Annotated[list[int], Constrained(max_length=MOST_OUTPUTS)] | None = None
    gives_probabilities: bool | None = None
    coverage: float | None = None


class DemoChanges(BaseModel):
    """What an author sets. What is left out stays as it is.

    `fields` may name some of the fields; naming all of them also sets the order visitors read them in. The model's own
    order is never touched.
    """

    model_config = ConfigDict(extra="forbid")

    title: Title | None = None
    purpose: Sentence | None = None
    description: Paragraphs | None = None
    not_for: Sentence | None = None
    licence: Sentence | None = None
    record_inputs: bool | None = None
    parts: PartsChanges | None = None
    samples: Samples | None = None
    background_rows: BackgroundRows | None = None
    confirmed: Annotated[list[Confirmable], Constrained(max_length=10)] | None = None
    fields: Annotated[list[FieldChanges], Constrained(max_length=MOST_FIELDS)] | None = None
    answer: AnswerChanges | None = None


# What the model and the table decided; an author may send it back but not change it.
FACTS_OF_A_FIELD = ("kind", "seen", "optional", "no", "yes")
# What a visitor gives where a model looks at a picture; the author says which.
PICTURE_KINDS = ("picture", "drawing")
FACTS_OF_AN_ANSWER = ("kind", "low", "high", "counts", "gives_probabilities")


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
    given = changes.model_dump(exclude_unset=True)
    plain = {
        key: value for key, value in given.items() if key not in ("fields", "answer", "parts") and value is not None
    }
    faults: list[Fault] = []
    if given.get("parts"):
        shown = {name: is_shown for name, is_shown in given["parts"].items() if is_shown is not None}
        plain["parts"] = document.parts.model_copy(update=shown)
    changed = document.model_copy(update=plain)
    if given.get("fields") is not None:
        changed.fields = _changed_fields(document.fields, given["fields"], faults)
        if any(field.get("preparation") for field in given["fields"]) and "preparation" not in changed.confirmed:
            # Whoever says how pictures are prepared has not left it to a guess.
            changed.confirmed = [*changed.confirmed, "preparation"]
    if given.get("answer") is not None:
        changed.answer = _changed_answer(document, given["answer"], faults)
    if given.get("samples") is not None:
        changed.samples = changes.samples or []
    faults += _sample_faults(changed)
    if faults:
        raise DocumentFaults(faults)
    return changed


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


def faults_of(error: ValidationError, *, prefix: str = "") -> list[Fault]:
    """What pydantic found, as faults: one each, named by its path."""
    faults = []
    for item in error.errors(include_url=False):
        path = ".".join(str(part) for part in item["loc"])
        name = f"{prefix}{path}" or "body"
        if item["type"] == "extra_forbidden":
            message = f"`{name}` is not a setting. Leave it out."
        else:
            message = f"`{name}`: {item['msg'][:1].lower()}{item['msg'][1:]}."
        faults.append(Fault(name, message))
    return faults


def _changed_fields(fields: list[AnyField], given: list[dict[str, Any]], faults: list[Fault]) -> list[AnyField]:
    by_name = {field.name: field for field in fields}
    names = [item["name"] for item in given]
    for name in dict.fromkeys(names):
        if name not in by_name:
            known = ", ".join(f"`{known}`" for known in list(by_name)[:20])
            faults.append(Fault(f"fields.{name}", f"The model has no feature `{name}`. It has {known}."))
        elif names.count(name) > 1:
            faults.append(Fault(f"fields.{name}", f"`{name}` is named twice under fields. Keep one of them."))
    for item in given:
        if item["name"] in by_name:
            by_name[item["name"]] = _changed_field(by_name[item["name"]], item, faults)
    order = names if set(names) == set(by_name) and len(names) == len(by_name) else list(by_name)
    return [by_name[name] for name in order if name in by_name]


def _changed_field(field: AnyField, given: dict[str, Any], faults: list[Fault]) -> AnyField:
    path = f"fields.{field.name}"
    if given.get("kind") in PICTURE_KINDS and field.kind in PICTURE_KINDS:
        field = _as_kind(field, given["kind"])
    current = field.model_dump()
    settings = {}
    for key, value in given.items():
        if key in FACTS_OF_A_FIELD:
            if value is not None and value != current.get(key):
                faults.append(
                    Fault(
                        f"{path}.{key}", f"`{key}` of `{field.name}` comes from the model and the table; leave it out."
                    )
                )
        elif key not in current:
            # An editor that sends every key sends empty ones for what this kind does not have.
            if value not in (None, ""):
                faults.append(
                    Fault(f"{path}.{key}", f"`{field.name}` is a {_kind_word(field)} and has no `{key}`. Leave it out.")
                )
        elif key == "preparation" and value is not None:
            # Some of it may be said; the rest stays.
            settings[key] = {**current[key], **value}
        elif value is not None:
            settings[key] = value
    try:
        changed = type(field).model_validate({**current, **settings})
    except ValidationError as error:
        faults.extend(faults_of(error, prefix=f"{path}."))
        return field
    faults.extend(Fault(f"{path}.{key}", message) for key, message in _contradictions(field, changed))
    return _with_counts(field, changed)


def _as_kind(field: AnyField, kind: str) -> AnyField:
    """A picture's field as a drawing's, or the other way: a model takes either."""
    other = DrawingField if kind == "drawing" else PictureField
    return other.model_validate({key: value for key, value in field if key in other.model_fields and key != "kind"})


def _with_counts(before: AnyField, after: AnyField) -> AnyField:
    """Settings name options by value and label; how often the table has each stays what it is."""
    if isinstance(before, ChoiceField) and isinstance(after, ChoiceField):
        counts = {(type(option.value), option.value): option.count for option in before.options}
        for option in after.options:
            option.count = counts.get((type(option.value), option.value), 0)
    return after


def _kind_word(field: AnyField) -> str:
    words = {"yes_no": "yes/no field", "text": "text field", "choice": "choice"}
    return words.get(field.kind, field.kind)


def _contradictions(before: AnyField, after: AnyField) -> list[tuple[str, str]]:
    """Settings that do not go together, as key and sentence."""
    name = before.name
    if isinstance(after, NumberField):
        return list(_number_contradictions(name, after))
    if isinstance(after, ChoiceField) and isinstance(before, ChoiceField):
        values = [option.value for option in after.options]
        if sorted(map(repr, values)) != sorted(repr(option.value) for option in before.options):
            message = f"The options of `{name}` come from the model; only their labels and order can be set."
            return [("options", message)]
        if after.default is not None and after.default not in values:
            return [("default", f"The default of `{name}` must be one of its options. Got {after.default!r}.")]
    if isinstance(after, YesNoField) and not isinstance(after.default, bool | None):
        return [("default", f"The default of `{name}` must be true or false. Got {after.default!r}.")]
    return []


def _number_contradictions(name: str, field: NumberField):
    if field.minimum > field.maximum or (field.minimum == field.maximum and field.seen.low != field.seen.high):
        yield "minimum", f"`minimum` of `{name}` must be below `maximum`. Got {field.minimum:g} and {field.maximum:g}."
    elif field.default is not None and not field.minimum <= field.default <= field.maximum:
        yield (
            "default",
            f"The default of `{name}` must lie from {field.minimum:g} to {field.maximum:g}. Got {field.default:g}.",
        )
    if field.step > field.maximum - field.minimum > 0:
        yield "step", f"`step` of `{name}` must not be larger than its range. Got {field.step:g}."


def _changed_answer(document: DemoDocument, given: dict[str, Any], faults: list[Fault]) -> AnyAnswerSetting:
    setting = document.answer
    current = setting.model_dump()
    settings: dict[str, Any] = {}
    for key, value in given.items():
        path = f"answer.{key}"
        if key in FACTS_OF_AN_ANSWER:
            if value is not None and value != current.get(key):
                faults.append(Fault(path, f"`{path}` comes from the model and the table; leave it out."))
        elif key not in current:
            if value is not None:
                faults.append(Fault(path, f"An answer of kind `{setting.kind}` has no `{key}`. Leave it out."))
        elif key in ("classes", "labels"):
            settings[key] = _changed_wordings(current[key], value or [], path, faults)
        elif key == "values":
            settings[key] = _changed_values(current[key], value or [], path, faults)
        elif value is not None:
            settings[key] = value
    try:
        return type(setting).model_validate({**current, **settings})
    except ValidationError as error:
        faults.extend(faults_of(error, prefix="answer."))
        return setting


def _changed_wordings(
    current: list[dict[str, str]], given: list[dict[str, str]], path: str, faults: list[Fault]
) -> list[dict[str, str]]:
    by_name = {wording["name"]: dict(wording) for wording in current}
    for item in given:
        name = item.get("name")
        if name not in by_name:
            known = ", ".join(f"`{known}`" for known in list(by_name)[:20])
            faults.append(Fault(path, f"The model has no class `{name}`. It has {known}."))
        else:
            by_name[name].update(item)
    return list(by_name.values())


def _changed_values(
    current: list[dict[str, Any]], given: list[dict[str, Any]], path: str, faults: list[Fault]
) -> list[dict[str, Any]]:
    if len(given) != len(current):
        faults.append(Fault(path, f"The model gives {len(current)} numbers; `{path}` names {len(given)}."))
        return current
    names = [new.get("name", old["name"]) for old, new in zip(current, given, strict=True)]
    for name in dict.fromkeys(names):
        if names.count(name) > 1:
            faults.append(Fault(path, f"Two of the numbers would be called `{name}`. Give each a name of its own."))
            return current
    return [
        {**old, **{key: new[key] for key in new if key in ("name", "unit", "decimals")}}
        for old, new in zip(current, given, strict=True)
    ]
