"""Units as headings name them, and what one is in another."""

import re

__all__ = ["are_of_one_kind", "factor_between", "unit_in"]

# By what each unit is measured in, how much of it one is. Temperatures have no factor: they begin elsewhere.
KINDS: tuple[dict[str, float], ...] = (
    {"mm": 0.001, "cm": 0.01, "dm": 0.1, "m": 1.0, "km": 1000.0, "in": 0.0254, "ft": 0.3048, "µm": 1e-6},
    {"mg": 1e-6, "g": 0.001, "kg": 1.0, "t": 1000.0, "oz": 0.028349523125, "lb": 0.45359237},
    {"ms": 0.001, "s": 1.0, "min": 60.0, "h": 3600.0, "hours": 3600.0, "d": 86400.0, "days": 86400.0},
    {"ml": 0.001, "cl": 0.01, "dl": 0.1, "l": 1.0},
    {"Wh": 0.001, "kWh": 1.0, "MWh": 1000.0},
    {"W": 0.001, "kW": 1.0, "MW": 1000.0},
    {"%": 0.01, "‰": 0.001},
    {"°C": 1.0, "C": 1.0},
    {"°F": 1.0, "F": 1.0},
    {"K": 1.0},
)
IN_BRACKETS = re.compile(r"[(\[]\s*([^()\[\]]{1,12}?)\s*[)\]]\s*$")
AT_END = re.compile(r"(?:[\s_](?:in\s+)?|,\s*)([^\s_,()\[\]]{1,6})\s*$")


def unit_in(heading: str) -> str:
    """The unit that a column's heading ends with; empty if it ends with none that is known.

    Parameters
    ----------
    heading : str

    Examples
    --------
    >>> [unit_in(heading) for heading in ("Wall (mm)", "wall_cm", "Weight in kg", "Maker")]
    ['mm', 'cm', 'kg', '']
    """
    for pattern in (IN_BRACKETS, AT_END):
        found = pattern.search(heading)
        if found and any(found[1] in kind for kind in KINDS):
            return found[1]
    return ""


def are_of_one_kind(unit: str, other: str) -> bool:
    """Whether numbers in one unit can be reckoned into the other. Degrees of another scale begin elsewhere.

    Parameters
    ----------
    unit, other : str

    Examples
    --------
    >>> are_of_one_kind("cm", "mm"), are_of_one_kind("°F", "°C")
    (True, False)
    """
    return unit == other or any(unit in kind and other in kind for kind in KINDS)


def factor_between(unit: str, wanted: str) -> float:
    """By what numbers in `unit` are multiplied to be in `wanted`; 1 where they are not of one kind.

    Parameters
    ----------
    unit, wanted : str

    Examples
    --------
    >>> factor_between("cm", "mm"), factor_between("kg", "mm")
    (10.0, 1.0)
    """
    for kind in KINDS:
        if unit in kind and wanted in kind:
            # Through a text, so that 0.01 / 0.001 is 10.
            return float(f"{kind[unit] / kind[wanted]:.12g}")
    return 1.0
