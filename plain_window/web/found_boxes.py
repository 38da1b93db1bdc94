"""Answers of boxes: what was found in a picture, as a page or a program gets it, and to keep."""

from collections.abc import Sequence

from ..core.answers import BoxesAnswer, BoxesSetting, boxes_answer
from ..core.answers.in_picture import MOST_BOXES, FoundBox
from ..core.boxes.drawing import colour_of
from ..core.contract import BoxesReply, PictureReply
from ..core.contract.requests import BoxesRequest, BoxToDraw, DrawBoxesRequest
from ..core.fields import CheckedInputs, Note
from ..runners.client import RunnerClient
from .csv_lines import csv_line
from .explained_answers import Wanted
from .in_picture_answers import answer_written
from .lookups import Version
from .numbers_asked import share_asked
from .plain_answers import WrittenAnswer

__all__ = ["boxes_table", "boxes_to_draw", "drawn_boxes", "found_boxes", "lowest_score"]

HEADINGS = ("label", "score", "x", "y", "width", "height")
# Hundredths of a pixel; models are not as exact.
PLACE_DECIMALS, SCORE_DECIMALS = 2, 4


def lowest_score(setting: BoxesSetting) -> float:
    """The lowest score that this request asks for: its own, or the author's.

    Parameters
    ----------
    setting : BoxesSetting

    Raises
    ------
    ApiProblem
        422 for what is no share.
    """
    return share_asked("least_score", setting.least_score)


def found_boxes(
    runners: RunnerClient,
    version: Version,
    checked: CheckedInputs,
    wanted: Wanted,
    *,
    least_score: float,
    caller: str,
    started: float,
) -> WrittenAnswer:
    """Ask what is in one picture.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
        Of a demo whose answer is boxes.
    checked : CheckedInputs
    wanted : Wanted
        What else is to come along; of boxes only how the model sees the picture can.
    least_score : float
    caller : str
        Who asks, by which calls have their turns.
    started : float
        When the request came (`time.perf_counter`).

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.boxes` does.
    """
    setting = version.document.answer
    assert isinstance(setting, BoxesSetting), "who asks for boxes has looked"
    asked = BoxesRequest(
        row=checked.values,
        reading=setting.reading.model_dump(),
        least_score=least_score,
        seen="seen" in wanted.parts,
    )
    reply = runners.boxes(version.job, asked, most=MOST_BOXES, caller=caller)
    found = [(box.class_, box.score, box.x, box.y, box.width, box.height) for box in reply.boxes]
    answer = boxes_answer(setting, found, size=(reply.width, reply.height), least_score=least_score)
    return answer_written(answer, reply, [*checked.notes, *_notes(reply, wanted)], version, started=started)


def _notes(reply: BoxesReply, wanted: Wanted) -> list[Note]:
    notes = [Note(field=field, level="info", message=message[:500]) for field, message in reply.notes]
    if reply.n_without:
        what = "One of the model's boxes is" if reply.n_without == 1 else f"{reply.n_without} of the model's boxes are"
        notes.append(_warning(f"{what} no numbers and left out.", "boxes-without-numbers"))
    if reply.n_outside:
        what = "One box lies" if reply.n_outside == 1 else f"{reply.n_outside} boxes lie"
        notes.append(_warning(f"{what} outside the picture and {_is(reply.n_outside)} left out.", "boxes-outside"))
    if reply.is_cut:
        notes.append(_warning(f"There are more boxes than can be shown; these are the best {MOST_BOXES}.", "boxes-cut"))
    if wanted.parts - {"seen"}:
        notes.append(_warning("Boxes are not explained; each has its score.", "not-explained"))
    return notes


def _is(count: int) -> str:
    return "is" if count == 1 else "are"


def _warning(message: str, code: str) -> Note:
    return Note(field=None, level="warn", message=message, code=code)


def drawn_boxes(
    runners: RunnerClient, version: Version, checked: CheckedInputs, answer: BoxesAnswer, *, caller: str
) -> PictureReply:
    """The picture with these boxes drawn into it, in the format it came in.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
    checked : CheckedInputs
    answer : BoxesAnswer
    caller : str

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.drawn_boxes` does.
    """
    setting = version.document.answer
    assert isinstance(setting, BoxesSetting), "who asks for boxes has looked"
    asked = DrawBoxesRequest(row=checked.values, boxes=boxes_to_draw(setting, answer.boxes))
    return runners.drawn_boxes(version.job, asked, caller=caller)


def boxes_to_draw(setting: BoxesSetting, boxes: Sequence[FoundBox]) -> list[BoxToDraw]:
    """Boxes with the colours that their kinds have on the pages, and what is written beside them.

    Parameters
    ----------
    setting : BoxesSetting
    boxes : sequence of FoundBox
    """
    colours = {label.name: colour_of(at, label.tone) for at, label in enumerate(setting.labels)}
    other = colour_of(len(colours), "")
    return [
        BoxToDraw(one.x, one.y, one.width, one.height, f"{one.label} {one.of_100}", colours.get(one.name, other))
        for one in boxes
    ]


def boxes_table(answer: BoxesAnswer) -> str:
    """Boxes as CSV, a line each, in pixels of the picture as it was given.

    Parameters
    ----------
    answer : BoxesAnswer
    """
    rows = (
        [
            one.label,
            round(one.score, SCORE_DECIMALS),
            *(round(value, PLACE_DECIMALS) for value in (one.x, one.y, one.width, one.height)),
        ]
        for one in answer.boxes
    )
    return "".join(map(csv_line, [HEADINGS, *rows]))
