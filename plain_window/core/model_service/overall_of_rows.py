"""What matters overall, by the rows that are kept beside a model: worked out a piece at a time while nobody asks."""

import time
from collections.abc import Callable, Sequence
from functools import partial

import numpy as np

from ..contract import Missing, OverallReply, Reason
from ..contract.kept_rows import KeptRows
from ..contract.requests import OverallRequest
from ..errors import ModelFailed
from ..explain.explainer import Explainer, FieldFacts, TooSlow
from ..explain.overall import Overall
from .backends import Columns
from .reply_parts import overall_reply

__all__ = ["OverallOfRows"]

# What goes by all rows is worked on for so long after somebody has asked how far it is.
WANTED_SECONDS = 20.0

# An output, and whether it goes by all rows.
Wanted = tuple[int, bool]


class OverallOfRows:
    """What matters overall for each output of a model that somebody has asked about.

    Parameters
    ----------
    explainer : Explainer
    predict : callable
        Columns to outputs of shape (n_rows, n_outputs).
    kept_rows : KeptRows
    fields : sequence of FieldFacts
    is_class : bool
        Whether the model answers with a class.
    """

    def __init__(
        self,
        explainer: Explainer,
        predict: Callable[[Columns], np.ndarray],
        kept_rows: KeptRows,
        fields: Sequence[FieldFacts],
        *,
        is_class: bool,
    ) -> None:
        self._explainer, self._predict, self._kept_rows = explainer, _all_answered(predict), kept_rows
        self._fields, self._is_class = fields, is_class
        self._found: dict[Wanted, Overall] = {}
        self._asked_at: dict[Wanted, float] = {}
        # What cannot be worked out, and why: that all rows cannot be asked about takes nothing from what some said.
        self._missing: dict[Wanted, Reason] = {}

    @property
    def has_work(self) -> bool:
        """Whether something is wanted that is not worked out yet."""
        return any(map(self._is_wanted, self._found))

    def work(self) -> None:
        """Do a small piece of it."""
        wanted = next(filter(self._is_wanted, self._found))
        try:
            self._found[wanted].work()
        except (ModelFailed, TooSlow) as error:
            del self._found[wanted]
            self._missing[wanted] = "too-slow" if isinstance(error, TooSlow) else "reference-not-answered"

    def _is_wanted(self, wanted: Wanted) -> bool:
        """What a glance takes is finished once it was begun; what takes longer, only while somebody waits for it."""
        if self._found[wanted].is_done:
            return False
        return not wanted[1] or time.monotonic() - self._asked_at[wanted] < WANTED_SECONDS

    def answer(self, request: OverallRequest) -> OverallReply | Missing:
        """As far as it is known.

        Parameters
        ----------
        request : OverallRequest
        """
        wanted = (request.of, request.thorough)
        if wanted in self._missing:
            return Missing(self._missing[wanted])
        self._asked_at[wanted] = time.monotonic()
        if wanted not in self._found:
            self._found[wanted] = self._begun(request)
        return overall_reply(self._found[wanted].state())

    def _begun(self, request: OverallRequest) -> Overall:
        kept_rows = self._kept_rows
        return Overall(
            self._explainer,
            self._predict,
            kept_rows.columns,
            self._fields,
            of=request.of,
            known=kept_rows.known_columns if kept_rows.known_outcomes else {},
            errors=partial(self._errors, kept_rows),
            clock=time.process_time,
            thorough=request.thorough,
        )

    def _errors(self, kept_rows: KeptRows, outputs: np.ndarray) -> np.ndarray:
        """Of each known case how wrong the model is: 1 for another class, or how far off the number is."""
        outcomes = np.array(kept_rows.known_outcomes[: len(outputs)])
        if self._is_class:
            misses: np.ndarray = (outputs.argmax(axis=1) != outcomes).astype("float64")
            return misses
        distances: np.ndarray = np.abs(outputs[:, 0] - outcomes)
        return distances


def _all_answered(predict: Callable[[Columns], np.ndarray]) -> Callable[[Columns], np.ndarray]:
    """A model that fails where it has no number for a row."""

    def ask(columns: Columns) -> np.ndarray:
        outputs = predict(columns)
        if not np.isfinite(outputs).all():
            raise ModelFailed("The model has no number for some of these rows.", traceback="")
        return outputs

    return ask
