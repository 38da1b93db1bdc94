"""The sample models as they are once opened: what opening, compiling and proving them gives, kept beside them.

A first start then has only to keep it. It is taken only where it was made of the very files that are there, and is
itself as it was written. Run `python -m plain_window.samples.opened` after a change to a model, a table, or to what
opens them.
"""

import gzip
import hashlib
import io
import tomllib
from pathlib import Path
from typing import BinaryIO

from ..core.contract.keeping import OpenedModel

__all__ = ["main", "open_sample", "opened_sample"]

# What a demo folder has for a model, by what it is to it.
PARTS = {
    "model": ("model.joblib", "model.onnx", "function.py"),
    "reference": ("reference.csv",),
    "known": ("known.csv", "known.zip"),
}
BESIDE = "beside"
FOLDER, SUMS = "opened", "sums"
KEPT = ("inspection", "compiled", "kept_rows", "converted")


def opened_sample(demo: Path) -> OpenedModel | None:
    """What is kept of a sample's opened model; None if there is nothing that belongs to its files.

    Parameters
    ----------
    demo : Path
        Its demo folder.
    """
    folder = demo.parent / FOLDER
    try:
        packed = {name: path.read_bytes() for name in KEPT if (path := folder / f"{name}.gz").is_file()}
        if (folder / SUMS).read_text("ascii") != _sums(demo, packed):
            return None
    except OSError:
        return None
    kept = {name: gzip.decompress(content) for name, content in packed.items()}
    return OpenedModel(kept["inspection"], *(kept.get(name) for name in KEPT[1:]))


def open_sample(demo: Path) -> OpenedModel:
    """Open a sample's model, as a runner does when it is brought.

    Parameters
    ----------
    demo : Path
    """
    from ..core.contract.jobs import OpenFile
    from ..core.contract.kept_rows import write_kept_rows
    from ..core.intake.opening import take_in

    files: dict[str, BinaryIO] = {name: io.BytesIO(content) for name, content in _contents(demo).items()}
    found = take_in(files, OpenFile(target=_target(demo)))
    kept_rows = write_kept_rows(found.kept_rows) if found.kept_rows else None
    return OpenedModel(found.inspection.model_dump_json().encode(), found.compiled, kept_rows)


def main() -> None:
    """Open every sample anew, and keep what comes of it."""
    from . import SAMPLES

    for name, demo in SAMPLES.items():
        opened, folder = open_sample(demo), demo.parent / FOLDER
        folder.mkdir(exist_ok=True)
        every = zip(KEPT, opened, strict=True)
        # Without the time, so that the same content is the same file.
        packed = {part: gzip.compress(content, mtime=0) for part, content in every if content is not None}
        for part, content in packed.items():
            (folder / f"{part}.gz").write_bytes(content)
        (folder / SUMS).write_text(_sums(demo, packed), "ascii")
        print(f"{name}: {sum(map(len, packed.values())) / 1024:.0f} KB")


def _files(demo: Path) -> dict[str, Path]:
    found = {part: demo / name for part, names in PARTS.items() for name in names if (demo / name).is_file()}
    assert "model" in found, f"{demo} has no model"
    return found


def _contents(demo: Path) -> dict[str, bytes]:
    from ..core.formats.python.archive import packed_folder

    contents = {name: path.read_bytes() for name, path in _files(demo).items()}
    beside = demo / BESIDE
    return {**contents, BESIDE: packed_folder(beside)} if beside.is_dir() else contents


def _target(demo: Path) -> str | None:
    target: str | None = tomllib.loads((demo / "demo.toml").read_text("utf-8")).get("target")
    return target


def _sums(demo: Path, packed: dict[str, bytes]) -> str:
    """One line for everything it is made of, and for everything that was made."""
    every = {**_contents(demo), "target": (_target(demo) or "").encode(), **packed}
    return "".join(f"{hashlib.sha256(content).hexdigest()}  {name}\n" for name, content in every.items())


if __name__ == "__main__":
    main()
