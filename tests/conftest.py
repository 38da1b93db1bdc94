"""Fixtures shared by all tests. One running Plain Window serves all tests that only ask it things."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from .studio import Studio, first_start_folder, has_ended

# Files that take minutes, the longest first: begun last, one of them would keep the other process waiting.
LONG = (
    "test_contract.py",
    "test_hostile.py",
    "test_replacing.py",
    "test_starters.py",
    "test_forgiving.py",
    "test_hands.py",
    "test_survival.py",
    "test_runner.py",
    "test_quick_predictions.py",
    "test_bench.py",
    "test_adding_up.py",
    "test_slow_senders.py",
    "test_machine_code.py",
)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Long files first; within a file the order stays."""
    items.sort(key=lambda item: LONG.index(item.path.name) if item.path.name in LONG else len(LONG))


def pytest_sessionfinish(session: pytest.Session) -> None:
    """What all processes of a run share goes with the one that began it, which ends last."""
    if not hasattr(session.config, "workerinput"):
        shutil.rmtree(first_start_folder(), ignore_errors=True)


@pytest.fixture(scope="session")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A running demo. Visitors' predictions are not limited here; the limit has tests of its own."""
    running = Studio(tmp_path_factory.mktemp("studio") / "home", environment={"PLAINWINDOW_RATE": "0"})
    yield running
    before = [process for kind in running.processes().values() for process in kind]
    assert before, "the processes that must end should be known"
    running.stop()
    left = [process for process in before if not has_ended(process)]
    assert not left, f"left running after Ctrl+C: {left}"


@pytest.fixture(scope="session")
def key(studio: Studio) -> str:
    return studio.new_key()


@pytest.fixture
def author(studio: Studio, key: str) -> Iterator[httpx.Client]:
    """A program with the author's key."""
    with studio.client(key=key) as client:
        yield client


@pytest.fixture
def visitor(studio: Studio) -> Iterator[httpx.Client]:
    """Somebody with nothing."""
    with studio.client() as client:
        yield client


@pytest.fixture
def scratch(tmp_path: Path) -> Path:
    """A folder for one test's files."""
    return tmp_path
