"""Which environment a model's requirements come to, and whether it is here."""

from collections.abc import Callable
from dataclasses import replace
from typing import Protocol, TypeVar

from ..core.environments.requirements import read_requirements
from ..core.formats.recognition import needs_libraries
from ..environments.building import build_environment
from ..environments.walls import Check, Says
from ..store.environments import find_environment, record_environment
from .services import Services
from .submission import ModelSubmission

__all__ = ["EnvironmentWanted", "build_for", "with_environment"]


class EnvironmentWanted(Exception):
    """The libraries that a model asks for are not here yet: building them takes longer than a call."""

    def __init__(self, submission: ModelSubmission) -> None:
        super().__init__("an environment must be built first")
        self.submission = submission

    @property
    def requirements(self) -> str:
        """As their author wrote them."""
        return self.submission.requirements or ""


def with_environment(services: Services, submission: ModelSubmission) -> ModelSubmission:
    """What is submitted, with the environment that its requirements come to.

    What holds no code is read here in any case; its requirements are kept with it and mean nothing more.

    Parameters
    ----------
    services : Services
    submission : ModelSubmission

    Raises
    ------
    MismatchFaults
        Naming each line of the requirements that cannot be taken.
    EnvironmentWanted
        If it must be built first.
    """
    if not (submission.requirements or "").strip():
        return replace(submission, requirements=None, environment=None)
    assert submission.requirements is not None, "there are some"
    requirements = read_requirements(submission.requirements.encode())
    if not requirements.lines or not _is_code(services, submission):
        return replace(submission, environment=None)
    hash_ = find_environment(requirements.key)
    if hash_ is None or not services.environments.is_there(hash_):
        raise EnvironmentWanted(submission)
    services.environments.note_use(hash_)
    return replace(submission, environment=hash_)


Value = TypeVar("Value")


class Stored(Protocol):
    """Does what needs the database, and may do it again until it is there."""

    def __call__(self, do: Callable[[], Value], /) -> Value: ...


def _at_once(do: Callable[[], Value]) -> Value:
    return do()


def build_for(
    services: Services,
    text: str,
    *,
    check: Check,
    says: Says,
    stored: Stored = _at_once,
) -> None:
    """Build the environment that requirements come to, unless it is here.

    Parameters
    ----------
    services : Services
    text : str
        The requirements, as their author wrote them.
    check : callable
        Asked now and then; a text stops it, as the reason.
    says : callable
        Is given each line of its log.
    stored : callable, optional
        Does what needs the database, and may do it again until it is there.

    Raises
    ------
    MismatchFaults
        If it cannot be built, with the reason in a sentence.
    Stopped
        If `check` had it stopped.
    """
    requirements = read_requirements(text.encode())
    known = stored(lambda: find_environment(requirements.key))
    if known is not None and services.environments.is_there(known):
        says("These libraries are here already.")
        return
    built = build_environment(requirements, services.settings, check=check, says=says)
    stored(lambda: record_environment(requirements.key, text, built.key, built.packages, built.n_bytes))


def _is_code(services: Services, submission: ModelSubmission) -> bool:
    with open(services.files.path(submission.model_file), "rb") as file:
        return needs_libraries(file)
