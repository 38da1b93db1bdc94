"""The web tier's one way to runners: calls go straight to a runner's socket; the keeper is asked when that fails."""

import contextlib
import secrets
import socket
import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Literal, TypeVar, cast

from ..core.answers.written import MOST_COLUMNS, MOST_ROWS, MOST_TEXT
from ..core.contract import (
    AmongReply,
    BoxesReply,
    ContractBroken,
    ExplainReply,
    FaultFound,
    Missing,
    OverallReply,
    PictureReply,
    PredictReply,
    Raised,
    Refused,
    RegionsReply,
    ReplyMatcher,
    WrittenReply,
    decoded,
)
from ..core.contract.jobs import RunnerJob
from ..core.contract.keeping import (
    Done,
    Ended,
    Ensure,
    KeeperRequest,
    KeeperStatus,
    ReportBreach,
    Retire,
    RetireAllBut,
    RunnerState,
    StatusRequest,
    Until,
    WhyEnded,
)
from ..core.contract.requests import (
    AmongRequest,
    BoxesRequest,
    DrawBoxesRequest,
    ExplainRequest,
    MakePictureRequest,
    MaskRequest,
    OverallRequest,
    PredictRequest,
    RegionsRequest,
    Request,
    WriteRequest,
)
from ..core.contract.values import Row
from ..core.errors import Fault, InputFaults
from ..settings import Settings
from .pipe import Pipe, PipeBroken
from .protocol import ProtocolError, connect, receive, send
from .turns import TooManyWaiting, Turns

if TYPE_CHECKING:
    from typing_extensions import TypeForm

__all__ = [
    "Prediction",
    "RunnerBusy",
    "RunnerClient",
    "RunnerFailed",
    "RunnerRaised",
    "RunnerUnavailable",
    "Unavailable",
]

# What a caller is told to wait for a runner that is starting: about what one takes.
RETRY_AFTER_SECONDS = 2
# For one whose model is in a process that is away: nobody knows when it comes back.
AWAY_AFTER_SECONDS = 15
# A runner that is there takes a connection at once.
CONNECT_SECONDS = 2.0
# How long a caller waits for a model that was asleep.
WAKE_SECONDS = 5.0
# On top of what the keeper itself waits.
KEEPER_SLACK_SECONDS = 10.0
# A call's own clock runs at the keeper, from when the runner takes it. This is for a runner that never does.
PATIENCE = 3.0
# Plain answers under way for one demo in one web process; a thousand would take longer than anybody waits.
MOST_ANSWERS, MOST_ANSWERS_EACH = 1000, 250
# What a reply may be long: a refusal with its traceback, numbers a row, and what explains one.
WORDS_BYTES, NUMBER_BYTES = 256 << 10, 16
WRITTEN_BYTES = 40 << 20
# A bitmap of as many pixels as a picture may have.
DRAWN_BYTES = 160 << 20
# The longest side that a page asks for, and such a picture where nothing of it can be compressed, with its header.
PAGE_SIDE, PAGE_PICTURE_BYTES = 1280, 8 << 20
EXPLAIN_BYTES, FULL_BYTES, PICTURE_BYTES, REGIONS_BYTES, OVERALL_BYTES = 2 << 20, 16 << 20, 2 << 20, 1 << 20, 8 << 20


Reply = TypeVar("Reply")
Unavailable = Literal[
    "starting", "opening", "restarted", "overran", "memory", "crowded", "no-answer", "keeper-gone", "away"
]


class RunnerUnavailable(Exception):
    """No answer now, but soon: the runner is starting, was replaced, or the keeper is coming back.

    Parameters
    ----------
    why : str
        One of `Unavailable`; the web tier has the sentences.
    retry_after : int
        Seconds.
    seconds : float
        How long a call may take, where it took longer.
    """

    def __init__(self, why: Unavailable, *, retry_after: int = RETRY_AFTER_SECONDS, seconds: float = 0.0) -> None:
        super().__init__(why)
        self.why = why
        self.retry_after = retry_after
        self.seconds = seconds

    @property
    def overran(self) -> bool:
        """Whether the model took longer than it may for this very case."""
        return self.why == "overran"


