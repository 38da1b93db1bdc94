"""Texts and tables that a function gave back."""

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from ...answers.written import MOST_COLUMNS, MOST_ROWS, MOST_TEXT, TableSetting, TextSetting
from ...contract.replies import WrittenReply
from ...contract.values import Value
from ...errors import ModelFailed
from .answers import plain
from .returned import Returned

__all__ = ["WrittenForm", "learn_written"]

LONGEST_CELL, LONGEST_NAME = 500, 200


@dataclass(frozen=True)
class WrittenForm:
    """How a function's answers are written down."""

    task: Literal["text", "table"]

    def write(self, answer: Any) -> WrittenReply:
        """One answer as it is shown.

        Parameters
        ----------
        answer : object

        Raises
        ------
        ModelFailed
            If it is no such answer, saying what came.
        """
        if self.task == "text":
            value = plain(answer)
            if not isinstance(value, str):
                raise _other(answer, "text")
            return WrittenReply(text=value[:MOST_TEXT], is_cut=len(value) > MOST_TEXT)
        table = _table_of(answer)
        if table is None:
            raise _other(answer, "table")
        columns, rows = table
        is_cut = len(rows) > MOST_ROWS or len(columns) > MOST_COLUMNS
        return WrittenReply(
            columns=[_shortened(name, LONGEST_NAME) for name in columns[:MOST_COLUMNS]],
            rows=[[_cell(value) for value in row[:MOST_COLUMNS]] for row in rows[:MOST_ROWS]],
            is_cut=is_cut,
        )


def learn_written(
    returned: Returned, answers: Sequence[Any], *, wanted: str | None, labels: Sequence[str] | None
) -> tuple[WrittenForm, TextSetting | TableSetting] | None:
    """How answers that are texts or tables are written down; None if these are neither.

    Parameters
    ----------
    returned : Returned
    answers : sequence of object
        What came back for some cases.
    wanted : str or None
        The kind that its author says it is.
    labels : sequence of str or None
        With names of classes a text is one of them.
    """
    if wanted not in (None, "text", "table"):
        return None
    is_text = all(isinstance(plain(one), str) for one in answers if not _is_frame(one))
    if is_text and not any(map(_is_frame, answers)) and returned.shape != "class" and (wanted == "text" or not labels):
        return WrittenForm("text"), TextSetting()
    is_said = wanted == "table" or returned.shape in ("table", "rows")
    looks_so = all(_is_frame(one) or _is_list_of_records(one) for one in answers)
    if (is_said or looks_so) and all(_table_of(one) is not None for one in answers):
        return WrittenForm("table"), TableSetting()
    return None


def _is_frame(answer: Any) -> bool:
    return hasattr(answer, "columns") and hasattr(answer, "to_dict")


def _is_list_of_records(answer: Any) -> bool:
    return isinstance(answer, list | tuple) and bool(answer) and all(isinstance(plain(one), Mapping) for one in answer)


def _table_of(answer: Any) -> tuple[list[str], list[list[Any]]] | None:
    """Its columns and rows: of a table, a list of mappings or objects, or a mapping to columns."""
    if _is_frame(answer):
        names = [str(name) for name in answer.columns]
        return names, answer.head(MOST_ROWS + 1).to_numpy(dtype=object).tolist()
    if isinstance(answer, Mapping):
        lists = {name: values for name, values in answer.items() if isinstance(values, list | tuple | np.ndarray)}
        columns = {str(name): list(values) for name, values in lists.items()}
        lengths = {len(values) for values in columns.values()}
        if len(columns) < len(answer) or len(lengths) > 1:
            return None
        return list(columns), [list(row) for row in zip(*columns.values(), strict=True)]
    if not isinstance(answer, list | tuple):
        return None
    records = [plain(one) for one in answer[: MOST_ROWS + 1]]
    if not all(isinstance(one, Mapping) for one in records):
        return None
    names = list(dict.fromkeys(str(name) for one in records for name in one))
    return names, [[one.get(name) for name in names] for one in records]


def _cell(value: Any) -> Value:
    one = plain(value)
    if one is None or isinstance(one, bool):
        return one
    if isinstance(one, int | float):
        return one if math.isfinite(one) else None
    if isinstance(value, dt.date | dt.datetime):
        return value.isoformat()
    return _shortened(str(one), LONGEST_CELL)


def _shortened(text: str, longest: int) -> str:
    # Nobody shall take the beginning of a text for the whole.
    return text if len(text) <= longest else text[: longest - 1] + "…"


def _other(answer: Any, wanted: str) -> ModelFailed:
    words = repr(answer)[:80]
    return ModelFailed(f"The function gave no {wanted} but {words}.", traceback="")
