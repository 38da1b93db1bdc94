"""What is known of a job that makes a model of a table, as it is kept with it."""

from typing import Any

from pydantic import BaseModel

from ..core.checks.result import CheckResult
from ..core.starters.choices import Choices
from ..core.starters.compared import Comparison, KeptError
from ..core.starters.sheet import Sheet
from ..store.jobs import NewJob

__all__ = ["MADE_OF_TABLE", "MadeOfTable", "StarterFound", "StarterOptions", "new_starter"]

# Under which it is kept with a model how that was made.
MADE_OF_TABLE = "made-of-table"
CALLER_CHARACTERS, NAME_CHARACTERS = 120, 200


class StarterOptions(BaseModel):
    """What is wanted: the author's choices; or the recipe of the demo at `again` once more."""

    choices: Choices
    again: str = ""


def new_starter(
    options: StarterOptions, *, file: str, file_bytes: int, file_name: str, author_id: int, caller: str
) -> NewJob:
    """A job as it is taken in.

    Parameters
    ----------
    options : StarterOptions
    file : str
        The table in the store.
    file_bytes : int
        Its size.
    file_name : str
        What it is called.
    author_id : int
        Whose it is.
    caller : str
        Who sent it.
    """
    return NewJob(
        kind="starter",
        demo_id=None,
        model_id=None,
        release_number=None,
        document="",
        by_author=True,
        caller=caller[:CALLER_CHARACTERS],
        options=options.model_dump(),
        file=file,
        file_name=file_name[:NAME_CHARACTERS],
        file_bytes=file_bytes,
        author_id=author_id,
    )


class StarterFound(BaseModel):
    """What has been found so far, and what came of it; in the end what a call would have said."""

    sheet: Sheet | None = None
    how: dict[str, Any] = {}
    compared: Comparison | None = None
    # Whether it could not be looked at as it was wanted last: what is known is of the time before.
    is_refused: bool = False
    # What the model that was made does on the rows that were kept back.
    kept_error: KeptError | None = None
    slug: str = ""
    # What the checks of the demo came to when it was made.
    checks: list[CheckResult] = []
    errors: list[dict[str, Any]] = []
    traceback: str = ""
    requirements: list[str] = []


class MadeOfTable(BaseModel):
    """How a model was made of a table."""

    file_name: str
    recipe: dict[str, Any]
    script: str
    requirements: str
    compared: Comparison | None
    sentences: list[str]
    n_rows: int
    n_learned: int
    n_known: int
    n_kept_back: int
    kept_error: KeptError | None = None
    # The settings that were chosen for each model that was tried, so that another can be taken later.
    settings: dict[str, dict[str, Any]] = {}
    # Of a model that was fitted again: how it differs from the one before.
    differences: dict[str, Any] | None = None
