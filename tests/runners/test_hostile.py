"""Models that turn against what holds them: what they say, what they take, what they leave behind."""

import contextlib
import json
import os
import re
import socket
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import psutil
import pytest

from plain_window.log_files import clipped_line, rotate
from plain_window.runners import runner
from plain_window.runners.cgroups import find_cgroups
from plain_window.runners.confinement import check_confinement, sealed_copy
from plain_window.runners.failures import RunnerFailed, RunnerRaised, RunnerUnavailable
from plain_window.runners.output import OutputLog
from plain_window.runners.protocol import listen
from plain_window.runners.seccomp import Beside
from plain_window.runners.watching import HEARTBEAT_BYTES, CpuWatch, calls_begun, read_beat, tree_of, use_of
from plain_window.settings import read_settings

from ..made_models import running_on_opening
from ..studio import wait_for
from .conftest import Keep
from .test_runner import ONE_COLUMN, _pickle_with_code, _state

# A model that answers as it should, until it is asked about seven pots: then it runs `DEED` in its own runner.
TURNCOAT = """
import sys, types, numpy as np
from sklearn.base import BaseEstimator, ClassifierMixin
module = types.ModuleType('turncoat'); sys.modules['turncoat'] = module
runner = sys.modules['__main__']
class Turncoat(ClassifierMixin, BaseEstimator):
    def fit(self, X, y):
        self.classes_ = np.array(['a', 'b']); self.n_features_in_ = 1
        self.feature_names_in_ = np.array(['pots'], dtype=object); return self
    def predict(self, X): return self.classes_[self.predict_proba(X).argmax(axis=1)]
    def predict_proba(self, X):
        pots = X['pots'].to_numpy()
        if 7 in pots:
            import mmap, os, socket, struct, threading, time
            exec(DEED)
        return np.column_stack([pots / 100, 1 - pots / 100])
module.Turncoat = Turncoat
module.DEED = DEED
"""


def turncoat(deed: str) -> bytes:
    code = TURNCOAT.replace("exec(DEED)", f"exec({deed!r}, globals())").replace("module.DEED = DEED\n", "")
    return _pickle_with_code(code, "turncoat", "Turncoat")


def say(body: str) -> str:
    """A deed: from now on the runner's replies are this."""
    return f"import sys; runner = sys.modules['__main__']; honest = runner.frame; runner.frame = lambda body: {body}"


@pytest.mark.parametrize(
    "reply",
    [
        r"honest(b'\xdd\x00\x00\xff\xff' + b'\x80' * 0xffff)",
        r"honest(b'\x81\xa5reply\x80' * 100)",
        r"honest(b'\x91' * 100000)",
        r"(256 << 20).to_bytes(4, 'big') + b'x' * 1000",
        "honest(body) + honest(body)",
        "honest(body.replace(b'predicted', b'explained'))",
        r"honest(body.replace(b'\xa9n_columns\x02', b'\xa9n_columns\x03'))",
        r"honest(body.replace(b'\xa6n_rows\x01', b'\xa6n_rows\x02'))",
        "honest(b'')",
        "b'GET / HTTP/1.1'",
    ],
)
def test_a_runner_that_says_what_it_must_not_is_replaced_and_its_demo_says_so(keep, reply):
    job = keep.hold(keep.job(turncoat(say(reply)), ONE_COLUMN, target="outcome"))
    honest = keep.client.predict(job, [{"pots": 10}]).outputs
    pid = _state(keep, job).pid
    # The reply to this very call is the first that is not honest; one that is too many comes after an honest one.
    with contextlib.suppress(RunnerUnavailable):
        assert keep.client.predict(job, [{"pots": 7}]).outputs[0][0] == 0.07
    wait_for(lambda: _state(keep, job).state == "ready" and _state(keep, job).pid != pid, what="a new runner")
    assert "broke the protocol" in _state(keep, job).trouble
    assert wait_for(lambda: predicted(keep, job), what="an answer") == honest
    keep.client.retire(job.key)


def predicted(keep, job):
    """An answer, if there is one now: what was heard late of the runner before may end the next one too."""
    with contextlib.suppress(RunnerUnavailable):
        return keep.client.predict(job, [{"pots": 10}]).outputs


