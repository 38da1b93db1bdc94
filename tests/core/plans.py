"""What the tests of compiled models share: a table, and the proof of a fitted model."""

import io

import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer, make_column_transformer
from sklearn.preprocessing import OneHotEncoder, StandardScaler

from plain_window.core.contract.inspection import Inspection
from plain_window.core.formats.sklearn.adapter import SklearnModel
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.formats.sklearn.pickled import Unpickled
from plain_window.core.intake.inspection import inspect_model
from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import prove
from plain_window.core.plan.plan import Plan
from plain_window.core.tables.reading import read_table

from ..made_models import csv, firings
from ..reader import assert_readers_agree

TABLE = read_table(io.BytesIO(csv(firings(300)))).table
NUMBERS = ["pots", "peak"]
# Of each model's table, asked of both readers.
ROWS_READ_TWICE = 60


def gappy(table: pd.DataFrame) -> pd.DataFrame:
    """The same firings with gaps in every column but the kiln's."""
    rng = np.random.default_rng(3)
    holed = table.copy()
    holed["pots"] = holed["pots"].astype("float64")
    for name in NUMBERS:
        holed.loc[rng.random(len(holed)) < 0.2, name] = np.nan
    return holed


def mixed(numbers=None, categories=None) -> ColumnTransformer:
    return make_column_transformer(
        (categories or OneHotEncoder(handle_unknown="ignore"), ["kiln"]),
        (numbers or StandardScaler(), NUMBERS),
        ("passthrough", ["reduced"]),
    )


def raw_columns(table: pd.DataFrame) -> dict[str, list]:
    """Rows as they are asked: plain values, None where one is missing."""
    return {name: [None if pd.isna(value) else value for value in table[name].tolist()] for name in table}


def proved(model, table: pd.DataFrame = TABLE, *, may_miss=frozenset()):
    """The plan of a fitted model, after a round trip through its file, and the proof.

    The reader for browsers must say the same of it.
    """
    original = SklearnModel(Unpickled(model, None, []))
    plan = compile_sklearn(model, list(table.columns), wanted=original.wanted)
    plan = read_plan(write_plan(plan))
    asked = raw_columns(table.head(ROWS_READ_TWICE))
    if may_miss == frozenset():
        assert_readers_agree(plan, asked)
        assert_alone_as_together(plan, asked)
    return plan, prove(plan, original.predict, table, may_miss=may_miss)


def assert_alone_as_together(plan: Plan, columns: dict[str, list]) -> None:
    """A row that is asked for alone is answered to the bit as by all steps of a table of that one row."""
    model, last, every_step = CompiledModel(plan), plan.steps[-1].out, range(len(plan.steps))
    columns = {one.name: columns[one.name] for one in plan.inputs}
    for values in zip(*columns.values(), strict=True):
        row = dict(zip(columns, values, strict=True))
        table = {name: [value] for name, value in row.items()}
        expected = model.run_steps(every_step, {}, table, keep=[last])[last]
        np.testing.assert_array_equal(model.predict_row(row), expected, str(row))
        np.testing.assert_array_equal(model.predict(table), expected, str(row))


def read_twice(model, table: pd.DataFrame, **options) -> tuple[Inspection, Plan | None]:
    """What is found in a model with its table, and its plan, of which the reader for browsers must say the same."""
    inspection, plan = inspect_model(model, table, **options)
    if plan is not None:
        asked = raw_columns(table.head(ROWS_READ_TWICE))
        assert_readers_agree(plan, {one.name: asked[one.name] for one in plan.inputs})
    return inspection, plan
