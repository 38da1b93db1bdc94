"""A generator of made-up firings and the energy they took.

The rules are a kiln's: what is heated is the load, the shelves and the walls; what is lost goes out through the walls
for as long as the firing lasts, the faster the hotter; worn elements heat slowly and make it last.
"""

import numpy as np
import pandas as pd

__all__ = ["TARGET", "make_firings"]

TARGET = "kwh"
KILNS = ("test kiln", "top loader", "front loader")
KILN_SHARES = (0.2, 0.5, 0.3)
VOLUME_LITRES = {"test kiln": 22.0, "top loader": 150.0, "front loader": 320.0}
# Loss through the walls for each degree above the studio, kW.
LOSS = {"test kiln": 0.00055, "top loader": 0.0019, "front loader": 0.0030}
# Heat that a kilogram takes up for each degree, kWh; vitrifying and drying take more on top.
HEAT_OF_CLAY = 0.00029


def make_firings(n_rows: int, *, seed: int) -> pd.DataFrame:
    """Made-up firings with the energy they took.

    Parameters
    ----------
    n_rows : int
    seed : int

    Returns
    -------
    DataFrame of shape (n_rows, 11)
        Ten features and `kwh`. Units are in the column names or in the demo's `demo.toml`.
    """
    rng = np.random.default_rng(seed)
    kiln = rng.choice(KILNS, n_rows, p=KILN_SHARES)
    litres = np.array([VOLUME_LITRES[name] for name in kiln])
    bisque = rng.random(n_rows) < 0.45
    middle = np.where(bisque, 980, np.where(rng.random(n_rows) < 0.3, 1060, 1235))
    firings = pd.DataFrame(
        {
            "kiln": kiln,
            "load_kg": np.clip(litres * rng.gamma(6, 0.025, n_rows), 0.5, None).round(1),
            "shelves": np.clip((litres / 45 + rng.normal(0, 1, n_rows)).round(), 1, 9).astype("int64"),
            "bisque": bisque,
            "damp": rng.random(n_rows) < np.where(bisque, 0.25, 0.05),
            "peak_temp": (np.clip(middle + rng.normal(0, 22, n_rows), 900, 1300) / 5).round().astype("int64") * 5,
            "heating_rate": (np.clip(rng.normal(115, 35, n_rows), 50, 220) / 5).round().astype("int64") * 5,
            "hold_minutes": (rng.gamma(1.4, 13, n_rows).clip(0, 90) / 5).round().astype("int64") * 5,
            "element_age": np.clip(rng.gamma(2.2, 40, n_rows), 0, 260).round().astype("int64"),
            "studio_temp": np.clip(rng.normal(16, 6, n_rows), 2, 32).round().astype("int64"),
        }
    )
    used = _energy(firings) * np.exp(rng.normal(0, 0.045, n_rows))
    firings[TARGET] = used.round(1)
    return firings


def _energy(firings: pd.DataFrame) -> np.ndarray:
    """What a firing takes on average, kWh."""
    rise = firings["peak_temp"].to_numpy(dtype="float64") - firings["studio_temp"].to_numpy()
    litres, loss = firings["kiln"].map(VOLUME_LITRES).to_numpy(), firings["kiln"].map(LOSS).to_numpy()
    wear = 1 + np.clip(firings["element_age"].to_numpy() - 80, 0, None) / 420
    # Above 1,000 °C worn elements cannot keep up with the schedule.
    hours = rise / firings["heating_rate"].to_numpy() * np.where(rise > 1000, wear, 1 + (wear - 1) / 3)
    hours = hours + np.where(firings["damp"], 2.5, 0.0)
    heated = firings["load_kg"].to_numpy() + 2.4 * firings["shelves"].to_numpy() + 0.16 * litres
    stored = heated * HEAT_OF_CLAY * rise * np.where(firings["bisque"], 1.12, 1.0)
    drying = np.where(firings["damp"], 0.055 * firings["load_kg"].to_numpy(), 0.0)
    lost = loss * (0.62 * rise * hours + rise * firings["hold_minutes"].to_numpy() / 60)
    return stored + drying + lost
