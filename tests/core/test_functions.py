"""Functions as models: read without being run, asked case by case or many at once, explained like any model."""

import io
import sys
import zipfile
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
import pandas as pd
import pytest

from plain_window.core.contract.jobs import OpenFile
from plain_window.core.contract.replies import PredictReply, WrittenReply
from plain_window.core.contract.requests import ExplainRequest, PredictRequest, WriteRequest
from plain_window.core.errors import MismatchFaults, ModelNotOpened, PlainWindowError
from plain_window.core.fields.kinds import ChoiceField, NumberField, YesNoField
from plain_window.core.formats.python.archive import unpacked_bytes
from plain_window.core.formats.python.signature import read_signature
from plain_window.core.intake.opening import take_in
from plain_window.core.intake.reopening import Intake, reopen

HEAD = """import datetime as dt
import enum
from typing import Annotated, Literal, NamedTuple, TypedDict

import numpy as np
import pandas as pd
from annotated_types import Ge, Interval
from PIL import Image

"""


@pytest.fixture(autouse=True)
def nothing_of_it_stays(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """A file is run in the folder it lies in, which a runner keeps to itself."""
    monkeypatch.chdir("/")
    monkeypatch.setattr(sys, "path", [*sys.path])
    yield
    sys.modules.pop("function", None)


def opened(
    source: str, table: pd.DataFrame | None = None, beside: dict[str, bytes] | None = None, **told: Any
) -> Intake:
    files = {"model": io.BytesIO((HEAD + source).encode())}
    if table is not None:
        files["reference"] = io.BytesIO(table.to_csv(index=False).encode())
    if beside is not None:
        files["beside"] = io.BytesIO(zipped(beside))
    return take_in(files, OpenFile(**told))


def zipped(contents: dict[str, bytes]) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in contents.items():
            archive.writestr(name, content)
    return packed.getvalue()


def outputs(found: Intake, *rows: dict[str, Any]) -> list[list[float]]:
    """What its service says of some rows, as it is opened again from what was found."""
    again = Intake(found.model, found.inspection, found.kept_rows)
    (reply,) = again.service(background_rows=50).predict([PredictRequest(list(rows))])
    assert isinstance(reply, PredictReply), reply
    return [list(row) for row in reply.outputs.rows()]


# --- read without being run ----------------------------------------------------------------------------------------


def test_fields_come_from_the_signature_and_the_docstring_without_running_the_file():
    source = (
        HEAD
        + '''
raise RuntimeError("this file is never run here")

LOW = 900


class Clay(enum.Enum):
    STONE = "stoneware"
    EARTH = "earthenware"


Peak = Annotated[float, (LOW, LOW + 400, 5), "°C"]


def cracks(
    peak: Peak,
    clay: Clay = Clay.EARTH,
    days: Annotated[int, Ge(0)] = 3,
    handle: bool = True,
    opened: dt.date | None = None,
    note: str = "",
) -> Annotated[float, "%"]:
    """Will it crack?

    Args:
        peak: How hot it gets.
    """
'''
    )
    found = read_signature(source.encode())
    takes = {one.name: one.takes for one in found.parameters}
    assert (takes["peak"].low, takes["peak"].high, takes["peak"].step) == (900, 1300, 5)
    assert (takes["peak"].unit, takes["peak"].help) == ("°C", "How hot it gets.")
    assert takes["clay"].options == ("stoneware", "earthenware")
    assert found.parameter("clay").default == "earthenware"
    assert (takes["days"].kind, takes["days"].whole, takes["days"].low) == ("number", True, 0)
    assert [takes[name].kind for name in ("handle", "opened", "note")] == ["yes_no", "date", "text"]
    assert takes["opened"].optional
    assert (found.returned.shape, found.returned.units, found.doc.title) == ("number", ("%",), "Will it crack?")


@pytest.mark.parametrize(
    ("source", "message"),
    [
        ("def a(x: float): ...\ndef b(x: float): ...", "has 2 public functions: `a` and `b`"),
        ("def _a(x: float): ...", "no public function: the name of `_a` begins with an underscore"),
        ("answer = lambda x: x", "`answer` is a lambda, which has no hints"),
        ("class Kiln:\n    def predict(self, x: float): ...", "only a class, `Kiln`, with `predict`"),
        ("!pip install pots\ndef a(x: float): ...", "`!pip install pots`, is a notebook's command"),
        ("def a(*xs): ...", "takes `*xs`, which names no fields"),
        ("def a(x: float, **more): ...", "takes `**more`"),
        ("def a(): ...", "takes nothing"),
        ("async def a(x: float): ...", "is asynchronous"),
        ("def a(x: float):\n    yield x", "yields its answer in pieces"),
        ("def a(x: dict[str, int]): ...", "The hint of `x`, `dict[str, int]`, says of no field what it is"),
        ("def a(x: float, rows: list[float]): ...", "takes a list (`rows`) beside single values"),
        ("def a(df: pd.DataFrame, x: float): ...", "takes a whole table (`df`) and more beside it"),
        ("def a(x: float:\n    return x", "line 10: "),
    ],
)
def test_a_signature_of_which_nothing_can_be_asked_is_refused_in_a_sentence(source: str, message: str):
    with pytest.raises((ModelNotOpened, MismatchFaults)) as refused:
        read_signature((HEAD + source).encode())
    assert message in str(refused.value)


def test_the_line_that_cannot_be_read_is_shown_with_those_around_it():
    with pytest.raises(ModelNotOpened) as refused:
        read_signature(b"import os\ndef a(x: float:\n    return x\n")
    assert refused.value.traceback.split("\n")[1] == "> 2  def a(x: float:"


def test_of_several_functions_the_one_that_is_named_answers_and_main_is_none():
    two = "def a(x: float): return 1.0\ndef b(x: float): return 2.0\ndef main(): a(1)"
    assert read_signature(two.encode(), "b").function == "b"
    assert read_signature(b"def a(x: float): return 1.0\ndef main(): a(1)").function == "a"


def test_names_that_lead_to_one_another_in_a_ring_end():
    with pytest.raises(ModelNotOpened):
        read_signature((HEAD + "A = B\nB = A\ndef f(x: A): ...").encode())


# --- what it answers ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("source", "kind", "names", "row", "expected"),
    [
        ("def f(x: float) -> float: return 2 * x", "number", None, {"x": 3.0}, [6]),
        ("def f(x: float): return x > 2", "class", ["no", "yes"], {"x": 3.0}, [0, 1]),
        (
            "def f(x: float) -> Literal['sound', 'cracks']: return 'cracks' if x > 2 else 'sound'",
            "class",
            ["sound", "cracks"],
            {"x": 3.0},
            [0, 1],
        ),
        (
            "def f(x: float) -> dict[Literal['a', 'b'], float]: return {'b': 0.75, 'a': 0.25}",
            "class",
            ["a", "b"],
            {"x": 3.0},
            [0.25, 0.75],
        ),
        ("def f(x: float): return {'dry': x > 2, 'cold': x < 2}", "labels", ["dry", "cold"], {"x": 3.0}, [1, 0]),
        ("def f(x: float): return {'dry': 0.9, 'cold': 0.8}", "labels", ["dry", "cold"], {"x": 3.0}, [0.9, 0.8]),
        (
            "def f(x: float) -> list[Literal['dry', 'cold']]: return ['cold'] if x > 2 else []",
            "labels",
            ["dry", "cold"],
            {"x": 3.0},
            [0, 1],
        ),
        ("def f(x: float): return {'h': x, 'kWh': 9 * x}", "numbers", None, {"x": 3.0}, [3, 27]),
        (
            "class Out(NamedTuple):\n    hours: float\n    cost: float\ndef f(x: float) -> Out: return Out(x, 2 * x)",
            "numbers",
            None,
            {"x": 3.0},
            [3, 6],
        ),
        ("def f(x: float): return np.array([0.2, 0.3, 0.5])", "class", ["0", "1", "2"], {"x": 3.0}, [0.2, 0.3, 0.5]),
    ],
)
def test_the_answer_is_what_is_returned_and_annotated(source, kind, names, row, expected):
    found = opened(source)
    assert (found.inspection.answer.kind, found.inspection.found.classes) == (kind, names)
    assert outputs(found, row) == [pytest.approx(expected)]


