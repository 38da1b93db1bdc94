"""What checks are made on: a draft, its model, and somebody to ask it."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..contract.inspection import Inspection
from ..contract.values import Row, Value
from ..documents import DemoDocument
from ..report.answers import KnownAnswers
from ..trust.evidence import Evidence
from .expected import ExpectedOutputs, ExpectedUnfit

__all__ = ["Facts"]


@dataclass(frozen=True)
class Facts:
    """All that checks look at.

    Parameters
    ----------
    document : DemoDocument
        The draft.
    inspection : Inspection
        Of its model.
    evidence : Evidence or None
        What known cases say of the draft as it is set.
    known : KnownAnswers or None
    columns : mapping of str to sequence
        Reference rows by column.
    outcomes : sequence or None
        What happened to them.
    rows : sequence of Row
        Some cases as the model is given them: reference rows, or the draft's own samples.
    predict : callable
        Rows to outputs, shape (n_rows, n_outputs), and the milliseconds that took. It raises `ModelFailed`.
    model_bytes : int
        Of the model's file.
    expected : ExpectedOutputs, ExpectedUnfit or None
        What the author's notebook gave.
    """

    document: DemoDocument
    inspection: Inspection
    evidence: Evidence | None
    known: KnownAnswers | None
    columns: Mapping[str, Sequence[Value]]
    outcomes: Sequence[Value] | None
    rows: Sequence[Row]
    predict: Callable[[list[Row]], tuple[np.ndarray, float]]
    model_bytes: int
    expected: ExpectedOutputs | ExpectedUnfit | None = None

    @property
    def has_pictures(self) -> bool:
        """Whether it is about pictures."""
        return self.document.has_pictures

    @property
    def task(self) -> str:
        """What the model answers with."""
        return self.inspection.found.task

    def label(self, name: str) -> str:
        """How a field is called on the page.

        Parameters
        ----------
        name : str
        """
        return next((field.label for field in self.document.fields if field.name == name), name)
