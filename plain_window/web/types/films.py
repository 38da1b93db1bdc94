"""Films: what came of their frames."""

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.answers.in_picture import FoundBox
from .jobs import JobView

__all__ = ["FilmFrame", "FilmFrames", "FilmRow"]


class FilmRow(BaseModel):
    """What one number of each frame is: a class, a label, a kind of box, a number."""

    name: str = Constrained(description="As the model names it.")
    label: str = Constrained(description="As a visitor reads it.")
    unit: str = ""


class FilmFrame(BaseModel):
    """What came of one frame."""

    at: float = Constrained(description="From when on it is shown, in seconds from the film's start.")
    values: list[float] = Constrained(
        description="A number for each row: probabilities, the number that was asked for, or how many boxes of a kind."
    )
    marks: list[int] = Constrained([], description="Of classes and labels, how many of 100 that is for each row.")
    texts: list[str] = Constrained([], description="Of numbers, each as it is written.")
    said: str | None = Constrained(
        None, description="Of classes the one that is said, by its name; of labels all that apply."
    )
    boxes: list[FoundBox] = Constrained([], description="What was found, best score first, in the film's pixels.")
    fault: str = Constrained("", description="Why there is no answer, where there is none.")


class FilmFrames(BaseModel):
    """Some frames of a film, and its job as it is now."""

    job: JobView
    rows: list[FilmRow]
    frames: list[FilmFrame]