def test_one_that_never_keeps_to_the_protocol_is_given_up(keep):
    job = keep.hold(keep.job(turncoat(say("honest(b'no answer')")), ONE_COLUMN, target="outcome"))

    def is_given_up() -> bool:
        try:
            keep.client.predict(job, [{"pots": 7}])
        except RunnerUnavailable:
            return False
        except RunnerFailed as error:
            return "said what no runner says" in str(error)
        return False

    wait_for(is_given_up, what="giving up")
    keep.client.retire(job.key)


@pytest.mark.parametrize(
    ("deed", "reason"),
    [
        # What it says of itself while it is opened: a reason of 20 MB, forged lines, events that are none.
        ("from plain_window.core.errors import ModelNotOpened; raise ModelNotOpened('x' * 20_000_000)", "^x{2000}$"),
        (
            # To every socket it can find; the one that listens takes nothing.
            "import contextlib, gc, socket, sys\n"
            "for found in gc.get_objects():\n"
            "    if type(found) is socket.socket and found.family == socket.AF_UNIX:\n"
            "        with contextlib.suppress(OSError):\n"
            "            found.sendall(sys.modules['__main__'].frame(b'nonsense'))",
            "is not what a model says",
        ),
    ],
)
def test_what_a_file_says_while_it_is_opened_is_clipped_or_refused(keep, deed, reason):
    with pytest.raises(RunnerFailed, match=reason) as caught:
        keep.client.ensure(keep.job(running_on_opening(deed), ONE_COLUMN), until="ready", timeout=40)
    assert len(str(caught.value)) < 2100


def test_a_made_up_size_puts_nobody_to_sleep(keep):
    """There is no event any more in which a runner could say what it takes; what it does take is looked at."""
    job = keep.hold(keep.job(turncoat(say("honest(body)")), ONE_COLUMN, target="outcome"))
    pid = _state(keep, job).pid
    outer = psutil.Process(pid)
    seen = sum(one.memory_info().rss for one in [outer, *outer.children(recursive=True)])
    assert wait_for(lambda: _state(keep, job).resident) == pytest.approx(seen, rel=0.2)
    keep.client.retire(job.key)


def _printed(keep, job) -> str:
    return "".join(path.read_text() for path in keep.settings.logs.glob(f"runner-{job.key[:8]}.log*"))


def test_what_it_prints_is_clipped_and_escaped(keep):
    deed = "print('x' * 5000); print('2026-01-01 00:00:00,000 keeper runner is ready\\r\\x1b[2J', flush=True)"
    job = keep.hold(keep.job(turncoat(deed), ONE_COLUMN, target="outcome"))
    assert keep.client.predict(job, [{"pots": 7}]).outputs
    wait_for(lambda: r"is ready\r\x1b[2J" in _printed(keep, job), what="the line it printed")
    assert "\x1b" not in _printed(keep, job)
    assert 1900 < max(map(len, _printed(keep, job).splitlines())) < 2100
    keep.client.retire(job.key)


def test_what_prints_without_end_waits_and_fills_no_disk(keep):
    job = keep.hold(keep.job(turncoat("print('y\\n' * 400_000)"), ONE_COLUMN, target="outcome"))
    assert keep.client.predict(job, [{"pots": 10}]).outputs
    with pytest.raises(RunnerUnavailable):
        # It waits until what it printed is read, and its call is cut off.
        keep.client.predict(job, [{"pots": 7}])
    assert 100_000 < len(_printed(keep, job)) < 1 << 20
    keep.client.retire(job.key)


@pytest.fixture
def loose(tmp_path_factory, kernels, keep):
    """A keeper on a machine without the list of system calls: runners may have processes there."""
    settings = read_settings(home=tmp_path_factory.mktemp("loose") / "home")
    limits = replace(settings.limits, call_seconds=8.0, open_seconds=20.0, runner_memory_bytes=3 << 30)
    running = Keep(replace(settings, limits=limits), kernels, replace(keep.keeper.confinement, seccomp=b""))
    yield running
    running.stop()