def test_a_value_comes_as_what_the_hint_says():
    source = """
class Clay(enum.Enum):
    STONE = "stoneware"
    EARTH = "earthenware"

def f(clay: Clay, days: int, day: dt.date, handle: bool, left: float | None = None) -> float:
    assert isinstance(clay, Clay) and isinstance(days, int) and type(day) is dt.date and type(handle) is bool
    return days + day.year + handle + (left or 0)
"""
    found = opened(source)
    row = {"clay": "stoneware", "days": 3.0, "day": 20513.0, "handle": True, "left": None}
    assert outputs(found, row) == [[3 + 2026 + 1]]
    fields = {field.name: field for field in found.inspection.fields}
    assert fields["day"].calendar == "days"
    assert (fields["days"].whole, fields["left"].optional, fields["handle"].kind) == (True, True, "yes_no")


@pytest.mark.parametrize(
    "class_",
    [
        "@dataclasses.dataclass\nclass Case:",
        "class Case(NamedTuple):",
        "class Case(pydantic.BaseModel):",
        "class Case(TypedDict):",
    ],
)
def test_a_whole_case_may_come_as_one_object(class_: str):
    is_dict = "TypedDict" in class_
    default, read = ("", "case['days'], case['clay']") if is_dict else (" = 3", "case.days, case.clay")
    source = f'''
import dataclasses, pydantic

{class_}
    """A pot.

    Attributes
    ----------
    days : int
        Of drying.
    """

    clay: Literal["stoneware", "porcelain"]
    days: Annotated[int, range(0, 15)]{default}

def dryness(case: Case) -> float:
    days, clay = {read}
    return days * (2 if clay == "porcelain" else 1)
'''
    found = opened(source)
    clay, days = found.inspection.fields
    assert ([option.value for option in clay.options], days.whole) == (["stoneware", "porcelain"], True)
    assert (days.help, days.maximum, days.default) == ("Of drying.", 14, 7 if is_dict else 3)
    assert outputs(found, {"clay": "porcelain", "days": 4.0}) == [[8.0]]


