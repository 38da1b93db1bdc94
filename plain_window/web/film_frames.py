"""What came of a film's frames: as a page gets it, as a table, and drawn into the film."""

import contextlib
import fcntl
import itertools
import secrets
from collections.abc import Iterator, Sequence

import msgspec

from ..authoring.services import Services
from ..core.answers import (
    AnyAnswerSetting,
    BoxesSetting,
    ClassSetting,
    LabelsSetting,
    NumbersSetting,
    make_answer,
)
from ..core.answers.in_picture import FoundBox
from ..core.answers.kinds import ClassAnswer, LabelsAnswer, NumberAnswer, NumbersAnswer
from ..core.answers.making import LABEL_SEPARATOR, labelled_boxes
from ..core.contract.films import DrawnMoment
from ..core.documents import DemoDocument
from ..jobs.film_job import film_line, frames_name
from ..jobs.film_options import FrameAnswer
from ..jobs.folder import JobFolder
from ..settings import Settings
from ..store.records import Job
from .csv_lines import csv_line
from .found_boxes import boxes_to_draw
from .problems import ApiProblem
from .types.films import FilmFrame, FilmRow

__all__ = ["film_table", "film_with_boxes", "frames_from", "rows_of"]

# A film is made again by one process at a time: it takes all the computing there is.
LOCK = "film.lock"
LINES_AT_ONCE = 500


def rows_of(document: DemoDocument) -> list[FilmRow]:
    """What the numbers of each frame are.

    Parameters
    ----------
    document : DemoDocument
        Of the film's job.
    """
    setting = document.answer
    if isinstance(setting, ClassSetting):
        return [FilmRow(name=one.name, label=one.label) for one in setting.classes]
    if isinstance(setting, LabelsSetting | BoxesSetting):
        return [FilmRow(name=one.name, label=one.label) for one in setting.labels]
    numbers = setting.values if isinstance(setting, NumbersSetting) else [setting]
    return [FilmRow(name=one.name, label=one.name, unit=one.unit) for one in numbers]  # type: ignore[union-attr]


def frames_from(settings: Settings, job: Job, start: int, most: int) -> list[FilmFrame]:
    """What came of some frames.

    Parameters
    ----------
    settings : Settings
    job : Job
    start : int
        How many to leave out.
    most : int
    """
    document = DemoDocument.model_validate_json(job.document)
    rows = rows_of(document)
    # Lines that were asked for before are passed over as they stand.
    some = itertools.islice(_lines_kept(settings, job), start, start + most)
    return [_frame(document.answer, rows, _decoded(line)) for line in some]


def film_table(
    settings: Settings, job: Job, *, least_score: float = 0.0, only: Sequence[str] | None = None
) -> Iterator[bytes]:
    """All of it as CSV: a line a frame, or of a detector a line a box. Times are in seconds.

    Parameters
    ----------
    settings : Settings
    job : Job
    least_score : float, optional
        Boxes with a lower score are left out.
    only : sequence of str, optional
        Kinds of boxes by their names; others are left out.
    """
    document = DemoDocument.model_validate_json(job.document)
    rows, headings = rows_of(document), _headings(document)
    yield csv_line(["seconds", *headings, "fault"]).encode()
    answers = _answers(settings, job)
    while some := list(itertools.islice(answers, LINES_AT_ONCE)):
        frames = [_frame(document.answer, rows, one) for one in some]
        for frame in frames:
            frame.boxes = _shown(frame, least_score, only)
        lines = (line for frame in frames for line in _lines(document.answer, frame, len(headings)))
        yield "".join(map(csv_line, lines)).encode()


def film_with_boxes(services: Services, job: Job, *, least_score: float, only: Sequence[str] | None) -> Iterator[bytes]:
    """The film as MP4, with its boxes drawn in where it has some, in parts. It is made by one process at a time.

    Parameters
    ----------
    services : Services
    job : Job
        Done.
    least_score : float
        Boxes with a lower score are left out.
    only : sequence of str, optional
        Kinds by their names; others are left out.

    Raises
    ------
    ApiProblem
        503 while another is being made.
    FilmNotRead, FileNotFoundError, WorkLost, RunnerUnavailable, RunnerFailed
        As the process that reads the film does.
    """
    document = DemoDocument.model_validate_json(job.document)
    moments = _drawn_moments(document, services.settings, job, least_score, only)
    with _alone(services.settings), film_line(services, job, key=f"{job.token} {secrets.token_hex(4)}") as film:
        yield from film.with_boxes(moments)


