"""Whether answers are those that the author's notebook gave."""

from typing import Any

import numpy as np

from .expected import ExpectedOutputs, ExpectedUnfit, Mismatch, compare_expected
from .facts import Facts
from .result import Finding, Fix

__all__ = ["same_as_expected"]

ASKED_TOGETHER, MOST_UNASKED, NAMED = 2000, 20, 6
# With fewer decimals than this it is said how many were compared.
FULL_DECIMALS = 6
ANOTHER_TABLE = Fix(text="Bring the inputs as the model was given them.", place="checks")


def same_as_expected(facts: Facts) -> Finding:
    """Whether answers are those of the author's notebook, value for value.

    Parameters
    ----------
    facts : Facts
    """
    expected = facts.expected
    if expected is None:
        fix = Fix(text="Bring a table of some cases with what your notebook says of them.", place="checks")
        return Finding(status="skip", finding="No outputs of your own were brought to compare with.", fix=fix)
    if isinstance(expected, ExpectedUnfit):
        fix = Fix(text="Bring what your notebook says of this model, or take the table away.", place="checks")
        return Finding(status="warn", finding=f"Your outputs were not compared. {expected.why}", fix=fix)
    if not expected.rows:
        finding = f"None of your outputs could be compared. {_first_unasked(expected)}"
        return Finding(status="fail", finding=finding, fix=ANOTHER_TABLE)
    asked = range(0, len(expected.rows), ASKED_TOGETHER)
    outputs = np.vstack([facts.predict(expected.rows[at : at + ASKED_TOGETHER])[0] for at in asked])
    wrong, largest = compare_expected(expected, outputs, facts.document.answer)
    n_wrong = len({one.at for one in wrong})
    evidence: dict[str, Any] = {
        "cases": len(expected.rows),
        "rows_of_the_table": expected.total,
        "columns": expected.columns,
        "same": len(expected.rows) - n_wrong,
        "different": n_wrong,
        "largest_difference": largest,
        "not_asked": [{"row": place, "why": why} for place, why in expected.unasked[:MOST_UNASKED]],
    }
    if wrong:
        evidence["first_difference"] = _opened(expected, wrong[0])
        fix = Fix(text="Open that row; compare what goes in, and the order of columns and classes.", place="checks")
        return Finding(status="fail", finding=_different(expected, wrong, n_wrong), evidence=evidence, fix=fix)
    same = f"{_all(expected)} the answer your notebook gave, by {_columns(expected)}."
    if expected.unasked:
        finding = f"{same} Not asked: {len(expected.unasked)}. {_first_unasked(expected)}"
        return Finding(status="warn", finding=finding, evidence=evidence, fix=ANOTHER_TABLE)
    return Finding(status="pass", finding=same, evidence=evidence)


def _all(expected: ExpectedOutputs) -> str:
    n_cases, n_read = len(expected.rows), len(expected.rows) + len(expected.unasked)
    if expected.total > n_read:
        return f"The first {n_cases:,} of {expected.total:,} cases, which were compared, get"
    return f"All {n_cases:,} cases get" if n_cases > 1 else "The one case gets"


def _different(expected: ExpectedOutputs, wrong: list[Mismatch], n_wrong: int) -> str:
    first = wrong[0]
    many = f"{n_wrong:,} of {len(expected.rows):,} cases {'gets' if n_wrong == 1 else 'get'}"
    return (
        f"{many} another answer than in your notebook. The first is row {expected.places[first.at] + 1}: "
        f"`{first.column}` was {_written(first.expected)}, here it is {_written(first.answered)}."
    )


def _opened(expected: ExpectedOutputs, first: Mismatch) -> dict[str, Any]:
    """A mismatch with the case it is about."""
    return {
        "row": expected.places[first.at],
        "column": first.column,
        "expected": first.expected,
        "answered": first.answered,
        "inputs": expected.inputs[first.at],
    }


def _first_unasked(expected: ExpectedOutputs) -> str:
    if not expected.unasked:
        return "The table has no rows."
    place, why = expected.unasked[0]
    return f"Row {place + 1}: {why}"


def _columns(expected: ExpectedOutputs) -> str:
    """The columns that were compared, and to how many decimals where the table has few."""
    few = {name: decimals for name, decimals in expected.decimals.items() if decimals < FULL_DECIMALS}
    shown = [
        f"`{name}`" + (f" to {few[name]} decimal{'' if few[name] == 1 else 's'}" if name in few else "")
        for name in expected.columns[:NAMED]
    ]
    more = f" and {len(expected.columns) - NAMED} more" if len(expected.columns) > NAMED else ""
    return ", ".join(shown) + more


def _written(value: str | float) -> str:
    return f"`{value}`" if isinstance(value, str) else f"{value:.10g}"