class RunnerBusy(Exception):
    """Too many calls wait for this model; `is_own` tells whether they are the caller's own."""

    def __init__(self, *, is_own: bool, retry_after: int = RETRY_AFTER_SECONDS) -> None:
        super().__init__("too many calls wait for this model")
        self.is_own = is_own
        self.retry_after = retry_after


class RunnerFailed(Exception):
    """The model cannot be held at all.

    Attributes
    ----------
    faults : list of FaultFound
        What does not fit, column by column, if that is the reason.
    traceback : str
        Of a file of code, the lines that it failed at.
    requirements : list of str
        Libraries with which it might be held.
    """

    def __init__(
        self, reason: str, faults: Sequence[FaultFound], traceback: str = "", requirements: Sequence[str] = ()
    ) -> None:
        super().__init__(reason)
        self.faults = [Fault(one.field, one.message, one.asks, one.choices) for one in faults]
        self.requirements = list(requirements)
        self.traceback = traceback


class RunnerRaised(Exception):
    """The model raised for these rows; `traceback` is for the author."""

    def __init__(self, message: str, traceback: str) -> None:
        super().__init__(message)
        self.traceback = traceback


@dataclass(frozen=True)
class Prediction:
    """Outputs of shape (n_rows, n_outputs), and how long the model took for the batch they came in."""

    outputs: list[list[float]]
    predict_ms: float
    # Of each row whether it is unlike anything seen; empty where nothing hangs on that, or it cannot be told.
    unlike: list[bool] = field(default_factory=list)


