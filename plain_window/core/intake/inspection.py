"""Model and table together: columns, fields, answer, or what does not fit."""

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..answers import ClassSetting
from ..contract.inspection import Found, Inspection, Question
from ..contract.model_facts import OutputKind
from ..errors import Fault, MismatchFaults, ModelFailed, ModelNotOpened
from ..fields.calendars import CALENDARS, SAY_HOW_COUNTED, Calendar
from ..fields.columns import Column, ColumnUse
from ..fields.inference import columns_of, infer_fields, match_columns
from ..formats.adapter import ModelAdapter
from ..formats.model_table import model_table
from ..guest.class_names import class_name
from ..plan.plan import Plan
from ..tables.dates import looks_like_dates
from ..tables.reading import TableRead
from .answer_kind import settle_kind
from .answer_setting import AnswerPut, Truth, put_answer
from .column_order import OrderFit, compare_orders
from .compiling import compile_and_prove
from .dated_columns import MOSTLY_DATES, count_dates, with_dates
from .outcomes import as_numbers, class_places, find_outcome_columns, in_order_of_outputs, named_targets
from .row_sampling import plain_value

__all__ = ["inspect_model", "plain_row"]

# Reference rows the model is asked about before it is taken: enough to meet every option, quick for slow models.
TRIAL_ROWS = 200
# Of the outcomes' spread, and of the error with any other column as the outcome.
FITS_BY_ITSELF = 0.5
# With no more columns than this, other orders of them are tried to find the outcome.
MOST_REORDERED = 7
# Rows an author compares with the notebook.
CONFIRMED_ROWS = 3


