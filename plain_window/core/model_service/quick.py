"""A small compiled model, asked where the question is: without a process of its own, and without explanations.

A compiled model is data, checked as a whole before it is used, so asking it runs nothing that came with it (decision
23). What may be asked so is bounded beforehand: in bytes, and in how much one row can take, whatever its values are.
"""

from typing import NamedTuple

from ..contract import ModelFacts
from ..contract.kept_rows import KeptRows
from ..contract.values import Row
from ..plan.effort import effort_of
from .backends import CompiledBackend
from .likeness_of_rows import LikenessOfRows

__all__ = ["MOST_BYTES", "QuickModel", "QuickPrediction", "quick_model"]

# Each web process has its own copy.
MOST_BYTES = 16 << 20
# Some tens of nanoseconds each at the worst: a millisecond or two. Three hundred trees twenty levels deep are 6,000.
MOST_EFFORT = 50_000
WARM_UP_CALLS = 3


class QuickPrediction(NamedTuple):
    """Outputs of one row, and whether it is unlike the known ones (None where nothing hangs on that)."""

    outputs: list[float]
    is_unlike: bool | None


class QuickModel:
    """Answers for single rows.

    Parameters
    ----------
    backend : CompiledBackend
    likeness : LikenessOfRows, optional
        Where something hangs on how like the known ones a row is.
    """

    def __init__(self, backend: CompiledBackend, likeness: LikenessOfRows | None) -> None:
        self._backend, self._likeness = backend, likeness

    def predict(self, row: Row) -> QuickPrediction:
        """The model's outputs for one row.

        Parameters
        ----------
        row : mapping of str to value
            Checked against the fields.

        Raises
        ------
        ModelFailed
            If the model refuses the row.
        """
        outputs: list[float] = self._backend.predict([row])[0].tolist()
        return QuickPrediction(outputs, self._likeness.is_unlike(row) if self._likeness else None)


def quick_model(content: bytes, facts: ModelFacts, kept_rows: KeptRows | None) -> QuickModel | None:
    """The model in a compiled model's file, ready to be asked; None if it may take longer than a moment.

    Parameters
    ----------
    content : bytes
    facts : ModelFacts
    kept_rows : KeptRows, optional

    Raises
    ------
    PlanDamaged
        If the file is damaged, or none.
    """
    if len(content) > MOST_BYTES or any(field.kind not in ("number", "choice", "yes_no") for field in facts.fields):
        return None
    backend = CompiledBackend(content)
    effort = effort_of(backend.plan)
    if effort is None or effort > MOST_EFFORT:
        return None
    has_rows = kept_rows is not None and kept_rows.n_rows > 0
    likeness = LikenessOfRows(kept_rows, facts) if facts.has_evidence and has_rows and kept_rows else None
    model = QuickModel(backend, likeness)
    for _ in range(WARM_UP_CALLS):
        model.predict(facts.warm_up_row)
    return model
