"""What visitors and an author notice when something is killed outright: `./plainwindow bench --faults`.

One process is killed at a time, on an idle machine (one visitor, one editing author) and on a busy one (four visitors
without a pause). Measured is the longest time between two good answers around each kill, and whether anything that was
acknowledged is lost or any answer differs.
"""

import contextlib
import http.client
import itertools
import json
import signal
import tempfile
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import psutil

from .report import console
from .servers import KINDS, Running, plain_window

__all__ = ["measure_faults", "print_faults"]

DEMO = "/api/v1/demos/will-it-crack"
AROUND_SECONDS, SETTLE_SECONDS = 8.0, 4.0
IDLE_PAUSE_SECONDS, EDIT_PAUSE_SECONDS = 0.02, 0.1
VICTIMS = ("runner", "keeper", "web", "mariadb")


@dataclass
class _Asker:
    """Asks again and again; notes when it got a good answer, and what else it got."""

    port: int
    pause: float
    method: str
    path: str
    headers: dict[str, str]
    good: list[float] = field(default_factory=list)
    answers: set[str] = field(default_factory=set)
    refused: dict[int, int] = field(default_factory=dict)
    n_cut: int = 0
    last_saved: str = ""
    stopping: threading.Event = field(default_factory=threading.Event)

    def run(self, body_of) -> None:
        number = 0
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=15)
        while not self.stopping.is_set():
            number += 1
            body, saved = body_of(number)
            try:
                connection.request(self.method, self.path, body, self.headers)
                response = connection.getresponse()
                content = response.read()
            except (OSError, http.client.HTTPException):
                self.n_cut += 1
                connection.close()
                time.sleep(0.005)
                continue
            if response.status == 200:
                self.good.append(time.monotonic())
                self.last_saved = saved
                if not saved:
                    self.answers.add(json.dumps(json.loads(content)["answer"], sort_keys=True))
            else:
                self.refused[response.status] = self.refused.get(response.status, 0) + 1
                time.sleep(0.005)
            time.sleep(self.pause)
        connection.close()

    def longest_gap(self, begun: float) -> float:
        """The longest time between two good answers from `begun` on."""
        times = [begun, *(at for at in self.good if at >= begun)]
        return max((later - earlier for earlier, later in itertools.pairwise(times)), default=float("inf"))


@dataclass(frozen=True)
class Fault:
    """One kill: the longest gaps in seconds, and what was refused meanwhile."""

    victim: str
    is_busy: bool
    visitor_gap: float
    author_gap: float
    refused: dict[int, int]
    n_cut: int
    n_different: int
    is_lost: bool


def measure_faults(case: dict) -> list[Fault]:
    """Kill each kind of process, idle and busy.

    Parameters
    ----------
    case : dict
        A visitor's inputs for the sample.
    """
    body = json.dumps({"inputs": case}).encode()
    found = []
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        key = server.new_key()
        for is_busy in (False, True):
            found += [_killed(server, victim, key, body, is_busy=is_busy) for victim in VICTIMS]
    return found


def _killed(server: Running, victim: str, key: str, body: bytes, *, is_busy: bool) -> Fault:
    headers = {"Content-Type": "application/json"}
    pause = 0.0 if is_busy else IDLE_PAUSE_SECONDS
    visitors = [_Asker(server.port, pause, "POST", f"{DEMO}/predictions", headers) for _ in range(4 if is_busy else 1)]
    author = _Asker(server.port, EDIT_PAUSE_SECONDS, "PATCH", DEMO, {**headers, "Authorization": f"Bearer {key}"})
    with _asking(visitors, author, body):
        time.sleep(SETTLE_SECONDS)
        _kill(server, victim)
        begun = time.monotonic()
        time.sleep(AROUND_SECONDS)
    saved = _purpose(server, key)
    return Fault(
        victim,
        is_busy,
        max(visitor.longest_gap(begun) for visitor in visitors),
        author.longest_gap(begun),
        {status: sum(one.refused.get(status, 0) for one in visitors) for one in visitors for status in one.refused},
        sum(one.n_cut for one in visitors),
        len(set().union(*(one.answers for one in visitors))) - 1,
        # Edits are numbered: what is there now must not be older than the last that was acknowledged.
        int(saved or 0) < int(author.last_saved or 0),
    )


@contextlib.contextmanager
def _asking(visitors: list[_Asker], author: _Asker, body: bytes) -> Iterator[None]:
    def edit(number: int) -> tuple[bytes, str]:
        return json.dumps({"purpose": str(number)}).encode(), str(number)

    threads = [threading.Thread(target=one.run, args=(lambda _: (body, ""),)) for one in visitors]
    threads.append(threading.Thread(target=author.run, args=(edit,)))
    for thread in threads:
        thread.start()
    try:
        yield
    finally:
        for one in [*visitors, author]:
            one.stopping.set()
        for thread in threads:
            thread.join()


def _kill(server: Running, victim: str) -> None:
    """Kill the process of a kind that its parent would have to bring back; of runners the one that is asked."""
    children = psutil.Process(server.process.pid).children(recursive=True)
    mine = [one for one in children if any(KINDS[victim] in part for part in _command(one))]
    if victim == "runner":
        asked = [one for one in mine if not _command(one)[0].endswith("bwrap")]
        before = {one: one.cpu_times().user for one in asked}
        time.sleep(SETTLE_SECONDS / 2)
        max(asked, key=lambda one: one.cpu_times().user - before[one]).kill()
        return
    # Of the web server the process that the others come from, and these with it.
    for one in mine:
        with contextlib.suppress(psutil.NoSuchProcess):
            one.send_signal(signal.SIGKILL)


def _command(process: psutil.Process) -> list[str]:
    with contextlib.suppress(psutil.Error):
        return process.cmdline() or [""]
    return [""]


def _purpose(server: Running, key: str) -> str:
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=15)
    connection.request("GET", DEMO, headers={"Authorization": f"Bearer {key}"})
    purpose = json.loads(connection.getresponse().read())["purpose"]
    connection.close()
    return purpose


def print_faults(faults: list[Fault]) -> None:
    """The table of kills."""
    from rich.table import Table

    table = Table(
        "killed", "machine", "visitor: longest gap", "author: longest gap", "refused", "cut off", "wrong", "lost"
    )
    for one in faults:
        refused = ", ".join(f"{count} × {status}" for status, count in sorted(one.refused.items()))
        table.add_row(
            one.victim,
            "busy" if one.is_busy else "idle",
            f"{one.visitor_gap:.2f} s",
            f"{one.author_gap:.2f} s",
            refused or "none",
            str(one.n_cut),
            str(one.n_different),
            "something" if one.is_lost else "nothing",
        )
    console.print(table)
