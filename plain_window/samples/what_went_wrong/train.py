"""Fit the text classifier of *What went wrong?* and write its demo folder.

Run with `python -m plain_window.samples.what_went_wrong.train`; the same seed writes the same tables and
the same weights.
"""

from pathlib import Path

import joblib
import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LogisticRegression
from sklearn.pipeline import Pipeline

from .lines import TARGET, make_lines

__all__ = ["fit_words", "main"]

FOLDER = Path(__file__).parent / "demo"
N_REFERENCE, N_KNOWN, SEED = 1500, 400, 20261123


def fit_words(lines: pd.DataFrame) -> Pipeline:
    """Words and pairs of words by how telling they are, weighed by a logistic regression.

    Parameters
    ----------
    lines : pandas.DataFrame
    """
    words = TfidfVectorizer(ngram_range=(1, 2), min_df=3, sublinear_tf=True)
    model = LogisticRegression(C=6.0, max_iter=1000)
    prepare = ColumnTransformer([("line", words, "line")])
    return Pipeline([("prepare", prepare), ("weigh", model)]).fit(lines[["line"]], lines[TARGET])


def main() -> None:
    """Write `model.joblib`, `reference.csv` and `known.csv` into the demo folder and say how good it is."""
    reference, known = make_lines(N_REFERENCE, seed=SEED), make_lines(N_KNOWN, seed=SEED + 1)
    model = fit_words(reference)
    FOLDER.mkdir(exist_ok=True)
    joblib.dump(model, FOLDER / "model.joblib", compress=("zlib", 6))
    reference.to_csv(FOLDER / "reference.csv", index=False)
    known.to_csv(FOLDER / "known.csv", index=False)
    right = model.predict(known[["line"]]) == known[TARGET]
    print(f"right for {np.mean(right):.1%} of {N_KNOWN} kept-back lines; {len(model[0].get_feature_names_out())} words")


if __name__ == "__main__":
    main()
