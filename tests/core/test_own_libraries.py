"""Models that another process holds: the same answers as here, over the line, whatever crosses it."""

import dataclasses
import datetime as dt
import io
import math
import os
from collections.abc import Mapping
from typing import Any

import numpy as np
import pandas as pd
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from sklearn.compose import make_column_transformer
from sklearn.ensemble import RandomForestClassifier
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LinearRegression, LogisticRegression, Ridge
from sklearn.multioutput import MultiOutputClassifier
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler
from sklearn.svm import LinearSVC

from plain_window.core.contract.jobs import OpenFile
from plain_window.core.environments.requirements import read_requirements
from plain_window.core.environments.suggested import requirements_of_pickle
from plain_window.core.errors import MismatchFaults, ModelFailed, ModelNotOpened
from plain_window.core.formats.format import Beside
from plain_window.core.formats.opening import open_model
from plain_window.core.guest.main import Guest
from plain_window.core.guest.values import as_received, as_sent
from plain_window.core.guest.wire import Frame, WireBroken, pack, unpack
from plain_window.core.intake.opening import take_in

from ..made_models import dumped, firings
from .test_functions import HEAD, zipped


class Line:
    """A line to a guest in this process: what goes over it goes as bytes."""

    def __init__(self, **files: bytes) -> None:
        self._files = {name: os.memfd_create(name) for name in files}
        for name, content in files.items():
            os.write(self._files[name], content)
        self._guest = Guest("/nowhere")

    def ask(self, question: Mapping[str, Any]) -> dict[str, Any]:
        return unpack(pack(self._guest.reply(unpack(pack(question)))))

    def descriptor(self, name: str) -> int | None:
        return self._files.get(name)


def elsewhere(content: bytes, **files: bytes) -> Any:
    return open_model(io.BytesIO(content), beside=Beside(line=Line(model=content, **files)))


PIECES = firings().drop(columns="outcome").select_dtypes("number")
OUTCOME = PIECES.sum(axis=1).to_numpy() + np.sin(np.arange(len(PIECES)))
CLASSES = np.where(np.median(OUTCOME) < OUTCOME, "cracks", "sound")


def _models() -> dict[str, tuple[Any, pd.DataFrame]]:
    words = pd.DataFrame({"note": ["cracked at the rim", "sound", "cracked", "all sound"] * 5})
    numbers = PIECES
    mixed = PIECES.assign(clay=np.where(numbers.iloc[:, 0] > numbers.iloc[:, 0].median(), "red", "white"))
    prepared = make_column_transformer((OneHotEncoder(), ["clay"]), (StandardScaler(), list(numbers)))
    return {
        "classes of a table": (
            make_pipeline(prepared, RandomForestClassifier(5, random_state=0, n_jobs=2)).fit(mixed, CLASSES),
            mixed,
        ),
        "one number": (Ridge().fit(numbers, OUTCOME), numbers),
        "without names": (LinearRegression().fit(numbers.to_numpy(), OUTCOME), numbers),
        "several numbers": (LinearRegression().fit(numbers, np.column_stack([OUTCOME, -OUTCOME])), numbers),
        "no probabilities": (LinearSVC().fit(numbers, CLASSES), numbers),
        "labels": (
            MultiOutputClassifier(LogisticRegression()).fit(numbers, np.column_stack([CLASSES == "sound"] * 2)),
            numbers,
        ),
        "texts": (make_pipeline(TfidfVectorizer(), LogisticRegression()).fit(words.note, [1, 0] * 10), words),
    }


@pytest.mark.parametrize(("model", "table"), _models().values(), ids=_models())
def test_an_estimator_elsewhere_answers_as_it_does_here(model: Any, table: pd.DataFrame):
    content = dumped(model)
    here, there = open_model(io.BytesIO(content)), elsewhere(content)
    # The array may lie in memory by rows or by columns, and sums over it differ in the last digit.
    np.testing.assert_allclose(there.predict(table), here.predict(table), rtol=1e-14)
    for name in ("task", "classes", "features", "n_features", "gives_probabilities", "library", "steps"):
        assert getattr(there.found, name) == getattr(here.found, name), name


def test_a_preprocessor_comes_first_there_too():
    numbers = PIECES
    scaler = StandardScaler().fit(numbers)
    model = Ridge().fit(scaler.transform(numbers), OUTCOME)
    there = elsewhere(dumped(model), preprocessor=dumped(scaler))
    assert np.array_equal(there.predict(numbers)[:, 0], model.predict(scaler.transform(numbers)))
    assert there.found.steps == ["StandardScaler", "Ridge"]


