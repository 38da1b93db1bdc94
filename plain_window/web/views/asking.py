"""What visitors' views have in common: draft or release, parts switched on or off, errors for the author."""

from flask import request

from ...core.errors import ModelFailed
from ...runners.failures import RunnerRaised
from ..identity import caller
from ..lookups import ServedDemo
from ..problems import ApiProblem

__all__ = [
    "DRAFT_QUERY",
    "EXPLAIN_QUERY",
    "IN_PICTURE_DESCRIBED",
    "IN_PICTURE_QUERY",
    "MOST_SIDE",
    "SCORE_DESCRIBED",
    "SCORE_QUERY",
    "asks_draft",
    "for_author",
    "is_author",
]

DRAFT_QUERY = {"draft": "`1` asks the draft (its author only)."}

EXPLAIN_QUERY = {
    "with": "What comes along, parted by commas: `explanation`, `curves`, `similar`, `changes`, `where`, `seen`.",
    "to": "With `changes`: the class that is wanted; any other than the likeliest if left out.",
    "reach": "With `changes`: the number that is to be reached; the usual answer if left out.",
    "of": "The class, or the number, that is explained; the likeliest class if left out.",
    "scale": "`score` explains the score behind a probability, where the model has one.",
    "curves": "`full` gives every step of a curve, not only what a small chart can show; as many as an answer holds.",
}

SCORE_QUERY = {"least_score": "Of boxes: the lowest score that counts; the author's if left out."}
SCORE_DESCRIBED = {"least_score": {"type": "number", "minimum": 0, "maximum": 1}}

# Of a picture that is an answer.
MOST_SIDE = 20_000
IN_PICTURE_QUERY = {
    **SCORE_QUERY,
    "most_side": "Of an answer that is a picture: no side of it is longer, in a format that browsers show.",
}
IN_PICTURE_DESCRIBED = {**SCORE_DESCRIBED, "most_side": {"type": "integer", "minimum": 1, "maximum": MOST_SIDE}}


def asks_draft() -> bool:
    """Whether the draft is asked for rather than the release."""
    return request.args.get("draft") in ("1", "true")


def for_author(demo: ServedDemo, error: RunnerRaised | ModelFailed) -> Exception:
    """The error with the library's traceback, if it is the demo's author who asks.

    Parameters
    ----------
    demo : ServedDemo
    error : RunnerRaised or ModelFailed
    """
    if not is_author(demo):
        return error
    return ApiProblem(502, "No answer", str(error), traceback=error.traceback)


def is_author(demo: ServedDemo) -> bool:
    """Whether it is the demo's author who tries it.

    Parameters
    ----------
    demo : ServedDemo
    """
    author = caller()
    return author is not None and author.id == demo.author_id
