"""A demo as a folder, or a zip of it."""

import base64
import contextlib
import io
import tempfile
import tomllib
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..core.contract.inspection import Told
from ..core.contract.keeping import OpenedModel
from ..core.documents import DemoChanges, faults_of
from ..core.documents.answer_edits import CAN_BE_NONE
from ..core.documents.document import Logo
from ..core.documents.edits import AnswerChanges
from ..core.environments.requirements import MOST_BYTES as MOST_REQUIREMENTS
from ..core.environments.requirements import requirements_text
from ..core.errors import DocumentFaults, Fault
from ..core.formats.python.archive import packed_folder
from ..settings import Limits
from ..store.demos import delete_demo
from ..store.records import Author, Demo
from .expected import bring_expected
from .model_intake import bring_model
from .own_libraries import EnvironmentWanted
from .services import Services
from .submission import ModelSubmission

__all__ = ["FolderNotRead", "add_path", "as_a_whole", "bring_whole", "read_folder"]

MODEL_NAMES = (
    "model.joblib",
    "model.pkl",
    "model.pickle",
    "model.skops",
    "model.json",
    "model.ubj",
    "model.txt",
    "model.onnx",
    "model.pmml",
    "model.pt",
    "model.pt2",
    "model.pth",
    "model.safetensors",
    "model.keras",
    "model.h5",
    "function.py",
)
PREPROCESSOR_NAMES = ("preprocessor.joblib", "preprocessor.pkl", "preprocessor.pickle", "preprocessor.skops")
REFERENCE_NAMES = ("reference.csv", "reference.parquet", "reference.xlsx", "reference.jsonl")
KNOWN_NAMES = ("known.csv", "known.parquet", "known.xlsx", "known.jsonl", "known.zip")
LOGO_NAMES = ("logo.png", "logo.jpg", "logo.webp")
EXPECTED_NAMES = ("expected.csv", "expected.parquet", "expected.xlsx", "expected.jsonl")
# Keys of demo.toml that are about bringing the demo in; all others are settings of its document.
OWN_KEYS = ("slug", "target", "answer_kind", "numbers", "dates", "preparations", "function_name", "known_group")
# What lies beside a function: in a folder of that name, or packed.
BESIDE, BESIDE_ZIP = "beside", "beside.zip"
REQUIREMENTS = "requirements.txt"
MAX_ZIP_ENTRIES = 1000
# A picture among the samples: it travels with the demo's settings.
MOST_SAMPLE_BYTES = 2 << 20
# The folder's own address; no demo can have this one.
FROM_FOLDER = "*"
COPY_BYTES = 1 << 20


class FolderNotRead(Exception):
    """The folder is not a demo; the message says what is missing."""


def add_path(
    services: Services,
    author: Author,
    path: Path,
    *,
    slug: str | None = FROM_FOLDER,
    opened: OpenedModel | None = None,
) -> Demo:
    """Bring in a demo folder, or a zip of one.

    Parameters
    ----------
    services : Services
    author : Author
    path : Path
    slug : str, optional
        Another address than the folder asks for; None for a free one made from the title.
    opened : OpenedModel, optional
        What opening its model gave, for a sample of ours; any other model is opened.

    Raises
    ------
    FolderNotRead
        If it is no demo folder.
    ModelNotOpened, MismatchFaults, DocumentFaults, SlugTaken, RunnerUnavailable, EnvironmentWanted
        As `bring_model` does.
    """
    with read_folder(services, path, slug=slug) as submission:
        return bring_whole(services, author, replace(submission, opened=opened))


def bring_whole(services: Services, author: Author, submission: ModelSubmission) -> Demo:
    """Bring a model with all that comes with it, the author's own outputs included.

    Parameters
    ----------
    services : Services
    author : Author
        Whose it is.
    submission : ModelSubmission
        The files and words that were sent.

    Raises
    ------
    ModelNotOpened, MismatchFaults, DocumentFaults, SlugTaken, RunnerUnavailable, EnvironmentWanted
        As `bring_model` does.
    """
    try:
        demo = bring_model(services, author, submission)
    except EnvironmentWanted:
        raise
    except BaseException:
        services.files.let_go([submission.expected_file] if submission.expected_file else [])
        raise
    if submission.expected_file is None:
        return demo
    try:
        return bring_expected(services, demo, submission.expected_file)[2]
    except BaseException:
        # Whole or not at all.
        delete_demo(demo, services.stamp)
        raise


