"""What the model said of the known cases, and what happened."""

from dataclasses import dataclass

import numpy as np

__all__ = ["KnownAnswers", "said_classes"]


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
    threshold : (int, float), optional
        Of two classes the one that has a threshold, and where it lies.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of, where several are of one thing.
    """

    rows: np.ndarray
    kept: np.ndarray
    outputs: np.ndarray
    truths: np.ndarray
    # Of two classes: which one is said from which probability on.
    threshold: tuple[int, float] | None = None
    together: np.ndarray | None = None

    @property
    def answered(self) -> np.ndarray:
        """The place of the class that each case was told, shape (n_cases,)."""
        return said_classes(self.outputs, self.threshold)

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
            return (self.answered != true) + (1.0 - own)
        away = np.abs(self.outputs - self.truths)
        if away.shape[1] > 1:
            usual = np.nanmedian(away, axis=0)
            away = away / np.where(usual > 0, usual, 1.0)
        return np.nan_to_num(np.nanmean(away, axis=1))

    def is_right(self, task: str) -> np.ndarray:
        """Whether the class that was said was right, shape (n_cases,).

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
        return self.answered == self.truths[:, 0]


def said_classes(outputs: np.ndarray, threshold: tuple[int, float] | None) -> np.ndarray:
    """The place of the class that is said of each case, shape (n_cases,): the likeliest, or as a threshold has it.

    Parameters
    ----------
    outputs : ndarray of shape (n_cases, n_classes)
    threshold : (int, float) or None
        The class that has one, and from which probability on it is said.
    """
    if threshold is None:
        return outputs.argmax(axis=1)
    place, least = threshold
    return np.where(outputs[:, place] >= least, place, 1 - place)
