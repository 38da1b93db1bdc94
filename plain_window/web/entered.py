"""What visitors enter, counted by bins where the model's table has some; of what an author tries nothing is."""

from ..core.answers import (
    BoxesAnswer,
    ClassAnswer,
    LabelsSetting,
    MaskAnswer,
    NumberAnswer,
    NumbersAnswer,
    PictureAnswer,
    TableAnswer,
    TextAnswer,
)
from ..core.answers.kinds import AnyAnswer, AnyAnswerSetting
from ..core.drift.bins import APPLIES_FROM
from ..core.fields import CheckedInputs
from ..store.summaries import EnteredSummaries
from .lookups import ServedDemo, Version

__all__ = ["count_entered", "page_visitor"]


def count_entered(
    summaries: EnteredSummaries,
    demo: ServedDemo,
    version: Version,
    checked: CheckedInputs,
    answer: AnyAnswer,
    *,
    page_of: str | None,
) -> None:
    """Count a visitor's case.

    Parameters
    ----------
    summaries : EnteredSummaries
    demo : ServedDemo
    version : Version
        Which was asked; of a draft nothing is counted.
    checked : CheckedInputs
    answer : answer
        What it was told.
    page_of : str or None
        The visitor on whose page the case may still change; None for a program's, which is what it is.
    """
    if version.number is None:
        return
    # Held until the case stands.
    bins, values = version.bins, version.bins.kept(checked.values)
    answered = _values_of(answer, version.document.answer)
    summaries.add(
        demo_id=demo.id,
        model_id=version.model_id,
        page_of=page_of,
        values=values,
        bins=lambda: bins.of(values, answered),
    )


def page_visitor(origin: str | None, address: str | None) -> str | None:
    """On whose page a question was asked: browsers say where a page they post from is from, programs do not.

    Parameters
    ----------
    origin : str or None
        As the request says.
    address : str or None
        Who asks.
    """
    return address if origin else None


def _values_of(answer: AnyAnswer, setting: AnyAnswerSetting) -> list[str | float | bool]:
    """What it is counted by: the likeliest class, whatever its threshold, the numbers, or which labels apply."""
    if isinstance(answer, ClassAnswer):
        return [answer.probabilities[0].class_ if answer.probabilities else answer.class_]
    if isinstance(answer, NumberAnswer):
        return [answer.value]
    if isinstance(answer, NumbersAnswer):
        return [one.value for one in answer.values]
    if isinstance(answer, BoxesAnswer | PictureAnswer | MaskAnswer | TextAnswer | TableAnswer):
        return []
    assert isinstance(setting, LabelsSetting), "labels are answered where labels are asked for"
    # Likeliest first in the answer; in the model's order here.
    probabilities = {one.name: one.probability for one in answer.labels}
    return [probabilities.get(label.name, 0.0) >= APPLIES_FROM for label in setting.labels]
