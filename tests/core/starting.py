"""Made-up tables that models are made of, and what tests do with them."""

import io
from typing import Any

import numpy as np
import pandas as pd

from plain_window.core.starters.choices import Choices
from plain_window.core.starters.looking import look_at_table
from plain_window.core.starters.recipe import recipe_of
from plain_window.core.starters.sheet import Sheet

N = 240


def csv_of(table: pd.DataFrame, **how: Any) -> io.BytesIO:
    return io.BytesIO(table.to_csv(index=False, **how).encode())


def looked_at(table: pd.DataFrame, target: str = "outcome", **how: Any) -> Sheet:
    return look_at_table(csv_of(table), target=target, **how)[0]


def recipe_for(table: pd.DataFrame, **choices: Any) -> dict[str, Any]:
    sheet, how = look_at_table(csv_of(table), target=choices.get("target", "outcome"))
    return recipe_of(sheet, how, Choices(**choices))


def pieces(n_rows: int = N, seed: int = 1) -> pd.DataFrame:
    """Pieces that crack the more the thicker they are; `glaze` has nothing to do with it."""
    rng = np.random.default_rng(seed)
    wall = rng.normal(6, 2, n_rows).round(2)
    cracks = rng.random(n_rows) < 1 / (1 + np.exp(-1.2 * (wall - 6)))
    glaze = rng.choice(["clear", "shino", "tenmoku"], n_rows)
    return pd.DataFrame({"wall_mm": wall, "glaze": glaze, "outcome": np.where(cracks, "cracks", "sound")})
