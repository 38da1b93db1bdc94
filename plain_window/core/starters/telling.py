"""What came of comparing models, in words: said once, for the page, the command line and whoever asks."""

import math
from dataclasses import dataclass
from typing import Literal

from .compared import Comparison, Tried

__all__ = ["Manner", "manner_of", "number", "said", "told", "verdict", "with_interval"]

MOST_DECIMALS = 6


@dataclass(frozen=True)
class Manner:
    """How errors of a table are said: what is measured, in which unit, and how sure the surest of them is."""

    measure: Literal["wrong", "missed", "off"]
    unit: str
    least_error: float


def manner_of(comparison: Comparison) -> Manner:
    """How errors of a comparison are said.

    Parameters
    ----------
    comparison : Comparison
    """
    least = min((one.standard_error for one in comparison.tried if one.standard_error > 0), default=1.0)
    return Manner(comparison.measure, comparison.unit, least)


def told(tried: Tried, comparison: Comparison) -> str:
    """A model's error with its interval.

    Parameters
    ----------
    tried : Tried
    comparison : Comparison
        What it is part of.

    Examples
    --------
    "wrong in 38 of 100 rows (35 to 41)"
    """
    return with_interval(tried.error, tried.low, tried.high, manner_of(comparison))


def verdict(comparison: Comparison) -> str:
    """What it comes to: whether any model is better than guessing, and which is offered.

    Parameters
    ----------
    comparison : Comparison
    """
    by_name, manner = {one.candidate: one for one in comparison.tried}, manner_of(comparison)
    guess, best = by_name["guess"], by_name[comparison.best]  # type: ignore[index]
    offered = by_name[comparison.offered]  # type: ignore[index]
    if not comparison.is_better:
        return (
            f"No model is better than guessing, as far as {comparison.n_tried:,} rows can tell: guessing is "
            f"{told(guess, comparison)}, the best of them {told(best, comparison)}."
        )
    gain = " to ".join(number(max(0.0, value), manner) for value in (offered.gain_low, offered.gain_high))
    unit = f" {comparison.unit}" if comparison.unit and comparison.measure == "off" else ""
    of = "" if comparison.measure == "off" else " of 100"
    better = (
        f"{offered.name} {'are' if offered.name.endswith('s') else 'is'} better than guessing by {gain}{unit}{of}: "
        f"{said(offered.error, manner, ' not seen before')}, guessing {number(guess.error, manner)}."
        if offered.is_better
        else f"{best.name} do better than guessing; of the plainest, {offered.name}, that is not sure."
    )
    if comparison.offered == comparison.best:
        return f"{better} None of the others does better."
    return f"{better} {_nearly(best, offered, manner)}"


def _nearly(best: Tried, offered: Tried, manner: Manner) -> str:
    """How far the best is from what is offered, which is plainer."""
    nearly = f"The best, {best.name}, comes to {number(best.error, manner)}"
    if offered.behind_low <= 0:
        return f"{nearly}: no more apart than chance explains."
    behind = f"{number(offered.behind_low, manner)} to {number(offered.behind_high, manner)}"
    return f"{nearly}, better by {behind}: more than chance explains. Take it if that counts for more than being plain."


def with_interval(error: float, low: float, high: float, manner: Manner, why: str = "") -> str:
    """An error with its interval, as what a model does.

    Parameters
    ----------
    error, low, high : float
    manner : Manner
    why : str, optional
        Why it is no narrower.
    """
    return f"{said(error, manner)} ({number(low, manner)} to {number(high, manner)}{why})"


def said(error: float, manner: Manner, which: str = "") -> str:
    """An error in words.

    Parameters
    ----------
    error : float
    manner : Manner
    which : str, optional
        Of which rows, with a space before it.
    """
    if manner.measure == "off":
        unit = f" {manner.unit}" if manner.unit else ""
        return f"off by {number(error, manner)}{unit} on average{' on rows' if which else ''}{which}"
    if manner.measure == "missed":
        return f"misses {number(error, manner)} of 100 rows of a class{which}, all classes counting the same"
    return f"wrong in {number(error, manner)} of 100 rows{which}"


def number(value: float, manner: Manner) -> str:
    """An error's number, with no more digits than errors of this size justify.

    Parameters
    ----------
    value : float
    manner : Manner
    """
    if manner.measure != "off":
        return f"{100 * value:.0f}"
    decimals = min(MOST_DECIMALS, max(0, -math.floor(math.log10(manner.least_error or 1.0))))
    return f"{value:,.{decimals}f}"
