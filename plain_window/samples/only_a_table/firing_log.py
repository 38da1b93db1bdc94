"""Makes `firing_log.csv`: what a studio wrote down of the pieces it fired. All of it is made up.

    python -m plain_window.samples.only_a_table.firing_log

In it lie: a number a piece (`piece_no`), minutes of mending that are only written down once a piece has cracked
(`mending_minutes`), pieces thrown from one batch of clay and fired together (`batch`), what was not measured, a date,
and a kiln that cracks more by the second year.
"""

import datetime as dt

import numpy as np
import pandas as pd

from . import TABLE

__all__ = ["firing_log"]

N_BATCHES, SEED = 420, 20
FIRST, LAST = dt.date(2024, 9, 2), dt.date(2026, 8, 28)
CLAYS = ("red earthenware", "white stoneware", "grogged stoneware", "porcelain")
FORMS = ("bowl", "mug", "plate", "vase", "tile")
THINNEST_MM = 2.5


def firing_log(n_batches: int = N_BATCHES, seed: int = SEED) -> pd.DataFrame:
    """Pieces fired, batch after batch.

    Parameters
    ----------
    n_batches : int, optional
    seed : int, optional
    """
    rng = np.random.default_rng(seed)
    rows = []
    days = np.sort(rng.integers(0, (LAST - FIRST).days + 1, n_batches))
    for batch, day in enumerate(days):
        fired, clay = FIRST + dt.timedelta(days=int(day)), rng.choice(CLAYS, p=[0.35, 0.3, 0.2, 0.15])
        temp = int(np.round(rng.normal({"red earthenware": 1060, "porcelain": 1275}.get(str(clay), 1235), 12) / 5) * 5)
        # Clay is mixed by the batch: how wet it was nobody wrote down.
        wet, late = rng.normal(0, 1.1), day / (LAST - FIRST).days
        for _ in range(int(rng.integers(2, 6))):
            wall, drying = max(THINNEST_MM, rng.normal(6.5, 1.8)), int(rng.integers(1, 15))
            form = str(rng.choice(FORMS))
            damp = 0.9 if fired.month in (11, 12, 1, 2) else 0.0
            risk = -1.9 + 0.45 * (wall - 6.5) - 0.28 * (drying - 7) + wet + damp + 1.3 * late
            risk += {"porcelain": 0.9, "grogged stoneware": -0.8}.get(str(clay), 0.0) + 0.5 * (form == "plate")
            draw = rng.random()
            cracks = 1 / (1 + np.exp(-risk))
            outcome = "cracks" if draw < cracks else "warps" if draw < cracks + 0.12 else "sound"
            rows.append(
                {
                    "piece_no": 0,
                    "batch": f"B{batch + 101}",
                    "fired_on": fired.isoformat(),
                    "clay": clay,
                    "form": form,
                    "wall_mm": round(wall, 1) if rng.random() > 0.06 else None,
                    "drying_days": drying,
                    "peak_temp_c": temp,
                    "weight_g": round(wall * rng.normal(70, 9)) if rng.random() > 0.12 else None,
                    "shelf": int(rng.integers(1, 6)),
                    "mending_minutes": int(rng.integers(5, 60)) if outcome == "cracks" and rng.random() < 0.9 else None,
                    "outcome": outcome,
                }
            )
    table = pd.DataFrame(rows)
    table["piece_no"] = np.arange(3001, 3001 + len(table))
    return table.astype({"weight_g": "Int64", "mending_minutes": "Int64"})


if __name__ == "__main__":
    firing_log().to_csv(TABLE, index=False)
