"""Fractions where a function takes whole numbers only: refused of a visitor, rounded between the steps of a curve."""

import math
from collections.abc import Mapping, Sequence
from typing import Any

from ...contract.values import Cell
from ...errors import Fault, InputFaults
from ...fields.checking import number_text
from .signature import Parameter

__all__ = ["without_fractions"]

Row = Mapping[str, Any]


def without_fractions(parameters: Sequence[Parameter], rows: Sequence[Row], *, refuse: bool) -> Sequence[Row]:
    """Rows with whole numbers where a function takes no others.

    Parameters
    ----------
    parameters : sequence of Parameter
    rows : sequence of mapping
    refuse : bool
        A visitor is told; between the steps of a curve the next whole number is meant.

    Raises
    ------
    InputFaults
        Naming each field that has a fraction.
    """
    names = [one.name for one in parameters if one.takes is not None and one.takes.whole]
    broken = [name for name in names if any(_has_fraction(row.get(name)) for row in rows)]
    if not broken:
        return rows
    if refuse:
        raise InputFaults(
            [_no_fraction(name, next(row[name] for row in rows if _has_fraction(row[name]))) for name in broken]
        )
    return [{**row, **{name: _rounded(row[name]) for name in broken}} for row in rows]


def _no_fraction(name: str, value: float) -> Fault:
    return Fault(name, f"A whole number is needed. You gave {number_text(value)}. Try {_rounded(value)}.")


def _has_fraction(value: Cell) -> bool:
    return isinstance(value, float) and math.isfinite(value) and not value.is_integer()


def _rounded(value: Cell) -> Cell:
    return math.floor(value + 0.5) if isinstance(value, float) and math.isfinite(value) else value
