"""What the tests of compiled models share: a table, and the proof of a fitted model."""

import io

import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer, make_column_transformer
from sklearn.preprocessing import OneHotEncoder, StandardScaler

from plain_window.core.formats.sklearn.adapter import SklearnModel
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.formats.sklearn.pickled import Unpickled
from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.parity import prove
from plain_window.core.tables.reading import read_table

from ..made_models import csv, firings

TABLE = read_table(io.BytesIO(csv(firings(300)))).table
NUMBERS = ["pots", "peak"]


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


def proved(model, table: pd.DataFrame = TABLE, *, may_miss=frozenset()):
    """The plan of a fitted model, after a round trip through its file, and the proof."""
    original = SklearnModel(Unpickled(model, None, []))
    plan = compile_sklearn(model, list(table.columns), wanted=original.wanted)
    plan = read_plan(write_plan(plan))
    return plan, prove(plan, original.predict, table, may_miss=may_miss)