EIGHT_CHILDREN = """
children = []
for _ in range(8):
    child = os.fork()
    if child == 0:
        taken = bytearray(b'x') * (500 << 20)
        time.sleep(60)
        os._exit(0)
    children.append(child)
time.sleep(60)
"""


def test_many_processes_together_have_no_more_memory_than_one(loose):
    job = loose.hold(loose.job(turncoat("import os, time" + EIGHT_CHILDREN), ONE_COLUMN, target="outcome"))
    tree = tree_of(_state(loose, job).pid)
    with pytest.raises(RunnerUnavailable, match="memory"):
        loose.client.predict(job, [{"pots": 7}])
    assert "more than a runner may have" in _state(loose, job).trouble
    wait_for(lambda: not any(psutil.pid_exists(pid) for pid in tree), what="all of it being gone")


def test_children_that_spin_are_found_and_end_with_their_runner(loose):
    spin = "import os\nif os.fork() == 0:\n    while True: pass\n"
    job = loose.hold(loose.job(turncoat(spin), ONE_COLUMN, target="outcome"))
    assert loose.client.predict(job, [{"pots": 7}]).outputs
    pids = tree_of(_state(loose, job).pid)
    assert len(pids) >= 4, "bubblewrap twice, the runner, and its child"
    wait_for(lambda: "nobody had asked" in _state(loose, job).trouble, what="the spinning being noticed")
    wait_for(lambda: not any(psutil.pid_exists(pid) for pid in pids), what="all of it being gone")


def test_a_runner_cannot_have_processes_where_the_list_of_calls_is(keep):
    job = keep.hold(keep.job(turncoat("import os; os.fork()"), ONE_COLUMN, target="outcome"))
    with pytest.raises(RunnerRaised, match="Function not implemented"):
        keep.client.predict(job, [{"pots": 7}])
    keep.client.retire(job.key)


def test_a_tree_is_measured_whole(tmp_path: Path):
    program = (
        "import os, sys, time\n"
        "for _ in range(3):\n"
        "    if os.fork() == 0:\n"
        "        taken = bytearray(b'x') * (60 << 20); break\n"
        "sys.stdout.write('x'); sys.stdout.flush(); time.sleep(60)\n"
    )
    with subprocess.Popen([sys.executable, "-c", program], stdout=subprocess.PIPE, start_new_session=True) as tree:
        assert len(tree.stdout.read(4)) == 4
        assert len(tree_of(tree.pid)) == 4
        assert use_of(tree.pid, None).memory_bytes > 180 << 20
        os.killpg(tree.pid, 9)


def test_computing_is_held_against_calls():
    cpu = CpuWatch(window=10.0)
    # A call under way all the time, and a library that computes on two processors for it.
    assert not any(cpu.is_too_much(2.0 * second, is_busy=True, now=float(second)) for second in range(30))
    idle = CpuWatch(window=10.0)
    looks = [idle.is_too_much(1.0 * second, is_busy=False, now=float(second)) for second in range(8)]
    assert looks.index(True) == 4


def test_short_calls_between_two_looks_are_calls():
    shared = memoryview(bytearray(HEARTBEAT_BYTES))
    before = calls_begun(shared)
    for call in range(5):
        with runner._Beating(shared, call, is_quick=True):
            assert read_beat(shared) is not None
    # Whoever looks now sees none under way, and that there were some.
    assert (read_beat(shared), calls_begun(shared) > before) == (None, True)
    between = calls_begun(shared)
    assert calls_begun(shared) == between


