"""Which column of a table belongs to which field, and in which unit it is."""

import difflib
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..contract.table_cases import ColumnMatch
from ..fields.kinds import AnyField, NumberField
from .units import factor_between, unit_in

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
    matches: list[ColumnMatch] = []
    missing: list[str] = []
    twice: list[str] = []
    for field in fields:
        if field.name in told:
            if 0 <= told[field.name] < len(columns):
                matches.append(_match(field, columns, told[field.name], "hand"))
            else:
                missing.append(field.name)
            continue
        found = _found(field, columns)
        if found is None:
            missing.append(field.name)
            continue
        how, places = found
        if len(places) > 1:
            twice.append(columns[places[0]])
        matches.append(_match(field, columns, places[0], how))
    taken = {match.column for match in matches}
    free = [at for at in range(len(columns)) if at not in taken]
    by_name = {field.name: field for field in fields}
    alike = {name: _offered(by_name[name], columns, free) for name in missing}
    return Matching(matches, missing, alike, twice)


def _found(field: AnyField, columns: Sequence[str]) -> "tuple[str, list[int]] | None":
    for how, wanted in (("name", field.name), ("label", field.label)):
        places = [at for at, column in enumerate(columns) if column == wanted]
        if places:
            return how, places
    for how, wanted in (("name", field.name), ("label", field.label)):
        plain = plain_name(wanted)
        bare = plain_name(_without_unit(wanted))
        for name_of in (plain_name, lambda column: plain_name(_without_unit(column))):
            places = [at for at, column in enumerate(columns) if column and name_of(column) in (plain, bare)]
            if places:
                return how, places
    return None


def _match(field: AnyField, columns: Sequence[str], at: int, how: str) -> ColumnMatch:
    unit, factor = "", 1.0
    if isinstance(field, NumberField) and field.unit and not field.calendar:
        unit = unit_in(columns[at])
        factor = factor_between(unit, field.unit) if unit else 1.0
    return ColumnMatch(field.name, at, how, factor, unit)  # type: ignore[arg-type]  # one of the few words


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
