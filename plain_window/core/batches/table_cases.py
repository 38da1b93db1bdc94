"""A table of cases from its header to the lines of its result, a piece at a time."""

import itertools
from collections.abc import Iterator
from typing import BinaryIO

import msgspec
import numpy as np
import pyarrow as pa

from ..contract.chunks import ChunkColumns, CodedColumn, Strongest
from ..contract.table_cases import (
    Begin,
    Begun,
    ChunkRead,
    ChunkSkipped,
    ChunkWritten,
    ColumnMatch,
    Ended,
    LookAt,
    LookedAt,
    RowFault,
    Style,
    WriteChunk,
)
from ..documents.document import DemoDocument
from ..errors import TableNotRead
from ..fields.kinds import AnyField, NumberField
from ..trust.evidence import Evidence
from .answering import AnswerColumn, make_answers, n_outputs_of
from .cells import CellsRead, read_cells
from .chunks import open_chunks
from .fixed import fixed_column
from .looking import conventions, date_orders, first_values, outcome_column
from .matching import match_columns
from .raw_chunks import RawChunk, TableChunks
from .text_chunks import TextChunks
from .truths import truths_of
from .writing import as_csv, csv_header, guarded, plain_numbers

__all__ = ["TableCases"]

NOTES = "notes"
KEPT_TYPES = ("int", "uint", "float", "double", "bool", "date32", "timestamp[s]", "timestamp[ms]", "timestamp[us]")


class _Read(msgspec.Struct):
    """A chunk that was read, until its result is written."""

    raw: RawChunk
    first_row: int
    cells: list[tuple[AnyField, ColumnMatch, CellsRead]]
    is_good: np.ndarray