def test_a_model_is_found_in_a_dict_there_too():
    model = Ridge().fit(PIECES, OUTCOME)
    there = elsewhere(dumped({"model": model, "fitted": "in March"}))
    assert np.array_equal(there.predict(PIECES)[:, 0], model.predict(PIECES))
    assert any("What lies beside it is not used: `fitted`" in note for note in there.found.warnings)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (dumped({"a": 1}), "holds a dict, not a model"),
        (dumped(StandardScaler()), "has no `predict`"),
        (b"\x80\x04nothing", "cannot be opened with the libraries it asked for"),
        (b"\x80\x04cno_such_package\nThing\n.", "needs the module `no_such_package`"),
    ],
)
def test_what_is_no_estimator_is_said_so(content: bytes, words: str):
    with pytest.raises(ModelNotOpened, match=words):
        elsewhere(content)


FUNCTIONS = {
    "a number": "def f(x: Annotated[float, (0, 9)], n: int = 2) -> float: return x ** n",
    "classes": "def f(x: Annotated[float, (0, 1)]) -> dict[str, float]: return {'sound': x, 'cracks': 1 - x}",
    "an enum and a date": (
        "class Clay(enum.Enum):\n    red = 'red'\n    white = 'white'\n"
        "def f(clay: Clay, day: datetime.date) -> float: return day.day * (2 if clay is Clay.red else 1)"
    ),
    "a batch form": (
        "def f(x: Annotated[float, (0, 9)]) -> float: return x * 2\ndef many(x: np.ndarray) -> np.ndarray: return x * 2"
    ),
    "labels": "def f(x: Annotated[float, (0, 9)]) -> set[Literal['pinholes', 'crazing']]: "
    "return {'pinholes'} if x > 4 else {'pinholes', 'crazing'}",
    "a text": "def f(x: Annotated[float, (0, 9)]) -> str: return f'It is {x:.1f}.'",
    "a table": "def f(n: Annotated[int, (1, 4)]) -> pd.DataFrame: "
    "return pd.DataFrame({'at': range(n), 'day': [datetime.date(2026, 1, 1)] * n})",
    "a named tuple": (
        "class Firing(NamedTuple):\n    hours: float\n    kwh: float\n"
        "def f(x: Annotated[float, (0, 9)]) -> Firing: return Firing(x, x * 7)"
    ),
}


@pytest.mark.parametrize("source", FUNCTIONS.values(), ids=FUNCTIONS)
def test_a_function_elsewhere_is_taken_in_as_it_is_here(source: str):
    content = ("import datetime, enum\nfrom typing import NamedTuple, Literal\n" + HEAD + source).encode()
    files = {"model": io.BytesIO(content)}
    here = take_in(files, OpenFile())
    there = take_in({"model": io.BytesIO(content)}, OpenFile(), Line(model=content))
    assert there.inspection == here.inspection
    row = here.inspection.warm_up_row
    if here.inspection.found.task in ("text", "table"):
        assert there.model.write(row) == here.model.write(row)
    else:
        assert np.array_equal(there.model.ask([row, row]), here.model.ask([row, row]))


def test_pictures_cross_as_they_are():
    source = HEAD + "from PIL import Image\ndef f(p: Image.Image) -> Image.Image: return p.convert('L')"
    there = take_in({"model": io.BytesIO(source.encode())}, OpenFile(), Line(model=source.encode()))
    picture = np.random.default_rng(0).integers(0, 255, (6, 9, 3)).astype("uint8")
    (answer,) = there.model.answers({"p": [picture]}, None)
    assert np.array_equal(np.asarray(answer), np.asarray(Image.fromarray(picture).convert("L")))


def test_what_lies_beside_comes_along_and_what_is_raised_comes_back():
    source = HEAD + "F = float(open('factor.txt').read())\ndef f(x: Annotated[float, (0, 9)]) -> float: return x * F"
    there = take_in(
        {"model": io.BytesIO(source.encode())},
        OpenFile(),
        Line(model=source.encode(), beside=zipped({"factor.txt": b"3"})),
    )
    assert there.model.ask([{"x": 2.0}]).tolist() == [[6.0]]
    os.chdir("/")
    raising = (
        HEAD + "def f(x: Annotated[float, (0, 9)]) -> float:\n    if x == 5: raise ValueError('too hot')\n    return x"
    )
    model = take_in({"model": io.BytesIO(raising.encode())}, OpenFile(), Line(model=raising.encode())).model
    with pytest.raises(ModelFailed, match="ValueError: too hot") as caught:
        model.ask([{"x": 5.0}])
    assert "x = 5.0" in caught.value.traceback


