"""Whole tables: what is said of a row is what is said of the same case alone."""

import csv
import io
import json
from functools import cache
from typing import Any

import numpy as np
import openpyxl
import pandas as pd
import pyarrow as pa
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pyarrow import parquet

from plain_window.core.answers import make_answer
from plain_window.core.batches.asking import ChunkAsker
from plain_window.core.batches.chunks import open_chunks
from plain_window.core.batches.converting import convert_result
from plain_window.core.batches.likeness_of_many import LikenessOfMany
from plain_window.core.batches.matching import match_columns
from plain_window.core.batches.table_cases import TableCases
from plain_window.core.batches.writing import guarded, unguarded
from plain_window.core.contract.chunks import AskChunk, ChunkColumns, ChunkDone, ModelParts, ModelWanted
from plain_window.core.contract.inspection import Inspection
from plain_window.core.contract.kept_rows import read_kept_rows
from plain_window.core.contract.model_facts import ModelFacts
from plain_window.core.contract.table_cases import Begin, ChunkSkipped, Ended, LookAt, LookedAt, Style, WriteChunk
from plain_window.core.documents import DemoDocument
from plain_window.core.errors import InputFaults, TableNotRead
from plain_window.core.fields import YesNoField, check_inputs
from plain_window.core.model_service.likeness_of_rows import LikenessOfRows
from plain_window.samples import SAMPLES
from plain_window.samples.opened import opened_sample

CRACK = next(demo for demo in SAMPLES.values() if demo.parent.name == "will_it_crack")
FIRING = next(demo for demo in SAMPLES.values() if demo.parent.name == "what_will_this_firing_use")

# What an author has said of a field.
SAID = {"wall_mm": {"label": "Wall thickness", "unit": "mm"}}


class _Opened:
    """A sample's model as a worker gets it, and its page."""

    def __init__(self, demo: Any) -> None:
        opened = opened_sample(demo)
        assert opened is not None
        assert opened.compiled is not None
        self.inspection = Inspection.model_validate_json(opened.inspection)
        self.facts = ModelFacts.of_inspection(opened.inspection)
        fields = [field.model_copy(update=SAID.get(field.name, {})) for field in self.inspection.fields]
        self.document = DemoDocument(title="t", fields=fields, answer=self.inspection.answer)
        self.parts = ModelParts(opened.compiled, self.facts, opened.kept_rows, 100)
        assert opened.kept_rows is not None
        self.kept_rows = read_kept_rows(opened.kept_rows)
        self.asker = ChunkAsker()
        self.reference = pd.read_csv(demo / "reference.csv")


@cache
def opened(name: str) -> _Opened:
    return _Opened({"crack": CRACK, "firing": FIRING}[name])


def looked(sample: _Opened, content: bytes, **options: Any) -> tuple[TableCases, LookedAt]:
    cases = TableCases(io.BytesIO(content))
    document = sample.document.model_dump_json().encode()
    return cases, cases.look(LookAt(size=len(content), name="The table", document=document, **options))


def answered(sample: _Opened, content: bytes, *, first: int = 0, **options: Any) -> tuple[list[list[str]], list[dict]]:
    """The result's rows, the header first, and the faults."""
    cases, look = looked(sample, content, **options)
    assert not look.missing
    evidence = sample.inspection.evidence
    begun = cases.begin(
        Begin(
            size=len(content),
            name="The table",
            document=sample.document.model_dump_json().encode(),
            evidence=evidence.model_dump_json().encode() if evidence else None,
            matches=look.matches,
        )
    )
    for _ in range(first):
        assert isinstance(cases.skip_chunk(), ChunkSkipped)
    text, faults = begun.header, b""
    while not isinstance(chunk := cases.next_chunk(), Ended):
        ask = AskChunk("m", chunk.columns, parts=sample.parts)
        reply = sample.asker.answer(ask)
        assert isinstance(reply, ChunkDone)
        written = cases.write_chunk(WriteChunk(chunk.chunk, reply.outputs, reply.unlike))
        text, faults = text + written.content, faults + written.faults
    rows = list(csv.reader(io.StringIO(text.decode("utf-8-sig"), newline=""), delimiter=begun.style.separator))
    return rows, [json.loads(line) for line in faults.splitlines()]


def as_csv(table: pd.DataFrame, **options: Any) -> bytes:
    file = io.BytesIO()
    table.to_csv(file, index=False, **options)
    return file.getvalue()


def as_xlsx(table: pd.DataFrame) -> bytes:
    file = io.BytesIO()
    table.to_excel(file, index=False)
    return file.getvalue()


