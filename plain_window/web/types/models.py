"""What a model comes with."""

from typing import Annotated, Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.fields.calendars import Calendar

__all__ = ["FolderPart", "NewDemo", "NewParts"]

_FilePart = Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})]
NumbersWritten = Literal["1,234.5", "1.234,5"]
AnswerKind = Literal["class", "labels", "number", "numbers", "picture", "mask", "text", "table"]


class FolderPart(BaseModel):
    """The part that puts a folder in a draft's place."""

    folder: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/zip"})]


class NewDemo(BaseModel):
    """The parts of the multipart request that brings a model, or all of a demo as a `folder`."""

    model: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})] | None = None
    function: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "text/x-python"},
                description="In place of `model`: a Python file. Fields come from its function's type hints.",
            ),
        ]
        | None
    ) = None
    known_group: str | None = Constrained(
        None,
        description="The column of the known cases that says what each is a case of, where several are of one thing: "
        "they go wrong together, and count as one for how sure the report is.",
    )
    function_name: str | None = Constrained(
        None, description="Which function answers, where the file has several public ones."
    )
    beside: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/zip"},
                description="A zip of what lies beside the function: weights, encoders, modules of its own.",
            ),
        ]
        | None
    ) = None
    folder: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/zip"},
                description="A zip of a demo's folder, as `GET …/folder` gives it; then only `slug` may come along.",
            ),
        ]
        | None
    ) = None
    reference: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/octet-stream"},
                description="CSV or Parquet. Models of pictures and of text need none.",
            ),
        ]
        | None
    ) = None
    preprocessor: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/octet-stream"},
                description="A fitted transformer that the model's inputs go through first.",
            ),
        ]
        | None
    ) = None
    known: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})] | None = None
    labels: str | None = Constrained(
        None,
        description="Class names: one a line, in class order, or a CSV with the model's classes in one column.",
    )
    target: str | None = Constrained(
        None,
        description="The outcome's column, in the reference table or the known cases; several parted by commas.",
    )
    answer: AnswerKind | None = Constrained(None, description="The kind of answer, where it is not to be concluded.")
    numbers: NumbersWritten | None = Constrained(
        None, description="How the tables write numbers, if it cannot be told."
    )
    dates: Calendar | None = Constrained(
        None, description="How dates were counted for the model, where the tables hold them as dates."
    )
    requirements: str | None = Constrained(
        None, description="The text of a `requirements.txt`: libraries of the model's own, in an environment."
    )
    title: str | None = None
    slug: str | None = None


class NewParts(BaseModel):
    """What may replace what a demo was made of; a part that is sent empty is taken away."""

    model: _FilePart | None = None
    function: _FilePart | None = None
    function_name: str | None = None
    beside: _FilePart | None = None
    reference: _FilePart | None = None
    preprocessor: _FilePart | None = None
    known: _FilePart | None = None
    known_group: str | None = Constrained(
        None,
        description="The column of the known cases that says what each is a case of, where several are of one thing: "
        "they go wrong together, and count as one for how sure the report is.",
    )
    labels: str | None = None
    target: str | None = None
    answer: AnswerKind | None = None
    numbers: NumbersWritten | None = None
    dates: Calendar | None = None
    requirements: str | None = Constrained(
        None, description="The text of a `requirements.txt`: libraries of the model's own, in an environment."
    )
    title: str | None = None
    slug: str | None = None
    renames: str | None = Constrained(
        None, description="A JSON object: of features with another name now the one each had, by the one it has."
    )