# --- what crosses ---------------------------------------------------------------------------------------------------

SCALARS = (
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text() | st.binary()
    | st.dates() | st.datetimes()
)  # fmt: skip
VALUES = st.recursive(SCALARS, lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner), max_leaves=20)


@given(VALUES)
def test_what_is_sent_is_what_is_received(value: Any):
    assert unpack(pack(value)) == value


@given(st.binary(max_size=200))
def test_whatever_comes_is_a_message_or_none(content: bytes):
    try:
        unpack(content)
    except WireBroken:
        return


def test_arrays_keep_their_type_and_shape():
    for array in (np.arange(6).reshape(2, 3), np.zeros((0, 4), "float32"), np.array([True, False]), np.array(2.5)):
        back = unpack(pack(array))
        assert (back.dtype, back.shape) == (array.dtype, array.shape)
        assert np.array_equal(back, array)


@dataclasses.dataclass
class _Firing:
    hours: float
    steps: list[float]


class _Odd:
    def __repr__(self) -> str:
        raise RuntimeError("no words")


def test_answers_of_any_type_become_plain_values():
    assert as_sent(_Firing(2.5, [1.0])) == {"hours": 2.5, "steps": [1.0]}
    assert as_sent({np.float64(1.5): np.int64(2), True: None}) == {"1.5": 2, "yes": None}
    table = pd.DataFrame({"a": [1, 2], "when": pd.to_datetime(["2026-01-01", None])})
    sent = as_sent(table)
    assert isinstance(sent, Frame)
    assert sent.rows == [[1, dt.datetime(2026, 1, 1)], [2, None]]
    assert as_received(unpack(pack(sent))).to_dict("list")["a"] == [1, 2]
    odd = as_received(unpack(pack(as_sent(_Odd()))))
    assert (type(odd).__name__, repr(odd)) == ("_Odd", "<_Odd: RuntimeError>")
    assert math.isnan(as_sent(float("nan")))


# --- what is asked for ----------------------------------------------------------------------------------------------


def test_requirements_are_read_as_people_have_them():
    lines = "# of the kiln\nScikit_Learn == 1.3.2  # old\r\nnumpy<2\n\npkg-resources==0.0.0\npandas>=2,\\\n  <3\n"
    for content in (lines.encode(), lines.encode("utf-16"), b"\xef\xbb\xbf" + lines.encode()):
        assert read_requirements(content).lines == ("numpy<2", "pandas<3,>=2", "scikit-learn==1.3.2")
    assert read_requirements(b"a==1\nb==2").key == read_requirements(b"B==2\r\na == 1").key


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("-r base.txt", "another file is meant"),
        ("-e .", "a folder of code is meant"),
        ("--index-url http://x/", "options are not taken"),
        ("git+https://x/y.git", "a path or an address"),
        ("kiln @ file:///tmp/kiln.whl", "write `kiln==…` with its version"),
        ("./kiln-1.0-py3-none-any.whl", "a path or an address"),
        ("C:\\kiln", "a path or an address"),
        ("numpy=1.26.4=py311_0", "pip's way is `numpy==1.26.4`"),
        ("this is no line", "it is no requirement"),
    ],
)
def test_what_names_a_place_or_is_no_requirement_is_refused_by_its_line(line: str, words: str):
    with pytest.raises(MismatchFaults) as caught:
        read_requirements(f"pandas\n{line}\n".encode())
    (fault,) = caught.value.faults
    assert fault.field == "requirements"
    assert fault.message.startswith(f"Line 2, `{line}`: ")
    assert words in fault.message


def test_a_file_of_conda_is_told_what_to_send_instead():
    with pytest.raises(MismatchFaults, match="pip list --format=freeze"):
        read_requirements(b"name: kiln\ndependencies:\n  - numpy=1.26\n")


def test_a_pickle_tells_what_it_was_saved_with():
    content = dumped(make_pipeline(StandardScaler(), Ridge()).fit(PIECES, OUTCOME))
    version, *others = requirements_of_pickle([content])
    assert version.startswith("scikit-learn==")
    assert others == ["pandas"]