def as_parquet(table: pd.DataFrame, **options: Any) -> bytes:
    file = io.BytesIO()
    table.to_parquet(file, index=False, **options)
    return file.getvalue()


WRITTEN = {
    "plain": as_csv,
    "semicolons and decimal commas": lambda table: as_csv(table, sep=";", decimal=","),
    "tabs": lambda table: as_csv(table, sep="\t"),
    "a mark in front": lambda table: as_csv(table, encoding="utf-8-sig"),
    "sixteen bits": lambda table: as_csv(table, encoding="utf-16"),
    "everything quoted": lambda table: as_csv(table, quoting=csv.QUOTE_ALL),
    "line ends of Windows": lambda table: as_csv(table, lineterminator="\r\n"),
    "line ends of long ago": lambda table: as_csv(table, lineterminator="\r"),
    "a spreadsheet": as_xlsx,
    "Parquet": as_parquet,
    "Parquet in small groups": lambda table: as_parquet(table, row_group_size=7),
}


@pytest.mark.parametrize("name", ["crack", "firing"])
@pytest.mark.parametrize("written", WRITTEN)
def test_a_table_however_it_is_written_gets_the_answers_its_rows_get_alone(name: str, written: str) -> None:
    sample = opened(name)
    table = sample.reference.head(40)
    rows, faults = answered(sample, WRITTEN[written](table))
    assert faults == []
    assert len(rows) == 41
    heading = rows[0].index("answer")
    names = [field.name for field in sample.document.fields]
    for row, entered in zip(rows[1:], table[names].to_dict("records"), strict=True):
        values = check_inputs(sample.document.fields, {key: _entered(value) for key, value in entered.items()}).values
        output = sample.asker._models["m"]._service.backend.predict([values])[0].tolist()
        answer, _ = make_answer(sample.document.answer, output, sample.inspection.evidence)
        own = answer.class_ if answer.kind == "class" else answer.value
        said = row[heading].replace(",", ".") if answer.kind == "number" else row[heading]
        assert said == own if answer.kind == "class" else float(said) == own


def _entered(value: Any) -> Any:
    return value.item() if hasattr(value, "item") else value


CELLS = st.sampled_from(
    [
        "stoneware",
        "Porcelain",
        "mud",
        "",
        "NA",
        "7.5",
        "1e3",
        "hot",
        "inf",
        "nan",
        "-4",
        "True",
        "no",
        "yes",
        "1",
        "0",
        "none",
    ]
)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.lists(CELLS, min_size=11, max_size=11), min_size=1, max_size=12))
def test_rows_are_refused_as_cases_are_in_the_same_words(rows: list[list[str]]) -> None:
    sample = opened("crack")
    fields = sample.document.fields
    table = pd.DataFrame(rows, columns=[field.name for field in fields])
    result, faults = answered(sample, as_csv(table), numbers="point")
    said: dict[int, set[str]] = {}
    for fault in faults:
        said.setdefault(fault["row"], set()).add(fault["message"])
    for at, row in enumerate(rows):
        entered = {field.name: _as_entered(field, text) for field, text in zip(fields, row, strict=True)}
        expected = _refusals(fields, entered)
        assert said.get(at + 1, set()) == expected
        assert bool(result[at + 1][result[0].index("answer")]) == (not expected)


def _refusals(fields: list[Any], entered: dict[str, Any]) -> set[str]:
    try:
        check_inputs(fields, entered)
    except InputFaults as error:
        return {fault.message for fault in error.faults}
    return set()


def _as_entered(field: Any, text: str) -> Any:
    """What a visitor would have entered for a cell."""
    if field.kind == "number":
        try:
            return None if text in ("", "NA", "nan") else float(text)
        except ValueError:
            return text
    if field.kind == "yes_no":
        words = {"True": True, "yes": True, "1": True, "0": False, "no": False}
        return None if text in ("", "NA", "nan") else words.get(text, float(text) if _is_number(text) else text)
    options = {str(option.value).casefold(): option.value for option in field.options}
    return options.get(text.casefold(), None if text in ("", "NA", "nan") else text)


def _is_number(text: str) -> bool:
    try:
        return np.isfinite(float(text)) or text == "inf"
    except ValueError:
        return False


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 2**32 - 1), st.floats(0, 3))
def test_many_rows_are_unlike_what_is_known_as_each_is_alone(seed: int, stretch: float) -> None:
    sample = opened("crack")
    rng = np.random.default_rng(seed)
    one, many = LikenessOfRows(sample.kept_rows, sample.facts), LikenessOfMany(sample.kept_rows, sample.facts)
    columns: dict[str, list[Any]] = {}
    for field in sample.document.fields:
        own = [sample.kept_rows.columns[field.name][at] for at in rng.integers(0, sample.kept_rows.n_rows, 30)]
        columns[field.name] = [value * stretch for value in own] if field.kind == "number" else own
    rows = [{name: values[at] for name, values in columns.items()} for at in range(30)]
    assert many.unlike(columns, 30).astype(bool).tolist() == [one.is_unlike(row) for row in rows]


