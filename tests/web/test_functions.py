"""Functions as models, through the API: brought, asked, failing, replaced, taken along."""

import base64
import io
from collections.abc import Iterator
from typing import Any

import httpx
import numpy as np
import pandas as pd
import pytest
from PIL import Image

from plain_window.samples import SAMPLES

from ..core.test_functions import zipped
from ..detectors import as_bytes
from ..studio import Studio, wait_for
from .helpers import bring, fields_at_fault, problem
from .tables import as_csv, ended, result, send

DIARY = pd.DataFrame({"days": np.linspace(0, 14, 90).round(1), "clay": (["stoneware", "porcelain", "raku"] * 30)})
SOURCE = '''"""How dry is it?"""
import json
from typing import Annotated, Literal

FACTORS = json.load(open("factors.json"))


def dryness(
    days: Annotated[float, (0, 14), "days"], clay: Literal["stoneware", "porcelain", "raku"]
) -> Annotated[float, "%"]:
    """How dry is it?"""
    factor = FACTORS[clay]
    return 100 * days / 14 * factor
'''
FACTORS = {"factors.json": b'{"stoneware": 1.0, "porcelain": 0.5}'}


def bring_function(author: httpx.Client, source: str, **parts: Any) -> httpx.Response:
    files = {"function": ("predict.py", source.encode())}
    files |= {name: (name, parts.pop(name)) for name in ("beside", "reference", "known") if name in parts}
    return author.post("/api/v1/demos", files=files, data=parts)


@pytest.fixture(scope="module")
def dryness(studio: Studio, key: str) -> Iterator[str]:
    """A published function that fails for one of its options."""
    with studio.client(key=key) as author:
        made = bring_function(author, SOURCE, beside=zipped(FACTORS), reference=as_csv(DIARY[DIARY.clay != "raku"]))
        assert made.status_code == 201, made.text
        slug = made.json()["slug"]
        released = author.post(f"/api/v1/demos/{slug}/releases", json={})
        assert released.status_code in (201, 409), released.text
        if released.status_code == 409:
            despite = {one["field"]: "tried by hand" for one in released.json()["errors"]}
            author.post(f"/api/v1/demos/{slug}/releases", json={"despite": despite}).raise_for_status()
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
        yield slug
        author.delete(f"/api/v1/demos/{slug}")


def _asked(client: httpx.Client, slug: str, inputs: dict[str, Any], query: str = "") -> httpx.Response:
    return client.post(f"/api/v1/demos/{slug}/predictions{query}", json={"inputs": inputs})


def test_its_page_is_made_of_signature_docstring_and_table(author: httpx.Client, dryness: str):
    state = author.get(f"/api/v1/demos/{dryness}").json()
    assert (state["title"], state["found"]["format"], state["has_beside"]) == ("How dry is it?", "python", True)
    days, clay = state["fields"]
    assert (days["unit"], days["minimum"], days["maximum"], days["seen"]["source"]) == ("days", 0, 14, "table")
    assert [(one["value"], one["count"]) for one in clay["options"]] == [
        ("stoneware", 30),
        ("porcelain", 30),
        ("raku", 0),
    ]
    assert (state["answer"]["kind"], state["answer"]["unit"]) == ("number", "%")


def test_what_it_fails_for_in_its_own_ranges_is_said(author: httpx.Client, dryness: str):
    made = bring_function(author, SOURCE, beside=zipped(FACTORS)).json()
    (note,) = made["notes"]
    assert note.startswith(
        "Of 60 cases in the ranges that its signature states the function failed for 19, first for days"
    )
    assert note.endswith("clay raku: KeyError: 'raku' (line 12).")
    author.delete(f"/api/v1/demos/{made['slug']}")


def test_visitors_get_exactly_what_the_function_says_and_why(visitor: httpx.Client, dryness: str):
    reply = _asked(visitor, dryness, {"days": 7.3, "clay": "porcelain"}, "?with=explanation,curves").json()
    assert reply["answer"]["value"] == 100 * 7.3 / 14 * 0.5
    explained = reply["explanation"]
    added = sum(one["contribution"] for one in explained["contributions"])
    assert explained["baseline"] + added == pytest.approx(reply["answer"]["value"], abs=1e-9)
    curves = {one["field"]: one for one in reply["curves"]}
    x, y = curves["days"]["x"], curves["days"]["y"]
    assert y == pytest.approx([100 * one / 14 * 0.5 for one in x])


