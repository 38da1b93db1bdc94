"""Which cases are unlike anything seen, by their numbers and options: as `Similarity` says of each, but by kernels."""

from collections.abc import Mapping, Sequence
from typing import Any, cast

import numpy as np

from ..contract.values import Cell
from ..plan.columns import Columns
from ..plan.machine_code import fixed
from ..trust.similarity import Compared
from .likeness_kernel import find_unlike, measure_distances

__all__ = ["Strangers"]


class Strangers:
    """The reference rows, ready for a kernel to compare cases with.

    Parameters
    ----------
    compared : Compared
    """

    def __init__(self, compared: Compared) -> None:
        self._numbers, self._spread = compared.numbers, compared.spread
        # An option no reference row has is like none of them: its code is −1.
        self._places = list(zip(compared.options, compared.places, strict=True))
        # Described once: nearly every answer asks about one case.
        known = np.hstack([compared.known, compared.codes.astype("float64")])
        self._n_known = len(known)
        self._known, self._known_by_field = fixed(known), fixed(np.ascontiguousarray(known.T))
        self._usual = (len(self._numbers), compared.furthest, compared.n_needed)

    def is_unlike(self, row: Mapping[str, Cell]) -> bool:
        """Whether a case is unlike anything seen.

        Parameters
        ----------
        row : mapping of str to value
        """
        return bool(self._unlike(self._scaled(row))[0])

    def distances(self, row: Mapping[str, Cell]) -> np.ndarray:
        """How far a case is from each of the rows that count for that, of shape (n_known,).

        Parameters
        ----------
        row : mapping of str to value
        """
        n_other, away = np.zeros(self._n_known, dtype="int64"), np.zeros(self._n_known)
        measure_distances(self._scaled(row), self._known_by_field, len(self._numbers), n_other, away)
        return away

    def among(self, columns: Columns, n_rows: int) -> np.ndarray:
        """Which of many cases are, of shape (n_rows,): 1 for one that is unlike them.

        Parameters
        ----------
        columns : mapping of str to sequence, each of length n_rows
        n_rows : int
        """
        cases = np.empty((n_rows, len(self._numbers) + len(self._places)))
        for at, name in enumerate(self._numbers):
            cases[:, at] = cast("Sequence[float]", columns[name])
        for at, (name, known) in enumerate(self._places, start=len(self._numbers)):
            cases[:, at] = [known.get(value, -1) for value in columns[name]]
        cases[:, : len(self._numbers)] /= self._spread
        return self._unlike(cases)

    def _scaled(self, row: Mapping[str, Any]) -> np.ndarray:
        codes = [known.get(row[name], -1) for name, known in self._places]
        case = np.array([[*(row[name] for name in self._numbers), *codes]], dtype="float64")
        case[:, : len(self._numbers)] /= self._spread
        return case

    def _unlike(self, cases: np.ndarray) -> np.ndarray:
        out = np.zeros(len(cases), dtype="int64")
        find_unlike(cases, self._known, *self._usual, out)
        return out
