"""The report of live use: what visitors said became of their cases, gathered."""

import math
from collections.abc import Sequence

from ..core.answers import ClassSetting, NumberSetting
from ..core.answers.kinds import AnyAnswerSetting
from ..store.records import VisitorOutcome
from .types.use import LiveReport, SaidCase

__all__ = ["live_report"]

MOST_SAID = 20


def live_report(release: int, said: Sequence[VisitorOutcome], setting: AnyAnswerSetting) -> LiveReport:
    """How one release did in the words of its visitors.

    Who says something are those who chose to: what they say is no fair draw of all cases.

    Parameters
    ----------
    release : int
        Its number.
    said : sequence of VisitorOutcome
        About this release, the newest first.
    setting : AnyAnswerSetting
        How it words its answer.
    """
    from ..core.report.figures import Confusion
    from ..core.report.intervals import share_interval

    n_right = sum(bool(one.is_right) for one in said)
    report = LiveReport(
        release=release,
        cases=len(said),
        share_right=share_interval(n_right, len(said)) if said else None,
        said=[
            SaidCase(at=one.at, right=bool(one.is_right), answer=one.answer, truth=one.truth, comment=one.comment)
            for one in said[:MOST_SAID]
        ],
    )
    if isinstance(setting, ClassSetting):
        names = [wording.name for wording in setting.classes]
        counts = [[0] * len(names) for _ in names]
        for one in said:
            # Who says that it was right has said what it was.
            truth = one.truth if one.truth is not None else one.answer if one.is_right else None
            if truth in names and one.answer in names:
                counts[names.index(truth)][names.index(one.answer)] += 1
        report.confusion = Confusion(classes=names, counts=counts) if any(map(any, counts)) else None
    if isinstance(setting, NumberSetting):
        errors = [abs(float(one.answer) - float(one.truth)) for one in said if one.truth is not None]
        report.with_truth = len(errors)
        report.mean_absolute_error = math.fsum(errors) / len(errors) if errors else None
    return report
