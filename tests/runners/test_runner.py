"""Runners: the library's answers from a confined process, and what becomes of models that misbehave."""

import io
import json
import os
import signal
import socket
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path

import msgspec
import numpy as np
import psutil
import pytest
from sklearn.frozen import FrozenEstimator
from sklearn.pipeline import make_pipeline
from sklearn.tree import DecisionTreeClassifier

from plain_window.core.contract.jobs import job_key
from plain_window.core.contract.keeping import RunnerStatus
from plain_window.core.tables.reading import read_table
from plain_window.runners.failures import RunnerFailed, RunnerRaised, RunnerUnavailable
from plain_window.runners.probing import PROBES
from plain_window.runners.protocol import listen
from plain_window.settings import read_settings

from ..made_models import (
    FEATURES,
    classifier_pipeline,
    csv,
    dumped,
    firings,
    mixed_preparation,
    regressor_pipeline,
    running_on_opening,
)
from ..studio import wait_for
from .conftest import Keep

TABLE = read_table(io.BytesIO(csv(firings()))).table
ROWS = [{key: getattr(v, "item", lambda v=v: v)() for key, v in row.items()} for _, row in TABLE[FEATURES].iterrows()]
OURS = {**os.environ, "PYTHONPATH": str(Path(__file__).parents[2])}
ONE_COLUMN = b"pots,outcome\n1,a\n2,b\n"


MODELS = {
    "compiled": classifier_pipeline(TABLE),
    # No compiled form: its own library serves it.
    "library": make_pipeline(mixed_preparation(), FrozenEstimator(DecisionTreeClassifier(max_depth=4))),
}


MODELS["library"][1].estimator.fit(mixed_preparation().fit_transform(TABLE[FEATURES]), TABLE["outcome"])
MODELS["library"].fit(TABLE[FEATURES], TABLE["outcome"])


@pytest.fixture(scope="module", params=sorted(MODELS))
def way(request) -> str:
    """Both ways a model can be served."""
    return request.param


@pytest.fixture(scope="module")
def held(keep, way):
    job = keep.hold(keep.job(dumped(MODELS[way]), csv(TABLE), target="outcome"))
    assert (job.compiled is not None) == (way == "compiled")
    return job


def test_a_runner_answers_as_the_library_does(keep, held, way):
    expected = MODELS[way].predict_proba(TABLE[FEATURES])
    np.testing.assert_array_equal(keep.client.predict(held, ROWS).outputs, expected)


def test_calls_that_arrive_together_each_get_their_own_answer(keep, held, way):
    expected = MODELS[way].predict_proba(TABLE[FEATURES])
    together = threading.Barrier(16)

    def ask(index: int) -> list[float]:
        if index < 16:
            together.wait()
        return keep.client.predict(held, [ROWS[index]]).outputs[0]

    with ThreadPoolExecutor(16) as pool:
        np.testing.assert_array_equal(list(pool.map(ask, range(len(ROWS)))), expected)


def test_a_compiled_runner_loads_no_library_that_models_are_made_with(keep, held, way):
    outer = psutil.Process(_state(keep, held).pid)
    loaded = "".join(Path(f"/proc/{process.pid}/maps").read_text() for process in outer.children(recursive=True))
    found = {name for name in ("llvmlite", "numba", "sklearn", "pandas", "scipy", "pyarrow") if f"/{name}" in loaded}
    assert found == {"llvmlite"} if way == "compiled" else {"sklearn", "pandas"} <= found


def test_the_first_answer_after_a_kill_is_to_come_back_and_then_it_is_there(keep, held):
    before = _state(keep, held)
    os.kill(before.pid, signal.SIGKILL)
    # While one is dead and the next not started there is none at all.
    wait_for(lambda: _state(keep, held).pid not in (before.pid, None), what="another process")
    with pytest.raises(RunnerUnavailable) as caught:
        keep.client.predict(held, ROWS[:1])
    assert caught.value.retry_after >= 1
    wait_for(lambda: _state(keep, held).state == "ready", what="the runner being back")
    assert len(keep.client.predict(held, ROWS[:1]).outputs) == 1


def _moody_model() -> bytes:
    # Defined by its source inside the file: the test's own module does not exist in a runner.
    code = (
        "import sys, types, time, numpy as np\n"
        "from sklearn.base import BaseEstimator, ClassifierMixin\n"
        "module = types.ModuleType('moody'); sys.modules['moody'] = module\n"
        "class Moody(ClassifierMixin, BaseEstimator):\n"
        "    def fit(self, X, y):\n"
        "        self.classes_ = np.array(['a', 'b']); self.n_features_in_ = 1\n"
        "        self.feature_names_in_ = np.array(['pots'], dtype=object); return self\n"
        "    def predict(self, X): return self.classes_[self.predict_proba(X).argmax(axis=1)]\n"
        "    def predict_proba(self, X):\n"
        "        pots = X['pots'].to_numpy()\n"
        "        if 13 in pots: raise ValueError('thirteen pots bring bad luck')\n"
        "        if 99 in pots: time.sleep(3600)\n"
        "        if 666 in pots:\n"
        "            import os; os._exit(3)\n"
        "        return np.column_stack([pots / 100, 1 - pots / 100])\n"
        "module.Moody = Moody\n"
    )
    return _pickle_with_code(code, "moody", "Moody")


