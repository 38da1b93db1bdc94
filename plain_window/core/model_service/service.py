"""One model with all that is said beside its answers: requests in, replies out."""

import time
from collections.abc import Sequence
from typing import TYPE_CHECKING, cast

import numpy as np

from ..answers.in_picture import IN_PICTURE
from ..answers.written import WRITTEN
from ..contract import ModelFacts, PredictReply, Raised, Refused
from ..contract.kept_rows import KeptRows
from ..contract.replies import (
    AmongReply,
    BoxesReply,
    ExplainReply,
    Missing,
    Numbers,
    OverallReply,
    PictureReply,
    RegionsReply,
    WrittenReply,
)
from ..contract.requests import (
    AmongRequest,
    BoxesRequest,
    DrawBoxesRequest,
    ExplainRequest,
    MakePictureRequest,
    MaskRequest,
    OverallRequest,
    PredictRequest,
    RegionsRequest,
    SlowRequest,
    WriteRequest,
)
from ..contract.values import Row
from ..errors import InputFaults, ModelFailed
from .backends import Backend, CompiledBackend, CompiledPixels, PictureBackend, Writes

if TYPE_CHECKING:
    from .in_picture import InPictureAnswers
    from .pictures import PictureExplainer
    from .rows import RowExplainer

__all__ = ["ModelService", "SlowReply", "compiled_service"]

WARM_UP_CALLS = 3
MESSAGE_CHARACTERS, TRACEBACK_CHARACTERS = 4000, 100_000

SlowReply = (
    ExplainReply
    | OverallReply
    | AmongReply
    | RegionsReply
    | BoxesReply
    | PictureReply
    | WrittenReply
    | Missing
    | Raised
    | Refused
)


class ModelService:
    """Answers every request for one model.

    Parameters
    ----------
    backend : Backend
        What is asked.
    facts : ModelFacts
    kept_rows : KeptRows, optional
        Reference rows and known cases; without them nothing is explained.
    background_rows : int, default=100
        How many reference rows contributions are counted against, at the most.
    """

    def __init__(
        self, backend: Backend, facts: ModelFacts, kept_rows: KeptRows | None, *, background_rows: int = 100
    ) -> None:
        self.backend = backend
        self._warm_up_row = facts.warm_up_row
        self._writes = cast("Writes", backend) if facts.answer in WRITTEN else None
        # Of what is written nothing is counted, so nothing is explained.
        self._explainer = _explainer(backend, facts, None if self._writes else kept_rows, background_rows)
        self._in_picture = (
            _in_picture(backend) if isinstance(backend, PictureBackend) and facts.answer in IN_PICTURE else None
        )

    def warm_up(self) -> None:
        """Ask it a few times, so that a visitor's first call is as fast as the rest."""
        if self._in_picture is not None:
            self._in_picture.warm_up(self._warm_up_row)
            return
        if self._writes is not None:
            self._writes.written(self._warm_up_row)
            return
        is_compiled = self.backend.compiled is not None
        request = ExplainRequest(row=self._warm_up_row, explanation=is_compiled, curves=True, similar=True)
        for _ in range(WARM_UP_CALLS):
            self.backend.predict([self._warm_up_row])
            self._explainer.explain(request)

    @property
    def has_work(self) -> bool:
        """Whether there is something to do when nobody asks."""
        return self._explainer.has_work

    def work(self) -> None:
        """Do a small piece of it."""
        self._explainer.work()

    def predict(self, requests: Sequence[PredictRequest]) -> list[PredictReply | Raised | Refused]:
        """Answer requests that came together, with one question to the model.

        Parameters
        ----------
        requests : sequence of PredictRequest

        Returns
        -------
        list of PredictReply, Raised or Refused
            One for each request, in their order.
        """
        started = time.perf_counter()
        rows = [row for request in requests for row in request.rows]
        try:
            outputs, unlike = self._predicted(rows)
        except (ModelFailed, InputFaults) as error:
            if len(requests) == 1:
                return [_refusal(error)]
            # One row that the model cannot take must not fail the rows it happened to arrive with.
            return [reply for request in requests for reply in self.predict([request])]
        spent_ms = (time.perf_counter() - started) * 1000
        replies: list[PredictReply | Raised | Refused] = []
        at = 0
        for request in requests:
            end = at + len(request.rows)
            replies.append(PredictReply(_numbers(outputs[at:end]), spent_ms, unlike[at:end]))
            at = end
        return replies

    def answer(self, request: SlowRequest) -> SlowReply:
        """Answer any request but one for plain outputs.

        Parameters
        ----------
        request : SlowRequest
        """
        try:
            match request:
                case ExplainRequest():
                    return self._explainer.explain(request)
                case OverallRequest():
                    return self._explainer.overall(request)
                case AmongRequest():
                    return self._explainer.among(request)
                case RegionsRequest():
                    return self._explainer.regions(request)
                case BoxesRequest() | DrawBoxesRequest() | MakePictureRequest() | MaskRequest() if self._in_picture:
                    return self._in_picture.answer(request)
                case WriteRequest() if self._writes:
                    return self._written(self._writes, request)
            return Raised("The model does not answer in that way.", "")
        except (ModelFailed, InputFaults) as error:
            return _refusal(error)

    def _written(self, writes: Writes, request: WriteRequest) -> WrittenReply:
        started = time.perf_counter()
        reply = writes.written(request.row)
        reply.predict_ms = (time.perf_counter() - started) * 1000
        return reply

    def _predicted(self, rows: list[Row]) -> tuple[np.ndarray, list[bool]]:
        return self.backend.predict(rows), self._explainer.unlike(rows)


def _explainer(
    backend: Backend, facts: ModelFacts, kept_rows: KeptRows | None, background_rows: int
) -> "RowExplainer | PictureExplainer":
    # Imported where they are needed: a runner that died is waited for.
    if isinstance(backend, PictureBackend):
        from .pictures import PictureExplainer

        return PictureExplainer(backend, facts, kept_rows, background_rows=background_rows)
    from .rows import RowExplainer

    return RowExplainer(backend, facts, kept_rows, background_rows=background_rows)


def _in_picture(backend: PictureBackend) -> "InPictureAnswers":
    from .in_picture import InPictureAnswers

    return InPictureAnswers(backend)


def compiled_service(
    content: bytes, facts: ModelFacts, kept_rows: KeptRows | None, *, background_rows: int = 100
) -> ModelService:
    """The service of a compiled model, from its file.

    Parameters
    ----------
    content : bytes
        The compiled model's file.
    facts : ModelFacts
    kept_rows : KeptRows, optional
    background_rows : int, default=100

    Raises
    ------
    PlanDamaged
        If the file is damaged, or none.
    """
    backend: Backend = CompiledBackend(content)
    if facts.picture_inputs:
        backend = PictureBackend(CompiledPixels(content), facts.picture_inputs, [])
    return ModelService(backend, facts, kept_rows, background_rows=background_rows)


def _refusal(error: ModelFailed | InputFaults) -> Raised | Refused:
    if isinstance(error, InputFaults):
        return Refused([(fault.field, fault.message) for fault in error.faults])
    return Raised(str(error)[:MESSAGE_CHARACTERS], error.traceback[-TRACEBACK_CHARACTERS:])


def _numbers(outputs: np.ndarray) -> Numbers:
    n_rows, n_columns = outputs.shape
    return Numbers(n_rows, n_columns, outputs.astype("float64", copy=False).tobytes())
