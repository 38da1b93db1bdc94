"""From raw columns to blocks, and blocks side by side."""

from collections.abc import Sequence
from typing import cast

import numpy as np

from .registry import Arrays, Blocks, Columns, Settings, ValueNotKnown, every_number, need, one_column, operation

__all__: list[str] = []


@operation("numbers", lambda widths, arrays, settings: len(settings["columns"]), effort=every_number)
def _numbers(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Columns of numbers side by side; a missing value becomes NaN, yes and no become 1 and 0."""
    names = settings["columns"]
    out = np.empty((len(columns[names[0]]), len(names)))
    for at, name in enumerate(names):
        try:
            out[:, at] = cast("Sequence[float]", columns[name])
        except TypeError:
            # A column that is counted with here and looked up elsewhere comes as it was given.
            out[:, at] = [np.nan if value is None else cast("float", value) for value in columns[name]]
    return out


def _codes_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(len(settings["columns"]) == 1, "one column is looked up at a time")
    categories = settings["categories"]
    need(isinstance(categories, list), "categories must be a list")
    need(all(item is None or isinstance(item, str | int | float) for item in categories), "categories are plain values")
    return 1


def _codes_by_category(arrays: Arrays, settings: Settings) -> Settings:
    return {"codes": {category: float(at) for at, category in enumerate(settings["categories"])}}


@operation("codes", _codes_width, ready=_codes_by_category, effort=every_number)
def _codes(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Each value's place in the list of categories; NaN for one that is not in it, or an error if that is refused.

    `None` in the list stands for a missing value.
    """
    known = (settings if "codes" in settings else _codes_by_category(arrays, settings))["codes"]
    values = columns[settings["columns"][0]]
    found = [known.get(None if value is None or value != value else value, np.nan) for value in values]
    codes = np.array(found, dtype="float64").reshape(-1, 1)
    if settings.get("refuse_unknown") and np.isnan(codes).any():
        stranger = values[int(np.argmax(np.isnan(codes[:, 0])))]
        name = settings["columns"][0]
        raise ValueNotKnown(
            f"The model does not know the value {stranger!r} of `{name}`. It knows {settings['categories'][:8]}."
        )
    return codes


def _number_codes_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(all(item is None or isinstance(item, int | float) for item in settings["categories"]), "options are numbers")
    return one_column(widths, arrays, settings)


@operation("codes_of_numbers", _number_codes_width, effort=every_number)
def _codes_of_numbers(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """As `codes`, for numbers that another step made."""
    codes = np.full(blocks[0].shape, np.nan)
    for at, category in enumerate(settings["categories"]):
        codes[np.isnan(blocks[0]) if category is None else blocks[0] == category] = at
    if settings.get("refuse_unknown") and np.isnan(codes).any():
        stranger = blocks[0][np.isnan(codes)][0]
        raise ValueNotKnown(f"The model does not know the value {stranger:g}. It knows {settings['categories'][:8]}.")
    return codes


@operation("join", lambda widths, arrays, settings: sum(widths), effort=every_number)
def _join(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    return np.concatenate(blocks, axis=1)


def _take_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(all(0 <= at < widths[0] for at in settings["places"]), "a place outside the block")
    return len(settings["places"])


@operation("take", _take_width, effort=every_number)
def _take(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    return np.ascontiguousarray(blocks[0][:, settings["places"]])


def _one_hot_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    width, places = int(settings["width"]), settings["places"]
    need(widths == [1] and all(-1 <= at < width for at in places), "a place outside the block")
    return width


def _places_with_none(arrays: Arrays, settings: Settings) -> Settings:
    """One place more, at the end, for the code that is NaN: it has none."""
    return {"places_with_none": np.array([*settings["places"], -1])}


@operation("one_hot", _one_hot_width, ready=_places_with_none, effort=every_number)
def _one_hot(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """1 in the column that `places` gives for the code, 0 elsewhere; −1, or a code that is NaN, gives only zeros."""
    places = (settings if "places_with_none" in settings else _places_with_none(arrays, settings))["places_with_none"]
    out = np.zeros((len(blocks[0]), int(settings["width"])))
    if len(out) == 1:
        # A single case, which is what visitors ask about, is not worth making tables for.
        code = blocks[0][0, 0]
        at = int(places[int(code)]) if 0 <= code < len(places) - 1 else -1
        if at >= 0:
            out[0, at] = 1.0
        return out
    at = places[_rows_of(blocks[0], len(places))]
    rows = np.flatnonzero(at >= 0)
    out[rows, at[rows]] = 1.0
    return out


def _lookup_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(widths == [1] and arrays["table"].ndim == 2, "a lookup wants one column of codes and a table")
    need(len(arrays["table"]) > 0, "the table has no row for codes it does not know")
    return int(arrays["table"].shape[1])


@operation("lookup", _lookup_width, effort=every_number)
def _lookup(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The row of `table` for each code; the last row for a code that is none of the others."""
    return arrays["table"][_rows_of(blocks[0], len(arrays["table"]))]


def _rows_of(codes: np.ndarray, n_rows: int) -> np.ndarray:
    """Codes as places in a table of `n_rows`; its last row for whatever is none of the others."""
    known = (codes[:, 0] >= 0) & (codes[:, 0] < n_rows - 1)
    return np.where(known, codes[:, 0], n_rows - 1).astype("int64")
