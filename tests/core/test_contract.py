"""What a runner says, against what it may say."""

import contextlib
import math
import struct

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.contract import (
    AmongReply,
    BoxesReply,
    ContractBroken,
    Event,
    ExplainReply,
    Missing,
    OverallReply,
    PictureReply,
    PredictReply,
    Raised,
    Refused,
    RegionsReply,
    ReplyMatcher,
    decoded,
    encoded,
)
from plain_window.core.contract.replies import (
    BoxFound,
    ChangesFound,
    CurveFound,
    ExplanationFound,
    Numbers,
    SimilarFound,
    WayFound,
    WordsFound,
)

REPLIES = (
    PredictReply
    | ExplainReply
    | RegionsReply
    | BoxesReply
    | PictureReply
    | OverallReply
    | AmongReply
    | Missing
    | Raised
    | Refused
)
MODEL = ReplyMatcher(n_outputs=2, fields=frozenset({"wall_mm", "glaze"}))


def _numbers(rows: list[list[float]]) -> Numbers:
    values = [value for row in rows for value in row]
    return Numbers(len(rows), len(rows[0]), struct.pack(f"={len(values)}d", *values))


def test_a_table_of_numbers_comes_back_as_its_rows():
    reply = decoded(encoded(PredictReply(_numbers([[1.0, math.inf], [3.5, -0.0]]), 0.2)), REPLIES)
    assert reply.outputs.rows() == [[1.0, math.inf], [3.5, -0.0]]
    MODEL.check_predicted(reply, n_rows=2)


@given(st.binary(max_size=400))
def test_any_bytes_are_a_reply_or_break_the_contract(body):
    with contextlib.suppress(ContractBroken):
        assert isinstance(decoded(body, REPLIES), REPLIES)


@given(
    st.recursive(
        st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=5),
        lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=8), inner, max_size=4),
        max_leaves=20,
    ),
    st.sampled_from(["predicted", "explained", "where", "overall", "among", "refused"]),
)
def test_any_values_under_a_known_name_are_a_reply_or_break_the_contract(values, name):
    fields = values if isinstance(values, dict) else {"outputs": values, "x": values, "faults": values}
    try:
        body = msgspec.msgpack.encode({**fields, "reply": name})
    except OverflowError:
        return
    with contextlib.suppress(ContractBroken):
        assert isinstance(decoded(body, REPLIES), REPLIES)


@pytest.mark.parametrize(
    "body",
    [
        b"\x80" * 1000,
        b"\xdd\x00\x01\x00\x00" + b"\x80" * 0x10000,
        b"\x91" * 100_000,
        b"\x81\xa1a" * 50_000,
        msgspec.msgpack.encode({"reply": "predicted", "outputs": {}, "predict_ms": 1}),
        msgspec.msgpack.encode({"reply": "predicted", "outputs": [[1, 2]], "predict_ms": 1}),
        msgspec.msgpack.encode({"reply": "explained", "outputs": ["1"], "of": 0, "predict_ms": 1, "explain_ms": 1}),
        msgspec.msgpack.encode({"reply": "missing", "reason": "x", "and": "more"}),
        msgspec.msgpack.encode({"reply": "something else"}),
        msgspec.msgpack.encode({"event": "ready"}),
        msgspec.msgpack.encode(msgspec.msgpack.Ext(1, b"x")),
    ],
)
def test_what_is_no_reply_breaks_the_contract(body):
    with pytest.raises(ContractBroken):
        decoded(body, REPLIES)


@pytest.mark.parametrize(
    "event", [{"event": "ready", "resident": 1}, {"event": "used", "x": 1}, {"event": "opened", "compiled": 3}]
)
def test_a_runner_cannot_tell_its_keeper_what_it_takes(event):
    with pytest.raises(ContractBroken):
        decoded(msgspec.msgpack.encode(event), Event)


def _explained(**changes) -> ExplainReply:
    return msgspec.structs.replace(ExplainReply([0.3, 0.7], 1, 0.1, 0.2), **changes)


@pytest.mark.parametrize(
    "reply",
    [
        PredictReply(_numbers([[1.0, 2.0]]), 0.1),
        PredictReply(_numbers([[1.0], [2.0]]), 0.1),
        PredictReply(Numbers(2, 2, b"\0" * 31), 0.1),
        PredictReply(Numbers(-2, -2, b"\0" * 32), 0.1),
    ],
)
def test_outputs_of_another_shape_are_refused(reply):
    with pytest.raises(ContractBroken):
        MODEL.check_predicted(reply, n_rows=2)


