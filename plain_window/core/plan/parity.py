"""The proof that a plan says what the original says.

Both are asked about every reference row, and about rows drawn around them: values of other rows, values between and
beside those, options at random, and gaps where a field may be missing. A plan that differs anywhere is not adopted.
"""

import time
from collections.abc import Callable, Iterator, Mapping
from collections.abc import Set as AbstractSet

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..contract.compilation import CompiledReport
from ..fields.kinds import Scalar
from .building import plain_scalar
from .columns import Columns, ColumnValues
from .engine import CompiledModel
from .operations import ValueNotKnown
from .plan import Plan

__all__ = ["RELATIVE_TOLERANCE", "columns_of_table", "prove", "rows_around"]

# Of the row's largest output, or of the usual one where that is larger: what is left of large terms that cancel has no
# more digits in the original either. Sums taken in another order differ in the last digits, a wrong leaf in the first.
RELATIVE_TOLERANCE = 1e-12
N_DRAWN = 1000
SEED = 20260101
CHUNK_ROWS = 4096
# One row in so many is asked for alone.
ONE_IN = 16
# A proof that takes longer would keep the author waiting; the library serves the model then.
PROOF_SECONDS = 30.0


def prove(
    plan: Plan,
    original: Callable[[pd.DataFrame], np.ndarray],
    table: pd.DataFrame,
    *,
    may_miss: AbstractSet[str] = frozenset(),
    tolerance: float = RELATIVE_TOLERANCE,
    seconds: float = PROOF_SECONDS,
) -> CompiledReport:
    """Compare a plan with the original.

    Parameters
    ----------
    plan : Plan
    original : callable
        Takes a table with the columns of `table`, returns outputs of shape (n_rows, n_outputs).
    table : DataFrame of shape (n_rows, n_features)
        The reference rows.
    may_miss : set of str
        Columns that may be missing.
    tolerance : float
        How far an answer may differ, relative to its size.
    seconds : float
        The most it may take.

    Returns
    -------
    CompiledReport
        With the largest difference, and the row it was at.
    """
    compiled = CompiledModel(plan)
    deadline = time.monotonic() + seconds
    answerable = table.dropna(subset=[name for name in table.columns if name not in may_miss])
    largest, worst, n_compared = 0.0, None, 0
    for rows in _chunks(answerable, rows_around(answerable, may_miss=may_miss)):
        if time.monotonic() > deadline:
            obstacle = f"The comparison with the original took more than {seconds:g} seconds."
            return CompiledReport(adopted=False, n_rows_compared=n_compared, obstacle=obstacle)
        try:
            difference = _differences(original(rows), _compiled_outputs(compiled, columns_of_table(rows), len(rows)))
        except ValueNotKnown as error:
            return CompiledReport(adopted=False, n_rows_compared=n_compared, obstacle=str(error))
        n_compared += len(rows)
        at = int(np.argmax(difference))
        if difference[at] > largest or worst is None:
            largest, worst = float(difference[at]), _plain_row(rows, at)
    adopted = n_compared > 0 and largest <= tolerance
    return CompiledReport(
        adopted=adopted,
        n_rows_compared=n_compared,
        largest_difference=largest,
        worst_row=None if adopted else worst,
        obstacle=None
        if adopted
        else f"The compiled model differs from the original by up to {largest:.2g} (relative).",
    )


def _compiled_outputs(compiled: CompiledModel, columns: Columns, n_rows: int) -> np.ndarray:
    """What the compiled model says of rows: of every so many asked for it alone, as visitors ask."""
    outputs = compiled.predict(columns)
    for at in range(0, n_rows, ONE_IN):
        outputs[at] = compiled.predict_row({name: values[at] for name, values in columns.items()})[0]
    return outputs


def columns_of_table(table: pd.DataFrame) -> dict[str, ColumnValues]:
    """A table as the columns a compiled model takes: arrays of numbers, lists of the rest.

    Parameters
    ----------
    table : pandas.DataFrame
    """
    columns: dict[str, ColumnValues] = {}
    for name in table.columns:
        series = table[name]
        if dtypes.is_numeric_dtype(series) and not dtypes.is_bool_dtype(series):
            columns[name] = series.to_numpy(dtype="float64", na_value=np.nan)
        else:
            columns[name] = [plain_scalar(None if value is pd.NA else value) for value in series]
    return columns


def rows_around(
    table: pd.DataFrame, *, n_rows: int = N_DRAWN, seed: int = SEED, may_miss: AbstractSet[str] = frozenset()
) -> pd.DataFrame:
    """Made-up rows around the given ones.

    Parameters
    ----------
    table : DataFrame of shape (n_reference, n_features)
    n_rows : int
    seed : int
    may_miss : set of str
        Columns that are now and then left missing.

    Returns
    -------
    DataFrame of shape (n_rows, n_features)
    """
    rng = np.random.default_rng(seed)
    start = rng.integers(0, len(table), n_rows)
    drawn = {name: _drawn_column(table[name], start, rng, misses=name in may_miss) for name in table.columns}
    return pd.DataFrame(drawn)


def _drawn_column(series: pd.Series, start: np.ndarray, rng: np.random.Generator, *, misses: bool) -> pd.Series:
    n_rows = len(start)
    places = np.where(rng.random(n_rows) < 0.5, start, rng.integers(0, len(series), n_rows))
    column = series.iloc[places].reset_index(drop=True)
    if dtypes.is_numeric_dtype(series) and not dtypes.is_bool_dtype(series) and series.nunique() > 2:
        values = column.to_numpy(dtype="float64", na_value=np.nan)
        spread = float(np.nanstd(values)) or 1.0
        moved = values + rng.normal(0, 0.2 * spread, n_rows)
        # Codes and counts stay whole: an encoder knows 3, not 3.1.
        if dtypes.is_integer_dtype(series):
            column = pd.Series(np.where(rng.random(n_rows) < 0.5, values, np.rint(moved))).astype(series.dtype)
            column = column.where(column.isin(series) | (series.nunique() > MANY_VALUES), series.iloc[0])
        else:
            column = pd.Series(np.where(rng.random(n_rows) < 0.5, values, moved))
    if misses:
        column = column.mask(rng.random(n_rows) < 0.15)
    return column


# An integer column with more values than this holds counts or measures; one with fewer may hold codes.
MANY_VALUES = 30


def _chunks(*tables: pd.DataFrame) -> Iterator[pd.DataFrame]:
    for table in tables:
        for start in range(0, len(table), CHUNK_ROWS):
            yield table.iloc[start : start + CHUNK_ROWS]


def _differences(original: np.ndarray, compiled: np.ndarray) -> np.ndarray:
    """For each row the largest difference, relative to its outputs' size; infinite where only one is a number."""
    if original.shape != compiled.shape:
        return np.full(len(original), np.inf)
    same = (original == compiled) | (np.isnan(original) & np.isnan(compiled))
    largest = np.abs(original).max(axis=1, keepdims=True)
    usual = float(np.mean(largest[np.isfinite(largest)])) if np.isfinite(largest).any() else 0.0
    scale = np.maximum(largest, max(usual, np.finfo("float64").tiny))
    with np.errstate(invalid="ignore"):
        relative = np.where(same, 0.0, np.abs(original - compiled) / scale)
    return np.nan_to_num(relative, nan=np.inf, posinf=np.inf).max(axis=1)


def _plain_row(rows: pd.DataFrame, at: int) -> Mapping[str, Scalar | None]:
    return {name: plain_scalar(None if value is pd.NA else value) for name, value in rows.iloc[at].items()}
