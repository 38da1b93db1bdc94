"""Fit the forest of *Will it crack?* and write its demo folder.

Run with `python -m plain_window.samples.will_it_crack.train`; the same seed writes the same tables and the same trees.
"""

from pathlib import Path

import joblib
import pandas as pd
from sklearn.compose import ColumnTransformer
from sklearn.ensemble import RandomForestClassifier
from sklearn.metrics import accuracy_score, log_loss
from sklearn.pipeline import Pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler

from .pieces import TARGET, make_pieces

__all__ = ["fit_forest", "main"]

FOLDER = Path(__file__).parent / "demo"
N_REFERENCE, N_KNOWN, SEED = 3000, 600, 20260504

CATEGORIES = ["clay_body", "glaze"]
YES_NO = ["attached", "covered"]


def fit_forest(pieces: pd.DataFrame, *, n_trees: int = 300, seed: int = SEED) -> Pipeline:
    """One-hot for clay body and glaze, scaled numbers, a random forest.

    Parameters
    ----------
    pieces : pandas.DataFrame
    n_trees : int, optional
    seed : int, optional
        For what is drawn by chance.
    """
    features = pieces.drop(columns=TARGET)
    numbers = [column for column in features.columns if column not in CATEGORIES + YES_NO]
    prepare = ColumnTransformer(
        [
            ("categories", OneHotEncoder(handle_unknown="ignore"), CATEGORIES),
            ("numbers", StandardScaler(), numbers),
            ("yes_no", "passthrough", YES_NO),
        ]
    )
    # Leaves of at least eight pieces keep a tree from being certain after seeing one.
    forest = RandomForestClassifier(n_estimators=n_trees, min_samples_leaf=8, max_features=0.5, random_state=seed)
    return Pipeline([("prepare", prepare), ("forest", forest)]).fit(features, pieces[TARGET])


def main() -> None:
    """Write `model.joblib`, `reference.csv` and `known.csv` into the demo folder and say how good the forest is."""
    reference = make_pieces(N_REFERENCE, seed=SEED)
    known = make_pieces(N_KNOWN, seed=SEED + 1)
    model = fit_forest(reference)
    FOLDER.mkdir(exist_ok=True)
    joblib.dump(model, FOLDER / "model.joblib", compress=("zlib", 6))
    reference.to_csv(FOLDER / "reference.csv", index=False)
    known.to_csv(FOLDER / "known.csv", index=False)
    probabilities = model.predict_proba(known.drop(columns=TARGET))
    likeliest = model.classes_[probabilities.argmax(axis=1)]
    surest = pd.Series(probabilities.max(axis=1)).quantile([0.25, 0.5, 0.75, 0.95])
    print(f"shares: {reference[TARGET].value_counts(normalize=True).round(3).to_dict()}")
    print(f"accuracy on kept-back pieces: {accuracy_score(known[TARGET], likeliest):.3f}")
    print(f"log loss: {log_loss(known[TARGET], probabilities):.3f}")
    print(f"highest probability, quartiles: {surest.round(2).tolist()}")


if __name__ == "__main__":
    main()