def _drawn_moments(
    document: DemoDocument, settings: Settings, job: Job, least_score: float, only: Sequence[str] | None
) -> list[DrawnMoment]:
    setting = document.answer
    if not isinstance(setting, BoxesSetting):
        return []
    rows = rows_of(document)
    return [
        DrawnMoment(answer.at, boxes_to_draw(setting, _shown(_frame(setting, rows, answer), least_score, only)))
        for answer in _answers(settings, job)
    ]


def _shown(frame: FilmFrame, least_score: float, only: Sequence[str] | None) -> list[FoundBox]:
    return [box for box in frame.boxes if box.score >= least_score and (only is None or box.name in only)]


@contextlib.contextmanager
def _alone(settings: Settings) -> Iterator[None]:
    with open(settings.run / LOCK, "w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            detail = "Another film is being made just now. Try again in a moment."
            raise ApiProblem(503, "Busy", detail, retry_after=10) from None
        yield


def _answers(settings: Settings, job: Job) -> Iterator[FrameAnswer]:
    return map(_decoded, _lines_kept(settings, job))


def _lines_kept(settings: Settings, job: Job) -> Iterator[bytes]:
    folder = JobFolder(settings.jobs, job.token)
    return itertools.chain.from_iterable(folder.lines(frames_name(chunk)) for chunk in range(job.chunks))


def _decoded(line: bytes) -> FrameAnswer:
    return msgspec.json.decode(line, type=FrameAnswer)


def _frame(setting: AnyAnswerSetting, rows: list[FilmRow], answer: FrameAnswer) -> FilmFrame:
    if answer.fault:
        return FilmFrame(at=answer.at, values=[], fault=answer.fault)
    if isinstance(setting, BoxesSetting):
        boxes = labelled_boxes(setting, answer.boxes)
        counts = [float(sum(box.name == label.name for box in boxes)) for label in setting.labels]
        return FilmFrame(at=answer.at, values=counts, boxes=boxes)
    said, _ = make_answer(setting, answer.values)
    frame = FilmFrame(at=answer.at, values=answer.values)
    if isinstance(said, ClassAnswer):
        marks = {one.class_: one.of_100 for one in said.probabilities}
        frame.said, frame.marks = said.class_, [marks[row.name] for row in rows] if marks else []
    elif isinstance(said, LabelsAnswer):
        by_name = {one.name: one.of_100 for one in said.labels}
        on = {one.name for one in said.labels if one.applies}
        frame.marks = [by_name[row.name] for row in rows]
        frame.said = LABEL_SEPARATOR.join(row.name for row in rows if row.name in on)
    elif isinstance(said, NumberAnswer):
        frame.texts = [said.text]
    elif isinstance(said, NumbersAnswer):
        frame.texts = [one.text for one in said.values]
    return frame


def _headings(document: DemoDocument) -> list[str]:
    """The columns between time and fault, called as in the result of a table."""
    setting, names = document.answer, [row.name for row in rows_of(document)]
    if isinstance(setting, BoxesSetting):
        return ["label", "score", "x", "y", "width", "height"]
    if isinstance(setting, ClassSetting | LabelsSetting):
        return ["answer", *([f"probability {name}" for name in names] if setting.gives_probabilities else [])]
    return names if isinstance(setting, NumbersSetting) else ["answer"]


def _lines(setting: AnyAnswerSetting, frame: FilmFrame, n_columns: int) -> Iterator[list[object]]:
    if frame.fault or (isinstance(setting, BoxesSetting) and not frame.boxes):
        # A frame in which nothing was found was looked at all the same.
        yield [frame.at, *([None] * n_columns), frame.fault]
    elif isinstance(setting, BoxesSetting):
        for box in frame.boxes:
            yield [frame.at, box.label, box.score, box.x, box.y, box.width, box.height, None]
    elif isinstance(setting, ClassSetting | LabelsSetting):
        shares = [min(max(value, 0.0), 1.0) for value in frame.values] if setting.gives_probabilities else []
        yield [frame.at, frame.said, *shares, None]
    else:
        yield [frame.at, *frame.values, None]