def test_where_a_whole_number_is_needed_the_runner_suggests_the_one_that_the_page_does():
    found = opened("def f(days: int = 3) -> float: return days * 2.0")
    (refused,) = found.service(background_rows=50).predict([PredictRequest([{"days": 2.5}])])
    assert "You gave 2.5. Try 3." in str(refused)


def test_rounded_probabilities_are_made_to_add_up_and_others_are_told_as_no_probabilities():
    rounded = opened("def f(x: float): return {'a': 0.33, 'b': 0.33, 'c': 0.33}")
    assert outputs(rounded, {"x": 1.0}) == [pytest.approx([1 / 3] * 3)]
    off = opened("def f(x: Annotated[float, (0, 1)]): return {'a': 0.5, 'b': 0.5 if x <= 1 else 0.9}")
    (reply,) = off.service(background_rows=50).predict([PredictRequest([{"x": 2.0}])])
    assert "add up to 1.4, not to 1" in reply.message


@pytest.mark.parametrize(
    ("source", "message"),
    [
        ("def f(x: float): x + 1", "returned nothing (`None`)"),
        ("def f(x: float): return float('nan')", "answered nan to all it was tried with"),
        ("def f(x: float): return object()", "an object of the type `object`"),
        ("def f(x: float): return [0.1] * 100_000", "100000 values; nobody reads so many"),
        ("def f(x): return x", "Nothing says what `x` of `f` may be"),
        ("def f(df: pd.DataFrame): return df.sum(axis=1)", "says nothing of its columns"),
        ("import a_package_that_is_not_there\ndef f(x: float): return x", "which is not installed here"),
        ("def f(x: float): raise SystemExit(3)", "ended the program"),
        ("def f(x: float): return open('weights.npy').read()", "there is no file `weights.npy` in here"),
    ],
)
def test_what_cannot_be_asked_or_shown_is_a_sentence(source: str, message: str):
    with pytest.raises(PlainWindowError) as refused:
        opened(source)
    assert message in str(refused.value)


def test_a_failure_names_the_line_and_what_it_was_called_with():
    with pytest.raises(ModelNotOpened) as refused:
        opened("W = {}\ndef f(x: Annotated[float, (0, 10)]):\n    y = 2 * x\n    return W[y]")
    assert "KeyError: 10.0 (line 13)" in str(refused.value)
    shown = refused.value.traceback
    assert "It was called with\n  x = 5.0" in shown
    assert "> 13      return W[y]" in shown
    assert str(sys.prefix) not in shown


# --- texts and tables ------------------------------------------------------------------------------------------------


