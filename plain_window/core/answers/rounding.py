"""Marks of 100, and no more digits than make sense."""

import math
from collections.abc import Sequence

__all__ = ["counted_of_100", "decimals_for_spread", "margin_words", "number_words", "of_100", "share_100"]

# A double has no digits left behind the point from here on.
_LARGEST_ROUNDED = 2.0**52 / 10**10


def share_100(probabilities: Sequence[float]) -> list[int]:
    """Whole marks out of 100, by largest remainder, so that they always add up to 100.

    Parameters
    ----------
    probabilities : sequence of float, length n_classes
        Not negative, with a positive sum; they are taken relative to it.

    Returns
    -------
    list of int, length n_classes

    Examples
    --------
    >>> share_100([0.715, 0.175, 0.11])
    [72, 17, 11]
    """
    total = math.fsum(probabilities)
    exact = [100 * probability / total for probability in probabilities]
    marks = [math.floor(share) for share in exact]
    # Ties go to the class named first; sorted() is stable, so equal remainders keep their order.
    by_remainder = sorted(range(len(exact)), key=lambda index: marks[index] - exact[index])
    for index in by_remainder[: 100 - sum(marks)]:
        marks[index] += 1
    return marks


def of_100(share: float) -> int:
    """A share of its own as whole marks of 100: half a mark up, as people round.

    Parameters
    ----------
    share : float
        From 0 to 1.

    Examples
    --------
    >>> of_100(0.125), of_100(0.135), of_100(0.9999)
    (13, 14, 100)
    """
    # Twelve digits take back what binary fractions add: 100 times 0.285 is a half, though it computes to less.
    return math.floor(round(100 * share, 10) + 0.5)


def counted_of_100(share: float) -> int:
    """A share that was counted, as whole marks of 100: all of them only where it is so.

    Parameters
    ----------
    share : float
        From 0 to 1.

    Examples
    --------
    >>> counted_of_100(0.998), counted_of_100(1.0), counted_of_100(0.001)
    (99, 100, 0)
    """
    return min(99, of_100(share)) if share < 1 else of_100(share)


def decimals_for_spread(spread: float) -> int:
    """Decimals worth showing of a number whose reference values spread this far.

    A hundredth of the spread is the finest difference worth a digit.

    Parameters
    ----------
    spread : float
        How far the reference values lie apart.

    Examples
    --------
    >>> decimals_for_spread(350.0), decimals_for_spread(0.8)
    (0, 3)
    """
    if not math.isfinite(spread) or spread <= 0:
        return 2
    return min(10, max(0, -math.floor(math.log10(spread / 100))))


def number_words(value: float, decimals: int) -> str:
    """A number rounded for reading, thousands set apart by a narrow space.

    Parameters
    ----------
    value : float
    decimals : int
        Digits behind the point.

    Examples
    --------
    >>> number_words(1234.5678, 1).replace(chr(0x202F), " ")
    '1 234.6'
    """
    text = f"{value:,.{decimals}f}".replace(",", "\u202f")
    # "-0" would make a reader look for the missing sign.
    return text.lstrip("-") if float(text.replace("\u202f", "")) == 0 else text.replace("-", "−")


def margin_words(margin: float, decimals: int) -> str:
    """How far off an answer may be, rounded up: a margin made smaller by rounding would promise too much.

    Nothing at all is said as the smallest step that these decimals can show, since a margin is a bound.

    Parameters
    ----------
    margin : float
        Not negative.
    decimals : int
        Digits behind the point.

    Examples
    --------
    >>> margin_words(34.2, 0), margin_words(0.0003, 2), margin_words(0.3, 1)
    ('35', '0.01', '0.3')
    """
    if margin >= _LARGEST_ROUNDED:
        return number_words(margin, decimals)
    # The slack keeps 0.3, which is a hair above three tenths in floats, at 0.3.
    steps = max(1, math.ceil(margin * 10**decimals - 1e-9))
    return number_words(steps / 10**decimals, decimals)
