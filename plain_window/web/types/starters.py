"""Models made of a table alone: what is sent, what is seen in it, and how one was made."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.documents.model_differences import Differences
from ...core.starters.choices import Choices
from ...core.starters.compared import Comparison, KeptError
from .common import Body
from .jobs import FILE

__all__ = ["StarterChanges", "StarterOrigin", "StarterParts"]

Name = Annotated[str, Constrained(max_length=500)]


class StarterParts(BaseModel):
    """What a demo is started with. Choices may be parts of their own, or together in `options` as JSON."""

    table: Annotated[str, Constrained(json_schema_extra=FILE)] = Constrained(
        description="CSV, Parquet or a spreadsheet; a row a case, with what happened in one of its columns."
    )
    target: str | None = Constrained(None, description="The column that is to be predicted.")
    again: str | None = Constrained(
        None, description="The address of a demo that was made so: its model is fitted by the same recipe and replaced."
    )
    options: str | None = Constrained(None, description="A `Choices` as JSON.")


class StarterChanges(Body):
    """What is wanted instead; what is left out stays as it is."""

    target: Name | None = None
    answer: Literal["", "class", "number"] | None = None
    drop: list[Name] | None = None
    keep: list[Name] | None = None
    kinds: dict[Name, Literal["number", "category", "text", "date"]] | None = None
    group: Name | None = Constrained(None, description="Empty for none.")
    time: Name | None = Constrained(None, description="Empty for none.")
    numbers: Literal["", "1,234.5", "1.234,5"] | None = None
    dates: Literal["", "day", "month"] | None = None
    duplicates: Literal["", "keep", "drop"] | None = None
    weights: Literal["", "none", "balanced"] | None = None
    model: Literal["", "linear", "tree", "neighbours", "boosted"] | None = None
    title: Annotated[str, Constrained(max_length=200)] | None = None
    slug: Annotated[str, Constrained(max_length=80)] | None = None

    def applied(self, choices: Choices) -> Choices:
        """Choices with these instead.

        Parameters
        ----------
        choices : Choices
        """
        return choices.model_copy(update=self.model_dump(exclude_none=True))


class StarterOrigin(BaseModel):
    """How a demo's model was made of a table."""

    file_name: str
    target: str
    columns: list[str] = Constrained(description="What the model is told.")
    group: str | None
    time: str | None
    candidate: str
    settings: dict[str, Any]
    compared: Comparison | None = Constrained(description="None of a model that was fitted again by the same recipe.")
    sentences: list[str] = Constrained(description="What was found in the table, and what was done about it.")
    n_rows: int
    n_learned: int
    n_known: int
    n_kept_back: int
    kept_error: KeptError | None = Constrained(None, description="On the rows that were kept back, which no fit saw.")
    differences: Differences | None = Constrained(
        None, description="To the model before it, where it was fitted again."
    )
    script: str
    requirements: str
