"""A block of mostly zeros: counts of words. Row after row, only what is there."""

from dataclasses import dataclass

import numpy as np

__all__ = ["Sparse"]


@dataclass(frozen=True)
class Sparse:
    """Row r holds `data[k]` in column `columns[k]`, for k from `starts[r]` up to `starts[r + 1]`; zeros elsewhere."""

    starts: np.ndarray
    columns: np.ndarray
    data: np.ndarray
    width: int

    @property
    def rows(self) -> np.ndarray:
        """The row of each number."""
        return np.repeat(np.arange(self.starts.size - 1), np.diff(self.starts))

    def with_data(self, data: np.ndarray) -> "Sparse":
        """The same places with other numbers.

        Parameters
        ----------
        data : ndarray
        """
        return Sparse(self.starts, self.columns, data, self.width)

    def row_sums(self, values: np.ndarray) -> np.ndarray:
        """For each row the sum of `values`, of which there is one (or one row) a number.

        Parameters
        ----------
        values : ndarray
            Shape (n_rows, n_columns).
        """
        out = np.zeros((self.starts.size - 1, *values.shape[1:]))
        np.add.at(out, self.rows, values)
        return out

    def dense(self) -> np.ndarray:
        """As an array of shape (n_rows, width)."""
        out = np.zeros((self.starts.size - 1, self.width))
        out[self.rows, self.columns] = self.data
        return out
