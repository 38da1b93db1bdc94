"""Whose turn it is at one runner."""

import threading
import time

import pytest

from plain_window.runners.turns import TooManyWaiting, Turns

from ..studio import wait_for


def _waiting(turns: Turns, caller: str, got: list[str], hold: threading.Event) -> threading.Thread:
    """A call of `caller` that notes when it had its turn, and keeps it until `hold`."""

    def call() -> None:
        with turns.turn(caller, timeout=30):
            got.append(caller)
            hold.wait(30)

    before = turns._n_waiting
    thread = threading.Thread(target=call)
    thread.start()
    wait_for(lambda: turns._n_waiting == before + 1 or caller in got, what="the call being in line")
    return thread


def test_callers_have_their_turns_one_after_another_however_many_calls_each_has():
    turns, got, hold = Turns(at_once=1), [], threading.Event()
    first = _waiting(turns, "first", got, hold)
    calls = [_waiting(turns, name, got, hold) for name in ("greedy", "greedy", "greedy", "modest", "late")]
    hold.set()
    for thread in [first, *calls]:
        thread.join()
    assert got == ["first", "greedy", "modest", "late", "greedy", "greedy"]


def test_what_waits_is_bounded_for_each_and_for_all():
    turns, got, hold = Turns(at_once=1, most_each=2, most=3), [], threading.Event()
    threads = [_waiting(turns, name, got, hold) for name in ("a", "a", "a", "b")]
    with pytest.raises(TooManyWaiting) as own, turns.turn("a", timeout=1):
        pass
    with pytest.raises(TooManyWaiting) as all_, turns.turn("c", timeout=1):
        pass
    assert (own.value.is_own, all_.value.is_own) == (True, False)
    hold.set()
    for thread in threads:
        thread.join()
    # What was refused has left nothing behind.
    with turns.turn("a", timeout=1):
        pass


def test_who_gives_up_waiting_is_out_of_the_line():
    turns, got, hold = Turns(at_once=1), [], threading.Event()
    first = _waiting(turns, "first", got, hold)
    with pytest.raises(TimeoutError), turns.turn("hurried", timeout=0.05):
        pass
    patient = _waiting(turns, "patient", got, hold)
    hold.set()
    first.join()
    patient.join()
    assert got == ["first", "patient"]


def test_no_turn_is_lost_when_many_give_up_while_they_are_given_theirs():
    turns = Turns(at_once=2, most_each=1000, most=1000)

    def call(number: int) -> None:
        for _ in range(50):
            try:
                with turns.turn(f"caller {number % 5}", timeout=0.001):
                    time.sleep(0)
            except TimeoutError:
                pass

    threads = [threading.Thread(target=call, args=(number,)) for number in range(20)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert turns._free == 2
    assert turns._n_waiting == 0
