"""Environments built from an index on loopback: fetched, locked, installed behind walls, tried, cleaned up."""

import subprocess
import sys
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from plain_window.core.environments.requirements import read_requirements
from plain_window.core.errors import MismatchFaults
from plain_window.environments.building import Built, build_environment
from plain_window.environments.folders import EnvironmentFolders
from plain_window.environments.walls import Stopped
from plain_window.settings import Settings, read_settings

from .index import Index

OLD_NUMPY = "raise ImportError('numpy.dtype size changed, may indicate binary incompatibility')"
Build = Callable[..., tuple[Built, list[str]]]


@pytest.fixture(scope="module")
def index(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Index]:
    made = Index(tmp_path_factory.mktemp("index"))
    for version in ("1.26.4", "2.3.0"):
        made.add_wheel("numpy", version)
    made.add_wheel("kiln", "1.0", needs=("clay>=2",))
    made.add_wheel("kiln", "2.0", needs=("clay>=2",))
    for version in ("1.5", "2.0", "2.1"):
        made.add_wheel("clay", version)
    made.add_wheel("potter", "1.0", needs=("clay<2",))
    made.add_wheel("heavy", "1.0", size=30 << 20)
    made.add_wheel("broken", "1.0", code="import nowhere_to_be_found")
    made.add_wheel("aged", "1.0", needs=("numpy",), code=f"import numpy\nif numpy.VERSION >= '2': {OLD_NUMPY}")
    made.add_sources("glazed", "1.0")
    yield made
    made.stop()


@pytest.fixture
def settings(tmp_path: Path, index: Index, monkeypatch: pytest.MonkeyPatch) -> Settings:
    monkeypatch.setenv("PIP_INDEX_URL", index.url)
    monkeypatch.setenv("PIP_CONFIG_FILE", "/dev/null")
    monkeypatch.delenv("PIP_FIND_LINKS", raising=False)
    made = read_settings(home=tmp_path / "home")
    made.make_folders()
    return made


@pytest.fixture
def build(settings: Settings) -> Build:
    def built(
        *lines: str, check: Callable[[], str | None] = lambda: None, **changes: object
    ) -> tuple[Built, list[str]]:
        log: list[str] = []
        asked = read_requirements("\n".join(lines).encode())
        return build_environment(asked, replace(settings, **changes), check=check, says=log.append), log  # type: ignore[arg-type]

    return built


def refusal(build: Build, *lines: str, **changes: object) -> str:
    with pytest.raises(MismatchFaults) as caught:
        build(*lines, **changes)
    (fault,) = caught.value.faults
    assert fault.field == "requirements"
    return fault.message


def imported(settings: Settings, built: Built, expression: str) -> str:
    libraries = EnvironmentFolders(settings).libraries(built.key)
    code = f"import sys; sys.path.append({str(libraries)!r}); print({expression})"
    return subprocess.run(
        [sys.executable, "-S", "-P", "-c", code], capture_output=True, text=True, check=True
    ).stdout.strip()


def test_what_is_asked_for_is_there_with_what_it_needs_and_locked_by_hash(build: Build, settings: Settings):
    built, log = build("kiln<2", "clay==2.0")
    assert {one.name: one.version for one in built.packages} == {"clay": "2.0", "kiln": "1.0", "numpy": "2.3.0"}
    assert all(len(one.sha256) == 64 for one in built.packages)
    assert imported(settings, built, "__import__('kiln').VERSION + __import__('clay').VERSION") == "1.02.0"
    assert [line for line in log if line.startswith("Locked")] == ["Locked: clay 2.0, kiln 1.0, numpy 2.3.0"]


def test_the_same_content_is_there_once_however_it_was_asked_for(build: Build, settings: Settings):
    first, _ = build("kiln==1.0", "clay==2.0")
    second, log = build("clay==2.0", "kiln<2", "numpy")
    assert first == second
    assert "Exactly this is here already." in log
    assert EnvironmentFolders(settings).keys() == [first.key]


def test_what_cannot_be_had_is_said_with_the_way_on(build: Build):
    assert refusal(build, "kiln==1.7") == (
        "There is no `kiln==1.7` to be installed here; the nearest are 1.0, 2.0. Ask for one of them."
    )
    assert "The index has no package `kilm`" in refusal(build, "kilm")
    contradiction = refusal(build, "kiln", "potter")
    assert contradiction.startswith("The requirements contradict each other: ")
    assert "potter 1.0 depends on clay<2" in contradiction
    assert "is not the file that its hash stands for" in refusal(
        build, f"clay==2.0 --hash=sha256:{'0' * 64}", f"numpy==2.3.0 --hash=sha256:{'0' * 64}"
    )
    assert "whoever runs this server allow the package by name" in refusal(build, "glazed")


def test_an_index_that_is_away_is_said_so(build: Build, monkeypatch: pytest.MonkeyPatch, index: Index):
    monkeypatch.setenv("PIP_INDEX_URL", "http://127.0.0.1:9/simple/")
    monkeypatch.setenv("PIP_RETRIES", "1")
    assert refusal(build, "clay").startswith("The package index cannot be reached from this server.")


def test_what_is_larger_than_it_may_be_is_not_installed(build: Build, settings: Settings):
    limits = replace(settings.limits, environment_bytes=20 << 20)
    assert "Unpacked the packages take 30 MB" in refusal(build, "heavy", limits=limits)
    assert EnvironmentFolders(settings).keys() == []
    assert list((settings.home / "environments").iterdir()) == []


def test_packages_of_a_time_before_numpy_2_get_numpy_1_and_it_is_said(build: Build):
    built, log = build("aged")
    assert {one.name: one.version for one in built.packages}["numpy"] == "1.26.4"
    assert any("Again, with `numpy<2`" in line for line in log)


def test_a_package_that_cannot_be_imported_is_said_and_kept(build: Build):
    _, log = build("broken")
    assert any(line.startswith("`broken` cannot be imported: ModuleNotFoundError") for line in log)


def test_sources_are_built_only_where_allowed_by_name_and_reach_nothing(build: Build, settings: Settings):
    built, log = build("glazed==1.0", source_packages=frozenset({"glazed"}))
    assert any("from its sources, without a network" in line for line in log)
    assert imported(settings, built, "__import__('glazed').REACHED") == "[]"


def test_whoever_stops_it_leaves_nothing(build: Build, settings: Settings):
    with pytest.raises(Stopped):
        build("kiln", check=lambda: "")
    assert list((settings.home / "environments").iterdir()) == []


def test_those_that_nobody_needs_go_longest_unused_first_until_the_rest_fits(build: Build, settings: Settings):
    folders = EnvironmentFolders(settings)
    keys = [build(line)[0].key for line in ("clay==1.5", "clay==2.0", "clay==2.1")]
    folders.note_use(keys[0])
    most = sum(map(folders.bytes_of, keys)) - 1
    assert folders.clean_up({keys[2]}, most_bytes=most) == [keys[1]]
    assert folders.clean_up({keys[2]}, most_bytes=0) == [keys[0]]
    # A build that was killed leaves its folder; one that is under way is younger.
    left = settings.home / "environments" / "making-left"
    left.mkdir()
    folders.sweep(older_than=60)
    assert left.is_dir()
    folders.sweep(older_than=-1)
    assert not left.exists()
    assert folders.keys() == [keys[2]]
