"""The hot loop of likeness: which of many cases are unlike all that is known. A kernel as in `explain.path_kernels`."""

import math

from ..plan.machine_code import kernel

__all__ = ["find_unlike"]


@kernel(lambda t: t.void(t.float64[:, ::1], t.float64[:, ::1], t.int64, t.float64, t.int64, t.int64[::1]))
def find_unlike(cases, known, n_numbers, furthest, n_needed, is_unlike):
    """Mark the cases that have fewer than `n_needed` known rows no further away than `furthest`.

    Distances as in `trust.similarity`, summed in the same order, so that both say the same of the same case.

    Parameters
    ----------
    cases : ndarray of shape (n_cases, width)
        Numbers, scaled, NaN for a gap; behind them the codes of options.
    known : ndarray of shape (n_known, width)
        Likewise.
    n_numbers : int64
    furthest : float64
    n_needed : int64
    is_unlike : ndarray of shape (n_cases,)
        Filled in place.
    """
    width = cases.shape[1]
    for case in range(is_unlike.size):
        left = n_needed
        for at in range(known.shape[0]):
            total = 0.0
            for place in range(n_numbers):
                apart = known[at, place] - cases[case, place]
                if math.isnan(apart):
                    both = math.isnan(known[at, place]) and math.isnan(cases[case, place])
                    apart = 0.0 if both else 1.0
                total += apart * apart
            n_other = 0
            for place in range(n_numbers, width):
                if known[at, place] != cases[case, place]:
                    n_other += 1
            if math.sqrt((total + n_other) / max(1, width)) <= furthest:
                left -= 1
                if left == 0:
                    break
        is_unlike[case] = left > 0
