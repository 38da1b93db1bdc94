"""What an author brings: a model with all that comes along, before anything was opened."""

import json
from dataclasses import dataclass, field
from typing import Any, Literal

from ..core.contract.jobs import job_key
from ..core.contract.keeping import OpenedModel
from ..core.contract.model_facts import AnswerKind
from ..core.documents import DemoChanges
from ..core.fields.calendars import Calendar

__all__ = ["ModelSubmission"]


@dataclass(frozen=True)
class ModelSubmission:
    """What an author brings. Files are named by their hash in the store."""

    model_file: str
    reference_file: str | None = None
    preprocessor_file: str | None = None
    known_file: str | None = None
    # What lies beside a function, and which one of its file answers.
    beside_file: str | None = None
    function_name: str | None = None
    # Outputs of the author's own; the model is opened without them.
    expected_file: str | None = None
    # The packages that its model asks for, as its author wrote them, and what they came to.
    requirements: str | None = None
    environment: str | None = None
    # The name of the bridge to a process that holds it.
    bridge: str | None = None
    target: str | None = None
    # The column of the known cases that says what each is a case of, where several are of one thing.
    known_group: str | None = None
    labels: list[str] | None = None
    answer_kind: AnswerKind | None = None
    # How the tables write numbers: "point" or "comma".
    numbers: Literal["point", "comma"] | None = None
    # How dates were counted for the model.
    dates: Calendar | None = None
    # By field, where they are not to be guessed.
    preparations: dict[str, dict[str, Any]] = field(default_factory=dict)
    title: str | None = None
    slug: str | None = None
    changes: DemoChanges | None = None
    # What opening it gave before, where that is known and trusted: a sample of ours.
    opened: OpenedModel | None = None

    @property
    def key(self) -> str:
        """The name of what a runner is to make of this: same files, same words, same runner."""
        prepared = json.dumps(self.preparations, sort_keys=True) if self.preparations else ""
        stated = [self.answer_kind or "", prepared, self.numbers or ""]
        counted = [f"dates {self.dates}"] if self.dates else []
        code = [f"beside {self.beside_file}", f"function {self.function_name}"]
        is_code = self.beside_file is not None or self.function_name is not None
        libraries = [f"environment {self.environment}"] if self.environment else []
        return job_key(
            self.model_file,
            self.reference_file,
            self.target,
            "\n".join(self.labels or []),
            self.preprocessor_file,
            self.known_file,
            *(stated if any(stated) else []),
            *counted,
            *(code if is_code else []),
            *libraries,
            *([f"bridge {self.bridge}"] if self.bridge else []),
            *([f"known group {self.known_group}"] if self.known_group else []),
        )

    @property
    def files(self) -> list[str]:
        """All files of this demo."""
        every = (self.model_file, self.preprocessor_file, self.beside_file, self.reference_file, self.known_file)
        return [hash_ for hash_ in every if hash_]
