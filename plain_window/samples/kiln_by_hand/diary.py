"""Made-up firings as a diary has them: what was set, not what came of it.

Run `python -m plain_window.samples.kiln_by_hand.diary` to write the reference table anew.
"""

import datetime as dt
from pathlib import Path

import numpy as np
import pandas as pd

__all__ = ["make_diary"]

N_ROWS, SEED = 300, 20261127
FIRST_DAY = dt.date(2026, 1, 5)
# Of kilns and loads: how often each is fired, and how much goes in.
KILNS = {"test kiln": (0.2, 3.0), "top loader": (0.5, 22.0), "front loader": (0.3, 48.0)}


def make_diary(n_rows: int, *, seed: int) -> pd.DataFrame:
    """Made-up firings.

    Parameters
    ----------
    n_rows : int
    seed : int

    Returns
    -------
    DataFrame of shape (n_rows, 7)
    """
    rng = np.random.default_rng(seed)
    kiln = rng.choice(list(KILNS), n_rows, p=[share for share, _ in KILNS.values()])
    load = np.array([KILNS[name][1] for name in kiln]) * rng.gamma(9, 1 / 9, n_rows)
    is_bisque = rng.random(n_rows) < 0.4
    peak = np.where(is_bisque, 980, np.where(rng.random(n_rows) < 0.3, 1060, 1235)) + rng.normal(0, 18, n_rows)
    days = [FIRST_DAY + dt.timedelta(days=int(day)) for day in np.sort(rng.integers(0, 320, n_rows))]
    return pd.DataFrame(
        {
            "kiln": kiln,
            "load": np.clip(load, 0.5, 120).round(1),
            "peak": (np.clip(peak, 900, 1300) / 5).round().astype("int64") * 5,
            "rate": (np.clip(rng.normal(110, 30, n_rows), 40, 220) / 5).round().astype("int64") * 5,
            "hold": (rng.gamma(1.4, 13, n_rows).clip(0, 90) / 5).round().astype("int64") * 5,
            "worn": rng.random(n_rows) < 0.3,
            "day": [day.isoformat() for day in days],
        }
    )


def main() -> None:
    """Write the reference table."""
    make_diary(N_ROWS, seed=SEED).to_csv(Path(__file__).parent / "demo" / "reference.csv", index=False)


if __name__ == "__main__":
    main()
