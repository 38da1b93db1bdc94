"""Contributions of parts that can be covered: patches of a picture, strokes of a drawing; sharper the longer it works.

First every part is covered by itself, which is a sketch. Then groups are covered: all of them where there are not too
many for the time there is, which is exact; else random ones with their opposites, whose sizes are drawn so that
Shapley values are what a least squares fit finds [1]_, [2]_. Contributions always add up to the whole picture's answer
less that of the covered one.

References
----------
.. [1] A. Charnes et al., "Extremal Principle Solutions of Games in Characteristic Function Form: Core, Chebychev and
       Shapley Value Generalizations", 1988.
.. [2] I. Covert, S.-I. Lee, on estimating Shapley values by linear regression, AISTATS 2021: pairs and errors.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from .coalitions import every_coalition, shapley_values
from .lots import Lots

__all__ = ["MOST_PAIRS", "GroupContributions", "GroupState"]

# Parts of which all groups may be asked about, if as many may be asked about in all.
MOST_EXACT = 9
MOST_PAIRS = 3000
# Drawn in one go, and asked about until it is seen whether errors are small by now: a multiple of the former.
PAIRS_DRAWN, PAIRS_BETWEEN_CHECKS = 48, 192
# Pairs of groups before a fit is worth showing, for each part.
FEWEST_PAIRS_A_PART = 1.0
# Good enough to be looked at: the largest standard error, of how far the answer can move.
SMALL_ERROR = 0.02
TINY = 1e-9


@dataclass(frozen=True)
class GroupState:
    """What is known so far: contributions, and how those vary together; shapes (n_parts,) and (n_parts, n_parts).

    What is exact does not vary; of a sketch it is not known how it does.
    """

    method: Literal["sketch", "sampled", "exact-enumeration"]
    whole: float
    covered: float
    contributions: np.ndarray
    covariance: np.ndarray
    n_asked: int
    is_done: bool

    @property
    def errors(self) -> np.ndarray:
        """Standard errors of the contributions, shape (n_parts,); NaN in a sketch."""
        return np.sqrt(np.maximum(np.diag(self.covariance), 0))


class GroupContributions:
    """Works on one case, a batch at a time.

    Parameters
    ----------
    ask : callable
        From which parts are shown, bool of shape (n_groups, n_parts), to answers of shape (n_groups,).
    n_parts : int
        At least one.
    seed : int
        Same case, same numbers.
    most_pairs : int
        Groups and their opposites that are asked about at the most.
    """

    def __init__(
        self, ask: Callable[[np.ndarray], np.ndarray], n_parts: int, *, seed: int, most_pairs: int = MOST_PAIRS
    ) -> None:
        self._ask, self._n, self._most_pairs = ask, n_parts, most_pairs
        self._lots = Lots(seed)
        shown = np.vstack([np.ones(n_parts, bool), np.zeros(n_parts, bool), ~np.eye(n_parts, dtype=bool)])
        answers = ask(shown)
        self._whole, self._covered = float(answers[0]), float(answers[1])
        self._alone = self._whole - answers[2:]
        self._n_asked = len(shown)
        self._shown: list[np.ndarray] = []
        self._answers: list[np.ndarray] = []
        # Drawn and not yet asked about: groups without their opposites.
        self._coming = np.zeros((0, n_parts), bool)
        self._is_done = False
        self._is_exact = n_parts <= MOST_EXACT and 1 << n_parts <= 2 * most_pairs
        self._range = max(abs(self._whole - self._covered), float(np.ptp(answers)), TINY)
        self._state = self._sketched()
        self._is_told = True

    @property
    def state(self) -> GroupState:
        """What is known so far. Worked out anew where more has been asked since."""
        if not self._is_told:
            self._is_told = True
            known = self._known()
            # Too few for a fit, and no more to come: the sketch is all there is.
            self._state = replace(known, is_done=self._is_done, n_asked=self._n_asked)
        return self._state

    @property
    def is_done(self) -> bool:
        """Whether all is known that will be."""
        return self._is_done or self._state.is_done

    def advance(self, n_groups: int) -> None:
        """Ask about so many more groups, or fewer; nothing happens once all is known.

        However many are asked about at a time, the same groups are, and it ends after the same number: what a picture
        gets must not depend on how busy a machine is.

        Parameters
        ----------
        n_groups : int
        """
        if self.is_done:
            return
        if self._is_exact:
            self._advance_among_all(n_groups)
            return
        if not len(self._coming):
            self._coming = self._drawn(PAIRS_DRAWN)
        n_pairs = min(max(1, n_groups // 2), len(self._coming), self._most_pairs - self._n_pairs)
        half, self._coming = self._coming[:n_pairs], self._coming[n_pairs:]
        shown = np.concatenate([half, ~half])
        answers = self._ask(shown)
        self._n_asked += len(shown)
        # A group and its opposite stand beside each other.
        pair = np.arange(len(shown)).reshape(2, -1).T.ravel()
        self._shown.append(shown[pair])
        self._answers.append(answers[pair])
        self._is_told = False
        if self._n_pairs >= self._most_pairs:
            self._is_done = True
        elif self._n_pairs % PAIRS_BETWEEN_CHECKS == 0 and self._n_pairs >= FEWEST_PAIRS_A_PART * self._n:
            self._is_done = bool(self._fitted().errors.max() <= SMALL_ERROR * self._range)

    def _advance_among_all(self, n_groups: int) -> None:
        """Of all groups the next ones."""
        n_known = sum(map(len, self._answers))
        shown = every_coalition(self._n)[n_known : n_known + max(1, n_groups)]
        self._answers.append(self._ask(shown))
        self._n_asked += len(shown)
        self._is_told = False
        self._is_done = n_known + len(shown) == 1 << self._n

    @property
    def _n_pairs(self) -> int:
        return sum(map(len, self._answers)) // 2

    def _sketched(self) -> GroupState:
        """What each part does alone, made to add up; nothing is said about errors."""
        total = self._whole - self._covered
        if self._n == 1:
            return GroupState(
                "exact-enumeration",
                self._whole,
                self._covered,
                np.array([total]),
                np.zeros((1, 1)),
                self._n_asked,
                True,
            )
        alone = self._alone + (total - self._alone.sum()) / self._n
        return GroupState(
            "sketch", self._whole, self._covered, alone, np.full((self._n, self._n), np.nan), self._n_asked, False
        )

    def _known(self) -> GroupState:
        """As far as has been asked: exactly, fitted, or the sketch still."""
        if self._is_exact:
            return self._exactly() if self._is_done else self._state
        return self._fitted() if self._n_pairs >= FEWEST_PAIRS_A_PART * self._n else self._state

    def _exactly(self) -> GroupState:
        found = shapley_values(np.concatenate(self._answers)[:, None])[:, 0]
        nothing = np.zeros((self._n, self._n))
        return GroupState("exact-enumeration", self._whole, self._covered, found, nothing, self._n_asked, True)

    def _drawn(self, n: int) -> np.ndarray:
        """Random groups: sizes k with weight 1 / (k (n − k)), members by chance. A browser draws the same ones."""
        sizes = np.arange(1, self._n)
        reached = np.cumsum(1 / (sizes * (self._n - sizes)))
        drawn = self._lots.drawn(n * (1 + self._n)).reshape(n, 1 + self._n)
        k = np.searchsorted(reached[:-1], drawn[:, 0] * reached[-1], side="right")
        ranks = drawn[:, 1:]
        return ranks <= np.take_along_axis(np.sort(ranks, axis=1), k[:, None], axis=1)

    def _fitted(self) -> GroupState:
        """Least squares among contributions that add up; errors from how far pairs are off the fit."""
        shown = np.concatenate(self._shown).astype("float64")
        answers = np.concatenate(self._answers) - self._covered
        total = self._whole - self._covered
        n_groups = len(answers)
        inverse = _inverse(shown.T @ shown / n_groups)
        along = inverse.sum(axis=1)
        free = inverse - np.outer(along, along) / along.sum()
        found = free @ (shown.T @ answers / n_groups) + along / along.sum() * total
        off = (answers - shown @ found)[:, None] * shown
        by_pair = off.reshape(-1, 2, self._n).sum(axis=1)
        spread = by_pair.T @ by_pair / n_groups**2
        n_pairs = len(by_pair)
        # Of the pairs, as many as there are parts are used up by the fit.
        lost = n_pairs / max(1, n_pairs - self._n / 2)
        covariance = free @ spread @ free * lost
        return GroupState("sampled", self._whole, self._covered, found, covariance, self._n_asked, False)


def _inverse(matrix: np.ndarray) -> np.ndarray:
    """Of a matrix that has one, once enough groups were asked about; else what comes nearest to it."""
    try:
        return np.linalg.inv(matrix)
    except np.linalg.LinAlgError:
        return np.linalg.pinv(matrix)