class RunnerClient:
    """One for each web process; safe to use from its threads.

    Plain answers go over one connection, everything that takes longer over another, a few at a time: a runner takes
    answers first.
    """

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._pipes: dict[tuple[str, bool], Pipe] = {}
        self._turns: dict[str, Turns] = {}
        self._answers: dict[str, Turns] = {}
        self._lock = threading.Lock()

    def predict(self, job: RunnerJob, rows: list[Row], *, caller: str = "") -> Prediction:
        """Ask the runner that holds `job` for outputs.

        Parameters
        ----------
        job : RunnerJob
            Opened already.
        rows : list of Row
        caller : str
            Who asks, here and below: callers have their turns one after another.

        Raises
        ------
        RunnerUnavailable
            If there is no answer now.
        RunnerBusy
            If too many wait for one already.
        RunnerFailed
            If the model cannot be held.
        RunnerRaised
            If the model raised.
        InputFaults
            If the runner finds that a picture cannot be read.
        """
        facts = job.needed_facts
        limit = WORDS_BYTES + NUMBER_BYTES * len(rows) * facts.n_outputs
        reply = self._ask(job, PredictRequest(rows=rows, is_quick=True), PredictReply, limit, caller=caller)
        self._hold_against(job, lambda: ReplyMatcher.of(facts).check_predicted(reply, n_rows=len(rows)))
        return Prediction(reply.outputs.rows(), reply.predict_ms, reply.unlike)

    def explain(self, job: RunnerJob, request: ExplainRequest, *, caller: str = "") -> ExplainReply:
        """Ask for one row's outputs with what explains them.

        Parameters
        ----------
        job : RunnerJob
        request : ExplainRequest
        caller : str

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
            As `predict` does.
        """
        facts = job.needed_facts
        limit = (FULL_BYTES if request.full else EXPLAIN_BYTES) + PICTURE_BYTES * len(facts.picture_inputs)
        # A picture's plain answer comes this way too, with how it was read; it is as quick as any.
        request.is_quick = request.is_plain
        reply = self._ask(job, request, ExplainReply, limit, caller=caller)
        self._hold_against(job, lambda: ReplyMatcher.of(facts).check_explained(reply, of=request.of))
        return reply

    def overall(self, job: RunnerJob, *, of: int, thorough: bool = False, caller: str = "") -> OverallReply | Missing:
        """Ask what matters overall for one output, as far as the runner knows by now.

        Parameters
        ----------
        job : RunnerJob
        of : int
            Place of the output.
        thorough : bool, optional
            By all kept rows, for as long as somebody goes on asking.
        caller : str

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        asked = OverallRequest(of=of, thorough=thorough)
        reply = self._ask(job, asked, OverallReply | Missing, OVERALL_BYTES, caller=caller)
        if isinstance(reply, OverallReply):
            self._hold_against(job, lambda: ReplyMatcher.of(job.needed_facts).check_overall(reply))
        return reply

    def among(self, job: RunnerJob, *, field: str, of: int, caller: str = "") -> AmongReply | Missing:
        """Ask for reference rows: their values of a field and the model's answers.

        Parameters
        ----------
        job : RunnerJob
        field : str
        of : int
            Place of the output.
        caller : str

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        request = AmongRequest(field=field, of=of)
        reply = self._ask(job, request, AmongReply | Missing, EXPLAIN_BYTES, caller=caller)
        if isinstance(reply, AmongReply):
            self._hold_against(job, lambda: ReplyMatcher.of(job.needed_facts).check_among(reply))
        return reply

    def regions(
        self,
        job: RunnerJob,
        row: Row,
        *,
        field: str,
        of: int | None,
        caller: str = "",
        patience: float | None = None,
    ) -> RegionsReply | Missing:
        """Ask where the model looked in the picture of `field`; the longer it is asked, the sharper.

        Parameters
        ----------
        job : RunnerJob
        row : Row
        field : str
        of : int, optional
            Place of the output; None for the likeliest.
        caller : str
        patience : float, optional
            Seconds to wait for a turn, if it is not to be the usual time.

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        request = RegionsRequest(row=row, field=field, of=of)
        reply = self._ask(job, request, RegionsReply | Missing, REGIONS_BYTES, caller=caller, patience=patience)
        if isinstance(reply, RegionsReply):
            self._hold_against(job, lambda: ReplyMatcher.of(job.needed_facts).check_regions(reply, of=of))
        return reply

    def boxes(self, job: RunnerJob, request: BoxesRequest, *, most: int, caller: str = "") -> BoxesReply:
        """Ask what the model finds in a picture.

        Parameters
        ----------
        job : RunnerJob
        request : BoxesRequest
        most : int
            How many boxes there may be.
        caller : str

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        request.is_quick = True
        reply = self._ask(job, request, BoxesReply, WORDS_BYTES + PICTURE_BYTES, caller=caller)
        facts = job.needed_facts
        self._hold_against(
            job, lambda: ReplyMatcher.of(facts).check_boxes(reply, least_score=request.least_score, most=most)
        )
        return reply

    def written(self, job: RunnerJob, request: WriteRequest, *, caller: str = "") -> WrittenReply:
        """Ask for the text or table that a function answers with.

        Parameters
        ----------
        job : RunnerJob
        request : WriteRequest
        caller : str

        Raises
        ------
        InputFaults
            If the function cannot take the row.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        request.is_quick = True
        facts = job.needed_facts
        limit = WRITTEN_BYTES + PICTURE_BYTES * len(facts.picture_inputs)
        reply = self._ask(job, request, WrittenReply, limit, caller=caller)
        sizes = {"most_text": MOST_TEXT, "most_rows": MOST_ROWS, "most_columns": MOST_COLUMNS}
        self._hold_against(job, lambda: ReplyMatcher.of(facts).check_written(reply, kind=facts.answer, **sizes))
        return reply

    def drawn_boxes(self, job: RunnerJob, request: DrawBoxesRequest, *, caller: str = "") -> PictureReply:
        """Ask for a picture with boxes drawn into it, in the format it came in.

        Parameters
        ----------
        job : RunnerJob
        request : DrawBoxesRequest
        caller : str

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        return self._picture(job, request, n_classes=0, caller=caller)

    def made_picture(
        self, job: RunnerJob, request: MakePictureRequest | MaskRequest, *, n_classes: int = 0, caller: str = ""
    ) -> PictureReply:
        """Ask for the picture that a model makes of another, or for a class for each of its pixels.

        Parameters
        ----------
        job : RunnerJob
        request : MakePictureRequest or MaskRequest
        n_classes : int
            Of a mask.
        caller : str

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        # What a page shows goes with plain answers; a picture in full size may be large, and has its turn.
        request.is_quick = request.most_side is not None and request.most_side <= PAGE_SIDE
        return self._picture(job, request, n_classes=n_classes, caller=caller)

    def is_there(self, job: RunnerJob) -> bool:
        """Whether a runner holds `job` right now, without asking for one.

        Parameters
        ----------
        job : RunnerJob
        """
        return (self._settings.runner_sockets / f"{job.key}.sock").exists()

    def ensure(self, job: RunnerJob, *, until: Until = "now", timeout: float = 0.0) -> RunnerState:
        """Have the keeper hold `job`; wait until it is `opened` or `ready` if asked to.

        Parameters
        ----------
        job : RunnerJob
        until : str, default="now"
        timeout : float
            Seconds to wait at the longest.

        Raises
        ------
        RunnerUnavailable
            If the keeper does not answer.
        RunnerFailed
            If the model cannot be held.
        """
        state = self._ask_keeper(Ensure(job, until, timeout), RunnerState, timeout=timeout)
        if state.state == "failed" and state.is_away:
            raise RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        if state.state == "failed":
            raise RunnerFailed(state.reason, state.faults, state.traceback, state.requirements)
        return state

    def retire(self, key: str) -> None:
        """Let go of a runner that nothing needs any more.

        Parameters
        ----------
        key : str
        """
        self._ask_keeper(Retire(key), Done)

    def retire_all_but(self, keys: list[str]) -> None:
        """Let go of all runners but these, and but those whose models are being opened.

        Parameters
        ----------
        keys : list of str
        """
        self._ask_keeper(RetireAllBut(keys), Done)

    def close(self) -> None:
        """Close all connections."""
        for pipe in list(self._pipes.values()):
            pipe.close()

    def status(self) -> KeeperStatus:
        """Confinement and the state of all runners."""
        return self._ask_keeper(StatusRequest(), KeeperStatus)

    # --- one call -----------------------------------------------------------------------------------------------------

    def _ask(
        self,
        job: RunnerJob,
        request: Request,
        type_: "TypeForm[Reply]",
        limit: int,
        *,
        caller: str,
        patience: float | None = None,
    ) -> Reply:
        request.call = secrets.randbits(62)
        wait = self._settings.limits.call_seconds if patience is None else patience
        try:
            with self._line_for(job, is_quick=request.is_quick).turn(caller, timeout=wait):
                body = self._call(job, request, limit)
        except TooManyWaiting as error:
            raise RunnerBusy(is_own=error.is_own) from error
        except TimeoutError:
            raise RunnerBusy(is_own=False) from None
        reply = self._decoded(job, body, type_)
        if isinstance(reply, Refused):
            raise InputFaults([Fault(field, sentence) for field, sentence in reply.faults])
        if isinstance(reply, Raised):
            raise RunnerRaised(reply.message, reply.traceback)
        return reply

    def _picture(self, job: RunnerJob, request: Request, *, n_classes: int, caller: str) -> PictureReply:
        limit = (PAGE_PICTURE_BYTES if request.is_quick else DRAWN_BYTES) + PICTURE_BYTES
        reply = self._ask(job, request, PictureReply, limit, caller=caller)
        facts = job.needed_facts
        self._hold_against(job, lambda: ReplyMatcher.of(facts).check_picture(reply, n_classes=n_classes))
        return reply

    def _line_for(self, job: RunnerJob, *, is_quick: bool) -> Turns:
        lines = self._answers if is_quick else self._turns
        found = lines.get(job.key)
        if found is None:
            with self._lock:
                made = Turns(at_once=MOST_ANSWERS, most_each=MOST_ANSWERS_EACH) if is_quick else Turns()
                found = lines.setdefault(job.key, made)
        return found

    def _decoded(self, job: RunnerJob, body: bytes, type_: "TypeForm[Reply]") -> Reply | Refused | Raised:
        try:
            # Whether or not `type_` is a union itself, the three make one.
            return decoded(body, cast("TypeForm[Reply | Refused | Raised]", type_ | Refused | Raised))
        except ContractBroken as error:
            raise self._broken(job, str(error)) from error

    def _hold_against(self, job: RunnerJob, check: Callable[[], None]) -> None:
        """Whether a reply is one to what was asked."""
        try:
            check()
        except ContractBroken as error:
            raise self._broken(job, str(error)) from error

    def _broken(self, job: RunnerJob, breach: str) -> RunnerUnavailable:
        """Have a runner replaced that says what it must not."""
        self._report(job.key, breach)
        return RunnerUnavailable("no-answer")

    def _report(self, key: str, breach: str) -> None:
        with contextlib.suppress(RunnerUnavailable):
            self._ask_keeper(ReportBreach(key, breach), Done)

    def _call(self, job: RunnerJob, request: Request, limit: int) -> bytes:
        timeout = PATIENCE * self._settings.limits.call_seconds
        # A pipe may have broken since the last call, because its runner was replaced: then there is another.
        for _ in range(2):
            try:
                return self._pipe(job, is_quick=request.is_quick).call(request, most_bytes=limit, timeout=timeout)
            except PipeBroken as error:
                if error.breach and error.was_sent:
                    raise RunnerUnavailable("no-answer") from error
                if error.was_sent and not self._was_put_to_sleep(job):
                    raise self._ended(job, request) from error
            except TimeoutError as error:
                raise RunnerUnavailable("crowded") from error
        raise RunnerUnavailable("restarted")

    def _was_put_to_sleep(self, job: RunnerJob) -> bool:
        """Whether it is gone for want of memory only, and may be woken for the same call."""
        with contextlib.suppress(RunnerUnavailable):
            ended = self._ask_keeper(WhyEnded(job.key), Ended | Done)
            return isinstance(ended, Ended) and ended.why == "asleep"
        return False

    def _ended(self, job: RunnerJob, request: Request) -> RunnerUnavailable:
        """Why a runner ended while it had this call; the keeper knows what it stopped it for."""
        if is_away(job):
            return RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        ended: Ended | Done = Ended()
        with contextlib.suppress(RunnerUnavailable):
            ended = self._ask_keeper(WhyEnded(job.key), Ended | Done)
        if not isinstance(ended, Ended):
            return RunnerUnavailable("restarted")
        if ended.why == "overran" and (ended.call == request.call or (request.is_quick and ended.is_quick)):
            return RunnerUnavailable("overran", seconds=self._settings.limits.call_seconds)
        return RunnerUnavailable("memory" if ended.why == "memory" else "restarted")

    def _pipe(self, job: RunnerJob, *, is_quick: bool) -> Pipe:
        """The open connection to the runner, or a new one; a runner that was asleep is woken and waited for."""
        name = (job.key, is_quick)
        pipe = self._pipes.get(name)
        if pipe is not None and pipe.is_open:
            return pipe
        connection = self._connection(job)
        with self._lock:
            other = self._pipes.get(name)
            if other is not None and other.is_open:
                connection.close()
                return other
            self._pipes[name] = Pipe(connection, on_end=lambda ended: self._forget(name, ended))
            return self._pipes[name]

    def _connection(self, job: RunnerJob) -> socket.socket:
        path = self._settings.runner_sockets / f"{job.key}.sock"
        with contextlib.suppress(OSError):
            return connect(path, timeout=CONNECT_SECONDS)
        state = self.ensure(job)
        # One that died before may die again; nobody is kept waiting for that.
        if not state.restarts:
            self.ensure(job, until="ready", timeout=WAKE_SECONDS)
            with contextlib.suppress(OSError):
                return connect(path, timeout=CONNECT_SECONDS)
        if is_away(job):
            raise RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        raise RunnerUnavailable("starting")

    def _forget(self, name: tuple[str, bool], ended: Pipe) -> None:
        with self._lock:
            if self._pipes.get(name) is ended:
                del self._pipes[name]
        # Here, not where somebody waits: a reply too many comes when nobody does.
        if ended.breach:
            self._report(name[0], ended.breach)

    def _ask_keeper(self, request: KeeperRequest, type_: "TypeForm[Reply]", *, timeout: float = 0.0) -> Reply:
        try:
            with connect(self._settings.run / "keeper.sock", timeout=timeout + KEEPER_SLACK_SECONDS) as connection:
                send(connection, request)
                return receive(connection, type_)
        except (OSError, ProtocolError) as error:
            raise RunnerUnavailable("keeper-gone") from error


def is_away(job: RunnerJob) -> bool:
    """Whether it is a model in a process of its author's that is not connected.

    Parameters
    ----------
    job : RunnerJob
    """
    return job.bridge is not None and not Path(job.bridge).exists()
