"""A demo as a folder to take along: its files as they came, and `demo.toml` with all that its author set.

Read back, it makes the same demo, and that one packs into the same bytes: names are in order, times are left out.
"""

import base64
import json
import shutil
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

import tomlkit

from ..core.documents import DemoDocument
from ..core.documents.edits import AnswerChanges, FieldChanges
from ..store.demos import draft_of, model_inspection
from ..store.records import Demo
from .services import Services

__all__ = ["Folder", "folder_of", "pack_folder"]

# What is found in a table or a model, and not set by anybody.
FACTS = {"seen", "whole", "optional", "no", "yes", "low", "high", "counts", "gives_probabilities"}
WORDINGS = {"classes", "labels", "values"}
# Zip archives have no earlier time; one of its own would make other bytes each time.
NO_TIME = (1980, 1, 1, 0, 0, 0)
MODEL_ENDINGS = {
    "pickle": "joblib", "joblib": "joblib", "skops": "skops", "lightgbm": "txt", "onnx": "onnx", "pmml": "pmml",
}  # fmt: skip
NETWORK_ENDINGS = {
    "torch-exported": "pt2", "torch-scripted": "pt", "torch-pickled": "pt", "torch-weights": "pt",
    "safetensors": "safetensors", "keras": "keras", "keras-h5": "h5",
}  # fmt: skip
PICTURE_ENDINGS = ((b"\xff\xd8", "jpg"), (b"\x89PNG", "png"), (b"GIF8", "gif"), (b"RIFF", "webp"))
FILM_ENDINGS = ((4, b"ftyp", "mp4"), (0, b"\x1aE\xdf\xa3", "webm"), (0, b"RIFF", "avi"), (0, b"GIF8", "gif"))
HEAD_BYTES, COPY_BYTES = 8, 1 << 20


@dataclass(frozen=True)
class Folder:
    """What a demo's folder holds: contents and files of the store, by name."""

    contents: dict[str, bytes]
    files: dict[str, Path]


def folder_of(services: Services, demo: Demo) -> Folder:
    """The folder of a demo's draft.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record.
    """
    settings, pictures = _settings(demo, draft_of(demo))
    contents = {"demo.toml": tomlkit.dumps(settings).encode()}
    if demo.model.labels:
        contents["labels.txt"] = ("\n".join(json.loads(demo.model.labels)) + "\n").encode()
    if demo.model.requirements:
        contents["requirements.txt"] = demo.model.requirements.encode()
    return Folder(contents | pictures, _files(services, demo))


def pack_folder(folder: Folder, file: IO[bytes]) -> None:
    """Write a folder as a zip, which takes long for large files.

    Parameters
    ----------
    folder : Folder
    file : binary file
        Where it is written.
    """
    with zipfile.ZipFile(file, "w") as archive:
        for name, content in sorted(folder.contents.items()):
            archive.writestr(_entry(name), content)
        for name, path in sorted(folder.files.items()):
            with archive.open(_entry(name), "w", force_zip64=True) as packed, open(path, "rb") as source:
                shutil.copyfileobj(source, packed, COPY_BYTES)


def _entry(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, NO_TIME)
    entry.compress_type = zipfile.ZIP_DEFLATED
    entry.external_attr = 0o644 << 16
    return entry


def _files(services: Services, demo: Demo) -> dict[str, Path]:
    """The files by the names that a folder has for them; what they are is told by their content when they are read."""
    model, files = demo.model, services.files
    kind = model_inspection(model).found.format
    ending = MODEL_ENDINGS.get(kind) or ("ubj" if "ubj" in kind else "json")
    ending = NETWORK_ENDINGS.get(kind, ending)
    name = "function.py" if kind == "python" else f"model.{ending}"
    found = {name: files.path(model.model_file_id)}
    if model.beside_file_id:
        found["beside.zip"] = files.path(model.beside_file_id)
    if model.preprocessor_file_id:
        found["preprocessor.joblib"] = files.path(model.preprocessor_file_id)
    for name, hash_ in (
        ("reference", model.reference_file_id),
        ("known", demo.known_file_id),
        ("expected", demo.expected_file_id),
    ):
        if hash_:
            path = files.path(hash_)
            found[f"{name}.{_table_ending(path, name)}"] = path
    return found