@pytest.mark.parametrize(
    "reply",
    [
        _explained(outputs=[0.3]),
        _explained(of=2),
        _explained(of=-1),
        _explained(explanation=ExplanationFound("sampled", 0.5, {"cone": 1.0}, {}, 10)),
        _explained(explanation=ExplanationFound("sampled", math.nan, {"glaze": 1.0}, {}, 10)),
        _explained(curves={"glaze": CurveFound("options", ["a", "b"], [0.1])}),
        _explained(curves={"oven": CurveFound("options", ["a"], [0.1])}),
        _explained(words={"oven": WordsFound("sampled", 0.0, [])}),
        _explained(similar=[SimilarFound({"oven": 1}, None, [0.1, 0.9], 0.0)]),
        _explained(similar=[SimilarFound({"glaze": "a"}, None, [0.1], 0.0)]),
        _explained(changes=ChangesFound([WayFound({"glaze": "a"}, [0.1])], True, None, False)),
        _explained(changes=ChangesFound([WayFound({"glaze": "a"}, [0.1, 0.9])] * 51, True, None, False)),
        _explained(seen={"oven": b""}),
        _explained(notes=[("oven", "a note")]),
    ],
)
def test_an_explanation_of_something_else_is_refused(reply):
    MODEL.check_explained(_explained(), of=1)
    with pytest.raises(ContractBroken):
        MODEL.check_explained(reply, of=None)


def test_an_explanation_of_another_output_than_asked_for_is_refused():
    with pytest.raises(ContractBroken, match="another output"):
        MODEL.check_explained(_explained(), of=0)


@pytest.mark.parametrize(
    ("n_rows", "n_columns", "n_values"), [(2, 2, 3), (0, 0, 0), (-1, -4, 4), (1 << 40, 1 << 40, 1)]
)
def test_a_picture_of_other_parts_than_it_has_is_refused(n_rows, n_columns, n_values):
    values = [0.1] * n_values
    reply = RegionsReply("patches", 0, "sketch", 0.5, 0.1, n_rows, n_columns, values, [None] * n_values, [], 1, False)
    with pytest.raises(ContractBroken):
        MODEL.check_regions(reply, of=0)


def test_rows_that_do_not_fit_together_are_refused():
    MODEL.check_among(AmongReply([1, 2], [0.1, 0.2], None))
    for reply in (AmongReply([1], [0.1, 0.2], None), AmongReply([1, 2], [0.1, 0.2], ["a"])):
        with pytest.raises(ContractBroken):
            MODEL.check_among(reply)


def test_boxes_and_pictures_are_held_against_what_was_asked() -> None:
    matcher = ReplyMatcher(n_outputs=1, fields=frozenset({"picture"}))
    box = BoxFound(0, 0.8, 10.0, 10.0, 20.0, 20.0)
    matcher.check_boxes(BoxesReply([box], 100, 50, 1.0, 1.0), least_score=0.5, most=1)
    for broken in (
        BoxesReply([box, box], 100, 50, 1.0, 1.0),
        BoxesReply([box], 100, 20, 1.0, 1.0),
        BoxesReply([msgspec.structs.replace(box, x=-1.0)], 100, 50, 1.0, 1.0),
        BoxesReply([msgspec.structs.replace(box, score=0.4)], 100, 50, 1.0, 1.0),
        BoxesReply([msgspec.structs.replace(box, width=float("nan"))], 100, 50, 1.0, 1.0),
        BoxesReply([box], 100, 50, 1.0, 1.0, notes=[("elsewhere", "x")]),
    ):
        with pytest.raises(ContractBroken):
            matcher.check_boxes(broken, least_score=0.5, most=1)
    matcher.check_picture(PictureReply(b"x", "image/png", 4, 4, shares=[0.5, 0.5]), n_classes=2)
    for broken_picture in (
        PictureReply(b"", "image/png", 4, 4),
        PictureReply(b"x", "image/png", 4, 4, part=(0.5, 0.0, 0.6, 1.0)),
        PictureReply(b"x", "image/png", 4, 4, shares=[0.5]),
    ):
        with pytest.raises(ContractBroken):
            matcher.check_picture(broken_picture, n_classes=2 if broken_picture.shares else 0)
