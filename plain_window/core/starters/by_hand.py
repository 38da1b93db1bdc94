"""Makes a model out of a table.

    python train.py TABLE [MODEL]

reads the table as the recipe below says, leaves out the rows that were kept back, fits, and writes the model
(`model.joblib` unless named). With the versions in `requirements.txt` and the same table it is the same file, bit for
bit; on a processor of another kind the last digits of linear models may differ. The very same program made the model
that this came with. It needs nothing of Plain Window.
"""

import argparse
import contextlib
import hashlib
import io
import math
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any, BinaryIO

import joblib
import numpy as np
import pandas as pd
from pandas.api import types as dtypes
from sklearn.compose import ColumnTransformer
from sklearn.dummy import DummyClassifier, DummyRegressor
from sklearn.ensemble import HistGradientBoostingClassifier, HistGradientBoostingRegressor
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.impute import SimpleImputer
from sklearn.linear_model import LogisticRegression, Ridge
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.pipeline import Pipeline, make_pipeline
from sklearn.preprocessing import OneHotEncoder, OrdinalEncoder, StandardScaler
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor
from threadpoolctl import threadpool_limits

__all__ = ["cases", "columns", "dates", "fit", "kept_back", "numbers", "pipeline", "read", "train", "units", "words"]

RECIPE: dict[str, Any] = {}
MODEL_SHA256 = ""

# Nearest neighbours carry all rows they learned with them; so many are as many as a page answers from at once.
MOST_NEIGHBOURS_ROWS = 5000
# A category that is met less often is counted among the rare ones; words that few rows have are left out.
FEWEST_ROWS, MOST_WORDS = 5, 200
# Trees hold numbers in single precision; what is beyond that is no measurement.
LARGEST = 3e38
# Nobody writes a number at more length, and looking for one in a long text takes very long.
LONGEST_NUMBER = 80
# What may stand around a number's digits.
CURRENCY = r"[€$£¥₹₩₽]|EUR|USD|GBP|CHF|SEK|NOK|DKK|PLN|CZK|JPY|kr\.?|zł|Kč|Fr\.?"
SIGNS = re.compile(rf"^(?:\s|%|{CURRENCY})+|(?:\s|%|{CURRENCY})+$|(?<=^-)\s*(?:{CURRENCY})\s*")
# Kept back by a hash of what a row is, so that rows which come later leave the others where they are; unless by chance
# that would be far from the wanted share.
KEPT_BACK_LOW, KEPT_BACK_HIGH = 0.6, 1.5


def read(file: BinaryIO, how: dict[str, Any], wanted: list[str] | None = None) -> pd.DataFrame:
    """A table, or some of its columns; a text's as they are written.

    Parameters
    ----------
    file : binary file
    how : dict
        What kind of file it is, and how it is written.
    wanted : list of str, optional
        Names of columns; all of them if left out.

    Raises
    ------
    ValueError
        If a column is missing.
    """
    if how["kind"] == "csv":
        table = pd.read_csv(
            file,
            sep=how["separator"],
            encoding=how["encoding"],
            skiprows=how["skip"],
            # Lines may end with a separator too many.
            index_col=False,
            dtype="str",
            usecols=None if wanted is None else lambda name: str(name).strip() in wanted,
        )
    elif how["kind"] == "xlsx":
        table = pd.read_excel(file, sheet_name=how["sheet"], skiprows=how["skip"])
    else:
        table = _from_parquet(file)
    table.columns = [str(name).strip() for name in table.columns]
    if wanted is None:
        return table.reset_index(drop=True)
    missing = [name for name in wanted if name not in table.columns]
    if missing:
        raise ValueError(f"The table has no column {', '.join(f'`{name}`' for name in missing)}.")
    return table[wanted].reset_index(drop=True)


def _from_parquet(file: BinaryIO) -> pd.DataFrame:
    """What names the rows is a column like others, and bytes that are text are words."""
    table = pd.read_parquet(file)
    named = [level for level in table.index.names if level is not None]
    table = table.reset_index(level=named) if named else table
    for name in [one for one in table.columns if dtypes.is_object_dtype(table[one])]:
        known = table[name].dropna()
        if len(known) and all(isinstance(value, bytes) for value in known):
            with contextlib.suppress(UnicodeDecodeError):
                table[name] = table[name].map(bytes.decode, na_action="ignore")
    return table


def columns(recipe: dict[str, Any]) -> list[str]:
    """All columns that the recipe names, each once.

    Parameters
    ----------
    recipe : dict
    """
    named = [recipe["target"]["column"], *(one["column"] for one in recipe["fields"])]
    named += [recipe["group"]] if recipe["group"] else []
    named += [recipe["time"]["column"]] if recipe["time"] else []
    named += recipe["alike"]
    return list(dict.fromkeys(named))