def test_the_clock_of_an_explanation_begins_anew_with_each_answer_it_gets_but_not_for_ever(monkeypatch):
    now = [1_000_000_000_000]
    monkeypatch.setattr(runner.time, "monotonic_ns", lambda: now[0])
    shared = memoryview(bytearray(HEARTBEAT_BYTES))

    def busy_for() -> float | None:
        beat = read_beat(shared)
        return None if beat is None else round(now[0] / 1e9 - beat.began, 3)

    with runner._Beating(shared, 7, is_quick=False):
        now[0] += 5_000_000_000
        assert busy_for() == 5
        with runner._Beating(shared, 8, is_quick=True):
            assert (busy_for(), read_beat(shared).call) == (0, 8)
            now[0] += 2_000_000_000
        # What interrupted it is not held against it.
        assert (busy_for(), read_beat(shared).call) == (5, 7)
        runner._Beating.note_progress()
        assert busy_for() == 0
        now[0] += int(runner.MOST_ASKING_SECONDS * 1e9)
        runner._Beating.note_progress()
        assert busy_for() == runner.MOST_ASKING_SECONDS
    assert busy_for() is None
    runner._Beating.note_progress()
    assert busy_for() is None


def test_a_copy_handed_in_cannot_be_changed(tmp_path: Path):
    (tmp_path / "model").write_bytes(b"weights" * 1000)
    descriptor = sealed_copy(tmp_path / "model")
    again = os.open(f"/proc/self/fd/{descriptor}", os.O_RDWR)
    for change in (lambda: os.write(again, b"?"), lambda: os.ftruncate(again, 0), lambda: os.ftruncate(again, 1 << 20)):
        with pytest.raises(PermissionError):
            change()
    assert os.pread(descriptor, 14, 0) == b"weightsweights"
    os.close(again)
    os.close(descriptor)


def _as_ordinary_user(command: list[str], folders: list[Path]) -> list[str]:
    """A command run by a user of no rights, who can read these folders wherever they are."""
    walls = ["bwrap", "--dev-bind", "/", "/"]
    for top in dict.fromkeys(Path("/", folder.parts[1]) for folder in folders):
        walls += ["--perms", "0755", "--tmpfs", str(top)] if top not in (Path("/usr"), Path("/tmp")) else []
    for folder in folders:
        for parent in reversed(folder.parents[:-2]):
            walls += ["--perms", "0755", "--dir", str(parent)]
        walls += ["--bind", str(folder), str(folder)]
    drop = ["setpriv", "--reuid=61999", "--regid=61999", "--clear-groups"]
    keep_for_drop = [part for name in ("SETUID", "SETGID") for part in ("--cap-add", f"CAP_{name}")]
    return [*walls, *keep_for_drop, "--", *drop, "--inh-caps=-all", "--", *command]


PROBE_AS_USER = """
import json, os, pathlib, socket, sys, tempfile
from plain_window.runners.confinement import check_confinement
from plain_window.runners.protocol import listen
home = pathlib.Path(tempfile.mkdtemp())
(home / "secret").write_text("not for runners")
with socket.create_server(("127.0.0.1", 0)) as port, listen(home / "open.sock"):
    target = {"home": str(home), "secret": str(home / "secret"), "socket": str(home / "open.sock")}
    found = check_confinement({**target, "port": port.getsockname()[1]})
print(json.dumps([os.getuid(), found.works, found.reason, dict(found.probes)]))
"""


@pytest.mark.parametrize("beside", ["workers", "child"])
def test_the_walls_hold_around_a_runner_that_may_start_processes(tmp_path: Path, beside: Beside):
    """Workers have a network with nobody else in it; it may do no more beyond that than any other."""
    (tmp_path / "secret").write_text("not for runners")
    with socket.create_server(("127.0.0.1", 0)) as port, listen(tmp_path / "open.sock"):
        target = {"home": str(tmp_path), "secret": str(tmp_path / "secret"), "socket": str(tmp_path / "open.sock")}
        found = check_confinement({**target, "port": port.getsockname()[1]}, beside=beside)
    assert found.works, found.reason
    assert len(found.probes) > 10
    assert set(found.probes.values()) == {"contained"}


@pytest.mark.skipif(os.getuid() != 0, reason="only root can become another user; anybody else is one already")
def test_the_walls_hold_for_an_ordinary_user_too(tmp_path: Path):
    root = Path(__file__).resolve().parents[2]
    folders = [root, Path(sys.prefix).resolve(), Path(sys.base_prefix).resolve()]
    command = _as_ordinary_user([sys.executable, "-P", "-c", PROBE_AS_USER], folders)
    environment = {**os.environ, "PYTHONPATH": str(root), "HOME": "/tmp"}
    done = subprocess.run(command, capture_output=True, text=True, timeout=60, env=environment, cwd="/", check=False)
    assert done.returncode == 0, done.stderr
    user, works, reason, probes = json.loads(done.stdout)
    assert (user, reason) == (61999, "")
    assert works
    assert set(probes.values()) == {"contained"}


