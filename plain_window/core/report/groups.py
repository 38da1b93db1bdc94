"""How a model did on the cases with each value of one field."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from .figures import Group
from .intervals import mean_interval, share_of

__all__ = ["group_figures"]

# Fewer cases than this say little of a group.
FEWEST = 30
MOST_GROUPS = 12
N_STRETCHES = 4
OTHERS = "all others"


def group_figures(
    values: Sequence[object],
    *,
    right: np.ndarray | None,
    errors: np.ndarray | None,
    is_number: bool,
    label_of: Callable[[object], str],
    together: np.ndarray | None = None,
) -> list[Group]:
    """Figures by group: one an option, the commonest first; for a number one a quarter of the cases.

    Parameters
    ----------
    values : sequence of length n_cases
        The field's, None where it is missing.
    right : ndarray of bool, shape (n_cases,), or None
        For classes.
    errors : ndarray of shape (n_cases,), or None
        For numbers: absolute errors.
    is_number : bool
        Whether the field is a number.
    label_of : callable
        From a value to what people read.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    groups = _stretches(values, label_of) if is_number else _options(values, label_of)
    return [_group(label, own, right, errors, together) for label, own in groups if own.any()]


def _options(values: Sequence[Any], label_of: Callable[[Any], str]) -> list[tuple[str, np.ndarray]]:
    kinds = sorted({repr(value): value for value in values}.values(), key=lambda value: -_count(values, value))
    shown = kinds if len(kinds) <= MOST_GROUPS else kinds[: MOST_GROUPS - 1]
    groups = [(_name(value, label_of), np.array([other == value for other in values])) for value in shown]
    if len(kinds) > len(shown):
        groups.append((OTHERS, ~np.any([own for _, own in groups], axis=0)))
    return groups


def _count(values: Sequence[Any], value: Any) -> int:
    return sum(other == value for other in values)


def _name(value: Any, label_of: Callable[[Any], str]) -> str:
    return "not known" if value is None else label_of(value)


def _stretches(values: Sequence[Any], label_of: Callable[[Any], str]) -> list[tuple[str, np.ndarray]]:
    numbers = np.array([np.nan if value is None else float(value) for value in values])
    known = numbers[np.isfinite(numbers)]
    groups = []
    if known.size:
        edges = np.unique(np.quantile(known, np.linspace(0, 1, N_STRETCHES + 1)))
        # The value that two stretches share belongs to the lower one.
        places = np.searchsorted(edges[1:-1], numbers, side="left") if len(edges) > 2 else np.zeros(len(numbers), int)
        for place in range(max(1, len(edges) - 1)):
            own = (places == place) & np.isfinite(numbers)
            if own.any():
                low, high = numbers[own].min(), numbers[own].max()
                name = label_of(low) if low == high else f"{label_of(low)} to {label_of(high)}"
                groups.append((name, own))
    return [*groups, ("not known", ~np.isfinite(numbers))]


def _group(
    label: str, own: np.ndarray, right: np.ndarray | None, errors: np.ndarray | None, together: np.ndarray | None
) -> Group:
    n_cases, own_together = int(own.sum()), None if together is None else together[own]
    return Group(
        label=label,
        cases=n_cases,
        is_small=n_cases < FEWEST,
        share_right=None if right is None else share_of(right[own], own_together),
        mean_absolute_error=None if errors is None else float(errors[own].mean()),
        mean_absolute_error_interval=None if errors is None else mean_interval(errors[own], own_together),
    )
