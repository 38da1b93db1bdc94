"""The commands beside the server."""

import shutil
import zipfile

import pytest

from ..studio import SAMPLE
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