def written(found: Intake, row: dict[str, Any]) -> WrittenReply:
    reply = found.service(background_rows=50).answer(WriteRequest(row))
    assert isinstance(reply, WrittenReply), reply
    return reply


def test_a_text_is_an_answer_and_with_names_of_classes_it_is_one_of_them():
    source = (
        "def f(days: Annotated[float, (0, 9)]) -> Annotated[str, 'What to do']: return 'dry' if days > 5 else 'wait'"
    )
    found = opened(source)
    assert (found.inspection.answer.kind, found.inspection.answer.name) == ("text", "What to do")
    assert written(found, {"days": 7.0}).text == "dry"
    (refused,) = found.service(background_rows=50).predict([PredictRequest([{"days": 7.0}])])
    assert "answers with a text, which is no number" in refused.message
    assert opened(source, labels=["dry", "wait"]).inspection.answer.kind == "class"
    again = reopen({"model": io.BytesIO((HEAD + source).encode())}, found.inspection.model_dump_json().encode(), None)
    assert written(again, {"days": 1.0}).text == "wait"


@pytest.mark.parametrize(
    "returns",
    [
        "pd.DataFrame({'pot': ['bowl', 'mug'], 'left': [days, float('nan')], 'on': [dt.date(2026, 3, 1), None]})",
        "[{'pot': 'bowl', 'left': days, 'on': dt.date(2026, 3, 1)}, {'pot': 'mug', 'left': None}]",
        "{'pot': ['bowl', 'mug'], 'left': np.array([days, np.nan]), 'on': [dt.date(2026, 3, 1), None]}",
    ],
)
def test_a_table_comes_as_one_as_rows_or_as_columns(returns: str):
    found = opened(f"def f(days: float = 3) -> pd.DataFrame: return {returns}")
    assert found.inspection.answer.kind == "table"
    reply = written(found, {"days": 2.5})
    assert (reply.columns, reply.rows) == (["pot", "left", "on"], [["bowl", 2.5, "2026-03-01"], ["mug", None, None]])


def test_what_is_longer_than_anybody_reads_is_cut_and_said():
    found = opened("def f(n: Annotated[int, range(1, 9)]): return [{'at': at} for at in range(n * 1000)]")
    assert (len(written(found, {"n": 1}).rows), written(found, {"n": 1}).is_cut) == (1000, False)
    assert (len(written(found, {"n": 2}).rows), written(found, {"n": 2}).is_cut) == (1000, True)
    text = opened("def f(n: Annotated[int, range(1, 9)]): return 'x' * 30_000 * n")
    assert (len(written(text, {"n": 2}).text), written(text, {"n": 2}).is_cut) == (50_000, True)
    long = opened("def f(n: Annotated[int, range(1, 9)]): return [{'k' * 300: 'x' * 499 * n}]")
    (name,), ((whole,),) = written(long, {"n": 1}).columns, written(long, {"n": 1}).rows
    assert (len(name), name[-1], whole) == (200, "…", "x" * 499)
    assert written(long, {"n": 2}).rows == [["x" * 499 + "…"]]


def test_a_function_of_pictures_may_write_as_well():
    found = opened("def f(tile: Image.Image, greet: str = 'a tile') -> str: return f'{greet} of {tile.size}'")
    assert (found.inspection.answer.kind, [one.kind for one in found.inspection.fields]) == (
        "text",
        ["picture", "text"],
    )
    picture = {"tile": [spots().astype("float32")]}
    assert found.model.write(picture, pd.DataFrame({"greet": ["one"]})).text == "one of (120, 80)"


# --- with a table, files beside it, many cases at once ----------------------------------------------------------


def firings() -> pd.DataFrame:
    rng = np.random.default_rng(3)
    table = pd.DataFrame({"days": rng.uniform(0, 10, 120).round(1), "clay": rng.choice(["a", "b", "c"], 120)})
    return table.assign(no=range(120), hours=table["days"] * 2 + (table["clay"] == "a"))


def test_with_a_reference_table_it_is_explained_like_any_model():
    found = opened("def f(days: float, clay: str) -> float: return 2 * days + (clay == 'a')", firings(), target="hours")
    days, clay = found.inspection.fields
    assert isinstance(days, NumberField)
    assert isinstance(clay, ChoiceField)
    assert days.seen.source == "table"
    assert found.inspection.ignored == ["no"]
    reply = found.service(background_rows=100).answer(
        ExplainRequest({"days": 4.0, "clay": "a"}, explanation=True, curves=True)
    )
    told = reply.explanation.contributions
    # Closed form: what is added up is explained by itself.
    kept = found.kept_rows.first(100)
    assert told["days"] == pytest.approx(8 - 2 * np.mean(kept["days"]))
    assert told["clay"] == pytest.approx(1 - np.mean([one == "a" for one in kept["clay"]]))


