"""Fit the boosted trees of *What will this firing use?* and write its demo folder.

Run with `python -m plain_window.samples.what_will_this_firing_use.train`; the same seed writes the same tables and the
same trees.
"""

from pathlib import Path

import joblib
import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer
from sklearn.ensemble import GradientBoostingRegressor
from sklearn.pipeline import Pipeline
from sklearn.preprocessing import OneHotEncoder

from .firings import TARGET, make_firings

__all__ = ["fit_trees", "main"]

FOLDER = Path(__file__).parent / "demo"
N_REFERENCE, N_KNOWN, SEED = 2000, 400, 20260711


def fit_trees(firings: pd.DataFrame, *, n_trees: int = 250, seed: int = SEED) -> Pipeline:
    """One-hot for the kiln, gradient boosting.

    Parameters
    ----------
    firings : pandas.DataFrame
    n_trees : int, optional
    seed : int, optional
        For what is drawn by chance.
    """
    prepare = ColumnTransformer([("kiln", OneHotEncoder(), ["kiln"])], remainder="passthrough")
    trees = GradientBoostingRegressor(
        n_estimators=n_trees, max_depth=4, learning_rate=0.06, subsample=0.7, min_samples_leaf=10, random_state=seed
    )
    return Pipeline([("prepare", prepare), ("trees", trees)]).fit(firings.drop(columns=TARGET), firings[TARGET])


def main() -> None:
    """Write `model.joblib`, `reference.csv` and `known.csv` into the demo folder and say how good the trees are."""
    reference, known = make_firings(N_REFERENCE, seed=SEED), make_firings(N_KNOWN, seed=SEED + 1)
    model = fit_trees(reference)
    FOLDER.mkdir(exist_ok=True)
    joblib.dump(model, FOLDER / "model.joblib", compress=("zlib", 6))
    reference.to_csv(FOLDER / "reference.csv", index=False)
    known.to_csv(FOLDER / "known.csv", index=False)
    off = np.abs(model.predict(known.drop(columns=TARGET)) - known[TARGET])
    print(f"kWh in the table: {reference[TARGET].describe().round(1).to_dict()}")
    print(f"off by, on kept-back firings: {off.mean():.2f} kWh on average, {(off / known[TARGET]).median():.1%} mostly")


if __name__ == "__main__":
    main()