def inspect_model(
    model: ModelAdapter,
    reference: TableRead | pd.DataFrame,
    *,
    target: str | None = None,
    labels: list[str] | None = None,
    known_cases: TableRead | pd.DataFrame | None = None,
    kind: OutputKind | None = None,
    dates: Calendar | None = None,
) -> tuple[Inspection, Plan | None]:
    """Match a model with its reference table, infer the demo's fields and answer, and compile it if that is possible.

    Parameters
    ----------
    model : ModelAdapter
    reference : TableRead or DataFrame of shape (n_rows, n_columns)
        The reference table. Columns that the model knows as words are put back as they are written.
    target : str, optional
        The outcome's column, or several parted by commas; guessed when exactly as many columns are no features as the
        model has answers.
    labels : list of str, optional
        Names for the classes, in class order.
    known_cases : TableRead or DataFrame, optional
        Known cases, which may have the outcome where the reference table does not.
    kind : str, optional
        The kind of answer, where the author knows better than what is concluded.
    dates : str, optional
        How the training script counted the dates that the tables hold.

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
    read = reference if isinstance(reference, TableRead) else TableRead(reference, "the reference table")
    table = _without_row_numbers(read, found)
    known = known_cases.table if isinstance(known_cases, TableRead) else known_cases
    targets = named_targets(target, [table, known])
    if found.features is None and not targets:
        by_itself = _target_by_classes(table, found) or _target_by_fit(model, table)
        targets = [by_itself] if by_itself else []
    settled = model.settle([str(name) for name in table.columns], _words_of(table))
    names = match_columns(table, settled or found.features, n_features=found.n_features, targets=targets)
    dropped = model.dropped_columns(names)
    used = [name for name in names if name not in dropped]
    uses = model.column_uses(names)
    dated = count_dates(read, used, uses, dates)
    table = _settled_words(read, used, uses, targets, found)
    if isinstance(known_cases, TableRead):
        there = [name for name in used if name in known_cases.table.columns]
        count_dates(known_cases, there, uses, dates)
        known = _settled_words(known_cases, there, uses, targets, found)
    # Kinds first: asking the model about a table that does not fit would only give its own, obscurer words for it.
    fields = with_dates(infer_fields(table, used, uses, takes_gaps=False), dated, dates)
    columns = columns_of(table, used)
    outputs = _trial(model, columns, table)
    found, notes = settle_kind(found, outputs, kind)
    model.found = found
    for field in fields:
        if table[field.name].isna().any():
            field.optional = _takes_gap(model, columns, table, field.name)
    source = _with_outcomes(table, known, names, targets)
    rest = [name for name in source.columns if name not in names]
    outcome = find_outcome_columns(found, outputs.shape[1], targets, rest, source)
    targets, truth, order_note = _truth(model, columns, source, outcome.names)
    put = put_answer(found, labels, outputs, truth)
    plan, report = compile_and_prove(model, table, columns, fields)
    order_notes, order_questions = _order(model, columns, table, source, truth, put)
    inspection = Inspection(
        found=found,
        compiled=report,
        target=targets[0] if len(targets) == 1 else None,
        targets=targets,
        candidates=outcome.candidates,
        columns=columns,
        ignored=[name for name in table.columns if name not in used and name not in targets],
        fields=fields,
        answer=put.setting,
        outcome_words=put.words,
        notes=[*read.notes, *notes, *put.notes, *([order_note] if order_note else []), *order_notes],
        questions=[*put.questions, *order_questions],
        n_reference_rows=len(table),
        warm_up_row=plain_row(table, used),
    )
    return inspection, plan


def _without_row_numbers(read: TableRead, found: Found) -> pd.DataFrame:
    """The table without a column that only counts its rows, as a saved index does, unless the model asks for it."""
    first = read.table.columns[0]
    if not first.startswith("Unnamed: ") or first in (found.features or []):
        return read.table
    counted = read.table[first].to_numpy()
    if dtypes.is_integer_dtype(counted) and len(set(np.diff(counted))) <= 1 and len(read.table.columns) > 1:
        read.table = read.table.drop(columns=first)
        read.notes.append(f"The first column of {read.name} has no name and counts the rows; it was left out.")
    return read.table


def _settled_words(
    read: TableRead, names: list[str], uses: dict[str, ColumnUse], targets: list[str], found: Found
) -> pd.DataFrame:
    """The table with numbers where the model takes numbers, and words where it knows words.

    Raises
    ------
    MismatchFaults
        For each column that can be read in two ways, or has a value that is no number among numbers.
    """
    known_words = [name for name in names if _knows_words(uses.get(name))]
    for name in known_words:
        # Words that look like numbers were read as such; the model knows them as words.
        if name not in read.as_written and _are_numbered_words(read.table[name], uses[name]):
            read.as_written[name] = read.table[name].map(lambda value: class_name(value) if pd.notna(value) else None)
    known_words += [name for name in targets if name in read.as_written and _are_classes(read.as_written[name], found)]
    read.table = read.for_words(known_words)
    others = [name for name in [*names, *targets] if name not in known_words]
    read.refuse_doubtful(others)
    faults = [
        Fault(
            name,
            f"Column `{name}` should hold numbers; row {read.odd[name][0] + 2} of {read.name} has "
            f'"{read.odd[name][1][:40]}". Mend the value or leave it empty.',
        )
        for name in names
        if name in read.odd and name not in known_words
    ]
    if faults:
        raise MismatchFaults(faults)
    return read.table


def _knows_words(use: ColumnUse | None) -> bool:
    if use is None or use.wants not in ("category", "text"):
        return False
    return use.wants == "text" or not use.categories or any(isinstance(value, str) for value in use.categories)


def _are_numbered_words(column: pd.Series, use: ColumnUse) -> bool:
    categories = use.categories or []
    if not dtypes.is_numeric_dtype(column) or not categories or not all(isinstance(one, str) for one in categories):
        return False
    return {class_name(value) for value in column.dropna().unique()} <= set(categories)


def _are_classes(column: pd.Series, found: Found) -> bool:
    return set(column.dropna().astype(str).unique()) <= set(found.classes or [])


def _with_outcomes(
    table: pd.DataFrame, known: pd.DataFrame | None, names: list[str], targets: list[str]
) -> pd.DataFrame:
    """Of reference table and known cases the one that has the outcome."""
    if known is None or not set(names) <= set(known.columns):
        return table
    if targets:
        return table if set(targets) <= set(table.columns) else known
    # A reference table of features alone leaves the outcome to the known cases.
    return known if set(table.columns) <= set(names) else table


def _truth(
    model: ModelAdapter, columns: list[Column], source: pd.DataFrame, targets: list[str]
) -> tuple[list[str], Truth | None, str]:
    """The outcome's columns in the order of the outputs, what the model says of their rows, and a note on the order."""
    if not targets:
        return [], None, ""
    names = [column.name for column in columns]
    rows = source[source[targets].notna().all(axis=1)].head(TRIAL_ROWS)
    outputs: np.ndarray | None
    try:
        outputs = model.predict(rows[names])
    except ModelFailed:
        rows = rows.dropna(subset=names)
        outputs = model.predict(rows[names]) if len(rows) else None
    if outputs is None or not len(rows):
        return targets, None, ""
    note = ""
    if len(targets) > 1:
        targets, note = in_order_of_outputs(targets, rows[targets], outputs)
    has = np.isfinite(outputs).all(axis=1)
    # Names are settled by all outcomes; agreement by the rows that were asked.
    outcomes = pd.concat([rows.loc[has, targets], source[targets].drop(rows.index)])
    return targets, Truth(outcomes, outputs[has]), note


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


