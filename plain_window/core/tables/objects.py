"""JSON lines: an object a line, or a list of objects."""

import json
from typing import Any, BinaryIO

import pandas as pd

from ..errors import TableNotRead

__all__ = ["read_objects"]


def read_objects(file: BinaryIO, name: str) -> pd.DataFrame:
    """A row an object; what an object leaves out is a gap.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str

    Raises
    ------
    TableNotRead
        Naming the line that is no object, or whose value is no number, word or yes and no.
    """
    try:
        text = file.read().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise TableNotRead(f"{name} is not in UTF-8. JSON always is; save it again.") from error
    if text.lstrip().startswith("["):
        rows = list(enumerate(_list(text, name), start=1))
        what = "Entry"
    else:
        rows = [(at, _parsed(line, at, name)) for at, line in enumerate(text.splitlines(), start=1) if line.strip()]
        what = "Line"
    for at, row in rows:
        if not isinstance(row, dict):
            raise TableNotRead(f"{what} {at} of {name[:1].lower()}{name[1:]} is no JSON object. Each row must be one.")
        for key, value in row.items():
            if isinstance(value, dict | list):
                kind = "an object" if isinstance(value, dict) else "a list"
                raise TableNotRead(
                    f"{what} {at} of {name[:1].lower()}{name[1:]} has {kind} in `{key}`. A value may be a number, "
                    "text, true, false or null: flatten it."
                )
    return pd.DataFrame([row for _, row in rows]).infer_objects()


def _list(text: str, name: str) -> list[Any]:
    try:
        found: list[Any] = json.loads(text)
        return found
    except ValueError as error:
        raise TableNotRead(f"{name} is not valid JSON: {error}.") from error


def _parsed(line: str, at: int, name: str) -> Any:
    try:
        return json.loads(line)
    except ValueError as error:
        message = f"Line {at} of {name[:1].lower()}{name[1:]} is not valid JSON: {error}."
        raise TableNotRead(message) from error
