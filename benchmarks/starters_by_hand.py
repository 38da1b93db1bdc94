"""Models made of tables beside careful scripts, on rows neither had seen: `./plainwindow bench --starters-by-hand`."""

import io
import json
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from importlib import resources

import numpy as np
import pandas as pd
from sklearn import datasets
from sklearn.compose import make_column_selector, make_column_transformer
from sklearn.ensemble import (
    HistGradientBoostingClassifier,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
    RandomForestRegressor,
)
from sklearn.impute import SimpleImputer
from sklearn.linear_model import LogisticRegression, Ridge
from sklearn.model_selection import GridSearchCV, KFold, StratifiedKFold, TimeSeriesSplit
from sklearn.pipeline import Pipeline, make_pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler
from sklearn.svm import SVC, SVR

from plain_window.core.starters.intervals import errors_of
from plain_window.core.trust.together import measured

from .report import print_measures
from .starters_offered import offered_for

__all__ = ["measure_beside_scripts"]


@dataclass(frozen=True)
class _Real:
    """A table as it is published, what is asked of it, and what somebody careful makes of its columns."""

    table: pd.DataFrame
    target: str
    prepared: Callable[[pd.DataFrame], pd.DataFrame] = lambda table: table


def measure_beside_scripts() -> None:
    """Measure and print, table by table: both errors on the rows that were kept back, and how far apart they are."""
    print_measures("Offered model beside a script by hand, on rows kept back", {
        f"{name}, {len(real.table):,} rows, `{real.target}`": _beside(real) for name, real in _tables().items()
    })  # fmt: skip


def _tables() -> dict[str, _Real]:
    penguins = pd.read_csv(_file("palmerpenguins", "data/penguins.csv"))
    cars = pd.DataFrame(json.loads(_file("vega_datasets", "_data/cars.json").read()))
    weather = pd.read_csv(_file("vega_datasets", "_data/seattle-weather.csv"))
    barley = pd.DataFrame(json.loads(_file("vega_datasets", "_data/barley.json").read()))
    of_sklearn = {
        name: load(as_frame=True).frame
        for name, load in (
            ("wine", datasets.load_wine),
            ("breast cancer", datasets.load_breast_cancer),
            ("diabetes", datasets.load_diabetes),
            ("iris", datasets.load_iris),
        )
    }
    return {
        "penguins": _Real(penguins, "species", lambda table: table.drop(columns="year")),
        "penguins' weight": _Real(penguins, "body_mass_g"),
        "cars": _Real(cars, "Miles_per_Gallon", _cars_by_hand),
        "weather": _Real(weather, "weather", _weather_by_hand),
        "barley": _Real(barley, "yield", lambda table: table.astype({"year": "str"})),
        "wine": _Real(_named(of_sklearn["wine"]), "target"),
        "breast cancer": _Real(_named(of_sklearn["breast cancer"]), "target"),
        "diabetes": _Real(of_sklearn["diabetes"], "target"),
        "iris": _Real(_named(of_sklearn["iris"]), "target"),
    }


def _file(package: str, path: str) -> io.BytesIO:
    return io.BytesIO(resources.files(package).joinpath(path).read_bytes())


def _named(table: pd.DataFrame) -> pd.DataFrame:
    """Classes as words, as people write them."""
    return table.assign(target="class " + table["target"].astype("str"))


def _cars_by_hand(table: pd.DataFrame) -> pd.DataFrame:
    make, year = table["Name"].str.split().str[0], pd.to_datetime(table["Year"]).dt.year
    return table.drop(columns="Name").assign(make=make, Year=year)


def _weather_by_hand(table: pd.DataFrame) -> pd.DataFrame:
    days = pd.to_datetime(table["date"])
    yesterday = table[["precipitation", "temp_max", "wind"]].shift(1).add_suffix("_yesterday")
    return table.drop(columns="date").assign(day_of_year=days.dt.dayofyear, year=days.dt.year).join(yesterday)


def _beside(real: _Real) -> str:
    offered = offered_for(real.table, real.target)
    kept, happened, is_class = offered.kept, offered.outcome.to_numpy(), offered.is_class
    prepared = real.prepared(real.table).iloc[offered.rows].reset_index(drop=True).drop(columns=real.target)
    script = _script(is_class=is_class, in_order=offered.recipe["time"] is not None)
    script.fit(prepared[~kept], happened[~kept])
    ours, theirs = (
        errors_of(model.predict(rows[kept]), happened[kept], is_class=is_class)
        for model, rows in ((offered.model, offered.features), (script, prepared))
    )
    apart, own = ours.mean() - theirs.mean(), measured(theirs, np.arange(len(theirs))).error
    digits = ".3f" if is_class else ".4g"
    by_hand = f"by hand ({type(script.best_estimator_[-1]).__name__}) {theirs.mean():{digits}} ± {own:{digits}}"
    return (
        f"{offered.said.candidate} {ours.mean():{digits}}; {by_hand} on {int(kept.sum())}: "
        f"{apart / own if own else 0:+.2f} standard errors; "
        f"said before: {offered.said.low:{digits}} to {offered.said.high:{digits}}"
    )


def _script(*, is_class: bool, in_order: bool) -> GridSearchCV:
    """What somebody careful writes: four kinds of model with their settings, chosen by cross-validation."""
    numbers = make_pipeline(SimpleImputer(strategy="median"), StandardScaler())
    words = make_pipeline(
        SimpleImputer(strategy="most_frequent"), OneHotEncoder(handle_unknown="ignore", sparse_output=False)
    )
    inputs = make_column_transformer(
        (numbers, make_column_selector(dtype_include="number")),
        (words, make_column_selector(dtype_exclude="number")),
    )
    seeded = {"random_state": 0}
    models: Sequence[tuple[object, dict[str, list[object]]]] = (
        [
            (LogisticRegression(max_iter=5000), {"model__C": [0.01, 0.1, 1, 10, 100]}),
            (SVC(), {"model__C": [0.3, 1, 3, 10]}),
            (RandomForestClassifier(300, **seeded), {"model__min_samples_leaf": [1, 3]}),
            (HistGradientBoostingClassifier(**seeded), {"model__learning_rate": [0.03, 0.1]}),
        ]
        if is_class
        else [
            (Ridge(), {"model__alpha": [0.1, 1, 10, 100]}),
            (SVR(), {"model__C": [10, 100, 1000]}),
            (RandomForestRegressor(300, **seeded), {"model__min_samples_leaf": [1, 3]}),
            (HistGradientBoostingRegressor(**seeded), {"model__learning_rate": [0.03, 0.1]}),
        ]
    )
    grid = [{"model": [model], **settings} for model, settings in models]
    folds = (
        TimeSeriesSplit(5) if in_order else (StratifiedKFold if is_class else KFold)(5, shuffle=True, random_state=0)
    )
    scoring = "accuracy" if is_class else "neg_mean_absolute_error"
    return GridSearchCV(
        Pipeline([("inputs", inputs), ("model", models[0][0])]), grid, scoring=scoring, cv=folds, n_jobs=2
    )