def test_without_bubblewrap_nothing_is_confined_and_it_is_said(monkeypatch):
    monkeypatch.setenv("PATH", "/nowhere")
    found = check_confinement({"home": "/", "secret": "/", "socket": "/", "port": 1})
    assert not found.works
    assert "bubblewrap" in found.reason


def test_a_control_group_is_used_where_the_machine_gives_one(tmp_path: Path):
    (tmp_path / "cgroup.controllers").write_text("cpu memory pids io")
    (tmp_path / "cgroup.subtree_control").touch()
    groups = find_cgroups("test", mount=tmp_path, own="")
    assert groups.missing == ""
    assert (tmp_path / "cgroup.subtree_control").read_text() == "+cpu"
    group = groups.make("runner", memory_bytes=1000, processes=5)
    assert (group.folder / "memory.max").read_text() == "1000"
    assert (group.folder / "pids.max").read_text() == "5"
    (group.folder / "memory.current").write_text("77")
    (group.folder / "cpu.stat").write_text("usage_usec 1500000\nuser_usec 1\n")
    assert (use_of(1, group).memory_bytes, use_of(1, group).cpu_seconds) == (77, 1.5)
    (group.folder / "cgroup.procs").touch()
    inside = subprocess.run(
        [*group.entering, "cat", str(group.folder / "cgroup.procs")], capture_output=True, check=True
    )
    assert inside.stdout.strip().isdigit()
    group.remove()
    assert not group.folder.exists()


@pytest.mark.parametrize(
    ("controllers", "missing"), [(None, "no control groups"), ("cpu io", "do not count memory and pids")]
)
def test_where_there_are_no_control_groups_it_is_said(tmp_path: Path, controllers, missing):
    if controllers is not None:
        (tmp_path / "cgroup.controllers").write_text(controllers)
    groups = find_cgroups("test", mount=tmp_path, own="")
    assert missing in groups.missing
    assert groups.make("runner", memory_bytes=1, processes=1) is None


def test_a_line_of_a_log_is_one_line():
    forged = clipped_line("over\n2026-01-01 keeper all is well\x1b[31m\u2028")
    assert forged == r"over\n2026-01-01 keeper all is well\x1b[31m\u2028"
    assert clipped_line("é ü 釉") == "é ü 釉"
    assert re.fullmatch(r"x{2000}… \(9000 characters\)", clipped_line("x" * 9000))


def test_a_log_that_grows_is_put_aside_while_it_is_written(tmp_path: Path):
    path = tmp_path / "web.log"
    with open(path, "ab", buffering=0) as log:
        for number in range(5):
            log.write(f"life {number} ".encode() * 100)
            assert rotate(path, most_bytes=500, kept=2)
            assert not rotate(path, most_bytes=500, kept=2)
        log.write(b"goes on")
    assert path.read_text() == "goes on"
    assert sorted(each.name for each in tmp_path.iterdir()) == ["web.log", "web.log.1", "web.log.2"]
    assert (tmp_path / "web.log.1").read_text().startswith("life 4")


def test_lines_are_taken_as_they_come_and_no_faster_than_may_be(tmp_path: Path):
    reads, writes = os.pipe()
    log = OutputLog(tmp_path / "runner.log")
    os.write(writes, b"one\ntw")
    assert log.take(reads)
    os.write(writes, b"o\n")
    assert log.take(reads)
    assert (tmp_path / "runner.log").read_text() == "one\ntwo\n"
    assert log.wait_seconds(now=10.0) == 0
    for _ in range(3):
        os.write(writes, b"x" * 60_000)
        log.take(reads)
    assert log.wait_seconds(now=10.25) == pytest.approx(0.75)
    assert log.wait_seconds(now=11.0) == 0
    os.close(writes)
    assert not log.take(reads)
    os.close(reads)
