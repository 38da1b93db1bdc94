"""The hot loops of likeness: how far away what is known is, and which cases are unlike all of it."""

import math

from ..plan.machine_code import kernel

__all__ = ["find_unlike", "measure_distances"]


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


@kernel(lambda t: t.void(t.float64[:, ::1], t.float64[:, ::1], t.int64, t.int64[::1], t.float64[::1]))
def measure_distances(case, known_by_field, n_numbers, n_other, away):
    """How far a case is from every known row, as `trust.similarity` counts it.

    Parameters
    ----------
    case : ndarray of shape (1, width)
        Numbers, scaled, NaN for a gap; behind them the codes of options.
    known_by_field : ndarray of shape (width, n_known)
        Likewise.
    n_numbers : int64
    n_other : ndarray of shape (n_known,)
        Zeros; how many options differ, afterwards.
    away : ndarray of shape (n_known,)
        Zeros; filled in place.
    """
    width = known_by_field.shape[0]
    # Field by field, so that each of a processor's lanes has a row of its own.
    for place in range(n_numbers):
        value = case[0, place]
        for at in range(away.size):
            known = known_by_field[place, at]
            apart = known - value
            apart = apart if apart == apart else (0.0 if (known != known) & (value != value) else 1.0)
            away[at] += apart * apart
    for place in range(n_numbers, width):
        for at in range(away.size):
            n_other[at] += known_by_field[place, at] != case[0, place]
    for at in range(away.size):
        away[at] = math.sqrt((away[at] + n_other[at]) / max(1, width))
