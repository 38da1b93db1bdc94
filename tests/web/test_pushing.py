"""A demo's folder pushed to a server that runs elsewhere, as a CI job does it."""

import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import httpx
import pytest

from ..studio import ROOT, Studio

FUNCTION = """from typing import Annotated


def dryness(days: Annotated[float, (0, 14), "days"] = 7.0) -> Annotated[float, "%"]:
    return 100 * days / {factor}
"""
TOML = 'title = "How dry is it?"\nslug = "pushed-from-elsewhere"\npurpose = "To see."\nnot_for = "Anything else."\n'
DEMO = "/api/v1/demos/pushed-from-elsewhere"
Push = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture
def folder(tmp_path: Path, author: httpx.Client) -> Iterator[Path]:
    made = tmp_path / "demo"
    (made / ".git").mkdir(parents=True)
    (made / ".git" / "config").write_text("not meant")
    (made / "demo.toml").write_text(TOML)
    # As tools leave it that build the same bytes each time.
    os.utime(made / "demo.toml", (0, 0))
    (made / "function.py").write_text(FUNCTION.format(factor=14))
    yield made
    author.delete(DEMO)


@pytest.fixture
def push(studio: Studio, key: str) -> Push:
    def run(*arguments: str | Path, key: str = key, to: str = studio.url) -> subprocess.CompletedProcess[str]:
        command = [sys.executable, "-P", "-m", "plain_window", "push", *map(str, arguments), "--to", to]
        environment = {**os.environ, "PYTHONPATH": str(ROOT), "PLAINWINDOW_KEY": key}
        return subprocess.run(command, env=environment, capture_output=True, text=True, timeout=120, check=False)

    return run


def test_a_folder_becomes_a_demo_and_then_its_next_release(push: Push, folder: Path, author: httpx.Client):
    first = push(folder, "--note", "from the start")
    assert first.returncode == 0, first.stdout + first.stderr
    assert "Sending 2 files" in first.stdout
    assert "pass  repeatable" in first.stdout
    assert f"Published as version 1: {author.base_url}".rstrip("/") in first.stdout
    (folder / "function.py").write_text(FUNCTION.format(factor=20))
    second = push(folder)
    assert second.returncode == 0, second.stdout + second.stderr
    assert "The draft of `pushed-from-elsewhere` is replaced." in second.stdout
    releases = author.get(f"{DEMO}/releases").json()["releases"]
    assert [(one["number"], one["note"], one["is_live"]) for one in releases] == [
        (2, "", True),
        (1, "from the start", False),
    ]
    asked = author.post(f"{DEMO}/predictions", json={"inputs": {"days": 10}}).json()
    assert (asked["answer"]["value"], asked["release"]) == (50, 2)


def test_a_check_that_fails_is_the_exit_code_and_visitors_keep_the_release(
    push: Push, folder: Path, author: httpx.Client
):
    assert push(folder).returncode == 0
    (folder / "function.py").write_text("import random\n" + FUNCTION.format(factor="14 + random.random()"))
    failed = push(folder)
    assert failed.returncode == 1
    assert "fail  repeatable" in failed.stdout
    assert "Not published: repeatable fails." in failed.stdout
    asked = author.post(f"{DEMO}/predictions", json={"inputs": {"days": 7}}).json()
    assert (asked["answer"]["value"], asked["release"]) == (50, 1)
    assert push(folder, "--draft").returncode == 1
    meant = push(folder, "--despite", "repeatable=it is meant to be by chance")
    assert meant.returncode == 0, meant.stdout + meant.stderr
    newest = author.get(f"{DEMO}/releases").json()["releases"][0]
    assert (newest["number"], newest["despite"]) == (2, {"repeatable": "it is meant to be by chance"})


def test_a_draft_is_left_at_that(push: Push, folder: Path, author: httpx.Client):
    done = push(folder, "--draft")
    assert done.returncode == 0, done.stdout + done.stderr
    assert author.get(DEMO).json()["release"] is None


def test_what_is_not_taken_says_why_and_changes_nothing(push: Push, folder: Path, author: httpx.Client):
    assert push(folder).returncode == 0
    before = author.get(DEMO).json()
    (folder / "function.py").write_text("W = {}\n" + FUNCTION.replace("100 * days", "W[days]"))
    broken = push(folder)
    assert broken.returncode == 2
    assert "KeyError: 7.0 (line 6)" in broken.stderr
    assert "> 6      return W[days] / {factor}" in broken.stderr
    assert author.get(DEMO).json() == before
    wrong = push(folder, key="no-key")
    assert (wrong.returncode, "The key is not one of that server's" in wrong.stderr) == (2, True)
    away = push(folder, to="http://127.0.0.1:9")
    assert (away.returncode, "cannot be reached" in away.stderr) == (2, True)
    (folder / "demo.toml").write_text('title = "No address"\n')
    assert "it is not said which demo this is" in push(folder).stderr
    (folder / "demo.toml").unlink()
    assert "so it is not a demo's folder" in push(folder).stderr
    assert "PLAINWINDOW_KEY is empty" in push(folder, key="").stderr
