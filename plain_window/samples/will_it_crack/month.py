"""A month's pieces as a potter keeps them: headings with units, a decimal comma, a gap and a slip of the pen.

Run with `python -m plain_window.samples.will_it_crack.month`; the same seed writes the same table.
"""

from pathlib import Path

import numpy as np
import pandas as pd

from .pieces import TARGET, make_pieces

__all__ = ["main", "make_month"]

PLACE = Path(__file__).parent / "month.csv"
N_PIECES, SEED = 180, 20260601
HEADINGS = {
    "clay_body": "Clay body",
    "wall_mm": "Wall thickness (cm)",
    "width_cm": "Widest part (cm)",
    "attached": "Handle or spout attached",
    "drying_days": "Days drying",
    "humidity": "Humidity",
    "covered": "Dried under cover",
    "glaze": "Glaze",
    "heating_rate": "Heating rate",
    "peak_temp": "Peak temperature (°C)",
    "cooling_hours": "Hours cooling",
    TARGET: "Outcome",
}
# Row, column and what stands there by mistake.
SLIPS = ((17, "Peak temperature (°C)", "cone 6"), (52, "Humidity", ""), (118, "Clay body", "raku"))


def make_month() -> pd.DataFrame:
    """The pieces, as text is written."""
    pieces = make_pieces(N_PIECES, seed=SEED)
    rng = np.random.default_rng(SEED)
    days = np.sort(rng.integers(1, 31, N_PIECES))
    pieces["wall_mm"] /= 10
    for column in ("wall_mm", "drying_days"):
        pieces[column] = [f"{value:g}".replace(".", ",") for value in pieces[column].round(2)]
    for column in ("attached", "covered"):
        pieces[column] = np.where(pieces[column], "yes", "no")
    table = pieces.rename(columns=HEADINGS).astype(object)
    table.insert(0, "Made on", [f"2026-06-{day:02}" for day in days])
    table.insert(0, "Piece", [f"J{at:03}" for at in range(1, N_PIECES + 1)])
    for row, column, slip in SLIPS:
        table.loc[row, column] = slip
    return table


def main() -> None:
    """Write the table."""
    make_month().to_csv(PLACE, index=False, sep=";")


if __name__ == "__main__":
    main()
