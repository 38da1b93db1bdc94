"""Model and table together: columns, fields, answer, or what does not fit."""

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..answers import (
    AnyAnswerSetting,
    ClassSetting,
    ClassWording,
    LabelsSetting,
    NumberSetting,
    NumbersSetting,
)
from ..answers.rounding import decimals_for_spread
from ..compiled.plan import Plan
from ..errors import Fault, MismatchFaults, ModelFailed
from ..fields.columns import Column
from ..fields.inference import columns_of, infer_fields, match_columns
from ..fields.tables import model_table
from .adapter import ModelAdapter
from .class_names import names_of_classes
from .compiling import compile_and_prove
from .drawing import plain_value
from .found import Found, Inspection
from .sklearn import class_name

__all__ = ["answer_setting", "inspect_model", "plain_row"]

# Reference rows the model is asked about before it is taken: enough to meet every option, quick for slow models.
TRIAL_ROWS = 200


def inspect_model(
    model: ModelAdapter, table: pd.DataFrame, *, target: str | None = None, labels: list[str] | None = None
) -> tuple[Inspection, Plan | None]:
    """Match a model with its reference table, infer the demo's fields and answer, and compile it if that is possible.

    Parameters
    ----------
    model : ModelAdapter
    table : DataFrame of shape (n_rows, n_columns)
        The reference table.
    target : str, optional
        The outcome's column; guessed when exactly one column is not a feature.
    labels : list of str, optional
        Names for the classes, in class order.

    Returns
    -------
    Inspection, Plan or None
        The plan only if it was proved to say what the model says.

    Raises
    ------
    MismatchFaults
        If model, table and labels do not belong together, column by column.
    """
    found = model.found
    if target is not None and target not in table.columns:
        raise MismatchFaults([Fault("target", f"The reference table has no column `{target}` to be the outcome.")])
    if found.features is None and target is None:
        target = _target_by_classes(table, found)
    settled = model.settle([str(name) for name in table.columns], _words_of(table))
    names = match_columns(table, settled or found.features, n_features=found.n_features, target=target)
    dropped = model.dropped_columns(names)
    if target is None:
        rest = [column for column in table.columns if column not in names]
        target = rest[0] if len(rest) == 1 else None
    used = [name for name in names if name not in dropped]
    uses = model.column_uses(names)
    # Kinds first: asking the model about a table that does not fit would only give its own, obscurer words for it.
    fields = infer_fields(table, used, uses, takes_gaps=False)
    columns = columns_of(table, used)
    outputs = _trial(model, columns, table)
    for field in fields:
        if table[field.name].isna().any():
            field.optional = _takes_gap(model, columns, table, field.name)
    answer, notes = answer_setting(found, table, target, labels, outputs)
    plan, report = compile_and_prove(model, table, columns, fields)
    inspection = Inspection(
        found=found,
        compiled=report,
        target=target,
        columns=columns,
        ignored=[column for column in table.columns if column not in used and column != target],
        fields=fields,
        answer=answer,
        notes=[*notes, *_order_notes(table, names, found)],
        n_reference_rows=len(table),
        warm_up_row=plain_row(table, used),
    )
    return inspection, plan


def _words_of(table: pd.DataFrame) -> dict[str, list[str]]:
    """The distinct values of the columns of words."""
    words = table.select_dtypes(exclude=["number", "bool"])
    return {name: sorted({str(value) for value in words[name].dropna().unique()}) for name in words.columns}


def _target_by_classes(table: pd.DataFrame, found: Found) -> str | None:
    """For a model without feature names: the one column too many, if it holds exactly the model's classes."""
    if found.classes is None or found.n_features is None or len(table.columns) != found.n_features + 1:
        return None
    classes = set(found.classes)
    alike = [
        column
        for column in table.columns
        if {class_name(value) for value in table[column].dropna().unique()} == classes
    ]
    return alike[0] if len(alike) == 1 else None


