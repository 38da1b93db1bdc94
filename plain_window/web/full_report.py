"""The report on known cases in the words of the API."""

from typing import Any

import numpy as np

from ..core.answers import AnyAnswerSetting, ClassSetting, LabelsSetting, NumberSetting, NumbersSetting, make_answer
from ..core.fields import AnyField, NumberField
from ..core.fields.checking import field_number_text
from ..core.report.answers import KnownAnswers
from ..core.report.classes import class_figures
from ..core.report.groups import group_figures
from ..core.report.labels import label_figures
from ..core.report.numbers import number_figures
from .explanation_answers import entered_row
from .known_cases import KnownOfVersion, truth_of
from .lookups import Version
from .problems import ApiProblem
from .types.report import CasesWanted, FullReport, KnownCase, LabelReport, NumberReport

__all__ = ["chosen_cases", "full_report", "known_case", "report_of_rows"]

MOST_WORST = 12


def full_report(version: Version, known: KnownOfVersion, by: AnyField | None) -> FullReport:
    """How a version did on its known cases.

    Parameters
    ----------
    version : Version
    known : KnownOfVersion
    by : AnyField or None
        The field whose values part the cases into groups.
    """
    answers, setting = known.answers, version.document.answer
    task = version.inspection.found.task
    worst = np.argsort(-answers.losses(task), kind="stable")[:MOST_WORST]
    report = FullReport(
        kind=setting.kind,
        cases=answers.n_cases,
        known_group=None if answers.together is None else version.inspection.told.known_group,
        things=None if answers.together is None else len(np.unique(answers.together)),
        worst=[known_case(version, known, int(at)) for at in worst],
        **_of_one(setting, answers),
    )
    if isinstance(setting, NumbersSetting):
        report.values = [_number(part, answers, at) for at, part in enumerate(setting.values)]
    if isinstance(setting, LabelsSetting):
        report.labels = [_label(setting, answers, at) for at in range(len(setting.labels))]
    if by is not None:
        report.by = by.name
        report.groups = group_figures(
            [known.row(at)[by.name] for at in range(answers.n_cases)],
            right=answers.is_right(task) if task == "class" else None,
            errors=answers.losses(task) if task == "number" else None,
            is_number=isinstance(by, NumberField),
            label_of=lambda value: _value_text(by, value),
            together=answers.together,
        )
    return report


def known_case(version: Version, known: KnownOfVersion, at: int) -> KnownCase:
    """One known case with what the model says of it, and what happened.

    Parameters
    ----------
    version : Version
    known : KnownOfVersion
    at : int
        Its place among the answers.
    """
    answers, setting = known.answers, version.document.answer
    outputs, truths = answers.outputs[at], answers.truths[at]
    answer, _ = make_answer(setting, outputs.tolist(), version.evidence)
    return KnownCase(
        row=int(answers.rows[at]),
        name=known.name(at),
        inputs=entered_row(version.document.fields, known.row(at)),
        truth=truth_of(version, truths),
        answer=answer,
        is_right=bool(answers.answered[at] == truths[0]) if isinstance(setting, ClassSetting) else None,
        error=float(outputs[0] - truths[0]) if isinstance(setting, NumberSetting) else None,
    )


def chosen_cases(version: Version, known: KnownOfVersion, wanted: CasesWanted) -> list[int]:
    """The places of known cases that are asked for, in the order asked for.

    Parameters
    ----------
    version : Version
    known : KnownOfVersion
    wanted : CasesWanted

    Raises
    ------
    ApiProblem
        422 if cases are told apart by right and wrong where the answer is no class, or by how far off it is where it is
        no number.
    """
    answers, task = known.answers, version.inspection.found.task
    chosen = np.ones(answers.n_cases, dtype=bool)
    if wanted.show in ("right", "wrong"):
        if task != "class":
            detail = (
                "Only classes are right or wrong. Ask for `high` or `low` answers, or those off by more than `over`."
            )
            raise ApiProblem(422, "No classes", detail)
        chosen &= answers.is_right(task) == (wanted.show == "right")
    if wanted.show in ("high", "low") or wanted.over:
        if task != "number":
            raise ApiProblem(
                422, "No number", "Only a number is too high or too low. Ask for `right` or `wrong` instead."
            )
        off = answers.outputs[:, 0] - answers.truths[:, 0]
        chosen &= np.abs(off) > wanted.over
        if wanted.show != "all":
            chosen &= off > 0 if wanted.show == "high" else off < 0
    if wanted.truth is not None:
        chosen &= answers.truths[:, 0] == wanted.truth
    if wanted.answered is not None:
        chosen &= answers.answered == wanted.answered
    places = np.flatnonzero(chosen)
    if wanted.order == "worst":
        places = places[np.argsort(-answers.losses(task)[places], kind="stable")]
    return [int(place) for place in places]


def report_of_rows(setting: AnyAnswerSetting, answers: KnownAnswers) -> FullReport:
    """How the model did on the rows of a table that has what happened: the figures, without the rows.

    Parameters
    ----------
    setting : answer setting
        Of one class or one number.
    answers : KnownAnswers
    """
    return FullReport(kind=setting.kind, cases=answers.n_cases, worst=[], **_of_one(setting, answers))


def _of_one(setting: AnyAnswerSetting, answers: KnownAnswers) -> dict[str, Any]:
    """The figures of a model with one class or one number for an answer."""
    if isinstance(setting, ClassSetting):
        return dict(
            class_figures(
                answers.outputs,
                answers.truths[:, 0].astype("int64"),
                [wording.name for wording in setting.classes],
                gives_probabilities=setting.gives_probabilities,
                threshold=answers.threshold,
                together=answers.together,
            )
        )
    if isinstance(setting, NumberSetting):
        figures = number_figures(
            answers.outputs[:, 0], answers.truths[:, 0], coverage=setting.coverage, together=answers.together
        )
        return dict(figures)
    return {}


def _number(part: NumberSetting, answers: KnownAnswers, at: int) -> NumberReport:
    has = np.isfinite(answers.truths[:, at])
    together = None if answers.together is None else answers.together[has]
    figures = number_figures(
        answers.outputs[has, at], answers.truths[has, at], coverage=part.coverage, together=together
    )
    return NumberReport(name=part.name, unit=part.unit, cases=int(has.sum()), **dict(figures))


def _label(setting: LabelsSetting, answers: KnownAnswers, at: int) -> LabelReport:
    wording = setting.labels[at]
    has = np.isfinite(answers.truths[:, at])
    applied = answers.truths[has, at] > 0.5
    together = None if answers.together is None else answers.together[has]
    figures = label_figures(answers.outputs[has, at], applied, threshold=wording.threshold, together=together)
    return LabelReport(name=wording.name, label=wording.label, threshold=wording.threshold, **dict(figures))


def _value_text(field: AnyField, value: Any) -> str:
    if field.kind == "number":
        return f"{field_number_text(field, value)} {field.unit}".strip()
    if field.kind == "yes_no":
        return "yes" if value == field.yes else "no"
    if field.kind == "choice":
        return next((option.label for option in field.options if option.value == value), str(value))
    return str(value)[:60]