def _target_by_fit(model: ModelAdapter, table: pd.DataFrame) -> str | None:
    """For a model of one number without feature names: the one column too many that the others tell by far the best."""
    found = model.found
    if found.task != "number" or found.n_features is None or len(table.columns) != found.n_features + 1:
        return None
    rows = table.dropna().head(TRIAL_ROWS)
    errors = {}
    for column in table.columns:
        truth = as_numbers(rows[column])
        try:
            answers = model.predict(rows.drop(columns=column))[:, 0] if np.isfinite(truth).all() and len(rows) else None
        except ModelFailed:
            continue
        if answers is not None and np.isfinite(answers).all():
            errors[column] = float(np.mean(np.abs(answers - truth))) / (float(np.std(truth)) or 1.0)
    if min(errors.values(), default=np.inf) > FITS_BY_ITSELF and len(table.columns) <= MOST_REORDERED:
        # The columns may stand in another order than the training's as well.
        for column in errors:
            names = [name for name in table.columns if name != column]
            fit = compare_orders(model.predict, rows, names, as_numbers(rows[column]), is_class=False)
            errors[column] = fit.best if fit is not None else np.inf
    order = sorted(errors, key=lambda column: errors[column])
    if not order or errors[order[0]] > FITS_BY_ITSELF:
        return None
    return order[0] if len(order) == 1 or errors[order[0]] <= FITS_BY_ITSELF * errors[order[1]] else None


def _trial(model: ModelAdapter, columns: list[Column], table: pd.DataFrame) -> np.ndarray:
    """What the model says of the first rows.

    Raises
    ------
    MismatchFaults
        If it answers none of them, or with another number of rows.
    """
    rows = table[[column.name for column in columns]].head(min(TRIAL_ROWS, getattr(model, "most_rows", TRIAL_ROWS)))
    outputs = _asked_of(model, rows)
    if len(outputs) not in (len(rows), len(rows.dropna())):
        message = f"The model answers {len(rows)} rows with {len(outputs)}. One answer a row is needed."
        raise MismatchFaults([Fault(None, message)])
    if not np.isfinite(outputs).all(axis=1).any():
        message = (
            "The model gives no number for any of the first rows of the reference table. Was it trained on such rows?"
        )
        raise MismatchFaults([Fault(None, message)])
    return outputs


