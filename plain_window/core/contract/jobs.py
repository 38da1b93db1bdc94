"""What a runner is to hold, and what it is handed for that."""

import hashlib
from pathlib import Path
from typing import Any, Literal

import msgspec

from ..fields.calendars import Calendar
from .model_facts import AnswerKind, ModelFacts

__all__ = [
    "CarryChunks",
    "Handover",
    "MakeModels",
    "OpenFile",
    "ReadCases",
    "ReadFilm",
    "ReadTable",
    "RunnerJob",
    "ServeCompiled",
    "ServeOriginal",
    "job_key",
]


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Part of a job."""


class OpenFile(_Part, tag="open", frozen=True):
    """Open a file that nobody has opened before, and find out what it is; told is what its author knows better."""

    target: str | None = None
    labels: list[str] | None = None
    answer_kind: AnswerKind | None = None
    # By field, how pictures are prepared.
    preparations: dict[str, dict[str, Any]] = {}
    # How the tables write numbers, where that cannot be told.
    numbers: Literal["point", "comma"] | None = None
    # How the training script counted dates, where the tables hold them as dates.
    dates: Calendar | None = None
    # Of a Python file with several functions, the one that answers.
    function_name: str | None = None
    # The column of the known cases that says what each is a case of.
    known_group: str | None = None


class ServeCompiled(_Part, tag="compiled", frozen=True):
    """Serve a compiled model."""

    facts: ModelFacts


class ServeOriginal(_Part, tag="original", frozen=True):
    """Serve a model through its library. `inspection`, what an earlier runner found, as JSON, spares reading tables."""

    inspection: bytes
    function_name: str | None = None


class ReadTable(_Part, tag="table", frozen=True):
    """Read a table out: its first rows, within so many rows and values."""

    name: str = "the table"
    most_rows: int = 10_000
    most_values: int = 2_000_000
    numbers: Literal["point", "comma"] | None = None


class ReadCases(_Part, tag="cases", frozen=True):
    """Read a table of cases a piece at a time, and write its result; its bytes are asked for as they are needed."""


class ReadFilm(_Part, tag="film", frozen=True):
    """Read a film's frames as they are asked for, or make it again with boxes in them; its bytes are asked for too."""


class MakeModels(_Part, tag="start", frozen=True):
    """Look at a table, compare models and make one of them; its bytes are asked for as they are needed."""


class CarryChunks(_Part, tag="chunks", frozen=True):
    """Have workers ask compiled models about chunks of rows: so many of its own, or those of a cluster that exists."""

    n_workers: int
    scheduler: str | None = None


Task = OpenFile | ServeCompiled | ServeOriginal | ReadTable | ReadCases | ReadFilm | MakeModels | CarryChunks


class RunnerJob(_Part, frozen=True):
    """One model with what belongs to it. `inspection` is what an earlier runner found, as JSON; None before that.

    With a `compiled` model, that alone is opened. With a `table`, the file is one, and no model is there at all; with
    `work` there is no file either.
    """

    key: str
    model: str
    told: OpenFile = OpenFile()
    preprocessor: str | None = None
    # A zip archive of what lies beside a function, and how much it unpacks to.
    beside: str | None = None
    beside_bytes: int = 0
    # Folder of the libraries that the model asks for, where it has any of its own.
    environment: str | None = None
    # Socket at which a model is reached that stays in its author's own process.
    bridge: str | None = None
    compiled: str | None = None
    # A network as ONNX: from then on that is the model.
    converted: str | None = None
    reference: str | None = None
    known: str | None = None
    kept_rows: str | None = None
    background_rows: int = 100
    inspection: bytes | None = None
    facts: ModelFacts | None = None
    table: ReadTable | None = None
    work: ReadCases | ReadFilm | MakeModels | CarryChunks | None = None

    @property
    def n_workers(self) -> int:
        """How many processes compute in it, beside its first."""
        return self.work.n_workers if isinstance(self.work, CarryChunks) else 0

    @property
    def task(self) -> Task:
        """What a runner has to do for it."""
        if self.work is not None:
            return self.work
        if self.table is not None:
            return self.table
        if self.inspection is None:
            return self.told
        if self.compiled is not None:
            return ServeCompiled(self.needed_facts)
        return ServeOriginal(self.inspection, self.told.function_name)

    @property
    def needed_facts(self) -> ModelFacts:
        """What calls must fit.

        Raises
        ------
        ValueError
            If the model has not been opened yet.
        """
        if self.facts is None:
            raise ValueError(f"job {self.key[:8]} has not been opened: nothing can be asked of it")
        return self.facts

    @property
    def is_opened(self) -> bool:
        """Whether what came of opening its model is what is served."""
        return self.compiled is not None or self.converted is not None

    @property
    def has_own_libraries(self) -> bool:
        """Whether it needs the libraries that its model asks for."""
        return self.environment is not None and not self.is_opened

    def paths(self) -> dict[str, Path]:
        """The files it works on, by what they are to it."""
        if self.work is not None:
            return {}
        paths = {"model": self.compiled or self.converted or self.model}
        if self.preprocessor and not self.compiled:
            paths["preprocessor"] = self.preprocessor
        if self.beside and not self.converted:
            paths["beside"] = self.beside
        if self.inspection is None:
            tables = {"reference": self.reference, "known": self.known}
            paths.update({name: path for name, path in tables.items() if path})
        elif self.kept_rows:
            paths["kept_rows"] = self.kept_rows
        return {name: Path(path) for name, path in paths.items()}

    def found(self, inspection: bytes, **paths: str | None) -> "RunnerJob":
        """The same job once its model has been opened.

        Parameters
        ----------
        inspection : bytes
            What was found, as JSON.
        **paths
            Where what came of it lies: `compiled`, `converted`, `kept_rows`.
        """
        facts = ModelFacts.of_inspection(inspection)
        return msgspec.structs.replace(self, inspection=inspection, facts=facts, **paths)


class Handover(_Part, frozen=True):
    """What a runner is handed at its start; the files ride along, in the order in which they are named."""

    files: list[str]
    task: Task
    background_rows: int
    memory_bytes: int
    # What it may write, beyond what every runner may.
    beside_bytes: int = 0
    # Whether there are libraries of its own; or a line to a model elsewhere, ahead of the files.
    has_environment: bool = False
    has_line: bool = False


def job_key(*parts: str | None) -> str:
    """A name for what a runner holds, made from the hashes of what it was made from: same parts, same runner.

    Parameters
    ----------
    parts : *str or None
        Hashes; None where there is none.
    """
    return hashlib.sha256("\0".join(part or "" for part in parts).encode()).hexdigest()[:32]
