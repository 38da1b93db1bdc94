"""What is said to the process that makes a model of a table, and what it says."""

from typing import Literal

from .elsewhere import FileBytes, FilePart, NotRead, Wanted
from .messages import Ask, Said

__all__ = [
    "CompareModels",
    "Compared",
    "FitAgain",
    "HowFar",
    "LookAtStart",
    "MadeModel",
    "MakeModel",
    "NextOfMade",
    "StartAsk",
    "StartDoubtful",
    "StartFault",
    "StartLooked",
    "StartReply",
    "StillAt",
    "TakeMade",
]


class LookAtStart(Ask, tag="look_at_start", frozen=True):
    """Look at a table of `size` bytes; `choices` are its author's, as JSON."""

    size: int
    choices: bytes


class CompareModels(Ask, tag="compare_models", frozen=True):
    """Try models on the table as it was looked at; `sheet`, `how` and `choices` as JSON."""

    size: int
    sheet: bytes
    how: bytes
    choices: bytes


class MakeModel(Ask, tag="make_model", frozen=True):
    """Make one of the models that were compared, by the same three; `compared` as JSON."""

    size: int
    sheet: bytes
    how: bytes
    choices: bytes
    compared: bytes
    candidate: str
    file_name: str


class FitAgain(Ask, tag="fit_again", frozen=True):
    """Make the model of an earlier recipe, as JSON, of another table."""

    size: int
    sheet: bytes
    how: bytes
    recipe: bytes
    file_name: str


class HowFar(Ask, tag="how_far", frozen=True):
    """How far what was begun is; said after a moment, or at once when it is over."""


class TakeMade(Ask, tag="take_made", frozen=True):
    """Take a file that was made."""

    name: Literal["model", "reference", "known"]


class NextOfMade(Ask, tag="next_of_made", frozen=True):
    """Its next part."""


StartAsk = LookAtStart | CompareModels | MakeModel | FitAgain | HowFar | TakeMade | NextOfMade | FileBytes


class StartFault(Said, tag="start_fault", frozen=True):
    """Something that cannot be, by the part that says it, with what may be said instead."""

    field: str
    message: str
    choices: list[str] = []


class StartLooked(Said, tag="start_looked", frozen=True):
    """What is seen in it, and how it is read, as JSON."""

    sheet: bytes
    how: bytes


class StartDoubtful(Said, tag="start_doubtful", frozen=True):
    """It cannot be done as it is wanted."""

    faults: list[StartFault]


class StillAt(Said, tag="still_at", frozen=True):
    """So many fits are done, of so many."""

    done: int
    total: int


class Compared(Said, tag="compared", frozen=True):
    """What came of comparing, as JSON."""

    comparison: bytes


class MadeModel(Said, tag="made_model", frozen=True):
    """A model is made; its files are taken one by one. `recipe`, `changes` and what it did on rows that were kept back
    are JSON; the last is empty where too few were."""

    script: str
    requirements: str
    recipe: bytes
    known_group: str
    changes: bytes
    n_learned: int
    n_known: int
    n_kept_back: int
    kept_error: bytes


StartReply = StartLooked | StartDoubtful | StillAt | Compared | MadeModel | FilePart | Wanted | NotRead
