"""What the first rows of a table tell of how all of it is written."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Generic, Literal, TypeVar

import pyarrow as pa
from pyarrow import compute as pc

from ..contract.table_cases import ColumnMatch, Doubt
from ..fields.kinds import AnyField, NumberField
from ..tables.date_words import MONTHS, YEAR_LAST
from ..tables.number_words import Convention, is_doubtful, parted, told_by
from .cells import GAPS, bare_number
from .matching import plain_name
from .raw_chunks import RawChunk

__all__ = ["Told", "conventions", "date_orders", "first_values", "outcome_column"]

FIRST_VALUES, FIRST_CHARACTERS = 5, 100
# Distinct values that tell how numbers are written; from more nothing new is learnt.
MOST_TELLING = 20_000

Way = TypeVar("Way")


@dataclass
class Told(Generic[Way]):
    """By field how its column is written; and those that can be read in two ways."""

    known: dict[str, Way] = field(default_factory=dict)
    doubtful: list[Doubt] = field(default_factory=list)


def conventions(
    first: RawChunk,
    matches: Sequence[ColumnMatch],
    fields: Mapping[str, AnyField],
    *,
    told: Convention | None,
    has_semicolons: bool,
) -> Told[Convention]:
    """How each column of numbers writes them: "1,234.5" or "1.234,5".

    Parameters
    ----------
    first : RawChunk
        The first rows.
    matches : sequence of ColumnMatch
    fields : mapping of str to field
    told : "point" or "comma", optional
        What somebody has said of it.
    has_semicolons : bool
        Whether the table's values are parted by semicolons, as where commas are for decimals.
    """
    distinct = {
        match.field: _distinct(first, match)
        for match in matches
        if isinstance(fields[match.field], NumberField) and first.typed[match.column] is None
    }
    own = {name: told_by([bare_number(text)[0] for text in texts]) for name, texts in distinct.items()}
    clear = {next(iter(one)) for one in own.values() if len(one) == 1}
    of_table = told or (next(iter(clear)) if len(clear) == 1 else None)
    out: Told[Convention] = Told()
    for name, texts in distinct.items():
        if len(own[name]) == 1 and told is None:
            out.known[name] = next(iter(own[name]))
            continue
        doubtful = next((text for text in texts if _has_two(bare_number(text)[0])), None)
        if of_table is not None:
            out.known[name] = of_table
        elif doubtful is not None and ("," in doubtful or has_semicolons):
            out.doubtful.append(Doubt(name, "numbers", doubtful[:40]))
    return out


def first_values(column: pa.Array) -> list[str]:
    """A column's first values, no longer than they can be shown.

    Parameters
    ----------
    column : pyarrow.Array of string
    """
    some = pc.utf8_slice_codeunits(pc.fill_null(column[:FIRST_VALUES], ""), 0, FIRST_CHARACTERS)
    values: list[str] = some.to_pylist()
    return values


def _distinct(first: RawChunk, match: ColumnMatch) -> list[str]:
    trimmed = pc.utf8_trim_whitespace(pc.fill_null(first.texts[match.column], ""))
    return [text for text in pc.unique(trimmed)[:MOST_TELLING].to_pylist() if text not in GAPS]


def _has_two(text: str) -> bool:
    part = parted(text)
    return part is not None and is_doubtful(part.digits)


def date_orders(
    first: RawChunk,
    matches: Sequence[ColumnMatch],
    fields: Mapping[str, AnyField],
    *,
    told: Literal["day", "month"] | None,
) -> Told[bool]:
    """Of each column of dates whether the day comes before the month, where the year is last.

    Parameters
    ----------
    first : RawChunk
        The first rows.
    matches : sequence of ColumnMatch
    fields : mapping of str to field
    told : "day" or "month", optional
        What comes first, where somebody has said so.
    """
    out: Told[bool] = Told()
    for match in matches:
        if not getattr(fields[match.field], "calendar", ""):
            continue
        found = [date for text in _distinct(first, match) if (date := YEAR_LAST.fullmatch(text))]
        if not found:
            continue
        if told is not None:
            out.known[match.field] = told == "day"
        elif any(int(date[1]) > MONTHS for date in found) or all(date[2] == "." for date in found):
            out.known[match.field] = True
        elif any(int(date[3]) > MONTHS for date in found):
            out.known[match.field] = False
        else:
            out.doubtful.append(Doubt(match.field, "dates", found[0][0]))
    return out


def outcome_column(columns: Sequence[str], names: Sequence[str], taken: set[int]) -> int | None:
    """The column that says what happened; None if there is none.

    Parameters
    ----------
    columns : sequence of str
        The table's header.
    names : sequence of str
        What it may be called.
    taken : set of int
        Columns that belong to fields.
    """
    plain = {plain_name(name) for name in names}
    return next((at for at, column in enumerate(columns) if plain_name(column) in plain and at not in taken), None)