def test_of_a_failure_visitors_get_a_sentence_and_the_author_line_and_input(
    author: httpx.Client, visitor: httpx.Client, dryness: str
):
    case = {"days": 7, "clay": "raku"}
    shown = problem(_asked(visitor, dryness, case), 502)
    assert "raku" not in shown["detail"]
    assert "traceback" not in shown
    told = problem(_asked(author, dryness, case), 502)
    assert "KeyError: 'raku' (line 12)" in told["detail"]
    assert "> 12      factor = FACTORS[clay]" in told["traceback"]
    assert "clay = 'raku'" in told["traceback"]


def test_asked_again_after_a_change_it_answers_and_what_lies_beside_it_stays(author: httpx.Client, dryness: str):
    author.patch(f"/api/v1/demos/{dryness}", json={"record_inputs": True}).raise_for_status()
    _asked(author, dryness, {"days": 7, "clay": "raku"}, "?draft=1")
    log = f"/api/v1/demos/{dryness}/log"
    # Entries are written a moment behind.
    wait_for(lambda: [one for one in author.get(f"{log}?outcome=failed").json()["entries"][:1] if one["inputs"]])
    again = f"{log}/{author.get(f'{log}?outcome=failed').json()['entries'][0]['id']}/again"
    assert author.post(again).status_code == 502
    mended = SOURCE.replace("FACTORS[clay]", "FACTORS.get(clay, 0.25)")
    changed = author.put(f"/api/v1/demos/{dryness}/model", files={"function": ("predict.py", mended.encode())})
    assert changed.status_code == 200, changed.text
    assert changed.json()["demo"]["has_beside"]
    assert author.post(again).status_code == 200


def test_a_model_file_in_its_place_leaves_nothing_of_the_function(author: httpx.Client):
    slug = bring_function(author, SOURCE, beside=zipped(FACTORS), title="A while").json()["slug"]
    from ..made_models import csv, dumped, firings, regressor_pipeline

    table = firings()
    files = {"model": dumped(regressor_pipeline(table)), "reference": csv(table.drop(columns="outcome"))}
    changed = author.put(f"/api/v1/demos/{slug}/model", files=files)
    assert changed.status_code == 200, changed.text
    assert not changed.json()["demo"]["has_beside"]
    author.delete(f"/api/v1/demos/{slug}")


def test_it_goes_out_as_a_folder_and_comes_in_the_same(author: httpx.Client):
    source = SOURCE + "\n\ndef another(x: float) -> float:\n    return x\n"
    made = bring_function(author, source, beside=zipped(FACTORS), function_name="dryness", slug="dry-twice")
    assert made.status_code == 201, made.text
    content = author.get("/api/v1/demos/dry-twice/folder").content
    author.delete("/api/v1/demos/dry-twice")
    again = author.post("/api/v1/demos", files={"folder": content})
    assert again.status_code == 201, again.text
    assert author.get("/api/v1/demos/dry-twice/folder").content == content
    author.delete("/api/v1/demos/dry-twice")


@pytest.mark.parametrize(
    ("line", "message"),
    [
        ("open('/usr/x', 'w')", "it cannot write `/usr/x`"),
        ("import socket; socket.create_connection(('127.0.0.1', 9), 1)", "nothing in here does"),
        ("import urllib.request as u; u.urlopen('http://localhost.invalid/')", "nothing in here does"),
        ("import os; os.fork()", "it starts another process"),
        ("bytearray(64 << 30)", "it wants more memory"),
        ("import os; os._exit(0)", "ended the process"),
    ],
)
def test_what_code_may_not_do_is_a_sentence(author: httpx.Client, line: str, message: str):
    refused = bring_function(author, f"def f(x: float):\n    {line}\n    return x\n")
    assert message in problem(refused, 422)["detail"]


def test_which_function_answers_is_asked_where_it_is_not_clear(author: httpx.Client):
    two = "def warm(x: float): return x\ndef cold(x: float): return -x\n"
    assert fields_at_fault(bring_function(author, two)) == ["function_name"]
    assert fields_at_fault(bring_function(author, two, function_name="hot")) == ["function_name"]
    made = bring_function(author, two, function_name="cold").json()
    assert _asked(author, made["slug"], {"x": 3}, "?draft=1").json()["answer"]["value"] == -3
    author.delete(f"/api/v1/demos/{made['slug']}")


