"""Messages between processes."""

import os
import socket
from pathlib import Path

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.contract import ContractBroken, decoded, encoded
from plain_window.core.contract.keeping import KeeperRequest, Retire
from plain_window.runners.protocol import (
    HEADER,
    FrameReader,
    ProtocolError,
    connect,
    frame,
    listen,
    receive,
    receive_with_files,
    send,
)

values = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**63), 2**63 - 1) | st.floats(allow_nan=False) | st.text() | st.binary(),
    lambda children: st.lists(children, max_size=3) | st.dictionaries(st.text(), children, max_size=3),
    max_leaves=8,
)
messages = st.dictionaries(st.text(), values, max_size=4)


@given(st.lists(messages, max_size=4), st.data())
def test_messages_arrive_whole_however_the_bytes_are_cut(sent, data):
    stream = b"".join(frame(encoded(message)) for message in sent)
    frames, arrived, at = FrameReader(), [], 0
    while at < len(stream):
        size = data.draw(st.integers(1, len(stream) - at))
        frames.feed(stream[at : at + size])
        at += size
        while (body := frames.next()) is not None:
            arrived.append(decoded(body, dict))
    assert arrived == sent
    assert frames.is_empty


@given(st.binary(max_size=200))
def test_anything_else_is_refused_or_waited_for_but_never_misread(data):
    frames = FrameReader(limit=150)
    frames.feed(data)
    try:
        while (body := frames.next()) is not None:
            assert isinstance(decoded(body, KeeperRequest), KeeperRequest)
    except (ProtocolError, ContractBroken):
        pass


def test_a_length_beyond_what_may_come_is_refused_before_it_is_read():
    frames = FrameReader(limit=1000)
    frames.feed(HEADER.pack(1001))
    with pytest.raises(ProtocolError, match="larger than any"):
        frames.next()


@pytest.mark.parametrize("message", [[1, 2], {}, {"ask": "retire"}, {"ask": "retire", "key": 3}, {"ask": "dance"}])
def test_a_message_that_is_none_of_those_that_may_come_is_refused(message):
    ours, theirs = socket.socketpair()
    with ours, theirs:
        ours.sendall(frame(msgspec.msgpack.encode(message)))
        with pytest.raises(ProtocolError, match="not a message"):
            receive(theirs, KeeperRequest)


def test_open_files_ride_along(scratch: Path):
    (scratch / "recipe").write_text("feldspar")
    ours, theirs = socket.socketpair()
    with ours, theirs, open(scratch / "recipe", "rb") as file:
        send(ours, Retire("a recipe"), files=[file.fileno()])
        message, (descriptor,) = receive_with_files(theirs, KeeperRequest)
    with os.fdopen(descriptor, "rb") as came:
        assert (message, came.read()) == (Retire("a recipe"), b"feldspar")


def test_a_closed_connection_is_said_to_be_one():
    ours, theirs = socket.socketpair()
    with ours:
        theirs.close()
        with pytest.raises(ProtocolError, match="closed"):
            receive(ours, KeeperRequest)


def test_a_socket_in_a_very_deep_folder_is_reached(scratch: Path):
    folder = scratch / ("a" * 90) / ("b" * 90)
    folder.mkdir(parents=True)
    with listen(folder / "x.sock") as listening, connect(folder / "x.sock") as caller:
        accepted, _ = listening.accept()
        with accepted:
            caller.sendall(frame(encoded(Retire("x"))))
            assert receive(accepted, KeeperRequest) == Retire("x")