@contextlib.contextmanager
def read_folder(services: Services, path: Path, *, slug: str | None = FROM_FOLDER) -> Iterator[ModelSubmission]:
    """What a demo folder, or a zip of one, holds; its files are then in the store.

    Parameters
    ----------
    services : Services
    path : Path
    slug : str, optional
        Another address than the folder asks for; None for a free one made from the title.

    Raises
    ------
    FolderNotRead
        If it is no demo folder.
    DocumentFaults
        If its settings cannot be read.
    """
    with _as_folder(path, services.settings.limits) as folder:
        settings = _read_toml(folder)
        own = {key: settings.pop(key) for key in OWN_KEYS if key in settings}
        if slug != FROM_FOLDER:
            own["slug"] = slug
        _take_sample_pictures(folder, settings)
        _take_sample_films(folder, settings)
        _take_logo(folder, settings)
        try:
            changes = DemoChanges.model_validate(settings)
            told = Told.model_validate({key: value for key, value in own.items() if key != "slug"})
        except ValidationError as error:
            raise DocumentFaults(faults_of(error)) from error
        yield _take_files(services, folder, own, told, changes)


def as_a_whole(changes: DemoChanges | None) -> DemoChanges:
    """The settings of a folder that replaces a draft: what TOML has no word for, and it leaves out, is not there.

    Parameters
    ----------
    changes : DemoChanges or None
        As they were read.
    """
    whole = changes.model_copy(deep=True) if changes else DemoChanges()
    whole.answer = whole.answer or AnswerChanges()
    for key in CAN_BE_NONE:
        if key not in whole.answer.model_fields_set:
            setattr(whole.answer, key, None)
    whole.logo = whole.logo or Logo(data="")
    return whole


def _take_sample_pictures(folder: Path, settings: dict[str, Any]) -> None:
    """Put the content of pictures that samples name by `file` in its place, and nothing for what is `unknown`."""
    samples = settings.get("samples")
    for sample in samples if isinstance(samples, list) else []:
        inputs = sample.get("inputs") if isinstance(sample, dict) else None
        unknown = sample.pop("unknown", []) if isinstance(sample, dict) else []
        if isinstance(inputs, dict) and isinstance(unknown, list):
            inputs.update({name: None for name in unknown if isinstance(name, str)})
        for value in inputs.values() if isinstance(inputs, dict) else []:
            if isinstance(value, dict) and isinstance(value.get("file"), str):
                value["data"] = _sample_content(folder, value.pop("file"))


def _take_sample_films(folder: Path, settings: dict[str, Any]) -> None:
    """Put the content of ready films that are named by `file` in its place."""
    films = settings.get("sample_films")
    for film in films if isinstance(films, list) else []:
        if isinstance(film, dict) and isinstance(film.get("file"), str):
            film["data"] = _sample_content(folder, film.pop("file"))


def _take_logo(folder: Path, settings: dict[str, Any]) -> None:
    """Put the content of the logo that `file` names in its place."""
    logo = settings.get("logo")
    if not isinstance(logo, dict) or not isinstance(logo.get("file"), str):
        return
    path = folder / Path(logo.pop("file")).name
    if not path.is_file():
        raise FolderNotRead(f"`{folder.name}` has no picture `{path.name}`, which `logo` in its `demo.toml` names.")
    if path.stat().st_size > MOST_SAMPLE_BYTES:
        raise FolderNotRead(f"`{path.name}` is larger than the limit of {MOST_SAMPLE_BYTES >> 20} MB.")
    logo["data"] = base64.b64encode(path.read_bytes()).decode("ascii")


def _sample_content(folder: Path, name: str) -> str:
    path = folder / "samples" / Path(name).name
    if not path.is_file():
        raise FolderNotRead(f"`{folder.name}` has no `samples/{path.name}`, which a sample of it names.")
    if path.stat().st_size > MOST_SAMPLE_BYTES:
        raise FolderNotRead(f"`samples/{path.name}` is larger than the limit of {MOST_SAMPLE_BYTES >> 20} MB.")
    return base64.b64encode(path.read_bytes()).decode("ascii")


def _take_files(
    services: Services, folder: Path, own: dict[str, Any], told: Told, changes: DemoChanges
) -> ModelSubmission:
    limits = services.settings.limits
    labels = folder / "labels.txt"
    model = _one_of(folder, MODEL_NAMES, required=True)
    assert model is not None, "it is required"
    reference = _one_of(folder, REFERENCE_NAMES, required=False)
    preprocessor = _one_of(folder, PREPROCESSOR_NAMES, required=False)
    known = _one_of(folder, KNOWN_NAMES, required=False)
    expected = _one_of(folder, EXPECTED_NAMES, required=False)
    return ModelSubmission(
        model_file=_take(services, model, limits.model_bytes),
        reference_file=_take(services, reference, limits.reference_bytes) if reference else None,
        preprocessor_file=_take(services, preprocessor, limits.model_bytes) if preprocessor else None,
        known_file=_take(services, known, limits.reference_bytes) if known else None,
        beside_file=_take_beside(services, folder, limits.model_bytes),
        function_name=told.function_name,
        known_group=told.known_group,
        requirements=_requirements(folder),
        expected_file=_take(services, expected, limits.reference_bytes) if expected else None,
        target=told.target,
        answer_kind=told.answer_kind,
        numbers=told.numbers,
        dates=told.dates,
        preparations={name: one.model_dump(mode="json") for name, one in told.preparations.items()},
        labels=[line.strip() for line in labels.read_text("utf-8").splitlines() if line.strip()]
        if labels.exists()
        else None,
        slug=own.get("slug"),
        changes=changes,
    )


