"""The usual answer, from which contributions are counted, in a page's words."""

from ..core.answers import make_answer
from ..core.answers.kinds import AnyAnswer, ClassAnswer, LabelsAnswer, NumberAnswer, NumbersAnswer
from ..core.contract.inspection import Inspection
from ..core.documents import BACKGROUND_ROWS, DemoDocument
from .types.page import Usual, UsualPart

__all__ = ["usual_of"]


def usual_of(document: DemoDocument, inspection: Inspection) -> Usual | None:
    """What the model gives on average over the reference sample.

    Parameters
    ----------
    document : DemoDocument
    inspection : Inspection
        What was found in the model.

    Returns
    -------
    Usual or None
        None where answers are not explained, or the author has them counted from another number of rows.
    """
    outputs, n_rows = inspection.usual, inspection.usual_rows
    wanted, is_all = document.background_rows, n_rows < BACKGROUND_ROWS
    is_same = wanted >= n_rows if is_all else wanted == BACKGROUND_ROWS
    if not outputs or not is_same or not document.parts.contributions:
        return None
    answer, _ = make_answer(document.answer, outputs)
    parts = _parts_of(answer, getattr(document.answer, "name", ""))
    return Usual(n_rows=n_rows, parts=parts) if parts else None


def _parts_of(answer: AnyAnswer, name: str) -> list[UsualPart]:
    if isinstance(answer, ClassAnswer):
        return [
            UsualPart(name=one.class_, label=one.label, value=one.probability, text=str(one.of_100))
            for one in answer.probabilities
        ]
    if isinstance(answer, LabelsAnswer):
        return [
            UsualPart(name=one.name, label=one.label, value=one.probability, text=str(one.of_100))
            for one in answer.labels
        ]
    if isinstance(answer, NumberAnswer):
        return [UsualPart(name=name, label=name, value=answer.value, text=answer.text, unit=answer.unit)]
    assert isinstance(answer, NumbersAnswer), "there are no usual boxes"
    return [
        UsualPart(name=one.name, label=one.name, value=one.value, text=one.text, unit=one.unit) for one in answer.values
    ]
