"""First words for a page: labels and units out of headers, a title, and what the model is not for."""

import calendar
import re
from typing import Any

import pandas as pd

from ..documents import TITLE_CHARACTERS
from .shapes import Recipe

__all__ = ["is_unit", "label_and_unit", "unit_text", "words_of_page"]

# What stands at the end of a header, and how it is read on a page.
_AS_THEY_ARE = """
mm cm m km mg g kg t ml cl l kw w v mv bar mbar psi rpm ppm ppb db s ms lb oz in ft
days weeks months years hours minutes seconds
"""
_OTHERWISE = """
kwh kWh, mwh MWh, wh Wh, kpa kPa, hpa hPa, pa Pa, mpa MPa, hz Hz, khz kHz, c °C, degc °C, celsius °C, °c °C, f °F,
degf °F, °f °F, k K, h hours, hr hours, hrs hours, min minutes, mins minutes, sec seconds, secs seconds, day days,
month months, year years, yrs years, pct %, percent %, % %, eur €, € €, usd $, $ $, gbp £, £ £, chf CHF, m2 m², m3 m³,
cm2 cm², cm3 cm³, mm2 mm², lbs lb
"""
_UNITS = {
    **{one: one for one in _AS_THEY_ARE.split()},
    **{one.split()[0]: one.split()[1] for one in _OTHERWISE.split(",")},
}
# A last word that is a unit only where there is a word before it, and nothing else it could mean.
_IN_BRACKETS = re.compile(r"^(.*?)\s*[\[(]\s*([^\])]{1,12})\s*[\])]$")
_CAMEL = re.compile(r"(?<=[a-z0-9])(?=[A-Z])")
PARTS = {"month": "month", "weekday": "day of the week", "hour": "hour", "year": "year"}


def label_and_unit(header: str) -> tuple[str, str]:
    """A header as a person would write it, and the unit that stands in it.

    Parameters
    ----------
    header : str

    Examples
    --------
    >>> label_and_unit("wall_mm")
    ('Wall', 'mm')
    >>> label_and_unit("Peak temp (°C)")
    ('Peak temp', '°C')
    """
    unit = ""
    if (found := _IN_BRACKETS.match(header.strip())) and found[1]:
        header, unit = found[1], _UNITS.get(found[2].strip().casefold(), found[2].strip())
    words = _words_of(header)
    last = words[-1].casefold()
    if not unit and len(words) > 1 and last in _UNITS:
        unit, words = _UNITS[last], words[:-1]
        if len(words) > 1 and words[-1] == "in":
            # "Weight in lbs".
            words = words[:-1]
    label = " ".join(words) or header
    if len(words) == 1 and len(last) > 2 and not unit and last in _UNITS:
        # All that is said of it is its unit.
        return _UNITS[last], _UNITS[last]
    return (label[:1].upper() + label[1:])[:200], unit


def is_unit(text: str) -> bool:
    """Whether a word is known as a unit.

    Parameters
    ----------
    text : str
    """
    return text.casefold() in _UNITS


def unit_text(unit: str) -> str:
    """A unit as it is read on a page.

    Parameters
    ----------
    unit : str
        As it is written.
    """
    return _UNITS.get(unit.casefold(), unit)


def _label_and_unit(column: dict[str, Any]) -> tuple[str, str]:
    """Of one of a recipe's columns; what its cells say of the unit goes before what its header does."""
    label, unit = label_and_unit(column["column"])
    return label, unit_text(column.get("unit", "")) or unit


def _words_of(header: str) -> list[str]:
    return re.sub(r"[_\s,]+", " ", _CAMEL.sub(" ", header)).strip().split(" ")


def _as_written(header: str) -> str:
    """A header as a person would write it, all of it."""
    label = " ".join(_words_of(header)) or header
    return (label[:1].upper() + label[1:])[:200]


def words_of_page(
    recipe: Recipe,
    not_for: str,
    reference: pd.DataFrame,
    *,
    file_name: str,
    title: str = "",
) -> dict[str, object]:
    """What is set of the new demo, as `DemoChanges` takes it.

    Parameters
    ----------
    recipe : dict
    not_for : str
        What it is not for, as far as that was found.
    reference : DataFrame
        The rows that go along, by field.
    file_name : str
        What the table is called.
    title : str, optional
        If the author has chosen one.
    """
    target = recipe["target"]
    label, unit = _label_and_unit(target)
    plain = label[:1].lower() + label[1:]
    drafted = f"What will {plain} be?" if target["kind"] == "number" else f"Which {plain}?"
    named = file_name.rsplit(".", 1)[0].replace("_", " ")[:80]
    changes: dict[str, Any] = {
        "title": (title or drafted)[:TITLE_CHARACTERS],
        "purpose": f"Says what {plain} to expect, by what earlier cases in a table showed.",
        "description": f"Learned from `{named}`; how it was made, and what was left out, its author can say.",
        "fields": [_field(one, reference) for one in _features(recipe)],
    }
    if not_for:
        changes["not_for"] = not_for
    if target["kind"] == "number":
        changes["answer"] = {"name": label, "unit": "" if unit == label else unit}
    else:
        changes["answer"] = {"noun": "cases", "noun_one": "case"}
    return changes


def _features(recipe: Recipe) -> list[tuple[str, dict[str, Any], str]]:
    """Name, column and part of each feature."""
    found = []
    for one in recipe["fields"]:
        if one["kind"] == "date":
            found += [(name, one, part) for part, name in zip(one["parts"], one["named"], strict=True)]
        else:
            found.append((one["column"], one, ""))
    return found


def _field(feature: tuple[str, dict[str, Any], str], reference: pd.DataFrame) -> dict[str, Any]:
    name, one, part = feature
    label, unit = _label_and_unit(one)
    if part:
        # A date's header says no unit, whatever its last word is.
        label = _as_written(one["column"])
        is_said = label.casefold().endswith(PARTS[part])
        field: dict[str, Any] = {"name": name, "label": label if is_said else f"{label}: {PARTS[part]}"}
        if part in ("month", "weekday"):
            order = list(calendar.month_name)[1:] if part == "month" else list(calendar.day_name)
            there = set(reference[name].dropna())
            field["options"] = [{"value": value, "label": value} for value in order if value in there]
            if len(field["options"]) < 2 or set(order) & there != there:
                del field["options"]
        if part == "year":
            # Asked about is what comes next; nobody can change which year it is.
            field |= {"default": float(reference[name].max()), "changeable": False}
        return field
    if one["kind"] != "number":
        return {"name": name, "label": label}
    values = set(reference[name].dropna().unique())
    # A column of noughts and ones is asked for as yes or no, which has no unit.
    return (
        {"name": name, "label": label}
        if values <= {0, 1}
        else {"name": name, "label": label, "unit": "" if unit == label else unit}
    )