def _trial(model: ModelAdapter, columns: list[Column], table: pd.DataFrame) -> np.ndarray:
    rows = table[[column.name for column in columns]].head(TRIAL_ROWS)
    try:
        return model.predict(rows)
    except ModelFailed as error:
        complete = rows.dropna()
        if len(complete) < len(rows) and len(complete):
            # Gaps in the table that the model does not take: its fields are then required.
            try:
                return model.predict(complete)
            except ModelFailed:
                pass
        message = (
            f"{error} This came up with the first rows of the reference table. Was the model trained on such rows?"
        )
        raise MismatchFaults([Fault(None, message)]) from error


def _takes_gap(model: ModelAdapter, columns: list[Column], table: pd.DataFrame, name: str) -> bool:
    """Whether the model answers a row in which only this column is missing."""
    names = [column.name for column in columns]
    others = [other for other in names if other != name]
    rows = table.loc[table[name].isna(), names]
    rows = rows.dropna(subset=others) if not rows.dropna(subset=others).empty else rows
    if rows.empty:
        return False
    row = {key: plain_value(value) for key, value in rows.iloc[0].items()}
    row[name] = None
    try:
        return bool(np.isfinite(model.predict(model_table(columns, [row]))).all())
    except ModelFailed:
        return False


def answer_setting(
    found: Found,
    table: pd.DataFrame | None,
    target: str | None,
    labels: list[str] | None,
    outputs: np.ndarray,
    outcomes: pd.Series | None = None,
) -> tuple[AnyAnswerSetting, list[str]]:
    """How the answer is put, and what its author should check of that.

    `outcomes` stand in for the target's column where they are known otherwise.
    """
    if found.task == "number":
        return _number_setting(table, target, outputs[:, 0]), []
    if found.task == "numbers":
        parts = [_number_setting(table, None, column) for column in outputs.T]
        for index, part in enumerate(parts):
            part.name = labels[index] if labels and len(labels) == len(parts) else f"Answer {index + 1}"
        return NumbersSetting(values=parts), []
    if outcomes is None and target is not None and found.task == "class":
        outcomes = table[target]
    names, note = names_of_classes(found.classes or [], labels, outcomes, outputs)
    notes = [note] if note else []
    wordings = [ClassWording(name=name, label=name, headline=name[:1].upper() + name[1:]) for name in names]
    if found.task == "labels":
        return LabelsSetting(labels=wordings), notes
    return ClassSetting(classes=wordings, gives_probabilities=found.gives_probabilities), notes


def _order_notes(table: pd.DataFrame, names: list[str], found: Found) -> list[str]:
    """What to check of the columns' order."""
    if found.features is None and len(names) > 1:
        return [
            f"The model has no feature names. It is given the table's columns in their order: {', '.join(names[:12])}"
            f"{' …' if len(names) > 12 else ''}. Check that it was trained with this order."
        ]
    if [column for column in table.columns if column in set(names)] != names:
        return ["The table's columns stand in another order than the model's. They are matched by name."]
    return []


def _number_setting(table: pd.DataFrame | None, target: str | None, outputs: np.ndarray) -> NumberSetting:
    if target is None or not dtypes.is_numeric_dtype(table[target]) or table[target].dropna().empty:
        return NumberSetting(decimals=decimals_for_spread(float(np.std(outputs))))
    outcomes = table[target].dropna().to_numpy(dtype="float64")
    words = target.replace("_", " ").strip()
    return NumberSetting(
        name=words[:1].upper() + words[1:],
        decimals=decimals_for_spread(float(np.std(outcomes))),
        low=float(outcomes.min()),
        high=float(outcomes.max()),
    )


def plain_row(table: pd.DataFrame, names: list[str]) -> dict[str, bool | int | float | str | None]:
    """The first row without gaps, or the first of all."""
    complete = table[names].dropna()
    row = (complete if len(complete) else table[names]).iloc[0]
    return {name: plain_value(row[name]) for name in names}
