"""What an operation is, and the list of them.

An operation has two sides: `width` says how wide its result is and raises if its parts do not fit together (called
once, when a plan is read); `run` computes it (called for each batch, trusting what was checked).
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..columns import Columns
from .sparse import Sparse

__all__ = [
    "OPERATIONS",
    "Arrays",
    "Blocks",
    "Columns",
    "Operation",
    "Run",
    "Settings",
    "ValueNotKnown",
    "every_number",
    "need",
    "one_column",
    "operation",
    "same_width",
    "vector_width",
]

Blocks = list[Any]
Arrays = Mapping[str, np.ndarray]
Settings = Mapping[str, Any]
Width = Callable[[list[int], Arrays, Settings], int]
Run = Callable[[Blocks, Arrays, Settings, Columns], np.ndarray | Sparse]
Effort = Callable[[int, Arrays], int]


class ValueNotKnown(Exception):
    """A value that is not among a column's categories, where the original refuses such a row too."""


@dataclass(frozen=True)
class Operation:
    """The two sides of an operation. One that `takes_sparse` gets sparse blocks as they are, others get them dense."""

    width: Width
    run: Run
    # Once, when a plan is made ready: its arrays in the form that `run` wants.
    prepare: Callable[[Arrays], Arrays]
    # What `run` would else work out of its settings and prepared arrays for each batch, as further settings.
    ready: Callable[[Arrays, Settings], Settings]
    takes_sparse: bool
    # What one row takes besides its result, in numbers: bounds how many rows are computed at once.
    scratch: Callable[[Arrays, Settings], int]
    # How many numbers one row can touch at the most, for a result so wide; None where no such bound is known.
    effort: Effort | None


OPERATIONS: dict[str, Operation] = {}


def operation(
    name: str,
    width: Width,
    *,
    prepare: Callable[[Arrays], Arrays] = lambda arrays: arrays,
    ready: Callable[[Arrays, Settings], Settings] = lambda arrays, settings: {},
    takes_sparse: bool = False,
    scratch: Callable[[Arrays, Settings], int] = lambda arrays, settings: 0,
    effort: Effort | None = None,
) -> Callable[[Run], Run]:
    """Register the function below as the operation `name`.

    Parameters
    ----------
    name : str
        As plans call it.
    width : Width
        Tells how many columns come out, from those that go in.
    prepare : callable, optional
        Brings the arrays into the form the kernel takes, once.
    ready : callable, optional
        Works out once what follows from the settings.
    takes_sparse : bool, optional
        Whether it can be given sparse counts.
    scratch : callable, optional
        How much room it needs for one row.
    effort : Effort or None, optional
        What one row can take at most; without it the operation has no quick way.
    """

    def register(run: Run) -> Run:
        OPERATIONS[name] = Operation(width, run, prepare, ready, takes_sparse, scratch, effort)
        return run

    return register


def every_number(width: int, arrays: Arrays) -> int:
    """The effort of a step that touches each of its numbers, and each of its result's, a few times.

    Parameters
    ----------
    width : int
    arrays : mapping of str to ndarray
    """
    return width + sum(array.size for array in arrays.values())


def need(holds: bool, what: str) -> None:
    """Refuse a step whose parts do not fit together.

    Parameters
    ----------
    holds : bool
        Whether it does.
    what : str
        What is wrong, as the error says it.

    Raises
    ------
    ValueError
    """
    if not holds:
        raise ValueError(what)


def same_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    """One block in, one as wide out.

    Parameters
    ----------
    widths : list of int
        Columns of each input.
    arrays : Arrays
        The step's, by name.
    settings : Settings
    """
    need(len(widths) == 1, "one block is wanted")
    return widths[0]


def one_column(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    """One column in, one out.

    Parameters
    ----------
    widths : list of int
        Columns of each input.
    arrays : Arrays
        The step's, by name.
    settings : Settings
    """
    need(widths == [1], "one column is wanted")
    return 1


def vector_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    """One block in, with one number a column; one as wide out.

    Parameters
    ----------
    widths : list of int
        Columns of each input.
    arrays : Arrays
        The step's, by name.
    settings : Settings
    """
    need(len(widths) == 1 and arrays["vector"].shape == (widths[0],), "the vector does not fit the block")
    return widths[0]
