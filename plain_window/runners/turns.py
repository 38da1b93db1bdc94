"""Whose turn it is: long calls to one runner, a few at a time, fair among those who ask.

Explanations take a thousand times as long as answers. Whoever asks for many waits behind themselves, not in front of
others, and what waits is bounded, so that a queue never grows longer than anybody would wait for.
"""

import threading
from collections import OrderedDict, deque
from collections.abc import Iterator
from contextlib import contextmanager

__all__ = ["TooManyWaiting", "Turns"]

# Two: while one reply travels, the runner has the next call already.
AT_ONCE = 2
MOST_WAITING_EACH, MOST_WAITING = 32, 256


class TooManyWaiting(Exception):
    """There are too many waiting in front; `is_own` tells whether they are the caller's own."""

    def __init__(self, *, is_own: bool) -> None:
        super().__init__("too many calls are waiting")
        self.is_own = is_own


class Turns:
    """The line in front of one runner.

    Parameters
    ----------
    at_once : int
        Calls that may be under way together.
    most_each, most : int
        How many may wait of one caller, and of all.

    Examples
    --------
    >>> turns = Turns(at_once=1)
    >>> with turns.turn("somebody", timeout=1.0):
    ...     pass
    """

    def __init__(self, *, at_once: int = AT_ONCE, most_each: int = MOST_WAITING_EACH, most: int = MOST_WAITING) -> None:
        self._free = at_once
        self._most_each, self._most = most_each, most
        # Callers in the order in which they have their turn, each with those of its calls that wait.
        self._lines: OrderedDict[str, deque[threading.Lock]] = OrderedDict()
        self._n_waiting = 0
        self._lock = threading.Lock()

    @contextmanager
    def turn(self, caller: str, *, timeout: float) -> Iterator[None]:
        """Wait for a turn, and have it as long as the block lasts.

        Parameters
        ----------
        caller : str
            Who asks; callers take turns.
        timeout : float
            Seconds to wait at the most.

        Raises
        ------
        TooManyWaiting
            If too many wait already.
        TimeoutError
        """
        self._wait(caller, timeout)
        try:
            yield
        finally:
            with self._lock:
                self._pass_on()

    def _wait(self, caller: str, timeout: float) -> None:
        with self._lock:
            if self._free and not self._n_waiting:
                self._free -= 1
                return
            line = self._lines.get(caller)
            if line is not None and len(line) >= self._most_each:
                raise TooManyWaiting(is_own=True)
            if self._n_waiting >= self._most:
                raise TooManyWaiting(is_own=False)
            mine = threading.Lock()
            mine.acquire()
            self._lines.setdefault(caller, deque()).append(mine)
            self._n_waiting += 1
        if mine.acquire(timeout=timeout):
            return
        with self._lock:
            line = self._lines.get(caller)
            if line is not None and mine in line:
                line.remove(mine)
                self._n_waiting -= 1
                if not line:
                    del self._lines[caller]
            else:
                # It was given the turn in this very moment, and does not want it any more.
                self._pass_on()
        raise TimeoutError

    def _pass_on(self) -> None:
        """Give a turn that is over to the next: callers one after another, each its oldest call."""
        if not self._lines:
            self._free += 1
            return
        caller, line = self._lines.popitem(last=False)
        line.popleft().release()
        self._n_waiting -= 1
        if line:
            self._lines[caller] = line