@pytest.mark.parametrize(
    ("parts", "field"),
    [
        ({"beside": b"no archive"}, "beside"),
        ({"model": b"x"}, "function"),
    ],
)
def test_what_does_not_go_with_a_function_is_told(author: httpx.Client, parts: dict[str, bytes], field: str):
    files = {"function": ("f.py", b"def f(x: float): return x"), **{name: (name, one) for name, one in parts.items()}}
    assert fields_at_fault(author.post("/api/v1/demos", files=files)) == [field]


def test_files_beside_something_else_than_code_are_told(author: httpx.Client):
    refused = bring(author, function_name="f")
    assert "Only a Python file has functions" in problem(refused, 422)["detail"]


def test_whole_numbers_and_stated_ranges_are_held(author: httpx.Client):
    source = "from typing import Annotated\ndef f(pots: Annotated[int, range(1, 11)]) -> float:\n    return pots / 2"
    slug = bring_function(author, source).json()["slug"]
    refused = problem(_asked(author, slug, {"pots": 2.5}, "?draft=1"), 422)
    assert refused["detail"] == "Pots must be a whole number. You gave 2.5. Try 3."
    beyond = _asked(author, slug, {"pots": 12}, "?draft=1").json()
    assert beyond["answer"]["value"] == 6
    assert "above what this page is made for (1 to 10)" in beyond["notes"][0]["message"]
    schema = author.get(f"/api/v1/demos/{slug}/schema?draft=1").json()
    assert schema["properties"]["pots"]["type"] == "integer"
    author.delete(f"/api/v1/demos/{slug}")


def test_a_whole_table_is_answered_by_the_function_of_many_cases(author: httpx.Client):
    many = "def many(days: list[float], clay: list[str]) -> list[float]:\n"
    batch = f"\n\n{many}    return [dryness(*one) for one in zip(days, clay)]\n"
    rows = DIARY[DIARY.clay != "raku"]
    made = bring_function(author, SOURCE + batch, beside=zipped(FACTORS), reference=as_csv(rows)).json()
    job = ended(author, send(author, as_csv(rows), slug=made["slug"]))
    assert (job["state"], job["answered"]) == ("done", 60)
    expected = 100 * rows.days / 14 * np.where(rows.clay == "porcelain", 0.5, 1.0)
    np.testing.assert_allclose(result(author, job)["answer"], expected, rtol=1e-12)
    author.delete(f"/api/v1/demos/{made['slug']}")


FIND = """
from typing import Annotated, Literal, TypedDict
import numpy as np
from scipy import ndimage


class Spot(TypedDict):
    left: float
    top: float
    right: float
    bottom: float
    label: Literal["pinhole", "crack"]
    score: float


def spots(tile: np.ndarray, darkness: Annotated[int, range(256)] = 100) -> list[Spot]:
    found = ndimage.find_objects(ndimage.label(tile.mean(axis=2) < darkness)[0])
    return [
        Spot(
            left=x.start, top=y.start, right=x.stop, bottom=y.stop, score=0.9,
            label="crack" if max(x.stop - x.start, y.stop - y.start) > 30 else "pinhole",
        )
        for y, x in found
    ]
"""


def test_boxes_of_a_function_lie_in_the_picture_that_was_given(author: httpx.Client):
    made = bring_function(author, FIND, title="Spots")
    assert made.status_code == 201, made.text
    state = made.json()
    assert [one["name"] for one in state["answer"]["labels"]] == ["pinhole", "crack"]
    assert [one["name"] for one in state["fields"]] == ["picture", "darkness"]
    picture = np.full((80, 120, 3), 230, dtype="uint8")
    picture[10:30, 20:60], picture[50:60, 80:90] = 20, 40
    data = base64.b64encode(as_bytes(picture)).decode()
    # What is cut out and turned is found in the whole picture all the same.
    given = {"data": data, "left": 0.1, "top": 0.05, "width": 0.9, "height": 0.9, "turn": 90}
    reply = _asked(author, state["slug"], {"picture": given, "darkness": 100}, "?draft=1").json()
    boxes = {one["name"]: [one[side] for side in ("x", "y", "width", "height")] for one in reply["answer"]["boxes"]}
    assert boxes == {"crack": [20, 10, 40, 20], "pinhole": [80, 50, 10, 10]}
    author.delete(f"/api/v1/demos/{state['slug']}")


