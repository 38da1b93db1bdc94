"""The web tier's one way to models: a typed method for each call, its reply held against the question."""

from dataclasses import dataclass, field

from ..core.answers.written import MOST_COLUMNS, MOST_ROWS, MOST_TEXT
from ..core.contract import (
    AmongReply,
    BoxesReply,
    ExplainReply,
    Missing,
    OverallReply,
    PictureReply,
    PredictReply,
    RegionsReply,
    ReplyMatcher,
    WrittenReply,
)
from ..core.contract.jobs import RunnerJob
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
from .lines import RunnerLines

__all__ = ["Prediction", "RunnerClient"]

# What a reply may be long: a refusal with its traceback, numbers a row, and what explains one.
WORDS_BYTES, NUMBER_BYTES = 256 << 10, 16
WRITTEN_BYTES = 40 << 20
# A bitmap of as many pixels as a picture may have.
DRAWN_BYTES = 160 << 20
# The longest side that a page asks for, and such a picture where nothing of it can be compressed, with its header.
PAGE_SIDE, PAGE_PICTURE_BYTES = 1280, 8 << 20
EXPLAIN_BYTES, FULL_BYTES, PICTURE_BYTES, REGIONS_BYTES, OVERALL_BYTES = 2 << 20, 16 << 20, 2 << 20, 1 << 20, 8 << 20


@dataclass(frozen=True)
class Prediction:
    """Outputs of shape (n_rows, n_outputs), and how long the model took for the batch they came in."""

    outputs: list[list[float]]
    predict_ms: float
    # Of each row whether it is unlike anything seen; empty where nothing hangs on that, or it cannot be told.
    unlike: list[bool] = field(default_factory=list)


class RunnerClient(RunnerLines):
    """One for each web process; safe to use from its threads.

    Plain answers go over one connection, everything that takes longer over another, a few at a time: a runner takes
    answers first.
    """

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

    def _picture(self, job: RunnerJob, request: Request, *, n_classes: int, caller: str) -> PictureReply:
        limit = (PAGE_PICTURE_BYTES if request.is_quick else DRAWN_BYTES) + PICTURE_BYTES
        reply = self._ask(job, request, PictureReply, limit, caller=caller)
        facts = job.needed_facts
        self._hold_against(job, lambda: ReplyMatcher.of(facts).check_picture(reply, n_classes=n_classes))
        return reply