@pytest.mark.parametrize(
    "batch",
    [
        "def many(days: np.ndarray, clay: list[str]): return 2 * days + (np.array(clay) == 'a')",
        "def many(df: pd.DataFrame): return 2 * df['days'] + (df['clay'] == 'a')",
        "def many(days: list[float], clay: list[str]): return [2 * d + (c == 'a') for d, c in zip(days, clay)]",
    ],
)
def test_a_second_function_of_columns_or_tables_is_asked_where_many_are(batch: str):
    calls = "N = {'one': 0, 'many': 0}\n"
    one = "def f(days: float, clay: str) -> float:\n    N['one'] += 1\n    return 2 * days + (clay == 'a')\n"
    found = opened(calls + one + batch, firings())
    counted = sys.modules["function"].N
    before = dict(counted)
    rows = [{"days": float(at), "clay": "abc"[at % 3]} for at in range(40)]
    assert outputs(found, *rows) == [[2.0 * at + (at % 3 == 0)] for at in range(40)]
    # The sample of explanations is asked about one row, twice.
    assert counted["one"] - before["one"] <= 2


def test_a_batch_that_says_something_else_is_told():
    one = "def f(days: float, clay: str) -> float: return 2 * days\n"
    with pytest.raises(MismatchFaults, match="`many` answers otherwise than `f`"):
        opened(one + "def many(days: np.ndarray, clay: np.ndarray): return 2 * days + 1", firings())


def test_of_a_function_of_tables_the_columns_it_reads_become_fields():
    found = opened("def f(df: pd.DataFrame): return 2 * df['days'] + (df['clay'] == 'a')", firings(), target="hours")
    assert [field.name for field in found.inspection.fields] == ["days", "clay"]
    assert outputs(found, {"days": 4.0, "clay": "a"}) == [[9.0]]


def test_what_lies_beside_it_is_found_from_where_it_runs():
    weights = io.BytesIO()
    np.save(weights, np.arange(4.0))
    source = "from helper import twice\nW = np.load('w.npy')\ndef f(x: float) -> float: return twice(x * W.sum())"
    for folder in ("", "model/"):
        beside = {f"{folder}w.npy": weights.getvalue(), f"{folder}helper.py": b"def twice(x): return 2 * x"}
        found = opened(source, beside={**beside, "__MACOSX/._w.npy": b"x"})
        assert outputs(found, {"x": 0.5}) == [[6.0]]
        sys.modules.pop("helper", None)


def test_an_archive_decides_nothing_about_places_outside_its_folder():
    source = (
        "import pathlib\nFOUND = {str(one) for one in pathlib.Path('.').rglob('*.txt')}\n"
        "def f(x: float) -> float: return float(FOUND == {'escaped.txt', 'etc/escaped.txt'})"
    )
    found = opened(source, beside={"../../escaped.txt": b"x", "/etc/escaped.txt": b"x"})
    assert outputs(found, {"x": 0.5}) == [[1.0]]


def test_without_a_table_nothing_is_said_of_what_is_usual():
    found = opened(
        "def f(x: Annotated[float, (0, 10)], y: float, clay: Literal['a', 'b'] = 'a') -> float: return x + y"
    )
    x, y, clay = found.inspection.fields
    assert (x.seen.source, y.seen.source, x.seen.counts) == ("function", "none", [])
    assert [option.count for option in clay.options] == [0, 0]
    assert found.inspection.n_reference_rows == 0
    assert "Nothing says from where to where Y may go" in " ".join(found.inspection.notes)
    reply = found.service(background_rows=50).answer(
        ExplainRequest({"x": 1.0, "y": 2.0, "clay": "a"}, explanation=True, curves=True)
    )
    assert (reply.missing, reply.explanation) == ("no-reference-rows", None)
    # What would be answered elsewhere needs no table.
    assert reply.curves["x"].y == pytest.approx([x + 2.0 for x in reply.curves["x"].x])
    assert (min(reply.curves["x"].x), max(reply.curves["x"].x)) == (0, 10)


