"""Which of many rows are unlike anything seen."""

import numpy as np

from ..contract import ModelFacts
from ..contract.kept_rows import KeptRows
from ..model_service.likeness_of_rows import LikenessOfRows
from ..plan.columns import Columns

__all__ = ["LikenessOfMany"]


class LikenessOfMany:
    """The reference rows, ready to be compared with many others.

    Parameters
    ----------
    kept_rows : KeptRows
        With at least one reference row.
    facts : ModelFacts
    """

    def __init__(self, kept_rows: KeptRows, facts: ModelFacts) -> None:
        self._one = LikenessOfRows(kept_rows, facts)

    def unlike(self, columns: Columns, n_rows: int) -> np.ndarray:
        """Which rows are unlike anything seen, as `LikenessOfRows.is_unlike` says of each.

        Parameters
        ----------
        columns : mapping of str to sequence, each of length n_rows
        n_rows : int

        Returns
        -------
        ndarray of int8, shape (n_rows,)
            1 for a row that is unlike them.
        """
        if self._one.strangers is not None and not self._one.texts:
            return self._one.strangers.among(columns, n_rows).astype("int8")
        # Texts are described one by one.
        rows = ({name: values[at] for name, values in columns.items()} for at in range(n_rows))
        return np.array([bool(self._one.is_unlike(row)) for row in rows], dtype="int8")