def test_chunks_come_out_the_same_when_it_is_begun_in_the_middle(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("plain_window.core.batches.raw_chunks.CHUNK_ROWS", 10)
    monkeypatch.setattr("plain_window.core.batches.text_chunks.BLOCK_BYTES", 1500)
    sample = opened("firing")
    content = as_csv(sample.reference.head(200))
    whole, _ = answered(sample, content)
    assert len(whole) == 201
    for first in (1, 5, 12):
        rest, _ = answered(sample, content, first=first)
        assert rest[1:] == whole[-(len(rest) - 1) :]
        assert 1 < len(rest) < len(whole)


def test_lines_that_do_not_fit_the_header_are_filled_up_or_said_to_be_too_long() -> None:
    sample = opened("firing")
    lines = as_csv(sample.reference.head(4)).decode().splitlines()
    lines[2] += ",,"
    lines[3] += ",x"
    lines[4] = lines[4].rsplit(",", 1)[0]
    rows, faults = answered(sample, "\n".join(lines).encode())
    assert [len(row) for row in rows] == [len(rows[0])] * 5
    assert [fault["row"] for fault in faults] == [3]
    assert "12 values; the header has 11" in faults[0]["message"]
    answer = rows[0].index("answer")
    assert [bool(row[answer]) for row in rows[1:]] == [True, True, False, True]


def test_cells_with_line_ends_separators_and_marks_in_them_stay_as_they_are(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("plain_window.core.batches.text_chunks.BLOCK_BYTES", 200)
    sample = opened("firing")
    table = sample.reference.head(30).copy()
    table.insert(0, "said", [f'of "{at}"\nand, so\r\non' if at % 3 else f"piece {at}" for at in range(30)])
    rows, _ = answered(sample, as_csv(table))
    assert [row[0] for row in rows[1:]] == list(table["said"])


def test_columns_are_found_by_label_and_written_otherwise_and_units_are_reckoned() -> None:
    sample = opened("crack")
    table = sample.reference.head(20).rename(
        columns={"wall_mm": "Wall thickness (cm)", "clay_body": "CLAY body", "peak_temp": "Peak_Temp"}
    )
    table["Wall thickness (cm)"] /= 10
    _, look = looked(sample, as_csv(table))
    match = next(match for match in look.matches if match.field == "wall_mm")
    assert (match.how, match.unit, match.factor) == ("label", "cm", 10.0)
    assert any("multiplied by 10" in note for note in look.notes)
    plain, _ = answered(sample, as_csv(sample.reference.head(20)))
    other, _ = answered(sample, as_csv(table))
    at = plain[0].index("probability cracks")
    assert np.allclose([float(row[at]) for row in plain[1:]], [float(row[at]) for row in other[1:]])


@pytest.mark.parametrize("written", ["{:g} mm", "{:g}mm", "{:g}  mm "])
def test_a_unit_behind_a_number_is_no_part_of_it(written: str) -> None:
    sample = opened("crack")
    table = sample.reference.head(10)
    plain, _ = answered(sample, as_csv(table))
    rows, faults = answered(sample, as_csv(table.assign(wall_mm=[written.format(value) for value in table["wall_mm"]])))
    assert faults == []
    assert [row[-4:] for row in rows] == [row[-4:] for row in plain]


def test_a_cell_that_names_its_unit_is_in_it_whatever_the_heading_says() -> None:
    sample = opened("crack")
    table = sample.reference.head(3)
    mixed = table.rename(columns={"wall_mm": "Wall thickness (cm)"})
    walls = table["wall_mm"].tolist()
    mixed["Wall thickness (cm)"] = [f"{walls[0] / 10:g}", f"{walls[1]:g} mm", f"{walls[2] / 10:g} cm"]
    rows, faults = answered(sample, as_csv(mixed))
    plain, _ = answered(sample, as_csv(table))
    assert faults == []
    at = plain[0].index("probability cracks")
    assert np.allclose([float(row[at]) for row in rows[1:]], [float(row[at]) for row in plain[1:]])
    _, odd = answered(sample, as_csv(table.assign(wall_mm=["5 kg", "5", "5"])))
    assert [fault["row"] for fault in odd] == [1]


def test_what_the_model_itself_calls_a_column_is_taken_as_it_is() -> None:
    """Its numbers are those it was trained on, whatever unit its author has written beside the field."""
    sample = opened("firing")
    fields = [
        field.model_copy(update={"unit": "days"}) if field.name == "hold_minutes" else field
        for field in sample.document.fields
    ]
    (match,) = (one for one in match_columns(["hold_minutes"], fields, {}).matches)
    assert (match.how, match.factor) == ("name", 1.0)


def test_a_heading_in_a_unit_of_another_kind_is_not_taken_without_being_asked() -> None:
    sample = opened("crack")
    fields = [
        field.model_copy(update={"unit": "°C"}) if field.name == "peak_temp" else field
        for field in sample.document.fields
    ]
    found = match_columns(["Peak temp (°F)"], fields, {})
    assert "peak_temp" in found.missing
    assert found.alike["peak_temp"] == [0]
    assert match_columns(["Peak temp (°C)"], fields, {}).matches[0].field == "peak_temp"


def test_a_column_that_could_be_two_fields_and_two_that_could_be_one_are_nobodys() -> None:
    fields = [
        YesNoField(name=name, label=name, no=0, yes=1, default=False) for name in ("wall_mm", "wall_cm", "covered")
    ]
    found = match_columns(["Wall", "Covered", "covered_"], fields, {})
    assert found.matches == []
    assert found.missing == ["wall_mm", "wall_cm", "covered"]
    assert found.alike["covered"] == [1, 2]


def test_columns_with_cells_that_only_people_read_as_numbers_are_odd() -> None:
    """They are numbers to the model, and stay as they are written when the result becomes something else."""
    sample = opened("crack")
    table = sample.reference.head(4).astype({"peak_temp": object, "wall_mm": object})
    table["peak_temp"] = ["1240", "1,240", "1300", "1180"]
    table["wall_mm"] = ["7 mm", "7", "7", "7"]
    cases, look = looked(sample, as_csv(table), numbers="point")
    document = sample.document.model_dump_json().encode()
    cases.begin(Begin(size=1, name="The table", document=document, evidence=None, matches=look.matches))
    chunk = cases.next_chunk()
    assert not isinstance(chunk, Ended)
    reply = sample.asker.answer(AskChunk("m", chunk.columns, parts=sample.parts))
    assert isinstance(reply, ChunkDone)
    written = cases.write_chunk(WriteChunk(chunk.chunk, reply.outputs, reply.unlike))
    assert sorted(look.columns[at] for at in written.odd) == ["peak_temp", "wall_mm"]


def test_what_goes_wrong_and_is_not_the_models_doing_is_no_answer_of_its() -> None:
    sample = opened("firing")
    with pytest.raises(KeyError):
        sample.asker.answer(AskChunk("m", ChunkColumns(2, {}), parts=sample.parts))


def test_a_field_without_a_column_is_missing_and_what_may_be_meant_is_offered() -> None:
    sample = opened("crack")
    _, look = looked(sample, as_csv(sample.reference.head(5).rename(columns={"humidity": "humidty_studio"})))
    assert look.missing == ["humidity"]
    assert [look.columns[at] for at in look.alike["humidity"]] == ["humidty_studio"]
    _, told = looked(
        sample, as_csv(sample.reference.head(5).rename(columns={"humidity": "damp"})), told={"humidity": "damp"}
    )
    assert not told.missing
    assert next(match.how for match in told.matches if match.field == "humidity") == "hand"


def test_numbers_with_two_readings_are_asked_about() -> None:
    sample = opened("firing")
    table = sample.reference.head(5).copy()
    table["load_kg"] = ["1,250"] * 5
    _, look = looked(sample, as_csv(table))
    assert [(doubt.field, doubt.about, doubt.example) for doubt in look.doubtful] == [("load_kg", "numbers", "1,250")]
    _, told = looked(sample, as_csv(table), numbers="comma")
    assert not told.doubtful


RISKY = ["=1+1", "-3", "+x", "'=a", "''-b", "@", "\t=", "-1,5", "'"]
TEXTS = st.text(st.characters(codec="utf-8", exclude_characters="\x00"), max_size=8)


@given(
    st.lists(
        st.one_of(TEXTS, st.sampled_from(["=1+1", "-3", "+x", "'=a", "''-b", "@", "\t=", "-1,5", "'"])), min_size=1
    )
)
def test_a_guard_against_formulas_can_be_taken_off_again(texts: list[str]) -> None:
    column = pa.array(texts, pa.string())
    safe = guarded(column)
    assert unguarded(safe).to_pylist() == texts
    for text in safe.to_pylist():
        assert not text.startswith(("=", "@", "\t", "\r"))
        assert text[:1] not in "+-" or text[1:2].isdigit() or not text


@pytest.mark.parametrize("style", [Style(), Style(";", has_decimal_comma=True, has_mark=True)])
def test_a_result_becomes_parquet_and_a_spreadsheet_that_other_libraries_read(style: Style) -> None:
    point = "," if style.has_decimal_comma else "."
    lines = [f"a{style.separator}a{style.separator}'=x", f"01{style.separator}2{point}5{style.separator}'=1+1"]
    lines += [f"x & <y>{style.separator}{style.separator}"]
    content = (b"\xef\xbb\xbf" if style.has_mark else b"") + "\n".join(lines).encode() + b"\n"
    types = ["string", "double", "string"]
    made = b"".join(convert_result(io.BytesIO(content), to="parquet", types=types, style=style))
    table = parquet.read_table(io.BytesIO(made))
    assert table.column_names == ["a", "a (2)", "=x"]
    assert [column.to_pylist() for column in table.columns] == [["01", "x & <y>"], [2.5, None], ["=1+1", ""]]
    made = b"".join(convert_result(io.BytesIO(content), to="xlsx", types=types, style=style))
    rows = list(openpyxl.load_workbook(io.BytesIO(made)).active.iter_rows(values_only=True))
    assert rows == [("a", "a", "=x"), ("01", 2.5, "=1+1"), ("x & <y>", None, None)]
    sheet = openpyxl.load_workbook(io.BytesIO(made)).active
    assert sheet is not None
    assert sheet["C2"].data_type == "s"


def _zip_bomb() -> bytes:
    import zipfile

    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as book:
        book.writestr("xl/workbook.xml", b"")
        with book.open("xl/worksheets/sheet1.xml", "w", force_zip64=True) as sheet:
            for _ in range(2100):
                sheet.write(bytes(1 << 20))
    return file.getvalue()


BAD = {
    "empty": (b"", "is empty"),
    "no table": (b"\x89PNG\r\n\x1a\n" + bytes(100), "is a picture"),
    "JSON": (b'[{"a": 1}]', "is JSON"),
    "old spreadsheet": (b"\xd0\xcf\x11\xe0" + bytes(600), "old Excel"),
    "locked": (b"\xd0\xcf\x11\xe0" + bytes(600) + "EncryptedPackage".encode("utf-16-le"), "locked with a password"),
    "cut Parquet": (as_parquet(pd.DataFrame({"a": range(100)}))[:-20], "could not be read"),
    "a zip": (b"PK\x03\x04" + bytes(60), "cut off or damaged"),
    "header only": (b"kiln,load_kg\n", "has no rows"),
    "never closed": (b'a,b\n1,"' + b"x" * 200 + b"\n2,3\n", "never closed"),
}


@pytest.mark.parametrize("name", BAD)
def test_what_is_no_table_is_said_to_be_what_it_is(name: str) -> None:
    content, words = BAD[name]
    with pytest.raises(TableNotRead, match=words):
        looked(opened("firing"), content)


def test_a_sheet_that_unpacks_to_gigabytes_is_not_unpacked() -> None:
    with pytest.raises(TableNotRead, match="unpacks to more than"):
        open_chunks(io.BytesIO(_zip_bomb()), name="The table")


def test_a_column_of_a_name_twice_is_refused_only_where_it_is_meant() -> None:
    sample = opened("firing")
    table = sample.reference.head(3)
    twice = pd.concat([table, table[["kwh"]]], axis=1)
    rows, _ = answered(sample, as_csv(twice))
    assert len(rows) == 4
    with pytest.raises(TableNotRead, match="two columns called `load_kg`"):
        looked(sample, as_csv(pd.concat([table, table[["load_kg"]]], axis=1)))


def test_a_worker_that_does_not_have_the_model_asks_for_it() -> None:
    sample = opened("firing")
    cases, look = looked(sample, as_csv(sample.reference.head(3)))
    document = sample.document.model_dump_json().encode()
    cases.begin(Begin(size=1, name="The table", document=document, evidence=None, matches=look.matches))
    chunk = cases.next_chunk()
    assert not isinstance(chunk, Ended)
    asker = ChunkAsker()
    assert isinstance(asker.answer(AskChunk("m", chunk.columns)), ModelWanted)
    with_strongest = asker.answer(AskChunk("m", chunk.columns, parts=sample.parts, n_strongest=2))
    assert isinstance(with_strongest, ChunkDone)
    assert len(with_strongest.strongest) == 3
    for first, second in with_strongest.strongest:
        assert abs(first[1]) >= abs(second[1]) > 0
