"""What a job says to the process that reads its table and writes its result, and what that says."""

from typing import Literal

import msgspec

from ..tables.number_words import Convention
from .chunks import ChunkColumns, Strongest
from .elsewhere import FileBytes, FilePart, NotRead, Wanted
from .messages import Ask, Said
from .replies import Numbers

__all__ = [
    "MOST_SHEET_ROWS",
    "Begin",
    "Begun",
    "ChunkRead",
    "ChunkSkipped",
    "ChunkWritten",
    "ColumnMatch",
    "Convert",
    "Doubt",
    "Ended",
    "LookAt",
    "LookedAt",
    "NextChunk",
    "RowFault",
    "SkipChunk",
    "Style",
    "TableAsk",
    "TableReply",
    "WriteChunk",
]

# What a sheet can hold, its header included.
MOST_SHEET_ROWS = 1_048_576


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Part of a message."""


class ColumnMatch(_Part, frozen=True):
    """Which column of the table a field is read from, from 0; `how` it was found, and how its values are read.

    Numbers are multiplied by `factor`, where the column is in another `unit`. `day_first` says how dates are written
    whose year is last.
    """

    field: str
    column: int
    how: Literal["name", "label", "hand"]
    factor: float = 1.0
    unit: str = ""
    numbers: Convention | None = None
    day_first: bool = True


class Style(_Part, frozen=True):
    """How a CSV is written."""

    separator: str = ","
    has_decimal_comma: bool = False
    has_mark: bool = False


class LookAt(Ask, tag="look_at", frozen=True):
    """Look at a table of `size` bytes, without reading all of it.

    `document` is the demo's, as JSON. `told` is by field the name of the column that somebody chose by hand, empty for
    none. `outcomes` are names that a column with what happened may have.
    """

    size: int
    name: str
    document: bytes
    told: dict[str, str] = {}
    outcomes: list[str] = []
    numbers: Convention | None = None
    dates: Literal["day", "month"] | None = None


class Begin(Ask, tag="begin", frozen=True):
    """Get ready to read the rows; `document` is the demo's, `evidence` what known cases say, both as JSON."""

    size: int
    name: str
    document: bytes
    evidence: bytes | None
    matches: list[ColumnMatch]
    n_strongest: int = 0
    truth: int | None = None
    most_rows: int | None = None


class NextChunk(Ask, tag="next", frozen=True):
    """The next chunk of rows."""


class SkipChunk(Ask, tag="skip", frozen=True):
    """Pass over the next chunk of rows: its part of the result is written already."""


class WriteChunk(Ask, tag="write", frozen=True):
    """Write a chunk that was read, with what came of its rows that have no fault."""

    chunk: int
    outputs: Numbers
    unlike: bytes = b""
    strongest: Strongest = []


class Convert(Ask, tag="convert", frozen=True):
    """Make another kind of file of a result as CSV of `size` bytes. `types` are the columns', as Arrow names them."""

    size: int
    to: Literal["parquet", "xlsx"]
    types: list[str]
    style: Style


TableAsk = LookAt | FileBytes | Begin | NextChunk | SkipChunk | WriteChunk | Convert


class RowFault(_Part, frozen=True):
    """What is wrong in a row, counted from 1 below the header, and in which column."""

    row: int
    column: str
    message: str


class Doubt(_Part, frozen=True):
    """A field whose column can be read in two ways, as in `example`."""

    field: str
    about: Literal["numbers", "dates"]
    example: str


class LookedAt(Said, tag="looked_at", frozen=True):
    """The table's columns, which belong to which field, and what is to be said of it.

    `total` is how many rows it has, as the file says or by what was read of it; `alike` are columns by field that could
    be meant; `first` the first values of each column, for whoever matches by hand; `doubtful` has two readings.
    """

    columns: list[str]
    types: list[str]
    matches: list[ColumnMatch]
    missing: list[str]
    alike: dict[str, list[int]]
    first: list[list[str]]
    notes: list[str]
    doubtful: list[Doubt]
    total: int | None = None
    knows_total: bool = False
    truth: int | None = None


class ChunkRead(Said, tag="chunk", frozen=True):
    """A chunk's rows as the model takes them, without those that have a fault; how much of the table is read by now."""

    chunk: int
    n_rows: int
    columns: ChunkColumns
    n_faults: int
    bytes_read: int


class ChunkSkipped(Said, tag="skipped", frozen=True):
    """A chunk was passed over."""

    n_rows: int


class ChunkWritten(Said, tag="written", frozen=True):
    """A chunk as CSV, and its faults as lines of JSON. `truths` are what happened, of the rows that have no fault.

    `odd` are the columns of numbers, by place, in which a cell is not one as it is written: a gap in words, a unit.
    """

    chunk: int
    content: bytes
    faults: bytes
    n_answered: int
    truths: bytes = b""
    odd: list[int] = []


class Begun(Said, tag="begun", frozen=True):
    """It is ready for rows: the result's columns and what they hold, and its header as CSV."""

    headings: list[str]
    types: list[str]
    header: bytes
    style: Style


class Ended(Said, tag="ended", frozen=True):
    """There are no more rows, or as many have been read as were to be: then `is_cut` says whether there are more."""

    n_rows: int
    is_cut: bool = False


TableReply = Wanted | LookedAt | Begun | ChunkRead | ChunkSkipped | ChunkWritten | Ended | FilePart | NotRead