def _asked_of(model: ModelAdapter, rows: pd.DataFrame) -> np.ndarray:
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
        dates = _date_columns(rows)
        if model.found.format == "python":
            raise ModelNotOpened(f"{error} It came up while it was tried.", traceback=error.traceback) from error
        if dates:
            message = f"{dates} The model could not answer rows with them. {SAY_HOW_COUNTED}"
            raise MismatchFaults([Fault(None, message, "dates", CALENDARS)]) from error
        message = (
            f"{error} This came up with the first rows of the reference table. Was the model trained on such rows?"
        )
        raise MismatchFaults([Fault(None, message)]) from error


def _date_columns(rows: pd.DataFrame) -> str:
    """Which columns hold dates, as a sentence; empty if none does."""
    for name in rows.columns:
        known = rows[name].dropna()
        if looks_like_dates(rows[name], share=MOSTLY_DATES):
            return f'Column `{name}` holds dates ("{str(known.iloc[0])[:40]}").'
    return ""


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


def _order(
    model: ModelAdapter,
    columns: list[Column],
    table: pd.DataFrame,
    source: pd.DataFrame,
    truth: Truth | None,
    put: AnswerPut,
) -> tuple[list[str], list[Question]]:
    """What to check of the columns' order."""
    names = [column.name for column in columns]
    if model.found.features is not None or len(names) < 2:
        if [column for column in table.columns if column in set(names)] != names:
            return ["The table's columns stand in another order than the model's. They are matched by name."], []
        return [], []
    shown = f"{', '.join(f'`{name}`' for name in names[:12])}{' …' if len(names) > 12 else ''}"
    note = f"The model has no feature names. It is given the table's columns in their order: {shown}."
    fit = _order_fit(model, names, source, truth, put)
    if fit is None:
        rows = table[names].dropna().head(CONFIRMED_ROWS)
        short = f"{note} Check that it was trained with this order."
        question = Question(
            name="features",
            text=note,
            way_on="Compare its answers to these rows with your notebook's, and confirm that they are the same.",
            note=short,
            rows=[{name: plain_value(row[name]) for name in names} for _, row in rows.iterrows()],
            outputs=model.predict(rows).tolist() if len(rows) else [],
        )
        return [short], [question]
    if fit.fits:
        return [f"{note} Of the orders tried none fits the outcomes better: {_error_words(fit, fit.as_given)}."], []
    order = ", ".join(f"`{name}`" for name in fit.order[:12]) + (" …" if len(fit.order) > 12 else "")
    text = (
        f"{note} In this order it is wrong far more often than it need be: {_error_words(fit, fit.as_given)}; with the "
        f"order {order} only {_error_words(fit, fit.best)}. Bring a table with its columns in the training's order."
    )
    return [text], [Question(name="features", text=text)]


def _order_fit(
    model: ModelAdapter, names: list[str], source: pd.DataFrame, truth: Truth | None, put: AnswerPut
) -> OrderFit | None:
    if truth is None or not set(names) <= set(source.columns):
        return None
    targets = list(truth.outcomes.columns)
    if isinstance(put.setting, ClassSetting):
        class_names = [wording.name for wording in put.setting.classes]
        known = class_places(source[targets[0]], model.found, class_names, put.words)
    else:
        known = np.column_stack([as_numbers(source[name]) for name in targets])
    is_class = isinstance(put.setting, ClassSetting)
    return compare_orders(model.predict, source, names, known, is_class=is_class)


def _error_words(fit: OrderFit, error: float) -> str:
    """How wrong, on how many rows."""
    if fit.is_class:
        return f"wrong for {round(error * 100)} of 100 of {fit.n_rows:,} rows"
    return f"off by {error:.2g} times the outcomes' spread on {fit.n_rows:,} rows"


def plain_row(table: pd.DataFrame, names: list[str]) -> dict[str, bool | int | float | str | None]:
    """The first row without gaps, or the first of all.

    Parameters
    ----------
    table : pandas.DataFrame
    names : list of str
        The columns in use.
    """
    complete = table[names].dropna()
    row = (complete if len(complete) else table[names]).iloc[0]
    return {name: plain_value(row[name]) for name in names}