def test_a_curve_over_whole_numbers_goes_from_one_to_the_next():
    found = opened("def f(pots: Annotated[int, range(1, 9)]) -> float: return pots * pots")
    curve = found.service(background_rows=50).answer(ExplainRequest({"pots": 3.0}, curves=True)).curves["pots"]
    assert (list(curve.x), list(curve.y)) == (list(range(1, 9)), [x * x for x in range(1, 9)])


def test_where_it_fails_for_a_value_the_case_is_answered_and_that_curve_left_out():
    source = "def f(x: float, clay: Literal['a', 'b', 'c'] = 'a') -> float: return x + {'a': 1, 'b': 2}[clay]"
    table = firings().rename(columns={"days": "x"}).query("clay != 'c'")
    found = opened(source, table[["x", "clay"]])
    reply = found.service(background_rows=50).answer(
        ExplainRequest({"x": 1.0, "clay": "a"}, explanation=True, curves=True)
    )
    assert (list(reply.outputs), list(reply.curves)) == ([2.0], ["x"])
    assert reply.explanation.contributions["clay"] < 0


def test_only_what_the_code_never_reads_is_said_not_to_matter():
    table = pd.DataFrame({"x": np.linspace(0, 1, 60), "rare": np.linspace(0, 1, 60), "dead": np.linspace(0, 1, 60)})
    found = opened("def f(x: float, rare: float, dead: float) -> float: return x + (rare if x > 5 else 0)", table)
    assert found.inspection.unused == ["dead"]


def test_of_a_function_of_tables_what_it_fails_for_is_passed_over_too():
    source = "def f(df: pd.DataFrame): return df['x'] + df['clay'].map(lambda one: {'a': 1, 'b': 2}[one])"
    table = firings().rename(columns={"days": "x"})
    found = opened(source, table[["x", "clay"]])
    assert "the function failed for" in " ".join(found.inspection.notes)
    reply = found.service(background_rows=50).answer(
        ExplainRequest({"x": 1.0, "clay": "a"}, explanation=True, curves=True)
    )
    assert list(reply.outputs) == [2.0]
    assert reply.explanation.contributions["clay"] < 0