def numbers(column: pd.Series, decimal: str, gaps: Sequence[float] = (), unit: str = "") -> pd.Series:
    """A column as numbers; what is none is missing.

    Parameters
    ----------
    column : Series
    decimal : "point" or "comma"
        What is written before decimals.
    gaps : sequence of float, optional
        Numbers that stand for a missing one, as -999.
    unit : str, optional
        What stands behind the number in each cell.

    Examples
    --------
    >>> numbers(pd.Series(["1.234,5", "12 %", "none"]), "comma").tolist()
    [1234.5, 12.0, nan]
    >>> numbers(pd.Series(["2.5 kg", "3Kg", "500 g"]), "point", unit="kg").tolist()
    [2.5, 3.0, nan]
    """
    ending = re.compile(rf"(?<=[\d\s]){re.escape(unit)}\s*$", re.IGNORECASE) if unit else None
    if decimal == "point":
        values = pd.to_numeric(column, errors="coerce").astype("float64")
    else:
        values = column.astype("float64") if dtypes.is_numeric_dtype(column) else pd.Series(np.nan, index=column.index)
    left = column.notna() & values.isna()
    if not dtypes.is_numeric_dtype(column) and left.any():
        # It is written with signs around it, grouped or with a comma; each is read once.
        texts = ((text, str(text)) for text in column[left].unique())
        read = {text: _number(plain, decimal, ending) for text, plain in texts}
        values = values.fillna(column.where(left).map(read).astype("float64"))
    known = (np.abs(values) < LARGEST).to_numpy() & ~values.isin(list(gaps)).to_numpy()
    return values.where(known)


def _number(text: str, decimal: str, ending: re.Pattern[str] | None) -> float:
    """One number as people write it; nan if it is none."""
    if len(text) > LONGEST_NUMBER:
        return math.nan
    grouping, point = (".", ",") if decimal == "comma" else (",", ".")
    plain = SIGNS.sub("", (ending.sub("", text) if ending else text).replace("−", "-"))
    if plain.endswith("-") or (plain.startswith("(") and plain.endswith(")")):
        # As accounts write what is owed.
        plain = f"-{SIGNS.sub('', plain.strip('()-'))}"
    plain = re.sub(rf"(?<=\d)[{grouping}\s'’](?=\d{{3}}(?:\D|$))", "", plain)
    if grouping in plain:
        return math.nan
    try:
        return float(plain.replace(point, "."))
    except ValueError:
        return math.nan


def words(column: pd.Series, spelled: dict[str, str] | None = None) -> pd.Series:
    """A column as words; what is written in several ways in the usual one.

    Parameters
    ----------
    column : Series
    spelled : dict of str to str, optional
        By spelling the usual one.
    """
    codes, distinct = pd.factorize(column)
    names = [_word(value, spelled or {}) for value in distinct]
    # Gaps have the code -1, which is the last of these.
    return pd.Series(
        np.array([*names, None], dtype="object")[codes], index=column.index, name=column.name, dtype="object"
    )


def _word(value: Any, spelled: dict[str, str]) -> str | None:
    # Whole numbers with gaps are kept as floats.
    text = str(int(value)) if isinstance(value, float) and value.is_integer() else str(value).strip()
    return spelled.get(text, text) or None


def dates(column: pd.Series, day_first: bool) -> pd.Series:
    """A column as dates; what is none is missing.

    Parameters
    ----------
    column : Series
    day_first : bool
        What comes first where the year is last.
    """
    # Days may be written as numbers (20260413), and are met many times over; each is read once.
    column = words(column) if dtypes.is_numeric_dtype(column) else column
    distinct = pd.Series(column.dropna().unique())
    year_first = distinct.astype("str").str.match(r"\s*\d{4}").to_numpy()
    orders = ((distinct[year_first], False), (distinct[~year_first], day_first))
    parts = [pd.to_datetime(some, errors="coerce", dayfirst=order, format="mixed", utc=True) for some, order in orders]
    read = pd.concat(parts).sort_index().dt.tz_localize(None)
    found = column.map(dict(zip(distinct, read, strict=True)))
    return pd.to_datetime(found).astype("datetime64[us]")


