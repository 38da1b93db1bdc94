"""Small fitted models and hostile files, made on the spot."""

import io
import pickle
from typing import Any

import joblib
import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer, make_column_transformer
from sklearn.ensemble import RandomForestClassifier
from sklearn.impute import SimpleImputer
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.pipeline import Pipeline, make_pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler


def firings(n_rows: int = 120, *, seed: int = 7) -> pd.DataFrame:
    """Made-up firings: four features of mixed kinds, a class and a number."""
    rng = np.random.default_rng(seed)
    table = pd.DataFrame(
        {
            "kiln": rng.choice(["gas", "wood", "electric"], n_rows),
            "pots": rng.integers(5, 60, n_rows),
            "peak": rng.normal(1230, 40, n_rows).round(1),
            "reduced": rng.random(n_rows) < 0.4,
        }
    )
    table["kwh"] = (60 + 2.2 * table["pots"] + 0.1 * (table["peak"] - 1200) + rng.normal(0, 4, n_rows)).round(1)
    table["outcome"] = np.where(rng.random(n_rows) < 0.2 + 0.5 * table["reduced"], "red", "green")
    return table


FEATURES = ["kiln", "pots", "peak", "reduced"]


def mixed_preparation() -> ColumnTransformer:
    return make_column_transformer(
        (OneHotEncoder(), ["kiln"]), (StandardScaler(), ["pots", "peak"]), remainder="passthrough"
    )


def classifier_pipeline(table: pd.DataFrame) -> Pipeline:
    forest = RandomForestClassifier(n_estimators=10, random_state=0)
    return make_pipeline(mixed_preparation(), forest).fit(table[FEATURES], table["outcome"])


def regressor_pipeline(table: pd.DataFrame) -> Pipeline:
    return make_pipeline(mixed_preparation(), LinearRegression()).fit(table[FEATURES], table["kwh"])


def nameless_classifier(table: pd.DataFrame) -> Pipeline:
    numbers = table[["pots", "peak"]].to_numpy()
    return make_pipeline(StandardScaler(), LogisticRegression()).fit(numbers, table["outcome"])


def gap_taking_regressor(table: pd.DataFrame) -> Pipeline:
    numbers = table[["pots", "peak"]]
    return make_pipeline(SimpleImputer(), LinearRegression()).fit(numbers, table["kwh"])


def dumped(model: Any, **options: Any) -> bytes:
    """A model as `joblib.dump` saves it."""
    file = io.BytesIO()
    joblib.dump(model, file, **options)
    return file.getvalue()


def csv(table: pd.DataFrame) -> bytes:
    return table.to_csv(index=False).encode()


class _RunsOnOpening:
    def __init__(self, code: str) -> None:
        self.code = code

    def __reduce__(self):
        return exec, (self.code, {})


def running_on_opening(code: str) -> bytes:
    """A pickle that runs `code` as soon as it is opened."""
    return pickle.dumps(_RunsOnOpening(code))
