"""An answer with what explains it, in the words and values of the page."""

import base64
import math
from collections.abc import Mapping, Sequence
from typing import Any

import msgspec
from msgspec import to_builtins

from ..core.answers import AnyAnswerSetting, LabelsSetting, NumbersSetting, make_answer
from ..core.answers.rounding import number_words
from ..core.answers.wording import singular_label
from ..core.contract import AmongReply, OverallReply, RegionsReply
from ..core.contract.kept_rows import OUTCOME_SEPARATOR
from ..core.contract.replies import ChangesFound, CurveFound, ExplanationFound, SimilarFound, WordsFound
from ..core.contract.requests import FieldMayChange
from ..core.contract.values import Value
from ..core.fields import AnyField, DrawingField, NumberField, PictureField, TextField, YesNoField
from .lookups import Version
from .problems import ApiProblem
from .types.explanations import (
    AmongAnswer,
    ChangesAnswer,
    ContributionAnswer,
    ExplanationAnswer,
    OverallAnswer,
    SimilarCase,
    ValueChange,
    Way,
    WhereAnswer,
    WordsAnswer,
)

__all__ = [
    "CurveWritten",
    "among_answer",
    "changeable_fields",
    "changes_answer",
    "curves_written",
    "entered_row",
    "explanation_answer",
    "outcome_text",
    "output_name",
    "output_names",
    "output_of",
    "overall_answer",
    "seen_answer",
    "similar_answer",
    "where_answer",
]


def output_of(setting: AnyAnswerSetting, name: str | None, *, asked: str = "of") -> int | None:
    """Which of the model's outputs `name` is; None for the likeliest class or label, or the only number.

    `asked` is the part of the query that names it.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    name : str or None
        As the request has it.
    asked : str, optional
        What the request called it.

    Raises
    ------
    ApiProblem
        422 if there is no such output.
    """
    if name is None:
        return None if setting.kind in ("class", "labels") else 0
    names = output_names(setting)
    if name not in names:
        known = ", ".join(f"`{known}`" for known in names[:8])
        raise ApiProblem(422, "Nothing to explain", f"`{asked}` must be one of {known}. Got `{name[:60]}`.")
    return names.index(name)


def output_name(setting: AnyAnswerSetting, of: int) -> str:
    """The name of an output.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    of : int
        Index of an output.
    """
    return output_names(setting)[of]


def output_names(setting: AnyAnswerSetting) -> list[str]:
    """The names of all outputs, in the model's order.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    """
    if setting.kind == "class":
        return [wording.name for wording in setting.classes]
    if setting.kind == "labels" or setting.kind == "boxes" or setting.kind == "mask":
        return [wording.name for wording in setting.labels]
    return [part.name for part in setting.values] if setting.kind == "numbers" else [setting.name]


def explanation_answer(
    setting: AnyAnswerSetting,
    found: ExplanationFound,
    of: int,
    inputs: Mapping[str, object],
    *,
    at_score: bool,
    words: Mapping[str, WordsFound],
) -> ExplanationAnswer:
    """Contributions, the largest first, and those of words in fields of text.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    found : ExplanationFound
    of : int
        Index of an output.
    inputs : mapping
        Entered value by field.
    at_score : bool
        Whether contributions are those to the score.
    words : mapping
        What was found of words, by field.
    """
    errors = found.errors
    contributions = [
        ContributionAnswer(field=name, value=_shown(inputs.get(name)), contribution=value, error=errors.get(name))
        for name, value in found.contributions.items()
    ]
    contributions.sort(key=lambda one: -abs(one.contribution))
    return ExplanationAnswer(
        of=output_name(setting, of),
        unit="score" if at_score else _unit(setting, of),
        baseline=found.baseline,
        method=found.method,
        contributions=contributions,
        error=max(errors.values(), default=0.0),
        n_background=found.n_background,
        words=[WordsAnswer(field=name, **to_builtins(own)) for name, own in words.items()],
    )


def where_answer(setting: AnyAnswerSetting, field: str, found: RegionsReply) -> WhereAnswer:
    """Where the model looked in one picture.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    field : str
        Its name.
    found : RegionsReply
        As the runner found it.
    """
    plain = {name: value for name, value in to_builtins(found).items() if name != "reply"}
    return WhereAnswer(**{**plain, "of": output_name(setting, found.of)}, field=field, unit=_unit(setting, found.of))


def seen_answer(seen: Mapping[str, bytes]) -> dict[str, str]:
    """Pictures as addresses that hold them.

    Parameters
    ----------
    seen : mapping
        Pictures as PNG, by field.
    """
    return {
        field: "data:image/png;base64," + base64.b64encode(content).decode("ascii") for field, content in seen.items()
    }


def _shown(value: Any) -> Any:
    """A value beside its contribution; a picture is not sent back."""
    return None if isinstance(value, dict) else value


class CurveWritten(msgspec.Struct):
    """One field's curve as `types.CurveAnswer` describes it, ready to be written down without being looked at again."""

    field: str
    of: str
    shape: str
    x: list[Value]
    y: list[float]
    thinned: bool
    unknown: float | None


def curves_written(
    setting: AnyAnswerSetting, found: Mapping[str, CurveFound], of: int, fields: Sequence[AnyField]
) -> list[CurveWritten]:
    """One curve a field, in the fields' order; yes and no as a visitor gives them.

    Parameters
    ----------
    setting : answer setting
    found : mapping of str to CurveFound
        By field.
    of : int
        Place of the output.
    fields : sequence of field
    """
    name = output_name(setting, of)
    curves = []
    for field in fields:
        curve = found.get(field.name)
        if curve is None:
            continue
        x = [_entered(field, value) for value in curve.x] if isinstance(field, YesNoField) else curve.x
        curves.append(CurveWritten(field.name, name, curve.shape, x, curve.y, curve.thinned, curve.unknown))
    return curves