def _table_ending(path: Path, name: str) -> str:
    with open(path, "rb") as file:
        head = file.read(HEAD_BYTES)
    if head.startswith(b"PAR1"):
        return "parquet"
    if head.startswith(b"PK"):
        return "zip" if name == "known" and not _is_spreadsheet(path) else "xlsx"
    return "jsonl" if head.lstrip()[:1] in (b"{", b"[") else "csv"


def _is_spreadsheet(path: Path) -> bool:
    with zipfile.ZipFile(path) as archive:
        return "[Content_Types].xml" in archive.namelist()


def _settings(demo: Demo, document: DemoDocument) -> tuple[dict[str, Any], dict[str, bytes]]:
    """What stands in `demo.toml`, and the pictures it names by where they stand in the folder."""
    own = document.model_dump(mode="json", by_alias=False)
    logo = own.pop("logo")
    samples, pictures = _samples(own.pop("samples"))
    films, contents = _films(own.pop("sample_films"))
    pictures.update(contents)
    fields = [_of(FieldChanges, field) for field in own.pop("fields")]
    answer = _of(AnswerChanges, own.pop("answer"))
    told = model_inspection(demo.model).told
    words = {
        "slug": demo.slug,
        "target": told.target,
        "answer_kind": told.answer_kind,
        "numbers": told.numbers,
        "dates": told.dates,
        "function_name": told.function_name,
        "known_group": told.known_group,
        "preparations": {name: one.model_dump(mode="json") for name, one in told.preparations.items()} or None,
    }
    if logo and logo["data"]:
        content = base64.b64decode(logo.pop("data"))
        logo["file"] = f"logo.{_picture_ending(content)}"
        pictures[logo["file"]] = content
        own["logo"] = logo
    every = {**own, **words, "answer": answer, "samples": samples, "sample_films": films, "fields": fields}
    settings: dict[str, Any] = _without_none(every)
    # What is confirmed is said even if it is nothing: preparations that stand beside it would confirm themselves.
    return {key: value for key, value in settings.items() if value != [] or key == "confirmed"}, pictures


def _of(type_: type[FieldChanges] | type[AnswerChanges], settings: dict[str, Any]) -> dict[str, Any]:
    """What can be set of it. Options and wordings without what was counted."""
    kept = {key: value for key, value in settings.items() if key in type_.model_fields and key not in FACTS}
    for key in ("options", *WORDINGS):
        if isinstance(kept.get(key), list):
            counted = {*FACTS, "count", "kind"}
            kept[key] = [{name: value for name, value in one.items() if name not in counted} for one in kept[key]]
    return kept


def _samples(samples: list[dict[str, Any]]) -> tuple[list[dict[str, Any]], dict[str, bytes]]:
    """Samples with their pictures named as files, and those by where they stand in the folder."""
    pictures: dict[str, bytes] = {}
    for number, sample in enumerate(samples, start=1):
        for field, value in sample["inputs"].items():
            if isinstance(value, dict) and isinstance(value.get("data"), str):
                content = base64.b64decode(value.pop("data"))
                name = f"{number:02d}-{_plain(field)}.{_picture_ending(content)}"
                pictures[f"samples/{name}"] = content
                value["file"] = name
        # TOML has no word for nothing.
        if unknown := [field for field, value in sample["inputs"].items() if value is None]:
            sample["unknown"] = unknown
    return samples, pictures


def _films(films: list[dict[str, Any]]) -> tuple[list[dict[str, Any]], dict[str, bytes]]:
    """Ready films named as files, and those by where they stand in the folder."""
    contents: dict[str, bytes] = {}
    for number, film in enumerate(films, start=1):
        content = base64.b64decode(film.pop("data"))
        ending = next((own for at, head, own in FILM_ENDINGS if content[at:].startswith(head)), "film")
        film["file"] = f"film-{number:02d}.{ending}"
        contents[f"samples/{film['file']}"] = content
    return films, contents


def _picture_ending(content: bytes) -> str:
    return next((own for head, own in PICTURE_ENDINGS if content.startswith(head)), "png")


def _plain(name: str) -> str:
    return "".join(sign if sign.isalnum() and sign.isascii() else "_" for sign in name)[:40]


def _without_none(value: Any) -> Any:
    if isinstance(value, dict):
        return dict(_pairs(value))
    return [_without_none(one) for one in value] if isinstance(value, list) else value


def _pairs(value: dict[str, Any]) -> Iterator[tuple[str, Any]]:
    for key, one in value.items():
        if one is not None:
            yield key, _without_none(one)
