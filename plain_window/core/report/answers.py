"""What the model said of the known cases, and what happened."""

from dataclasses import dataclass

import numpy as np

__all__ = ["KnownAnswers"]


@dataclass(frozen=True)
class KnownAnswers:
    """Known cases that have both an answer and an outcome, in the order of the author's table.

    Parameters
    ----------
    rows : ndarray of int, shape (n_cases,)
        Their places in the author's table, from 0.
    kept : ndarray of int, shape (n_cases,)
        Their places among the rows that are kept.
    outputs : ndarray of shape (n_cases, n_outputs)
    truths : ndarray of shape (n_cases, n_truths)
        A class's place, a number, or whether a label applied; NaN where one of several is not known.
    """

    rows: np.ndarray
    kept: np.ndarray
    outputs: np.ndarray
    truths: np.ndarray

    @property
    def n_cases(self) -> int:
        """How many there are."""
        return len(self.rows)

    def losses(self, task: str) -> np.ndarray:
        """How badly each case went, shape (n_cases,): larger is worse.

        For classes what the model left for the true one, so that a sure mistake is the worst; for numbers the absolute
        error, of several the mean of them, each in units of what is usual for it.

        Parameters
        ----------
        task : str
        """
        if task == "class":
            true = self.truths[:, 0].astype("int64")
            own = self.outputs[np.arange(self.n_cases), true]
            # A mistake is worse than any right answer, however unsure.
            return (self.outputs.argmax(axis=1) != true) + (1.0 - own)
        away = np.abs(self.outputs - self.truths)
        if away.shape[1] > 1:
            usual = np.nanmedian(away, axis=0)
            away = away / np.where(usual > 0, usual, 1.0)
        return np.nan_to_num(np.nanmean(away, axis=1))

    def is_right(self, task: str) -> np.ndarray:
        """Whether the likeliest class was right, shape (n_cases,).

        Parameters
        ----------
        task : str
            Of a model that answers with one class.

        Raises
        ------
        ValueError
            If it answers with something else.
        """
        if task != "class":
            raise ValueError(f"only classes are right or wrong. Got {task!r}.")
        return self.outputs.argmax(axis=1) == self.truths[:, 0]
