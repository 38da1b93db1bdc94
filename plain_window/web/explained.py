"""An answer with what explains it, in the words and values of the page."""

from collections.abc import Mapping
from typing import Any

from ..core.answers import AnyAnswerSetting
from ..core.fields import AnyField, YesNoField
from .problems import ApiProblem
from .types import ContributionAnswer, CurveAnswer, ExplanationAnswer

__all__ = ["curves_answer", "explanation_answer", "output_name", "output_of"]


def output_of(setting: AnyAnswerSetting, name: str | None) -> int | None:
    """Which of the model's outputs `name` is; None for the likeliest class, or the only number.

    Raises
    ------
    ApiProblem
        422 if there is no such output.
    """
    if name is None:
        return None if setting.kind == "class" else 0
    names = _names(setting)
    if name not in names:
        known = ", ".join(f"`{known}`" for known in names[:8])
        raise ApiProblem(422, "Nothing to explain", f"`of` must be one of {known}. Got `{name[:60]}`.")
    return names.index(name)


def output_name(setting: AnyAnswerSetting, of: int) -> str:
    """The name of an output."""
    return _names(setting)[of]


def _names(setting: AnyAnswerSetting) -> list[str]:
    if setting.kind == "class":
        return [wording.name for wording in setting.classes]
    if setting.kind == "labels":
        return [wording.name for wording in setting.labels]
    return [part.name for part in setting.values] if setting.kind == "numbers" else [setting.name]


def explanation_answer(
    setting: AnyAnswerSetting, found: Mapping[str, Any], of: int, inputs: Mapping[str, Any], *, at_score: bool
) -> ExplanationAnswer:
    """Contributions, the largest first."""
    errors = found["errors"]
    contributions = [
        ContributionAnswer(field=name, value=inputs.get(name), contribution=value, error=errors.get(name))
        for name, value in found["contributions"].items()
    ]
    contributions.sort(key=lambda one: -abs(one.contribution))
    unit = "score" if at_score else "probability"
    if setting.kind == "number":
        unit = setting.unit
    elif setting.kind == "numbers":
        unit = setting.values[of].unit
    return ExplanationAnswer(
        of=output_name(setting, of),
        unit=unit,
        baseline=found["baseline"],
        method=found["method"],
        contributions=contributions,
        error=max(errors.values(), default=0.0),
        n_background=found["n_background"],
    )


def curves_answer(
    setting: AnyAnswerSetting, found: Mapping[str, Any], of: int, fields: list[AnyField]
) -> list[CurveAnswer]:
    """One curve a field, in the fields' order; yes and no as a visitor gives them."""
    curves = []
    for field in fields:
        curve = found.get(field.name)
        if curve is None:
            continue
        x = curve["x"]
        if isinstance(field, YesNoField):
            x = [None if value is None else value == field.yes for value in x]
        name = output_name(setting, of)
        curves.append(
            CurveAnswer(field=field.name, of=name, shape=curve["shape"], x=x, y=curve["y"], thinned=curve["thinned"])
        )
    return curves
