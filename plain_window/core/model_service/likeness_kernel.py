"""The hot loop of likeness: which of many cases are unlike all that is known. A kernel as in `explain.path_kernels`."""

import math

from ..plan.machine_code import kernel

__all__ = ["find_unlike"]


@kernel(
    lambda t: t.void(
        *(t.float64[:, ::1], t.int64[:, ::1], t.float64[:, ::1], t.int64[:, ::1]),
        *(t.float64, t.int64, t.int64[::1]),
    )
)
def find_unlike(numbers, codes, known, known_codes, furthest, n_needed, is_unlike):
    """Mark the cases that have fewer than `n_needed` known rows no further away than `furthest`.

    Distances as in `trust.similarity`, summed in the same order, so that both say the same of the same case.

    Parameters
    ----------
    numbers : ndarray of shape (n_rows, n_numbers)
        Scaled; NaN for a gap.
    codes : ndarray of shape (n_rows, n_options)
    known : ndarray of shape (n_known, n_numbers)
    known_codes : ndarray of shape (n_known, n_options)
    furthest : float64
    n_needed : int64
    is_unlike : ndarray of shape (n_rows,)
        Filled in place.
    """
    n_numbers, n_options = numbers.shape[1], codes.shape[1]
    width = max(1, n_numbers + n_options)
    for row in range(is_unlike.size):
        left = n_needed
        for at in range(known.shape[0]):
            total = 0.0
            for place in range(n_numbers):
                apart = known[at, place] - numbers[row, place]
                if math.isnan(apart):
                    both = math.isnan(known[at, place]) and math.isnan(numbers[row, place])
                    apart = 0.0 if both else 1.0
                total += apart * apart
            n_other = 0
            for place in range(n_options):
                if known_codes[at, place] != codes[row, place]:
                    n_other += 1
            if math.sqrt((total + n_other) / width) <= furthest:
                left -= 1
                if left == 0:
                    break
        is_unlike[row] = left > 0
