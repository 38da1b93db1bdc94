"""What came of compiling a model, for its author."""

from pydantic import BaseModel

from ..fields.kinds import Scalar

__all__ = ["CompiledReport"]


class CompiledReport(BaseModel):
    """Whether a compiled model was adopted, on what evidence, and what stood in the way if not."""

    adopted: bool
    n_rows_compared: int = 0
    largest_difference: float | None = None
    worst_row: dict[str, Scalar | None] | None = None
    obstacle: str | None = None