class TableCases:
    """One table on its way through.

    Parameters
    ----------
    file : binary file
        Seekable.
    """

    def __init__(self, file: BinaryIO) -> None:
        self._file = file
        self._chunks: TableChunks | None = None
        self._reading: Iterator[RawChunk] = iter(())
        self._matches: list[ColumnMatch] = []
        self._fields: dict[str, AnyField] = {}
        self._waiting: dict[int, _Read] = {}
        self._n_rows = 0
        self._chunk = 0

    def look(self, ask: LookAt) -> LookedAt:
        """What the table's columns are, and which belong to which field.

        Parameters
        ----------
        ask : LookAt

        Raises
        ------
        TableNotRead
            If it is no table, or has no rows.
        """
        chunks = self._opened(ask.name)
        document = DemoDocument.model_validate_json(ask.document)
        shown = [field for field in document.fields if not field.hidden]
        told = {name: _place(chunks.columns, column) for name, column in ask.told.items()}
        found = match_columns(chunks.columns, shown, told)
        if found.twice:
            names = ", ".join(f"`{name}`" for name in found.twice[:8])
            raise TableNotRead(f"{ask.name} has two columns called {names}. Rename one of them.")
        first = next(iter(chunks), None)
        if first is None or not first.n_rows:
            raise TableNotRead(f"{ask.name} has no rows. It needs a header and at least one row.")
        by_name = {field.name: field for field in document.fields}
        has_semicolons = isinstance(chunks, TextChunks) and chunks.separator == ";"
        numbers = conventions(first, found.matches, by_name, told=ask.numbers, has_semicolons=has_semicolons)
        dates = date_orders(first, found.matches, by_name, told=ask.dates)
        matches = [
            msgspec.structs.replace(
                match,
                numbers=numbers.known.get(match.field, match.numbers),
                day_first=dates.known.get(match.field, True),
            )
            for match in found.matches
        ]
        return LookedAt(
            columns=chunks.columns,
            types=chunks.types,
            matches=matches,
            missing=found.missing,
            alike=found.alike,
            first=[first_values(texts) for texts in first.texts],
            notes=[*chunks.notes, *_unit_notes(matches, by_name, chunks.columns)],
            doubtful=[*numbers.doubtful, *dates.doubtful],
            total=chunks.rows_in_all(ask.size) if isinstance(chunks, TextChunks) else chunks.total,
            knows_total=chunks.total is not None or (isinstance(chunks, TextChunks) and chunks.is_read(ask.size)),
            truth=outcome_column(chunks.columns, ask.outcomes, {match.column for match in matches}),
        )

    def begin(self, ask: Begin) -> Begun:
        """Get ready to read rows; what the result will look like.

        Parameters
        ----------
        ask : Begin

        Raises
        ------
        TableNotRead
        """
        chunks = self._opened(ask.name)
        self._document = DemoDocument.model_validate_json(ask.document)
        self._evidence = Evidence.model_validate_json(ask.evidence) if ask.evidence else None
        self._fields = {field.name: field for field in self._document.fields}
        self._matches, self._truth, self._n_strongest = list(ask.matches), ask.truth, ask.n_strongest
        self._most_rows = ask.most_rows
        self._waiting, self._n_rows, self._chunk = {}, 0, 0
        self._reading = iter(chunks)
        # Numbers are written as those of the table are.
        has_comma = any(match.numbers == "comma" for match in ask.matches)
        self._style = Style(",", has_comma, False)
        if isinstance(chunks, TextChunks):
            self._style = Style(chunks.separator, has_comma and chunks.separator != ",", chunks.has_mark)
        setting = self._document.answer
        empty = make_answers(setting, self._evidence, np.full((0, n_outputs_of(setting)), np.nan), None)
        made = [*empty.columns, *self._strongest_columns([])]
        headings = [*chunks.columns, *_free([*(column.heading for column in made), NOTES], chunks.columns)]
        numbers = {match.column for match in ask.matches if isinstance(self._fields[match.field], NumberField)}
        dates = {match.column for match in ask.matches if getattr(self._fields[match.field], "calendar", "")}
        own = [
            type_ if type_.startswith(KEPT_TYPES) else "double" if at in numbers - dates else "string"
            for at, type_ in enumerate(chunks.types)
        ]
        # Columns whose cells are taken for numbers when the result becomes something else.
        self._of_numbers = [at for at, type_ in enumerate(own) if type_ == "double" and chunks.types[at] == "string"]
        types = [*own, *(str(column.values.type) for column in made), "string"]
        return Begun(headings, types, csv_header(headings, self._style), self._style)

    def next_chunk(self) -> ChunkRead | Ended:
        """The next rows, as the model takes them.

        Raises
        ------
        TableNotRead
            Where the table is damaged.
        """
        raw = self._next_raw()
        if isinstance(raw, Ended):
            return raw
        cells = [
            (
                self._fields[match.field],
                match,
                read_cells(self._fields[match.field], raw.texts[match.column], raw.typed[match.column], match),
            )
            for match in self._matches
        ]
        is_good = np.ones(raw.n_rows, dtype=bool)
        is_good[list(raw.broken)] = False
        for _, _, read in cells:
            if read.faults is not None:
                is_good &= read.faults < 0
        at, self._chunk = self._chunk, self._chunk + 1
        self._waiting[at] = _Read(raw, self._n_rows, cells, is_good)
        self._n_rows += raw.n_rows
        n_faults = int(raw.n_rows - is_good.sum())
        return ChunkRead(at, raw.n_rows, self._columns(cells, is_good), n_faults, self._file.tell())

    def skip_chunk(self) -> ChunkSkipped | Ended:
        """Pass over the next rows.

        Raises
        ------
        TableNotRead
            Where the table is damaged.
        """
        raw = self._next_raw()
        if isinstance(raw, Ended):
            return raw
        self._n_rows, self._chunk = self._n_rows + raw.n_rows, self._chunk + 1
        return ChunkSkipped(raw.n_rows)

    def _next_raw(self) -> RawChunk | Ended:
        """The next rows as they are written, no more of them than are to be read."""
        raw = next(self._reading, None)
        if raw is None:
            return Ended(self._n_rows)
        if self._most_rows is None or self._n_rows + raw.n_rows <= self._most_rows:
            return raw
        left = self._most_rows - self._n_rows
        if left == 0:
            return Ended(self._n_rows, is_cut=True)
        self._reading = itertools.chain([raw.after(left)], self._reading)
        return raw.before(left)

    def write_chunk(self, ask: WriteChunk) -> ChunkWritten:
        """The lines of the result for a chunk that was read.

        Parameters
        ----------
        ask : WriteChunk

        Raises
        ------
        KeyError
            If no such chunk waits.
        """
        read = self._waiting.pop(ask.chunk)
        good = np.flatnonzero(read.is_good)
        outputs, unlike = _outputs_of(ask, len(good), n_outputs_of(self._document.answer))
        answers = make_answers(self._document.answer, self._evidence, outputs, unlike)
        places = np.full(read.raw.n_rows, -1, dtype="int64")
        places[good] = np.arange(len(good))
        take = pa.array(places, mask=places < 0)
        made = [*answers.columns, *self._strongest_columns(ask.strongest, len(good))]
        notes, faults = self._said(read, answers.notes, good)
        columns = [*map(guarded, read.raw.texts), *(_guarded_values(column).take(take) for column in made), notes]
        truths = b""
        if self._truth is not None:
            known = truths_of(self._document.answer, read.raw.texts[self._truth].take(pa.array(good)))
            truths = known.astype("float64").tobytes()
        return ChunkWritten(
            ask.chunk,
            as_csv(columns, self._style),
            faults,
            int(np.isfinite(outputs).all(axis=1).sum()),
            truths,
            [at for at in self._of_numbers if plain_numbers(read.raw.texts[at], self._style) is None],
        )

    def _opened(self, name: str) -> TableChunks:
        if self._chunks is None:
            self._chunks = open_chunks(self._file, name=name)
        return self._chunks

    def _columns(self, cells: list[tuple[AnyField, ColumnMatch, CellsRead]], is_good: np.ndarray) -> ChunkColumns:
        n_rows = int(is_good.sum())
        numbers: dict[str, bytes] = {}
        coded: dict[str, CodedColumn] = {}
        texts: dict[str, list[str | None]] = {}
        for one, _, read in cells:
            if read.numbers is not None:
                numbers[one.name] = np.ascontiguousarray(read.numbers[is_good]).tobytes()
            elif read.codes is not None:
                coded[one.name] = CodedColumn(read.codes[is_good].astype("int32").tobytes(), read.values)
            elif read.texts is not None:
                texts[one.name] = [text for text, good in zip(read.texts, is_good.tolist(), strict=True) if good]
        for one in self._fields.values():
            if one.hidden:
                coded[one.name] = fixed_column(one, n_rows)
        return ChunkColumns(n_rows, numbers, coded, texts)

    def _strongest_columns(self, strongest: Strongest, n_rows: int = 0) -> list[AnswerColumn]:
        columns = []
        labels = {name: field.label for name, field in self._fields.items()}
        for rank in range(self._n_strongest):
            own = [row[rank] if rank < len(row) else None for row in strongest] or [None] * n_rows
            names = pa.array([None if one is None else labels.get(one[0], one[0]) for one in own], pa.string())
            adds = pa.array([None if one is None else one[1] for one in own], pa.float64())
            columns += [AnswerColumn(f"strongest {rank + 1}", names), AnswerColumn(f"strongest {rank + 1} adds", adds)]
        return columns

    def _said(self, read: _Read, of_answers: list[tuple[np.ndarray, str]], good: np.ndarray) -> tuple[pa.Array, bytes]:
        """The column of notes, and the faults as lines of JSON."""
        said: dict[int, list[str]] = {at: [why] for at, why in read.raw.broken.items()}
        faults = [RowFault(read.first_row + at + 1, "", why) for at, why in read.raw.broken.items()]
        for _, match, cells in read.cells:
            column = self._chunks.columns[match.column] if self._chunks else ""
            for codes, is_fault in ((cells.faults, True), (cells.notes, False)):
                if codes is None:
                    continue
                for at in np.flatnonzero(codes >= 0).tolist():
                    sentence = cells.sentences[codes[at]]
                    said.setdefault(at, []).append(sentence)
                    if is_fault:
                        faults.append(RowFault(read.first_row + at + 1, column, sentence))
        for where, sentence in of_answers:
            for at in good[where].tolist():
                said.setdefault(at, []).append(sentence)
        faults.sort(key=lambda fault: fault.row)
        texts = [" ".join(said[at]) if at in said else None for at in range(read.raw.n_rows)]
        notes = guarded(pa.array(texts, pa.string()))
        return notes, b"".join(msgspec.json.encode(fault) + b"\n" for fault in faults)