def test_a_slow_function_is_asked_about_some_of_many_known_cases_and_that_is_said(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("plain_window.core.intake.function_learning.KNOWN_SECONDS", 0.2)
    known = pd.DataFrame({"x": np.linspace(0, 1, 400), "y": np.linspace(0, 1, 400)})
    files = {
        "model": io.BytesIO(
            (HEAD + "import time\ndef f(x: float) -> float:\n    time.sleep(0.004)\n    return x").encode()
        ),
        "known": io.BytesIO(known.to_csv(index=False).encode()),
    }
    found = take_in(files, OpenFile(target="y"))
    assert 10 <= found.inspection.evidence.n_known < 60
    assert "of 400 known cases, drawn by chance, were asked about" in " ".join(found.inspection.notes)


def test_what_its_first_call_loads_does_not_make_a_function_slow(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("plain_window.core.intake.function_learning.KNOWN_SECONDS", 20.0)
    known = pd.DataFrame({"x": np.linspace(0, 1, 400), "y": np.linspace(0, 1, 400)})
    source = "import functools, time\n@functools.cache\ndef _weights(): time.sleep(0.5)\n"
    source += "def f(x: float) -> float:\n    _weights()\n    return x"
    files = {"model": io.BytesIO((HEAD + source).encode()), "known": io.BytesIO(known.to_csv(index=False).encode())}
    found = take_in(files, OpenFile(target="y"))
    assert found.inspection.evidence.n_known == 400
    assert "were asked about" not in " ".join(found.inspection.notes)


def test_an_archive_of_very_many_files_is_refused_before_its_list_is_read(tmp_path):
    path = tmp_path / "many.zip"
    path.write_bytes(zipped({f"{at:0200}": b"" for at in range(9000)}))
    with pytest.raises(MismatchFaults, match="more files than a function reads"):
        unpacked_bytes(path, 1 << 30)
    path.write_bytes(zipped({"a": b"x" * 5000}))
    assert unpacked_bytes(path, 1 << 30) == 5000
    with pytest.raises(MismatchFaults, match="the limit is 0 MB"):
        unpacked_bytes(path, 4000)


def damaged(packed: bytes) -> bytes:
    return packed[:300] + bytes(40) + packed[340:]


def packed_otherwise(packed: bytes) -> bytes:
    """With the way of packing that some systems use for large files."""
    at = packed.index(b"PK\x01\x02") + 10
    return packed[:8] + b"\x09" + packed[9:at] + b"\x09" + packed[at + 1 :]


@pytest.mark.parametrize(
    ("spoilt", "message"),
    [
        (damaged(zipped({"notes": " ".join(map(str, np.random.default_rng(0).random(3000))).encode()})), "damaged"),
        (packed_otherwise(zipped({"notes": b"x" * 500})), "not read here; use the usual one, deflate"),
        (zipped({"clay": b"a", "clay/b": b"b"}), "a name in it cannot be used here"),
    ],
)
def test_what_cannot_be_unpacked_says_why(spoilt: bytes, message: str):
    with pytest.raises(MismatchFaults, match=message):
        take_in({"model": io.BytesIO(b"def f(x: float) -> float: return x"), "beside": io.BytesIO(spoilt)}, OpenFile())


def test_it_is_opened_again_as_it_was_found():
    source = "def a(x: float) -> float: return x\ndef b(x: bool) -> dict[str, float]: return {'p': 0.4, 'q': 0.6}"
    first = opened(source, function_name="b")
    assert isinstance(first.inspection.fields[0], YesNoField)
    again = reopen(
        {"model": io.BytesIO((HEAD + source).encode())}, first.inspection.model_dump_json().encode(), None, "b"
    )
    assert outputs(again, {"x": True}) == [[0.4, 0.6]]


# --- pictures ----------------------------------------------------------------------------------------------------


def spots() -> np.ndarray:
    picture = np.full((80, 120, 3), 230, dtype="uint8")
    picture[10:30, 20:60] = 20
    picture[50:70, 80:110] = 40
    return picture


def _told(source: str, **told: Any) -> Callable[[dict[str, Any]], dict[str, np.ndarray]]:
    found = opened(source, **told)
    pictures = {one.name: [spots().astype("float32")] for one in found.model.pictures}

    def ask(beside: dict[str, Any]) -> dict[str, np.ndarray]:
        return found.model.outputs(pictures, pd.DataFrame([beside]) if beside else None)

    return ask


FIND = """
from scipy import ndimage

def find(tile: np.ndarray, darkness: Annotated[int, range(256)] = 100){returns}:
    assert tile.dtype == np.uint8 and tile.ndim == 3
    slices = ndimage.find_objects(ndimage.label(tile.mean(axis=2) < darkness)[0])
    return [{box} for y, x in slices]
"""


@pytest.mark.parametrize(
    "box",
    [
        "dict(left=x.start, top=y.start, right=x.stop, bottom=y.stop, label='spot', score=0.8)",
        "dict(x=x.start, y=y.start, width=x.stop - x.start, height=y.stop - y.start, label='spot', score=0.8)",
    ],
)
def test_boxes_come_as_mappings_and_a_slider_may_stand_beside_the_picture(box: str):
    ask = _told(FIND.format(box=box, returns=""), labels=["spot"])
    found = ask({"darkness": 100})
    assert found["boxes"].tolist() == [[20, 10, 60, 30], [80, 50, 110, 70]]
    assert found["scores"].tolist() == [0.8, 0.8]
    assert len(ask({"darkness": 30})["boxes"]) == 1


def test_masks_and_pictures_are_told_apart_by_what_comes_back():
    mask = opened("def f(tile: np.ndarray): return tile.mean(axis=2) < 100", labels=["nothing", "spot"])
    assert (mask.inspection.answer.kind, mask.inspection.answer.nothing) == ("mask", "nothing")
    made = opened("def f(raw: Image.Image) -> Image.Image: return Image.fromarray(255 - np.asarray(raw))")
    assert made.inspection.answer.kind == "picture"
    np.testing.assert_array_equal(
        made.model.outputs({"raw": [spots().astype("float32")]}, None)["picture"], 255 - spots()
    )


def test_a_box_of_something_that_was_not_said_to_be_found_is_told():
    box = "dict(x=1, y=2, width=3, height=4, label='odd')"
    with pytest.raises(MismatchFaults, match="found `odd`, which is none of what it is said to find: `spot`"):
        opened(FIND.format(box=box, returns=""), labels=["spot"])
