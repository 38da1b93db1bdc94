"""A keeper in this process, with real runners."""

import threading
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from plain_window.core.contract.jobs import OpenFile, RunnerJob, job_key
from plain_window.runners.client import RunnerClient
from plain_window.runners.confinement import Confinement
from plain_window.runners.keeper import Keeper
from plain_window.runners.kernel_cache import prepare_kernels
from plain_window.runners.protocol import listen
from plain_window.runners.spawner import Spawner
from plain_window.settings import Settings, read_settings


class Keep:
    """A keeper and a client for it, with files to bring."""

    def __init__(self, settings: Settings, kernels: Path, confinement: Confinement | None = None) -> None:
        self.settings = settings
        settings.make_folders()
        settings.kernels.symlink_to(kernels)
        self.spawner = Spawner(settings.spawner_socket)
        self.keeper = Keeper(settings, confinement)
        self._listening = listen(settings.run / "keeper.sock")
        threading.Thread(target=self.keeper.serve, args=(self._listening,), daemon=True).start()
        self.client = RunnerClient(settings)

    def job(self, model: bytes, reference: bytes, **options) -> RunnerJob:
        key = job_key(str(hash((model, reference, str(options)))))
        model_path, reference_path = self.settings.files / f"{key}.model", self.settings.files / f"{key}.table"
        model_path.write_bytes(model)
        reference_path.write_bytes(reference)
        return RunnerJob(key=key, model=str(model_path), reference=str(reference_path), told=OpenFile(**options))

    def hold(self, job: RunnerJob) -> RunnerJob:
        """Have a job's model served, compiled if that came of opening it; the job as it is then served."""
        state = self.client.ensure(job, until="opened", timeout=30)
        assert state.inspection is not None
        compiled = None
        if state.compiled:
            compiled = self.settings.files / f"{job.key}.compiled"
            compiled.write_bytes(state.compiled)
        job = job.found(state.inspection, compiled=compiled and str(compiled))
        assert self.client.ensure(job, until="ready", timeout=30).state == "ready"
        return job

    def stop(self) -> None:
        self.client.close()
        self._listening.close()
        self.keeper.stop()
        self.spawner.stop()


@pytest.fixture(scope="package")
def kernels(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The kernels' machine code, made once for all keepers here."""
    folder = tmp_path_factory.mktemp("kernels")
    prepare_kernels(folder)
    return folder


@pytest.fixture(scope="package")
def keep(tmp_path_factory: pytest.TempPathFactory, kernels: Path) -> Iterator[Keep]:
    settings = read_settings(home=tmp_path_factory.mktemp("keep") / "home")
    limits = replace(settings.limits, call_seconds=2.0, open_seconds=30.0, runner_memory_bytes=3 << 30)
    running = Keep(replace(settings, limits=limits), kernels)
    yield running
    running.stop()


@pytest.fixture
def elsewhere(tmp_path: Path) -> Path:
    """A folder outside everything a runner may see."""
    return tmp_path
