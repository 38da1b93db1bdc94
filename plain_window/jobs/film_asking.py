"""A model asked about a film's frames, one after another, where it is: behind its own walls, as by visitors."""

import threading
from concurrent.futures import Future, ThreadPoolExecutor

from ..authoring.services import Services
from ..core.answers import BoxesSetting, make_answer
from ..core.answers.in_picture import MOST_BOXES
from ..core.contract.films import FrameRead
from ..core.contract.jobs import RunnerJob
from ..core.contract.requests import BoxesRequest
from ..core.contract.values import Row, picture_in
from ..core.documents import DemoDocument
from ..core.documents.films import check_frame, film_field
from ..core.errors import InputFaults, PlainWindowError
from ..runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..runners.file_line import WorkLost
from .film_options import FilmOptions, FrameAnswer

__all__ = ["FilmAsking"]

# While one frame is answered the next is on its way; visitors' questions come in between.
AT_ONCE = 2
# How often the same frame is asked about again while its model comes back, and how long that is waited for.
MOST_WAITS, AGAIN_SECONDS = 120, 1.0
# Hundredths of a pixel. Scores keep what they are rounded from, so that it comes to the same as in a picture's answer.
PLACE_DECIMALS = 2
FAILED = "The model failed for this frame."


class FilmAsking:
    """Asks a demo's model about frames.

    Parameters
    ----------
    services : Services
    document : DemoDocument
        The demo as it was when the job came.
    runner : RunnerJob
        Its model's.
    options : FilmOptions
    by_author : bool
        Whether it is the author who asks.

    Attributes
    ----------
    preparation : dict or None
        How frames may be prepared before they are asked about, as plain values.
    """

    def __init__(
        self,
        services: Services,
        document: DemoDocument,
        runner: RunnerJob,
        options: FilmOptions,
        *,
        by_author: bool,
    ) -> None:
        self._services, self._document, self._runner, self._options = services, document, runner, options
        self._by_author = by_author
        self._field = film_field(document)
        # Which part is cut out, and how it is turned, is for whoever has the whole frame.
        is_whole = self._field.name not in options.inputs
        self.preparation = self._field.preparation.model_dump() if is_whole else None
        self._pool = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="frames")
        self._closed = threading.Event()

    def ask(self, frame: FrameRead) -> "Future[FrameAnswer]":
        """What the model says of a frame, when it comes.

        Parameters
        ----------
        frame : FrameRead
        """
        return self._pool.submit(self._answered, frame)

    def close(self) -> None:
        """Let go of everything."""
        self._closed.set()
        self._pool.shutdown(wait=False, cancel_futures=True)

    def _answered(self, frame: FrameRead) -> FrameAnswer:
        at = round(frame.at, 3)
        try:
            row = check_frame(self._document, self._options.inputs, frame.content).values
        except InputFaults as error:
            return FrameAnswer(at, fault=str(error))
        # Nobody asks about the same frame again.
        row[self._field.name] = {**picture_in(row, self._field.name), "once": True, "fitted_from": frame.full}
        for _ in range(MOST_WAITS):
            try:
                return self._asked(at, row)
            except RunnerRaised as error:
                # What went wrong inside is for the author.
                return FrameAnswer(at, fault=f"{FAILED} ({error})"[:500] if self._by_author else FAILED)
            except PlainWindowError as error:
                return FrameAnswer(at, fault=str(error)[:500])
            except RunnerFailed as error:
                raise WorkLost(str(error)) from error
            except (RunnerUnavailable, RunnerBusy) as error:
                if getattr(error, "overran", False):
                    return FrameAnswer(at, fault="The model took longer than it may for this frame.")
                if self._closed.wait(AGAIN_SECONDS):
                    break
        raise WorkLost("the model does not come back")

    def _asked(self, at: float, row: Row) -> FrameAnswer:
        runners, setting = self._services.runners, self._document.answer
        if not isinstance(setting, BoxesSetting):
            found = runners.predict(self._runner, [row], caller="film")
            # What is no answer is told now, and counted as none.
            make_answer(setting, found.outputs[0])
            return FrameAnswer(at, values=list(found.outputs[0]))
        least = setting.least_score if self._options.least_score is None else self._options.least_score
        asked = BoxesRequest(row=row, reading=setting.reading.model_dump(), least_score=least)
        reply = runners.boxes(self._runner, asked, most=MOST_BOXES, caller="film")
        boxes = [
            (
                box.class_,
                box.score,
                round(box.x, PLACE_DECIMALS),
                round(box.y, PLACE_DECIMALS),
                round(box.width, PLACE_DECIMALS),
                round(box.height, PLACE_DECIMALS),
            )
            for box in reply.boxes
        ]
        return FrameAnswer(at, boxes=boxes)
