"""Which cases are unlike anything seen, by their numbers and options: what `Similarity.familiarity` says of each."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ..plan.machine_code import fixed
from ..trust.similarity import Compared
from .likeness_kernel import find_unlike

__all__ = ["Strangers"]


class Strangers:
    """The reference rows, ready for a kernel to compare cases with.

    Parameters
    ----------
    compared : Compared
    """

    def __init__(self, compared: Compared) -> None:
        self._compared = compared
        # Described once: nearly every answer asks about one case.
        self._known = (fixed(compared.known), fixed(compared.codes), compared.furthest, compared.n_needed)

    def is_unlike(self, row: Mapping[str, Any]) -> bool:
        """Whether a case is unlike anything seen.

        Parameters
        ----------
        row : mapping of str to value
        """
        compared = self._compared
        numbers = np.array([[row[name] for name in compared.numbers]], dtype="float64")
        numbers /= compared.spread
        # An option no reference row has is like none of them.
        codes = [known.get(row[name], -1) for name, known in zip(compared.options, compared.places, strict=True)]
        return bool(self._unlike(numbers, np.array([codes], dtype="int64"))[0])

    def among(self, columns: Mapping[str, Sequence[Any]], n_rows: int) -> np.ndarray:
        """Which of many cases are, of shape (n_rows,): 1 for one that is unlike them.

        Parameters
        ----------
        columns : mapping of str to sequence, each of length n_rows
        n_rows : int
        """
        compared = self._compared
        numbers = np.empty((n_rows, len(compared.numbers)))
        for at, name in enumerate(compared.numbers):
            numbers[:, at] = columns[name]
        numbers /= compared.spread
        codes = np.empty((n_rows, len(compared.options)), dtype="int64")
        for at, (name, known) in enumerate(zip(compared.options, compared.places, strict=True)):
            codes[:, at] = [known.get(value, -1) for value in columns[name]]
        return self._unlike(numbers, codes)

    def _unlike(self, numbers: np.ndarray, codes: np.ndarray) -> np.ndarray:
        out = np.zeros(len(numbers), dtype="int64")
        find_unlike(numbers, codes, *self._known, out)
        return out
