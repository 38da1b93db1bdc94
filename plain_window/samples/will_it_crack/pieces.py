"""A generator of made-up pieces and what became of them.

The rules are a potter's: thick walls that dry fast, or are heated fast, crack; joints crack more; grog opens the clay
and forgives; porcelain warps when it is wide, thin and fired hot. What happens to a piece is drawn by chance from its
risks, so that no model can be certain, and an honest one is not.
"""

import numpy as np
import pandas as pd

__all__ = ["CLASSES", "TARGET", "make_pieces"]

TARGET = "outcome"
CLASSES = ("cracks", "sound", "warps")

CLAY_BODIES = ("stoneware", "porcelain", "earthenware", "grogged")
CLAY_SHARES = (0.42, 0.2, 0.22, 0.16)
GLAZES = ("none", "clear", "celadon", "tenmoku", "shino")
GLAZE_SHARES = (0.16, 0.32, 0.2, 0.18, 0.14)
# The middle of each body's usual top temperature, °C.
PEAK_OF_BODY = {"stoneware": 1255, "porcelain": 1275, "earthenware": 1080, "grogged": 1220}


def make_pieces(n_rows: int, *, seed: int) -> pd.DataFrame:
    """Made-up pieces with their outcome.

    Parameters
    ----------
    n_rows : int
    seed : int

    Returns
    -------
    DataFrame of shape (n_rows, 12)
        Eleven features and `outcome`. Units are in the column names or in the demo's `demo.toml`.
    """
    rng = np.random.default_rng(seed)
    clay = rng.choice(CLAY_BODIES, n_rows, p=CLAY_SHARES)
    covered = rng.random(n_rows) < 0.45
    humidity = np.clip(rng.normal(57, 12, n_rows), 30, 85).round()
    pieces = pd.DataFrame(
        {
            "clay_body": clay,
            "wall_mm": np.clip(rng.gamma(7.5, 1.05, n_rows), 3, 18).round(1),
            "width_cm": np.clip(rng.gamma(5.0, 3.6, n_rows), 5, 45).round(),
            "attached": rng.random(n_rows) < 0.38,
            "drying_days": np.clip(rng.gamma(3.2, 1.9, n_rows), 0.5, 14).round(1),
            "humidity": humidity.astype("int64"),
            "covered": covered,
            "glaze": rng.choice(GLAZES, n_rows, p=GLAZE_SHARES),
            "heating_rate": (np.clip(rng.normal(112, 36, n_rows), 40, 220) / 5).round().astype("int64") * 5,
            "peak_temp": _peak_temperatures(clay, rng),
            "cooling_hours": np.clip(rng.gamma(6.0, 3.0, n_rows), 6, 48).round().astype("int64"),
        }
    )
    pieces["width_cm"] = pieces["width_cm"].astype("int64")
    pieces[TARGET] = _outcomes(_risks(pieces), rng)
    return pieces


def _peak_temperatures(clay: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    middle = np.array([PEAK_OF_BODY[body] for body in clay], dtype="float64")
    return (np.clip(middle + rng.normal(0, 28, clay.size), 980, 1320) / 5).round().astype("int64") * 5


def _risks(pieces: pd.DataFrame) -> np.ndarray:
    """Log-risks of the three outcomes, shape (n_rows, 3), in the order of `CLASSES`; sound is the measure, 0."""
    wall, width = pieces["wall_mm"].to_numpy(), pieces["width_cm"].to_numpy(dtype="float64")
    # How much too fast it dried: a piece wants about a day for every 1.6 mm of wall, less in damp air or under cover.
    wanted_days = wall / 1.6 * (1 - 0.006 * (pieces["humidity"] - 57)) * np.where(pieces["covered"], 0.75, 1.0)
    haste = np.clip(np.log2(wanted_days / pieces["drying_days"]), -1.5, 3.0).to_numpy()
    shock = (pieces["heating_rate"].to_numpy() - 110) / 40 * (wall / 8)
    body_cracks = pieces["clay_body"].map({"stoneware": 0.0, "porcelain": 0.7, "earthenware": 0.1, "grogged": -1.0})
    body_warps = pieces["clay_body"].map({"stoneware": 0.0, "porcelain": 1.3, "earthenware": -0.5, "grogged": -0.9})
    glaze_cracks = pieces["glaze"].map({"none": -0.3, "clear": 0.0, "celadon": 0.35, "tenmoku": 0.05, "shino": 0.3})
    over_fired = (pieces["peak_temp"] - pieces["clay_body"].map(PEAK_OF_BODY)).to_numpy() / 30
    fast_cooling = np.clip((14 - pieces["cooling_hours"].to_numpy()) / 5, 0, None)
    cracks = (
        -2.2
        + 1.9 * haste
        + 1.0 * shock
        + 0.9 * pieces["attached"].to_numpy()
        + 0.45 * pieces["attached"].to_numpy() * np.clip(haste, 0, None)
        + body_cracks.to_numpy()
        + glaze_cracks.to_numpy()
        + 0.7 * fast_cooling
    )
    warps = (
        -2.6
        + body_warps.to_numpy()
        + 0.07 * (width - 18)
        + 0.75 * over_fired
        + 0.6 * np.clip((7 - wall) / 3, 0, None)
        + np.where(pieces["covered"], -0.5, 0.35) * np.clip(haste + 0.5, 0, None)
        + 0.4 * pieces["attached"].to_numpy()
    )
    return np.column_stack([cracks, np.zeros(len(pieces)), warps])


def _outcomes(risks: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    shares = np.exp(risks - risks.max(axis=1, keepdims=True))
    shares /= shares.sum(axis=1, keepdims=True)
    drawn = (rng.random((len(risks), 1)) > shares.cumsum(axis=1)).sum(axis=1)
    return np.array(CLASSES)[np.minimum(drawn, len(CLASSES) - 1)]
