"""One connection to a runner, shared by many callers."""

import socket
import threading
from collections.abc import Iterator

import pytest

from plain_window.runners.pipe import Pipe, PipeBroken
from plain_window.runners.protocol import HEADER, frame, receive

from ..studio import wait_for


@pytest.fixture
def ends() -> Iterator[tuple[Pipe, socket.socket]]:
    ours, theirs = socket.socketpair()
    ended = threading.Event()
    pipe = Pipe(ours, on_end=lambda _: ended.set())
    yield pipe, theirs
    theirs.close()
    assert ended.wait(5), "the pipe should notice its end"


def test_callers_get_their_own_replies_in_the_order_of_their_calls(ends):
    pipe, runner = ends
    replies = {}

    def call(number: int) -> None:
        replies[number] = pipe.call({"number": number}, most_bytes=100, timeout=5)

    threads = [threading.Thread(target=call, args=(number,)) for number in range(8)]
    for thread in threads:
        thread.start()
    for _ in threads:
        runner.sendall(frame(str(receive(runner, dict)["number"]).encode()))
    for thread in threads:
        thread.join()
    assert replies == {number: str(number).encode() for number in range(8)}


def test_a_reply_that_nobody_asked_for_ends_the_connection(ends):
    pipe, runner = ends
    answer = threading.Thread(target=lambda: (receive(runner, dict), runner.sendall(frame(b"one") + frame(b"two"))))
    answer.start()
    assert pipe.call({}, most_bytes=100, timeout=5) == b"one"
    answer.join()
    wait_for(lambda: not pipe.is_open, what="the end of the connection")
    with pytest.raises(PipeBroken) as caught:
        pipe.call({}, most_bytes=100, timeout=5)
    assert caught.value.breach == "a reply that nobody asked for"


@pytest.mark.parametrize("length", [101, 256 << 20, 2**32 - 1])
def test_a_reply_longer_than_may_come_ends_the_connection_before_it_has_come(ends, length):
    pipe, runner = ends
    threading.Thread(target=lambda: (receive(runner, dict), runner.sendall(HEADER.pack(length) + b"begins"))).start()
    with pytest.raises(PipeBroken) as caught:
        pipe.call({}, most_bytes=100, timeout=5)
    assert "larger than any that may come here" in caught.value.breach
    assert caught.value.was_sent


def test_a_runner_that_goes_away_breaks_calls_under_way_and_later_ones(ends):
    pipe, runner = ends
    threading.Thread(target=lambda: (receive(runner, dict), runner.close())).start()
    with pytest.raises(PipeBroken) as caught:
        pipe.call({}, most_bytes=100, timeout=5)
    assert (caught.value.was_sent, caught.value.breach) == (True, "")
    with pytest.raises(PipeBroken) as caught:
        pipe.call({}, most_bytes=100, timeout=5)
    assert not caught.value.was_sent