def _pickle_with_code(code: str, module: str, name: str) -> bytes:
    """A pickle that first runs `code` and then makes a fitted `module.name`."""
    return (
        b"cbuiltins\nexec\n("
        + b"V"
        + code.encode("raw_unicode_escape").replace(b"\n", b"\\u000a")
        + b"\n}tR0"
        # getattr(module.name(), "fit")(None, None)
        + f"cbuiltins\ngetattr\n((c{module}\n{name}\no".encode()
        + b"Vfit\ntR(NNtR."
    )


@pytest.fixture
def moody(keep):
    return keep.hold(keep.job(_moody_model(), ONE_COLUMN, target="outcome"))


def test_a_row_that_raises_does_not_fail_the_rows_it_came_with(keep, moody):
    together = threading.Barrier(4)

    def ask(pots: int):
        together.wait()
        try:
            return keep.client.predict(moody, [{"pots": pots}]).outputs[0]
        except RunnerRaised as error:
            return str(error), "thirteen" in error.traceback

    with ThreadPoolExecutor(4) as pool:
        answers = list(pool.map(ask, [10, 13, 20, 30]))
    assert answers[0] == [0.1, 0.9]
    assert answers[1] == ("The model could not answer: ValueError: thirteen pots bring bad luck.", True)
    assert answers[2:] == [[0.2, 0.8], [0.3, 0.7]]


def test_a_call_that_overruns_is_cut_off_and_the_runner_replaced(keep, moody):
    pid = _state(keep, moody).pid
    with pytest.raises(RunnerUnavailable, match="overran") as caught:
        keep.client.predict(moody, [{"pots": 99}])
    assert caught.value.overran
    wait_for(lambda: _state(keep, moody).state == "ready" and _state(keep, moody).pid != pid, what="a new runner")
    assert keep.client.predict(moody, [{"pots": 10}]).outputs == [[0.1, 0.9]]


def test_a_case_that_ends_the_process_is_a_moment_without_an_answer(keep, moody):
    with pytest.raises(RunnerUnavailable):
        keep.client.predict(moody, [{"pots": 666}])
    wait_for(lambda: _state(keep, moody).state == "ready", what="the runner being back")


TRY = """
import os, socket, resource
found = []
def attempt(what, action):
    try: action()
    except Exception as error: found.append(f'{what}: {type(error).__name__}')
    else: found.append(f'{what}: DONE')
def connect(address):
    with socket.create_connection(address, 2): pass
def fork_without_end():
    for _ in range(500):
        if os.fork() == 0:
            import time; time.sleep(20); os._exit(0)
attempt('network', lambda: connect(('127.0.0.1', PORT)))
attempt('write', lambda: open('PACKAGE/x', 'w'))
attempt('read state', lambda: open('STATE').read())
attempt('see', lambda: os.listdir('HOME'))
attempt('become root', lambda: os.setuid(0))
attempt('signal', lambda: os.kill(KEEPER, 0))
attempt('fork', fork_without_end)
attempt('memory', lambda: bytearray(8 << 30))
raise RuntimeError('; '.join(found))
"""


def test_the_walls_hold(keep, elsewhere: Path):
    secret = elsewhere / "secret"
    secret.write_text("the studio's glaze recipe")
    with socket.create_server(("127.0.0.1", 0)) as server:
        code = (
            TRY.replace("PORT", str(server.getsockname()[1]))
            .replace("PACKAGE", str(Path(__file__).parents[2] / "plain_window"))
            .replace("STATE", str(secret))
            .replace("HOME", str(keep.settings.home))
            .replace("KEEPER", str(os.getpid()))
        )
        reason = _refusal(keep, running_on_opening(code))
    for what in ("network", "write", "read state", "see", "become root", "signal", "fork", "memory"):
        assert f"{what}: " in reason
    assert "DONE" not in reason


@pytest.mark.parametrize(
    ("code", "message"),
    [
        ("import os; os._exit(0)", "ended the process it was opened in"),
        ("import os, signal; os.kill(os.getpid(), signal.SIGKILL)", "was stopped while it was being opened"),
        ("raise SystemExit", "could not be opened: SystemExit"),
        ("import time; time.sleep(600)", "took more than 30 seconds to open and was stopped"),
        # Asked for until there is none, but not written to: some machines take half a minute to hand out what is.
        ("import numpy\nx = []\nwhile True: x.append(numpy.empty(1 << 28, 'u1'))", "fit into the memory"),
    ],
)
def test_a_file_that_misbehaves_on_opening_is_one_sentence(keep, code, message):
    assert message in _refusal(keep, running_on_opening(code))


def test_a_stored_file_that_is_gone_is_said_at_once(keep):
    job = keep.job(b"was here", ONE_COLUMN)
    Path(job.model).unlink()
    with pytest.raises(RunnerFailed, match="could not be started: No such file"):
        keep.client.ensure(job, until="ready", timeout=30)