def cases(table: pd.DataFrame, recipe: dict[str, Any]) -> tuple[pd.DataFrame, pd.Series, np.ndarray]:
    """What the model is asked with and what it is to say, of the rows that have an outcome it learns.

    Parameters
    ----------
    table : DataFrame
        As it was read.
    recipe : dict

    Returns
    -------
    features : DataFrame of shape (n_rows, n_features)
    outcome : Series of shape (n_rows,)
    rows : ndarray of int
        Which rows of the table they are.
    """
    target = recipe["target"]
    column = table[target["column"]]
    if target["kind"] == "number":
        outcome = numbers(column, target["decimal"], target["gaps"], target.get("unit", ""))
    else:
        outcome = words(column, target["spelled"])
        outcome = outcome.where(outcome.isin(target["classes"]), None)
    features = {name: values for one in recipe["fields"] for name, values in _features(table, one).items()}
    is_there = outcome.notna().to_numpy()
    if recipe["alike"]:
        # Of rows that are alike in all columns the first stands for all.
        is_there &= ~table[recipe["alike"]].duplicated().to_numpy()
    there = np.flatnonzero(is_there)
    return pd.DataFrame(features).iloc[there].reset_index(drop=True), outcome.iloc[there].reset_index(drop=True), there


def _features(table: pd.DataFrame, field: dict[str, Any]) -> dict[str, pd.Series]:
    column = table[field["column"]]
    if field["kind"] == "number":
        return {field["column"]: numbers(column, field["decimal"], field["gaps"], field.get("unit", ""))}
    if field["kind"] == "category":
        return {field["column"]: words(column, field["spelled"])}
    if field["kind"] == "text":
        return {field["column"]: words(column).fillna("")}
    found, parts = dates(column, field["day_first"]).dt, field["parts"]
    of = {
        "month": found.month_name,
        "weekday": found.day_name,
        "hour": lambda: found.hour.astype("float64"),
        "year": lambda: found.year.astype("float64"),
    }
    made = {name: of[part]() for part, name in zip(parts, field["named"], strict=True)}
    return {name: values if dtypes.is_float_dtype(values) else words(values) for name, values in made.items()}


def units(table: pd.DataFrame, recipe: dict[str, Any]) -> np.ndarray:
    """What stays together whenever rows are parted: by row the number of its group, or of itself.

    Parameters
    ----------
    table : DataFrame
        Its rows that have an outcome.
    recipe : dict
    """
    if not recipe["group"]:
        return np.arange(len(table))
    codes, _ = pd.factorize(words(table[recipe["group"]]))
    alone = codes < 0
    codes[alone] = codes.max(initial=0) + 1 + np.arange(alone.sum())
    return np.asarray(codes)


def kept_back(table: pd.DataFrame, recipe: dict[str, Any]) -> np.ndarray:
    """Which rows no fit ever sees: the latest where order in time counts, else by a hash of the group or the row.

    Parameters
    ----------
    table : DataFrame
        Its rows that have an outcome.
    recipe : dict

    Returns
    -------
    ndarray of bool, shape (n_rows,)
    """
    share, of_row = recipe["kept_back"], units(table, recipe)
    sizes = np.bincount(of_row)
    if recipe["time"]:
        order = np.argsort(-latest(table, recipe, of_row), kind="stable")
    else:
        own = [recipe["target"]["column"], *(one["column"] for one in recipe["fields"])]
        key = table[[recipe["group"]]] if recipe["group"] else table[own]
        hashes = pd.util.hash_pandas_object(key.astype("str"), index=False).to_numpy()
        # Of a unit the first row's: within a group all are the same.
        of_unit = hashes[np.unique(of_row, return_index=True)[1]] / 2.0**64
        chosen = (of_unit < share)[of_row]
        if KEPT_BACK_LOW * share <= chosen.mean() <= KEPT_BACK_HIGH * share:
            return np.asarray(chosen)
        order = np.argsort(of_unit, kind="stable")
    before = np.cumsum(sizes[order]) - sizes[order]
    taken = order[before < share * len(table)]
    return np.isin(of_row, taken)


def latest(table: pd.DataFrame, recipe: dict[str, Any], of_row: np.ndarray) -> np.ndarray:
    """Of each unit the latest moment, in microseconds; what has no date counts as the first.

    Parameters
    ----------
    table : DataFrame
        Its rows that have an outcome.
    recipe : dict
    of_row : ndarray of int
        By row its unit.
    """
    found = dates(table[recipe["time"]["column"]], recipe["time"]["day_first"])
    moments = found.fillna(pd.Timestamp(0)).astype("int64").to_numpy()
    out = np.full(of_row.max(initial=0) + 1, np.iinfo("int64").min)
    np.maximum.at(out, of_row, moments)
    return out


