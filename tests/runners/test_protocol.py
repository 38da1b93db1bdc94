"""Messages between processes."""

import socket
from pathlib import Path

import msgpack
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.runners.protocol import HEADER, Array, Frames, ProtocolError, connect, listen, pack, receive

values = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**63), 2**63 - 1) | st.floats(allow_nan=False) | st.text() | st.binary(),
    lambda children: st.lists(children, max_size=3) | st.dictionaries(st.text(), children, max_size=3),
    max_leaves=8,
)
messages = st.dictionaries(st.text(), values, max_size=4)


@given(st.lists(messages, max_size=4), st.data())
def test_messages_arrive_whole_however_the_bytes_are_cut(sent, data):
    stream = b"".join(pack(message) for message in sent)
    frames, arrived, at = Frames(), [], 0
    while at < len(stream):
        size = data.draw(st.integers(1, len(stream) - at))
        arrived += frames.feed(stream[at : at + size])
        at += size
    assert arrived == sent


@given(st.binary(max_size=200))
def test_anything_else_is_refused_or_waited_for_but_never_misread(data):
    try:
        for message in Frames().feed(data):
            assert isinstance(message, dict)
    except ProtocolError:
        pass


def test_an_array_comes_back_as_its_rows():
    import numpy as np

    table = np.arange(6, dtype="float64").reshape(2, 3)
    (message,) = Frames().feed(pack({"outputs": Array("float64", table.shape, table.tobytes())}))
    assert message["outputs"].rows() == table.tolist()


@pytest.mark.parametrize(
    "array",
    [
        Array("float64", (2, 3), b"\0" * 47),
        Array("float64", (6,), b"\0" * 48),
        Array("object", (1, 1), b"\0" * 8),
    ],
)
def test_an_array_that_contradicts_itself_is_refused(array):
    with pytest.raises(ProtocolError):
        array.rows()


def test_a_length_beyond_all_reason_is_refused_before_it_is_read():
    with pytest.raises(ProtocolError, match="larger than any"):
        Frames().feed(HEADER.pack(2**32 - 1))


def test_a_message_that_is_no_object_is_refused():
    body = msgpack.packb([1, 2])
    with pytest.raises(ProtocolError, match="expected an object"):
        Frames().feed(HEADER.pack(len(body)) + body)


def test_a_closed_connection_is_said_to_be_one():
    ours, theirs = socket.socketpair()
    with ours:
        theirs.close()
        with pytest.raises(ProtocolError, match="closed"):
            receive(ours)


def test_a_socket_in_a_very_deep_folder_is_reached(scratch: Path):
    folder = scratch / ("a" * 90) / ("b" * 90)
    folder.mkdir(parents=True)
    with listen(folder / "x.sock") as listening, connect(folder / "x.sock") as caller:
        accepted, _ = listening.accept()
        with accepted:
            caller.sendall(pack({"hello": 1}))
            assert receive(accepted) == {"hello": 1}