def test_a_picture_of_a_function_comes_back_in_the_format_it_came_in(author: httpx.Client):
    source = (
        "from PIL import Image, ImageOps\ndef fire(raw: Image.Image) -> Image.Image:\n    return ImageOps.invert(raw)"
    )
    slug = bring_function(author, source).json()["slug"]
    picture = np.random.default_rng(2).integers(0, 256, (60, 91, 3)).astype("uint8")
    for form in ("PNG", "JPEG"):
        asked = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", files={"picture": as_bytes(picture, form)})
        made = Image.open(io.BytesIO(base64.b64decode(asked.json()["answer"]["data"])))
        assert (made.format, made.size) == (form, (91, 60))
        if form == "PNG":
            np.testing.assert_array_equal(np.asarray(made), 255 - picture)
    author.delete(f"/api/v1/demos/{slug}")


def test_the_sample_says_what_its_file_says(visitor: httpx.Client, monkeypatch: pytest.MonkeyPatch):
    folder = SAMPLES["kiln-by-hand"]
    monkeypatch.chdir(folder / "beside")
    names: dict[str, Any] = {}
    exec((folder / "function.py").read_text("utf-8"), names)
    import datetime as dt

    case = {"kiln": "front loader", "load": 60.0, "peak": 1240, "rate": 150, "hold": 20, "worn": True}
    reply = _asked(visitor, "kiln-by-hand", {**case, "day": "2026-11-15"}).json()
    own = names["firing"](**case, day=dt.date(2026, 11, 15))
    assert [one["value"] for one in reply["answer"]["values"]] == list(own)


ADVICE = '''
from typing import Annotated, Literal
import pandas as pd


def advice(days: Annotated[float, (0, 14), "days"] = 5.0) -> Annotated[str, "What to do"]:
    return "Wait.\\n\\nLook again tomorrow." if days < 3 else f"Fire it after {days:g} days."


def firings(pots: Annotated[int, range(1, 60)] = 20) -> pd.DataFrame:
    """Which firings are needed?"""
    n = -(-pots // 25)
    return pd.DataFrame({"firing": range(1, n + 1), "note": ["=SUM(A1)"] * n})
'''


@pytest.mark.parametrize(
    ("function", "inputs", "answer"),
    [
        ("advice", {"days": 2}, {"kind": "text", "text": "Wait.\n\nLook again tomorrow."}),
        (
            "firings",
            {"pots": 40},
            {"kind": "table", "columns": ["firing", "note"], "rows": [[1, "=SUM(A1)"], [2, "=SUM(A1)"]]},
        ),
    ],
)
def test_texts_and_tables_are_answers_that_are_checked_published_and_asked(
    author: httpx.Client, visitor: httpx.Client, function: str, inputs: dict[str, Any], answer: dict[str, Any]
):
    made = bring_function(author, ADVICE, function_name=function, slug=f"it-writes-{function}")
    assert made.status_code == 201, made.text
    demo = f"/api/v1/demos/{made.json()['slug']}"
    checks = {one["name"]: one for one in author.post(f"{demo}/checks").json()["checks"]}
    assert [checks[name]["status"] for name in ("repeatable", "bad-input", "speed")] == ["pass"] * 3
    assert author.post(f"{demo}/releases", json={}).status_code == 201
    author.put(f"{demo}/access", json={"access": "everyone"}).raise_for_status()
    reply = visitor.post(f"{demo}/predictions?with=explanation", json={"inputs": inputs}).json()
    assert reply["answer"] == answer
    assert [note["code"] for note in reply["notes"]] == ["not-explained"]
    parts = visitor.get(f"{demo}/page").json()["parts"]
    assert not any(
        parts[name] for name in ("contributions", "curves", "changes", "similar", "among", "overall", "tables")
    )
    # What asks for numbers says that there are none.
    refused = author.post(f"{demo}/jobs", data={"kind": "table"}, files={"table": b"days\n1\n"})
    assert "answers with a text or a table of its own" in problem(refused, 422)["detail"]
    refused = author.put(f"{demo}/expected", files={"expected": b"days,pots,prediction\n1,1,2\n"})
    assert "does not fit into a table's column" in problem(refused, 422)["detail"]
    author.delete(demo)
