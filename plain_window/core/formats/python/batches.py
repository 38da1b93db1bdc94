"""What a function of many cases gave back, as one answer a case or as rows of outputs at once."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ...errors import ModelFailed
from .answers import ROUNDED_BY, AnswerForm

__all__ = ["answers_of", "outputs_at_once"]


def answers_of(result: Any, n_rows: int) -> list[Any]:
    """One answer a case.

    Parameters
    ----------
    result : object
        What a function of many cases returned: a list, an array or a table of them, or a column for each name.
    n_rows : int
        How many cases it was asked about.

    Raises
    ------
    ModelFailed
        If they are not as many.
    """
    rows = _rows_of(result, n_rows)
    if rows is None:
        raise ModelFailed(
            f"The function answers many cases with a {type(result).__name__}; a list of answers is needed."
        )
    if len(rows) != n_rows:
        raise ModelFailed(f"The function was asked about {n_rows} cases and gave {len(rows)} answers.")
    return rows


def _rows_of(result: Any, n_rows: int) -> list[Any] | None:
    if hasattr(result, "columns") and hasattr(result, "to_dict"):
        names = [str(name) for name in result.columns]
        rows = result.to_numpy(dtype=object).tolist()
        return [row[0] for row in rows] if len(names) == 1 else [dict(zip(names, row, strict=True)) for row in rows]
    if isinstance(result, Mapping):
        columns = {str(name): list(values) for name, values in result.items() if not isinstance(values, str)}
        if len(columns) < len(result) or any(len(values) != n_rows for values in columns.values()):
            return None
        return [dict(zip(columns, row, strict=True)) for row in zip(*columns.values(), strict=True)]
    if isinstance(result, Sequence) and not isinstance(result, str):
        return list(result)
    to_list = getattr(result, "tolist", None)
    listed = to_list() if callable(to_list) else None
    if isinstance(listed, list):
        return [row[0] if isinstance(row, list) and len(row) == 1 else row for row in listed]
    return None


def outputs_at_once(result: Any, n_rows: int, form: AnswerForm) -> np.ndarray | None:
    """The outputs of all cases, where they came as one block of numbers; None where each must be looked at.

    Parameters
    ----------
    result : object
    n_rows : int
    form : AnswerForm

    Returns
    -------
    ndarray of shape (n_rows, n_outputs) or None
    """
    if hasattr(result, "columns") and [str(name) for name in result.columns] != list(form.names):
        return None
    if not (isinstance(result, np.ndarray) or hasattr(result, "to_numpy")):
        return None
    block = np.asarray(result)
    if block.dtype.kind not in "fiu" or block.shape[0] != n_rows:
        return None
    n_outputs = 1 if form.kind == "number" else len(form.names)
    if block.size != n_rows * n_outputs or not (form.gives_probabilities or form.kind in ("number", "numbers")):
        return None
    outputs = block.reshape(n_rows, n_outputs).astype("float64")
    if form.kind in ("number", "numbers"):
        return outputs
    # What is no probability is told case by case, in words.
    if not ((outputs >= 0) & (outputs <= 1)).all():
        return None
    if form.kind == "labels":
        return outputs
    totals = outputs.sum(axis=1, keepdims=True)
    return outputs / totals if (np.abs(totals - 1) <= ROUNDED_BY).all() else None