def _requirements(folder: Path) -> str | None:
    """What its `requirements.txt` says, in whatever encoding it was saved."""
    path = folder / REQUIREMENTS
    if not path.is_file():
        return None
    with open(path, "rb") as file:
        return requirements_text(file.read(MOST_REQUIREMENTS + 1))


def _take_beside(services: Services, folder: Path, limit: int) -> str | None:
    """The zip of what lies beside a function, or one made of the folder that holds it."""
    path, unpacked = folder / BESIDE_ZIP, folder / BESIDE
    if path.is_file() and unpacked.is_dir():
        raise FolderNotRead(f"`{folder.name}` has both `{BESIDE}` and `{BESIDE_ZIP}`. Keep one of them.")
    if path.is_file():
        return _take(services, path, limit)
    if not unpacked.is_dir():
        return None
    content = packed_folder(unpacked)
    too_large = FolderNotRead(f"`{BESIDE}` is larger than the limit of {limit >> 20} MB.")
    return services.files.take_file(io.BytesIO(content), limit=limit, too_large=lambda: too_large)


def _take(services: Services, path: Path, limit: int) -> str:
    def too_large() -> FolderNotRead:
        return FolderNotRead(f"`{path.name}` is larger than the limit of {limit >> 20} MB.")

    return services.files.take_path(path, limit=limit, too_large=too_large)


def _one_of(folder: Path, names: tuple[str, ...], *, required: bool) -> Path | None:
    found = [folder / name for name in names if (folder / name).is_file()]
    if len(found) > 1:
        raise FolderNotRead(f"`{folder.name}` has both `{found[0].name}` and `{found[1].name}`. Keep one of them.")
    if not found and required:
        raise FolderNotRead(f"`{folder.name}` has no `{names[0]}` (or {', '.join(f'`{name}`' for name in names[1:])}).")
    return found[0] if found else None


def _read_toml(folder: Path) -> dict[str, Any]:
    path = folder / "demo.toml"
    if not path.is_file():
        raise FolderNotRead(f"`{folder.name}` has no `demo.toml`, so it is not a demo folder.")
    try:
        return tomllib.loads(path.read_text("utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        raise DocumentFaults([Fault("demo.toml", f"`demo.toml` cannot be read: {error}.")]) from error


@contextlib.contextmanager
def _as_folder(path: Path, limits: Limits) -> Iterator[Path]:
    if path.is_dir():
        yield path
    elif path.is_file() and zipfile.is_zipfile(path):
        with tempfile.TemporaryDirectory() as scratch:
            yield _unpacked(path, Path(scratch), limits)
    elif path.exists():
        raise FolderNotRead(f"`{path.name}` is neither a demo folder nor a zip of one.")
    else:
        raise FolderNotRead(f"There is nothing at `{path}`.")


def _unpacked(path: Path, scratch: Path, limits: Limits) -> Path:
    """Unpack the few files a demo has, by name; a path inside the zip decides nothing about where they go."""
    wanted = {
        "demo.toml",
        "labels.txt",
        REQUIREMENTS,
        *LOGO_NAMES,
        *MODEL_NAMES,
        *PREPROCESSOR_NAMES,
        *REFERENCE_NAMES,
        *KNOWN_NAMES,
        *EXPECTED_NAMES,
        BESIDE_ZIP,
    }
    left = 2 * limits.model_bytes + 2 * limits.reference_bytes + limits.labels_bytes
    with zipfile.ZipFile(path) as archive:
        entries = archive.infolist()
        if len(entries) > MAX_ZIP_ENTRIES:
            raise FolderNotRead(f"`{path.name}` has {len(entries)} entries; a demo has a handful.")
        for entry in entries:
            name = Path(entry.filename).name
            is_sample = Path(entry.filename).parent.name == "samples"
            place = scratch / "samples" / name if is_sample else scratch / name
            beside = _place_beside(entry.filename)
            if beside is not None:
                place, is_sample = scratch / BESIDE / beside, True
            if entry.is_dir() or (name not in wanted and not is_sample) or place.exists():
                continue
            place.parent.mkdir(parents=True, exist_ok=True)
            with archive.open(entry) as packed, open(place, "wb") as unpacked:
                # The sizes a zip states may be lies; what comes out is counted.
                while part := packed.read(COPY_BYTES):
                    left -= len(part)
                    if left < 0:
                        raise FolderNotRead(f"`{path.name}` unpacks to more than a demo may have.")
                    unpacked.write(part)
    return scratch


def _place_beside(name: str) -> Path | None:
    """Where in the folder beside a function an entry belongs; None if it belongs to something else."""
    parts = [part for part in Path(name).parts if part not in ("/", "..", ".")]
    # The folder itself may lie in another one.
    at = parts.index(BESIDE) if BESIDE in parts[:2] else -1
    return Path(*parts[at + 1 :]) if 0 <= at < len(parts) - 1 else None