def similar_answer(version: Version, found: Sequence[SimilarFound]) -> list[SimilarCase]:
    """Reference rows as a visitor would have entered them, with what happened to them.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    found : sequence of SimilarFound
        As the runner found it.
    """
    setting = version.document.answer
    return [
        SimilarCase(
            inputs=entered_row(version.document.fields, one.values),
            outcome=one.outcome,
            outcome_text=outcome_text(setting, one.outcome),
            answer=make_answer(setting, one.outputs, version.evidence)[0],
            distance=one.distance,
        )
        for one in found
    ]


def changeable_fields(fields: Sequence[AnyField]) -> dict[str, FieldMayChange]:
    """The fields the author lets change, with what the search needs to know of them.

    Parameters
    ----------
    fields : sequence of AnyField
        The document's, in its order.
    """
    return {
        field.name: FieldMayChange(field.step, field.direction) if isinstance(field, NumberField) else FieldMayChange()
        for field in fields
        if field.changeable and not field.hidden and not isinstance(field, TextField | PictureField | DrawingField)
    }


def changes_answer(version: Version, found: ChangesFound, inputs: Mapping[str, object]) -> ChangesAnswer:
    """Ways to another answer, in the values a visitor enters.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    found : ChangesFound
        As the runner found it.
    inputs : mapping
        Entered value by field.
    """
    document = version.document
    ways = []
    for way in found.ways:
        after = entered_row(document.fields, way.values)
        changes = [ValueChange(field=name, before=inputs.get(name), after=value) for name, value in after.items()]
        ways.append(Way(changes=changes, answer=make_answer(document.answer, way.outputs, version.evidence)[0]))
    return ChangesAnswer(ways=ways, reach=found.reach, is_complete=found.is_complete, is_there=found.is_there)


def overall_answer(version: Version, found: OverallReply, of: int) -> OverallAnswer:
    """What matters overall, yes and no as a visitor gives them.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    found : OverallReply
        As the runner found it.
    of : int
        Index of an output.
    """
    setting = version.document.answer
    by_name = {field.name: field for field in version.document.fields}
    fields = []
    for one in found.fields:
        field = by_name[one.field]
        parts = [
            {**to_builtins(part), "low": _entered(field, part.low), "high": _entered(field, part.high)}
            for part in one.parts
        ]
        fields.append({**to_builtins(one), "parts": parts, "x": [_entered(field, value) for value in one.x]})
    return OverallAnswer(
        of=output_name(setting, of),
        unit=_unit(setting, of),
        fields=fields,
        n_rows=found.n_rows,
        n_known=found.n_known,
        share_done=found.share_done,
    )


def among_answer(version: Version, found: AmongReply, field: AnyField, of: int) -> AmongAnswer:
    """Reference rows by one field and the model's answer to them.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    found : AmongReply
        As the runner found it.
    field : AnyField
    of : int
        Index of an output.
    """
    return AmongAnswer(
        field=field.name,
        of=output_name(version.document.answer, of),
        x=[_entered(field, value) for value in found.x],
        y=found.y,
        outcomes=found.outcomes,
    )


def _unit(setting: AnyAnswerSetting, of: int) -> str:
    if setting.kind == "number":
        return setting.unit
    return setting.values[of].unit if setting.kind == "numbers" else "probability"


def entered_row(fields: Sequence[AnyField], values: Mapping[str, object]) -> dict[str, object]:
    """A row of the model's values, as a visitor gives them.

    Parameters
    ----------
    fields : sequence of AnyField
        The document's, in its order.
    values : mapping
        The model's values by field.
    """
    return {field.name: _entered(field, values[field.name]) for field in fields if field.name in values}


def _entered(field: AnyField, value: Any) -> Any:
    """A value the model knows, as a visitor gives it."""
    return value == field.yes if isinstance(field, YesNoField) and value is not None else value


def outcome_text(setting: AnyAnswerSetting, outcome: object) -> str | None:
    """What happened, in the page's words.

    Parameters
    ----------
    setting : AnyAnswerSetting
        How the document words its answer.
    outcome : object
        As it is kept with its row; None where it is not known.
    """
    if outcome is None:
        return None
    if setting.kind == "class":
        # What one of them did.
        labels = (singular_label(one.label, one.label_one) for one in setting.classes if one.name == str(outcome))
        return next(labels, str(outcome))
    if isinstance(setting, NumbersSetting | LabelsSetting) and isinstance(outcome, str):
        return _several_text(setting, outcome)
    if setting.kind == "number" and isinstance(outcome, int | float):
        return f"{number_words(float(outcome), setting.decimals)} {setting.unit}".strip()
    return str(outcome)


def _several_text(setting: NumbersSetting | LabelsSetting, outcome: str) -> str:
    """Several numbers with their names, or the labels that applied."""
    values = [float(part) for part in outcome.split(OUTCOME_SEPARATOR)]
    if isinstance(setting, LabelsSetting):
        applied = [wording.label for wording, value in zip(setting.labels, values, strict=False) if value > 0.5]
        return ", ".join(applied) or "none applies"
    parts = [
        f"{part.name} {number_words(value, part.decimals)} {part.unit}".strip()
        for part, value in zip(setting.values, values, strict=False)
        if math.isfinite(value)
    ]
    return ", ".join(parts) or "not said"
