"""Whether what visitors ask about is like the reference table: counts of bins against counts of bins.

How far two sets of counts are apart is their total variation distance: the share of cases that would have to lie in
another bin to make them alike. Whether that is more than chance is asked of Pearson's chi-square test of homogeneity,
with bins joined until each expects five cases (Cochran 1954), at a level divided by how many are tested (Bonferroni).
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

__all__ = ["FEWEST_CASES", "LEAST_DISTANCE", "LEVEL", "Drift", "chi_square_above", "drift_between"]

# With fewer cases nothing is said; a smaller distance is no matter, however sure it is.
FEWEST_CASES, LEAST_DISTANCE, LEVEL = 30, 0.1, 0.01
FEWEST_EXPECTED = 5.0


@dataclass(frozen=True)
class Drift:
    """How far use is from the table. `p` is None where too few cases were counted to ask."""

    distance: float
    p: float | None
    cases: int
    reference_cases: int
    drifted: bool


def drift_between(reference: Mapping[int, int], use: Mapping[int, int], *, n_tested: int = 1) -> Drift:
    """How far the counts of use are from those of the reference table.

    Parameters
    ----------
    reference, use : mapping of int to int
        Cases by bin.
    n_tested : int, default=1
        How many fields and answers are tested together.

    Examples
    --------
    >>> drift_between({0: 500, 1: 500}, {0: 100, 1: 0}).drifted
    True
    """
    n_reference, n_use = sum(reference.values()), sum(use.values())
    if not n_reference or not n_use:
        return Drift(0.0, None, n_use, n_reference, drifted=False)
    bins = sorted({*reference, *use})
    shares = ((reference.get(at, 0) / n_reference, use.get(at, 0) / n_use) for at in bins)
    distance = 0.5 * math.fsum(abs(own - other) for own, other in shares)
    p = _p_of(reference, use, n_reference, n_use) if n_use >= FEWEST_CASES else None
    drifted = p is not None and p < LEVEL / max(1, n_tested) and distance >= LEAST_DISTANCE
    return Drift(distance, p, n_use, n_reference, drifted)


def _p_of(reference: Mapping[int, int], use: Mapping[int, int], n_reference: int, n_use: int) -> float:
    joined = _joined(reference, use, n_use / (n_reference + n_use), n_reference / (n_reference + n_use))
    if len(joined) < 2:
        return 1.0
    statistic = 0.0
    for own, other in joined:
        both = own + other
        for count, n_all in ((own, n_reference), (other, n_use)):
            expected = both * n_all / (n_reference + n_use)
            statistic += (count - expected) ** 2 / expected
    return chi_square_above(statistic, len(joined) - 1)


def _joined(
    reference: Mapping[int, int], use: Mapping[int, int], share: float, other_share: float
) -> list[tuple[int, int]]:
    """Neighbouring bins joined until both sides expect enough; what is left at the end goes to the last."""
    fewest = FEWEST_EXPECTED / min(share, other_share)
    joined: list[tuple[int, int]] = []
    own = other = 0
    for at in sorted({*reference, *use}):
        own, other = own + reference.get(at, 0), other + use.get(at, 0)
        if own + other >= fewest:
            joined.append((own, other))
            own = other = 0
    if own + other:
        last = joined.pop() if joined else (0, 0)
        joined.append((last[0] + own, last[1] + other))
    return joined


def chi_square_above(statistic: float, degrees: int) -> float:
    """How often chance alone gives a chi-square as large: the upper regularised incomplete gamma function.

    By its series where that converges fast, else by its continued fraction (Abramowitz & Stegun 1964, 6.5.29 and
    6.5.31).

    Parameters
    ----------
    statistic : float
    degrees : int
        Degrees of freedom, at least 1.

    Examples
    --------
    >>> round(chi_square_above(3.841458820694124, 1), 6)
    0.05
    """
    a, x = degrees / 2, statistic / 2
    if x <= 0:
        return 1.0
    scale = math.exp(-x + a * math.log(x) - math.lgamma(a))
    if x < a + 1:
        term = total = 1 / a
        n = a
        while abs(term) > abs(total) * 1e-16:
            n += 1
            term *= x / n
            total += term
        return max(0.0, 1.0 - total * scale)
    return _upper_gamma(a, x) * scale


def _upper_gamma(a: float, x: float) -> float:
    """The continued fraction of the upper incomplete gamma function, by Lentz's method."""
    tiny = 1e-300
    b = x + 1 - a
    c, d = 1 / tiny, 1 / b
    value = d
    for n in range(1, 10_000):
        factor = -n * (n - a)
        b += 2
        d = 1 / (factor * d + b or tiny)
        c = b + factor / c or tiny
        step = c * d
        value *= step
        if abs(step - 1) < 1e-15:
            break
    return value
