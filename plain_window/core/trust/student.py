"""How many standard errors an interval of a mean reaches, where few things tell of it."""

import math
from statistics import NormalDist

__all__ = ["normal_quantile", "student_quantile"]


def normal_quantile(tail: float) -> float:
    """The value that a standard normal exceeds with probability `tail`.

    Parameters
    ----------
    tail : float
        Above 0, below 1.
    """
    return NormalDist().inv_cdf(1 - tail)


def student_quantile(tail: float, n: int) -> float:
    """The value that Student's t with `n` degrees of freedom exceeds with probability `tail` [1]_, to five digits.

    It needs no SciPy, which the web's processes do without. (`explain/coalitions.py` keeps to a table, which readers of
    compiled models share.)

    Parameters
    ----------
    tail : float
        Above 0, below one half.
    n : int
        At least 1.

    References
    ----------
    .. [1] G. W. Hill, "Algorithm 396: Student's t-quantiles", Communications of the ACM 13, 1970.

    Examples
    --------
    >>> round(student_quantile(0.025, 9), 3)
    2.262
    """
    both = 2 * tail
    if n == 1:
        return 1 / math.tan(both * math.pi / 2)
    if n == 2:
        return math.sqrt(2 / (both * (2 - both)) - 2)
    a = 1 / (n - 0.5)
    b = 48 / a**2
    c = ((20700 * a / b - 98) * a - 16) * a + 96.36
    d = ((94.5 / (b + c) - 3) / b + 1) * math.sqrt(a * math.pi / 2) * n
    y = (d * both) ** (2 / n)
    if y > 0.05 + a:
        x = normal_quantile(tail)
        y = x**2
        if n < 5:
            c += 0.3 * (n - 4.5) * (-x + 0.6)
        # Hill's x is the lower quantile.
        c = (((0.05 * d * -x - 5) * -x - 7) * -x - 2) * -x + b + c
        y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * -x
        y = math.expm1(a * y**2)
    else:
        y = ((1 / (((n + 6) / (n * y) - 0.089 * d - 0.822) * (n + 2) * 3) + 0.5 / (n + 4)) * y - 1) * (n + 1) / (
            n + 2
        ) + 1 / y
    return math.sqrt(n * y)
