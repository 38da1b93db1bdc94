"""What known cases say of a model, in the numbers that every page says: rounded here and nowhere else."""

from ..core.answers import AnyAnswerSetting, ClassSetting, LabelsSetting, NumberSetting, NumbersSetting
from ..core.answers.deciding import threshold_of
from ..core.answers.rounding import margin_words, of_100
from ..core.trust.evidence import Evidence
from .types.reporting import OutputReport, Report

__all__ = ["report_of"]


def report_of(evidence: Evidence | None, setting: AnyAnswerSetting) -> Report | None:
    """The report; None without known cases.

    Parameters
    ----------
    evidence : Evidence or None
        What was measured on known cases, if there are some.
    setting : AnyAnswerSetting
        How the document words its answer.
    """
    if evidence is None:
        return None
    error = evidence.typical_error
    return Report(
        n_known=evidence.n_known,
        right_of_100=_right_of_classes(evidence, setting),
        typical_error=margin_words(error, setting.decimals)
        if error is not None and isinstance(setting, NumberSetting)
        else None,
        outputs=_outputs(evidence, setting),
    )


def _right_of_classes(evidence: Evidence, setting: AnyAnswerSetting) -> int | None:
    """Right for so many of 100, as classes are said now; None where that was not counted at this threshold."""
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    if threshold is None or evidence.right is None:
        return None if evidence.right is None else _right(evidence.right)
    place, least = threshold
    if not evidence.n_right_from or not evidence.n_known:
        return None
    return _right(evidence.n_right_from[place][round(least * 100) - 1] / evidence.n_known)


def _outputs(evidence: Evidence, setting: AnyAnswerSetting) -> list[OutputReport]:
    """Of several numbers or labels each by itself; a label at the threshold that it has now."""
    if isinstance(setting, NumbersSetting):
        return [
            OutputReport(
                name=part.name,
                n_known=own.n_known,
                typical_error=None if own.typical_error is None else margin_words(own.typical_error, part.decimals),
            )
            for part, own in zip(setting.values, evidence.outputs, strict=False)
        ]
    if isinstance(setting, LabelsSetting):
        return [
            OutputReport(name=wording.label, n_known=own.n_known, right_of_100=_right_at(own, wording.threshold))
            for wording, own in zip(setting.labels, evidence.outputs, strict=False)
        ]
    return []


def _right_at(evidence: Evidence, threshold: float) -> int | None:
    if not evidence.n_known or not evidence.n_right_at:
        return None
    return _right(evidence.n_right_at[round(threshold * 100) - 1] / evidence.n_known)


def _right(share: float) -> int:
    """Right for so many of 100: all of them only where not one was wrong."""
    return of_100(share) if share >= 1 else min(99, of_100(share))