def test_a_hostile_file_does_not_hold_up_others(keep, held):
    job = keep.job(running_on_opening("import time; time.sleep(600)") + b"other", ONE_COLUMN)
    assert keep.client.ensure(job, until="now").state == "starting"
    assert len(keep.client.predict(held, ROWS[:3]).outputs) == 3
    keep.client.retire(job.key)


def test_what_does_not_fit_is_reported_column_by_column(keep):
    job = keep.job(dumped(regressor_pipeline(TABLE)), csv(TABLE.rename(columns={"peak": "Peak", "kiln": "oven"})))
    with pytest.raises(RunnerFailed) as caught:
        keep.client.ensure(job, until="ready", timeout=30)
    assert [fault.field for fault in caught.value.faults] == ["kiln", "peak"]


def _refusal(keep, model: bytes) -> str:
    with pytest.raises(RunnerFailed) as caught:
        keep.client.ensure(keep.job(model, ONE_COLUMN), until="ready", timeout=40)
    return str(caught.value)


def _state(keep, job) -> RunnerStatus:
    return next(runner for runner in keep.client.status().runners if runner.key == job.key)


def test_the_runner_used_longest_ago_sleeps_when_memory_is_short_and_wakes_when_asked(tmp_path_factory, kernels):
    settings = read_settings(home=tmp_path_factory.mktemp("short") / "home")
    # Enough for one runner, not for two.
    keep = Keep(replace(settings, limits=replace(settings.limits, all_runners_bytes=150 << 20)), kernels)
    try:
        first = keep.hold(keep.job(dumped(MODELS["compiled"]), csv(TABLE), target="outcome"))
        expected = keep.client.predict(first, ROWS[:1]).outputs
        second = keep.hold(keep.job(dumped(regressor_pipeline(TABLE)), csv(TABLE), target="kwh"))

        def states():
            return {runner.key: runner.state for runner in keep.client.status().runners}

        wait_for(lambda: states() == {first.key: "asleep", second.key: "ready"})
        # Nobody is told to come back: who asks waits the second it takes.
        assert keep.client.predict(first, ROWS[:1]).outputs == expected
        wait_for(lambda: states() == {first.key: "ready", second.key: "asleep"})
        # Also while it is just being put to sleep, which is what waking the other does.
        for woken, asked in ((second, first), (first, second)) * 3:
            keep.client.ensure(woken, until="ready", timeout=30)
            for _ in range(6):
                assert keep.client.ensure(asked, until="ready", timeout=30).state == "ready"
    finally:
        keep.stop()


def test_every_wall_was_tried_when_the_keeper_started(keep):
    confinement = keep.client.status().confinement
    assert confinement.works
    assert set(confinement.probes) == set(PROBES)
    assert set(confinement.probes.values()) == {"contained"}


def test_a_wall_that_is_missing_is_found(tmp_path):
    with socket.create_server(("127.0.0.1", 0)) as port, listen(tmp_path / "open.sock"):
        (tmp_path / "secret").write_text("open to all")
        target = {
            "home": str(tmp_path),
            "secret": str(tmp_path / "secret"),
            "socket": str(tmp_path / "open.sock"),
            "port": port.getsockname()[1],
        }
        with open(tmp_path / "stored", "wb+") as stored:
            stored.write(b"a stored model")
            target["file"] = stored.fileno()
            program = [sys.executable, "-P", "-m", "plain_window.runners.probing", json.dumps(target)]
            # Without walls around it.
            done = subprocess.run(
                program, capture_output=True, check=True, timeout=30, pass_fds=[stored.fileno()], cwd="/", env=OURS
            )
        said = json.loads(done.stdout)
    assert said["network"] == "a connection to 127.0.0.1 was possible"
    assert said["state directory"] == "the state directory could be listed"
    assert said["another's socket"] == "another process's socket could be reached"
    assert said["writing"].startswith("a file could be written to ")
    assert said["its own files"] == "a file that was handed in could be changed"
    assert said["scratch space"] == "/tmp takes more than 64 MB"
    # Whatever this machine has of these, without walls they are there.
    assert said["shared segments"] == "shmget and msgget and semget could be called"
    assert said["netlink and vsock"] == "a netlink socket could be made"


def test_what_an_older_version_found_is_enough_to_serve_it(keep):
    table = firings()
    job = keep.hold(keep.job(dumped(regressor_pipeline(table)), csv(table.drop(columns="outcome"))))
    known_then = {"found", "compiled", "target", "columns", "ignored", "fields", "answer", "warm_up_row"}
    now = json.loads(job.inspection)
    older = {name: value for name, value in now.items() if name in known_then | {"n_reference_rows"}}
    again = msgspec.structs.replace(job, key=job_key("older")).found(json.dumps(older).encode())
    assert keep.client.ensure(again, until="ready", timeout=30).state == "ready"
    row = older["warm_up_row"]
    assert keep.client.predict(again, [row]).outputs == keep.client.predict(job, [row]).outputs
