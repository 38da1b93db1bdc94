"""A table as it was read inside the walls: plain values by column."""

import msgspec

from .values import Value

__all__ = ["PlainTable"]


class PlainTable(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The first rows of a table. `total` is how many there are, `notes` what was concluded while it was read."""

    columns: dict[str, list[Value]]
    total: int
    notes: list[str] = []

    @property
    def n_rows(self) -> int:
        """How many rows are here."""
        return len(next(iter(self.columns.values()), []))
