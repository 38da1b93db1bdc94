"""A made-up model that is hard to explain: 300 full-depth trees over 30 fields, as a demo folder."""

import json
from collections.abc import Mapping
from pathlib import Path

import joblib
import numpy as np
import pandas as pd
from sklearn.ensemble import RandomForestClassifier

__all__ = ["SLUG", "dragged_cases", "make_wide_forest", "unrelated_cases"]

SLUG = "thirty-readings"
N_FIELDS, N_TREES, N_TRAINED, SEED = 30, 300, 2000, 20261123
N_CASES = 60
DEMO = f'title = "Thirty readings"\nslug = "{SLUG}"\ntarget = "outcome"\n'


def make_wide_forest(folder: Path) -> Path:
    """Train it, and write the folder."""
    rng = np.random.default_rng(SEED)
    names = [f"reading_{at}" for at in range(N_FIELDS)]
    table = pd.DataFrame(rng.normal(size=(N_TRAINED, N_FIELDS)).round(3), columns=names)
    score = table["reading_0"] + table["reading_1"] * table["reading_2"] + table["reading_3"]
    outcome = np.where(score > 0.5, "cracks", np.where(table["reading_4"] > 0.8, "warps", "sound"))
    folder.mkdir(parents=True)
    joblib.dump(RandomForestClassifier(N_TREES, random_state=0, n_jobs=2).fit(table, outcome), folder / "model.joblib")
    table.assign(outcome=outcome).to_csv(folder / "reference.csv", index=False)
    (folder / "demo.toml").write_text(DEMO)
    return folder


def unrelated_cases(folder: Path) -> list[bytes]:
    """Requests about different reference rows."""
    return [_request(row) for _, row in _rows(folder).head(N_CASES).iterrows()]


def dragged_cases(folder: Path) -> list[bytes]:
    """Requests as a visitor's browser sends them while one control is moved to and fro."""
    rows = _rows(folder)
    moved = np.linspace(rows["reading_0"].min(), rows["reading_0"].max(), N_CASES).round(3)
    return [_request(dict(rows.iloc[0]) | {"reading_0": value}) for value in [*moved, *moved[::-1]]]


def _rows(folder: Path) -> pd.DataFrame:
    return pd.read_csv(folder / "reference.csv").drop(columns="outcome")


def _request(row: Mapping[str, float]) -> bytes:
    return json.dumps({"inputs": dict(row)}).encode()