def _place(columns: list[str], name: str) -> int:
    return columns.index(name) if name in columns else -1


def _outputs_of(ask: WriteChunk, n_rows: int, n_outputs: int) -> tuple[np.ndarray, np.ndarray | None]:
    outputs = np.frombuffer(ask.outputs.data, dtype="float64").reshape(n_rows, n_outputs)
    unlike = np.frombuffer(ask.unlike, dtype="int8").astype(bool) if ask.unlike else None
    return outputs, unlike


def _guarded_values(column: AnswerColumn) -> pa.Array:
    return guarded(column.values) if pa.types.is_string(column.values.type) else column.values


def _free(headings: list[str], own: list[str]) -> list[str]:
    """Headings that the table does not have itself."""
    out: list[str] = []
    for heading in headings:
        free, number = heading, 2
        while free in own or free in out:
            free, number = f"{heading} ({number})", number + 1
        out.append(free)
    return out


def _unit_notes(matches: list[ColumnMatch], fields: dict[str, AnyField], columns: list[str]) -> list[str]:
    notes = []
    for match in matches:
        field = fields[match.field]
        if match.factor != 1.0 and isinstance(field, NumberField):
            notes.append(
                f"“{columns[match.column]}” is in {match.unit}, {field.label} in {field.unit}: its numbers are "
                f"multiplied by {match.factor:.12g}."
            )
        elif match.unit and isinstance(field, NumberField) and field.unit not in ("", match.unit):
            notes.append(
                f"“{columns[match.column]}” says {match.unit}, {field.label} is in {field.unit}. Its numbers are taken "
                "as they are."
            )
    return notes
