"""Which column of a table belongs to which field, and in which unit it is."""

import difflib
import re
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..contract.table_cases import ColumnMatch
from ..fields.kinds import AnyField, NumberField
from .units import are_of_one_kind, factor_between, unit_in

__all__ = ["Matching", "match_columns", "plain_name"]

# From this likeness on a column is offered for a field; it is never taken without being asked.
ALIKE = 0.6
MOST_OFFERED = 3


@dataclass(frozen=True)
class Matching:
    """Columns by field; fields without one, with columns that might be meant; fields whose column is there twice."""

    matches: list[ColumnMatch]
    missing: list[str]
    alike: dict[str, list[int]]
    twice: list[str]


def match_columns(columns: Sequence[str], fields: Sequence[AnyField], told: Mapping[str, int]) -> Matching:
    """Find each field's column: by hand, by its name, by its label, or by either written otherwise.

    Parameters
    ----------
    columns : sequence of str
        The table's header.
    fields : sequence of field
        Those that are to be given.
    told : mapping of str to int
        By field the column that somebody chose; −1 for none.

    Examples
    --------
    >>> from plain_window.core.fields import YesNoField
    >>> handle = YesNoField(name="has_handle", label="Handle", no=0, yes=1, default=False)
    >>> match_columns(["piece", "Has handle"], [handle], {}).matches[0].column
    1
    """
    by_hand = {name: at for name, at in told.items() if 0 <= at < len(columns)}
    exact = {field.name: places for field in fields if field.name not in told and (places := _same(field, columns))}
    twice = [columns[places[0]] for places in exact.values() if len(places) > 1]
    taken = {*by_hand.values(), *(places[0] for places in exact.values())}
    free = [at for at in range(len(columns)) if at not in taken]
    left = [field for field in fields if field.name not in told and field.name not in exact]
    loose = {field.name: _written_otherwise(field, columns, free) for field in left}
    # What could be two columns, or two fields' column, is nobody's until somebody says so.
    wanted = Counter(at for places in loose.values() for at in places)
    matches: list[ColumnMatch] = []
    missing: list[str] = []
    for field in fields:
        places = loose.get(field.name, [])
        if field.name in by_hand:
            matches.append(_match(field, columns, by_hand[field.name], "hand"))
        elif field.name in exact:
            matches.append(ColumnMatch(field.name, exact[field.name][0], _how(field, columns[exact[field.name][0]])))
        elif len(places) == 1 and wanted[places[0]] == 1:
            matches.append(_match(field, columns, places[0], "label" if field.label != field.name else "name"))
        else:
            missing.append(field.name)
    given = {match.column for match in matches}
    free = [at for at in range(len(columns)) if at not in given]
    by_name = {field.name: field for field in fields}
    alike = {name: _offered(by_name[name], columns, free) for name in missing}
    return Matching(matches, missing, alike, twice)


def _same(field: AnyField, columns: Sequence[str]) -> list[int]:
    """Columns that are called what the model calls the field; if there is none, what its author does."""
    for wanted in (field.name, field.label):
        places = [at for at, column in enumerate(columns) if column == wanted]
        if places:
            return places
    return []


def _how(field: AnyField, column: str) -> Literal["name", "label"]:
    return "name" if column == field.name else "label"


def _written_otherwise(field: AnyField, columns: Sequence[str], free: Sequence[int]) -> list[int]:
    """Free columns called as the field is but for what people write differently, in a unit that can be reckoned."""
    own = {plain_name(name) for name in (field.name, field.label)}
    own |= {plain_name(_without_unit(name)) for name in (field.name, field.label)}
    unit = field.unit if isinstance(field, NumberField) else ""
    return [
        at
        for at in free
        if columns[at]
        and own & {plain_name(columns[at]), plain_name(_without_unit(columns[at]))}
        and (not unit or not unit_in(columns[at]) or are_of_one_kind(unit_in(columns[at]), unit))
    ]


def _match(field: AnyField, columns: Sequence[str], at: int, how: Literal["name", "label", "hand"]) -> ColumnMatch:
    unit, factor = "", 1.0
    if isinstance(field, NumberField) and field.unit and not field.calendar:
        unit = unit_in(columns[at])
        factor = factor_between(unit, field.unit) if unit else 1.0
    return ColumnMatch(field.name, at, how, factor, unit)


def plain_name(name: str) -> str:
    """A name without what people write differently: capitals, spaces, underscores, signs.

    Parameters
    ----------
    name : str

    Examples
    --------
    >>> plain_name("Peak_temp.") == plain_name("peak temp")
    True
    """
    return re.sub(r"[\W_]+", "", name.casefold())


def _without_unit(name: str) -> str:
    """A heading without the unit at its end: `Wall (mm)`, `wall_mm`, `Wall in mm`, `Wall [mm]`."""
    unit = unit_in(name)
    if not unit:
        return name
    return re.sub(rf"(?:[\s_]*[(\[]\s*|[\s_]+(?:in\s+)?|,\s*){re.escape(unit)}\s*[)\]]?\s*$", "", name)


def _offered(field: AnyField, columns: Sequence[str], free: Sequence[int]) -> list[int]:
    def likeness(at: int) -> float:
        column = plain_name(columns[at])
        names = (plain_name(field.name), plain_name(field.label))
        return max(difflib.SequenceMatcher(None, name, column).ratio() for name in names)

    some = sorted(((likeness(at), -at) for at in free[:500]), reverse=True)
    return [-at for share, at in some[:MOST_OFFERED] if share >= ALIKE]
