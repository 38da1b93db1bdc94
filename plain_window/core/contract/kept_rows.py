"""The rows that explanations and trust are counted from, kept beside a model.

Reference rows stand in an order drawn once with a fixed seed, so that the first n of them are a fair draw. Values are
plain: numbers, words, yes and no, or None for a gap.
"""

from dataclasses import dataclass, field
from typing import Any

import msgspec

from .values import Value

__all__ = [
    "MOST_ROWS",
    "MOST_VALUES",
    "OUTCOME_SEPARATOR",
    "TEXTS_COMPARED",
    "KeptRows",
    "read_kept_rows",
    "write_kept_rows",
]

# More rows than this tell nothing more that could be seen; wide tables keep fewer, for a runner's memory.
MOST_ROWS, MOST_VALUES = 10_000, 1_000_000

# Between several outcomes of one row.
OUTCOME_SEPARATOR = "; "
# Texts of reference rows that a text is compared with.
TEXTS_COMPARED = 500


@dataclass(frozen=True)
class KeptRows:
    """Reference rows and known cases by column, each with what happened to them.

    `outcomes` are words for classes, numbers for numbers, and for several of either all of them in one text; None where
    there are none. Outcomes of known cases are the class's place, or the number.

    `known_places` say where in the author's table a known case stood, from 0, `known_names` which picture it was.
    `known_outputs` are what the model said of it when it was brought, `known_truths` its outcomes, one a column of
    outcomes; rows brought before these were kept have none. `known_together` says by numbers which known cases are of
    one thing; empty where each is by itself.
    """

    columns: dict[str, list[Value]]
    outcomes: list[Value] | None = None
    known_columns: dict[str, list[Value]] = field(default_factory=dict)
    known_outcomes: list[float] = field(default_factory=list)
    known_places: list[int] = field(default_factory=list)
    known_names: list[str] = field(default_factory=list)
    known_outputs: list[list[float]] = field(default_factory=list)
    known_truths: list[list[float]] = field(default_factory=list)
    known_together: list[int] = field(default_factory=list)
    # Known pictures by field, each by its description, and how they were prepared for it.
    descriptions: dict[str, list[bytes]] = field(default_factory=dict)
    described_as: dict[str, dict[str, Any]] = field(default_factory=dict)

    @property
    def n_rows(self) -> int:
        """How many reference rows there are."""
        return len(next(iter(self.columns.values()), []))

    @property
    def n_known(self) -> int:
        """How many known cases there are."""
        return len(self.known_outcomes)

    def first(self, n_rows: int) -> dict[str, list[Value]]:
        """The first rows by column.

        Parameters
        ----------
        n_rows : int
        """
        return {name: values[:n_rows] for name, values in self.columns.items()}

    def row(self, at: int) -> dict[str, Value]:
        """One reference row.

        Parameters
        ----------
        at : int
            Its place.
        """
        return {name: values[at] for name, values in self.columns.items()}


def write_kept_rows(kept_rows: KeptRows) -> bytes:
    """The rows as a file's content.

    Parameters
    ----------
    kept_rows : KeptRows
    """
    return msgspec.msgpack.encode(kept_rows)


def read_kept_rows(content: bytes) -> KeptRows:
    """The rows in a file's content.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    msgspec.ValidationError
        If it is no such file.
    """
    return msgspec.msgpack.decode(content, type=KeptRows)