def pipeline(recipe: dict[str, Any], candidate: str, settings: dict[str, Any]) -> Pipeline:
    """A model that is not fitted yet, with all that is done to its inputs inside it.

    Parameters
    ----------
    recipe : dict
    candidate : "guess", "linear", "tree", "neighbours" or "boosted"
    settings : dict
        Of the model itself.
    """
    is_class, seed = recipe["target"]["kind"] == "class", recipe["seed"]
    kinds: dict[str, list[str]] = {"number": [], "category": [], "text": []}
    for one in recipe["fields"]:
        if one["kind"] == "date":
            for part, name in zip(one["parts"], one["named"], strict=True):
                kinds["number" if part in ("hour", "year") else "category"].append(name)
        else:
            kinds[one["kind"]].append(one["column"])
    texts = [(f"words {at}", TfidfVectorizer(max_features=MOST_WORDS), name) for at, name in enumerate(kinds["text"])]
    if candidate == "boosted":
        codes = OrdinalEncoder(
            handle_unknown="use_encoded_value",
            unknown_value=np.nan,
            encoded_missing_value=np.nan,
            min_frequency=FEWEST_ROWS,
            max_categories=200,
        )
        steps = [("categories", codes, kinds["category"]), ("numbers", "passthrough", kinds["number"]), *texts]
        boosted = HistGradientBoostingClassifier if is_class else HistGradientBoostingRegressor
        model = boosted(
            categorical_features=list(range(len(kinds["category"]))),
            early_stopping=False,
            random_state=seed,
            **settings,
        )
    else:
        marks = OneHotEncoder(handle_unknown="infrequent_if_exist", min_frequency=FEWEST_ROWS, sparse_output=False)
        filled = make_pipeline(SimpleImputer(strategy="median"), StandardScaler())
        steps = [("numbers", filled, kinds["number"]), ("categories", marks, kinds["category"]), *texts]
        model = _plain_model(candidate, is_class, seed, settings)
    inputs = ColumnTransformer([step for step in steps if step[2]], sparse_threshold=0)
    return Pipeline([("inputs", inputs), ("model", model)])


def _plain_model(candidate: str, is_class: bool, seed: int, settings: dict[str, Any]) -> Any:
    if candidate == "guess":
        return DummyClassifier(strategy="prior") if is_class else DummyRegressor()
    if candidate == "linear":
        return LogisticRegression(max_iter=1000, **settings) if is_class else Ridge(**settings)
    if candidate == "tree":
        tree = DecisionTreeClassifier if is_class else DecisionTreeRegressor
        return tree(min_samples_leaf=FEWEST_ROWS, random_state=seed, **settings)
    return (KNeighborsClassifier if is_class else KNeighborsRegressor)(**settings)


def fit(
    features: pd.DataFrame, outcome: pd.Series, recipe: dict[str, Any], candidate: str, settings: dict[str, Any]
) -> Pipeline:
    """A fitted model.

    Parameters
    ----------
    features : DataFrame of shape (n_rows, n_features)
    outcome : Series of shape (n_rows,)
    recipe : dict
    candidate : str
    settings : dict
        As for `pipeline`.
    """
    if candidate == "neighbours" and len(features) > MOST_NEIGHBOURS_ROWS:
        some = np.random.default_rng(recipe["seed"]).choice(len(features), MOST_NEIGHBOURS_ROWS, replace=False)
        features, outcome = features.iloc[np.sort(some)], outcome.iloc[np.sort(some)]
    # With one thread sums are always added up in the same order.
    with threadpool_limits(limits=1):
        return pipeline(recipe, candidate, settings).fit(features, outcome.to_numpy())


def train(file: BinaryIO, recipe: dict[str, Any]) -> bytes:
    """The model that the recipe makes of a table, as a file.

    Parameters
    ----------
    file : binary file
        The table.
    recipe : dict
    """
    table = read(file, recipe["table"], columns(recipe))
    features, outcome, rows = cases(table, recipe)
    learned = np.flatnonzero(~kept_back(table.iloc[rows].reset_index(drop=True), recipe))
    features, outcome = features.iloc[learned].reset_index(drop=True), outcome.iloc[learned].reset_index(drop=True)
    model = fit(features, outcome, recipe, recipe["candidate"], recipe["settings"])
    made = io.BytesIO()
    joblib.dump(model, made)
    return made.getvalue()


def main() -> None:
    """Read the table, fit, and write the model."""
    told = argparse.ArgumentParser(description="Makes a model out of a table.")
    told.add_argument("table", type=Path)
    told.add_argument("model", type=Path, nargs="?", default=Path("model.joblib"))
    paths = told.parse_args()
    with open(paths.table, "rb") as file:
        made = train(file, RECIPE)
    paths.model.write_bytes(made)
    is_same = hashlib.sha256(made).hexdigest() == MODEL_SHA256
    print(f"{paths.model}: {'the same model, bit for bit' if is_same else 'another model: table or libraries differ'}.")


if __name__ == "__main__":
    main()
