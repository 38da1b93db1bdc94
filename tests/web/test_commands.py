"""The commands beside the server."""

import shutil
import subprocess
import sys
import zipfile

import pytest

from ..studio import ROOT, SAMPLE
from .helpers import problem


def test_a_new_key_is_on_the_last_line_and_works(studio):
    key = studio.run("key", "another").stdout.strip().splitlines()[-1]
    with studio.client(key=key) as program:
        assert program.get("/api/v1/demos").status_code == 200


@pytest.fixture
def folder(tmp_path):
    copy = tmp_path / "crack"
    shutil.copytree(SAMPLE, copy)
    text = (copy / "demo.toml").read_text("utf-8")
    (copy / "demo.toml").write_text(text.replace('slug = "will-it-crack"', 'slug = "crack-again"'), "utf-8")
    return copy


@pytest.mark.parametrize("as_zip", [False, True])
def test_a_demo_folder_is_added_and_published(studio, author, visitor, folder, as_zip):
    path = folder
    if as_zip:
        path = folder.with_suffix(".zip")
        with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
            for file in folder.iterdir():
                archive.write(file, f"crack/{file.name}")
    said = studio.run("add", str(path), "--publish").stdout
    assert "/d/crack-again" in said
    assert visitor.get("/api/v1/demos/crack-again/page").json()["answer"]["noun"] == "pieces"
    author.delete("/api/v1/demos/crack-again")


HIJACKED = ("click", "plain_window", "gunicorn", "numpy", "json", "runpy", "ensurepip", "pip", "sitecustomize")


@pytest.mark.parametrize("way", ["plainwindow", "python -P -m", "python -m"])
def test_code_in_the_current_folder_is_never_run(studio, author, folder, way):
    """A folder that somebody sent holds files named like modules of Python's and ours."""
    for name in HIJACKED:
        (folder / f"{name}.py").write_text(f"open({str(folder / 'was-run')!r}, 'w').write({name!r})")
    commands = {
        "plainwindow": [str(ROOT / "plainwindow")],
        "python -P -m": [sys.executable, "-P", "-m", "plain_window"],
        # By hand, without the flag: Python itself has looked around by then, but for no module of ours.
        "python -m": [sys.executable, "-m", "plain_window"],
    }
    if way == "python -m":
        for name in ("plain_window", "runpy", "json", "sitecustomize"):
            (folder / f"{name}.py").unlink()
    text = (folder / "demo.toml").read_text("utf-8")
    (folder / "demo.toml").write_text(text.replace("crack-again", "crack-sent"), "utf-8")
    done = subprocess.run(
        [*commands[way], "add", "."], cwd=folder, env=studio.environment, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    assert not (folder / "was-run").exists()
    author.delete("/api/v1/demos/crack-sent")


def test_every_process_stands_in_a_folder_of_ours_and_takes_no_modules_from_it(studio):
    kinds = studio.processes()
    for process in [*kinds["keeper"], *kinds["web"]]:
        assert process.cwd() == str(ROOT)
        assert "-P" in process.cmdline()
    for process in kinds["runner"]:
        # A function runs where its file and what was brought beside it lie: in memory of its own.
        assert process.cwd() == "/" or process.cwd().startswith("/tmp/model-")
        assert "-P" in process.cmdline()


@pytest.mark.parametrize(
    ("spoil", "message"),
    [
        (lambda folder: (folder / "demo.toml").unlink(), "has no `demo.toml`, so it is not a demo folder"),
        (lambda folder: (folder / "model.joblib").unlink(), "has no `model.joblib`"),
        (lambda folder: (folder / "reference.parquet").touch(), "has both `reference.csv` and `reference.parquet`"),
        (lambda folder: (folder / "demo.toml").write_text("title = "), "`demo.toml` cannot be read"),
        (lambda folder: (folder / "demo.toml").write_text('titel = "x"'), "`titel` is not a setting"),
        (lambda folder: (folder / "demo.toml").write_text('[[fields]]\nname = "wal"'), "has no feature `wal`"),
        (lambda folder: (folder / "model.joblib").write_bytes(b"PK\x03\x04"), "is a zip archive"),
    ],
)
def test_a_folder_that_is_no_demo_is_one_sentence(studio, author, folder, spoil, message):
    spoil(folder)
    done = studio.run("add", str(folder), check=False)
    assert done.returncode == 1
    assert message in done.stderr
    assert "Traceback" not in done.stderr
    problem(author.get("/api/v1/demos/crack-again"), 404)


@pytest.mark.parametrize(
    ("variable", "value", "message"),
    [("PLAINWINDOW_PORT", "many", "PLAINWINDOW_PORT must be a number"), ("PLAINWINDOW_WORKERS", "0", "at least 1")],
)
def test_a_setting_that_cannot_be_used_is_named(studio, monkeypatch, variable, value, message):
    monkeypatch.setitem(studio.environment, variable, value)
    done = studio.run("key", "x", check=False)
    assert done.returncode == 1
    assert message in done.stderr
