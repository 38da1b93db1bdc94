"""What the API says of what is wrong."""

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["FieldProblem", "Problem"]


class FieldProblem(BaseModel):
    """One fault in what was sent."""

    field: str | None
    message: str
    asks: str | None = Constrained(None, description="What only its author knows: the word that the answer is sent as.")
    choices: list[str] = Constrained([], description="What may be said to that; empty if anything.")


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] | None = None
    traceback: str | None = Constrained(None, description="What the library reported; for the demo's author only.")
    requirements: list[str] | None = Constrained(
        None, description="Lines of a `requirements.txt` with which the model might open."
    )
