"""Random numbers that any program can draw again: the same here and in a browser.

References
----------
.. [1] G. L. Steele et al., "Fast Splittable Pseudorandom Number Generators", OOPSLA 2014: a counter, mixed.
"""

import numpy as np

__all__ = ["Lots"]

STEP, FIRST, SECOND = np.uint32(0x9E3779B9), np.uint32(0x85EBCA6B), np.uint32(0xC2B2AE35)


class Lots:
    """Numbers from 0 up to 1, one after the other.

    Parameters
    ----------
    seed : int
        Same seed, same numbers; of 32 bits.

    Examples
    --------
    >>> Lots(7).drawn(2).tolist() == [*Lots(7).drawn(1), Lots(7).drawn(2)[1]]
    True
    """

    def __init__(self, seed: int) -> None:
        self._state = np.uint32(seed & 0xFFFFFFFF)

    def drawn(self, n: int) -> np.ndarray:
        """So many numbers: float64 of shape (n,).

        Parameters
        ----------
        n : int
        """
        states = self._state + np.arange(1, n + 1, dtype="uint32") * STEP
        self._state = states[-1] if n else self._state
        mixed = (states ^ (states >> np.uint32(16))) * FIRST
        mixed = (mixed ^ (mixed >> np.uint32(13))) * SECOND
        return (mixed ^ (mixed >> np.uint32(16))) / 2.0**32
