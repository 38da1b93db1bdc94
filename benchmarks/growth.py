"""How the time of a compiled forest grows: against trees, depth, rows and fields, with the measured exponents.

Run as `./plainwindow bench --growth docs/growth.svg`; prints the figures and draws them.
"""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pandas as pd
from sklearn.ensemble import RandomForestRegressor

from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import columns_of_table

from .in_process import median_ms

__all__ = ["Curve", "draw", "measure_growth"]

SEED = 20261123
N_TRAINED = 3000
# What is held while one of them moves.
USUAL = {"trees": 100, "depth": 10, "rows": 1000, "fields": 10}
MOVES = {
    "trees": [10, 30, 100, 300, 1000],
    "depth": [2, 4, 8, 12, 16],
    "rows": [1, 10, 100, 1000, 10_000, 100_000],
    "fields": [2, 5, 10, 30, 100],
}
PANEL_WIDTH, PANEL_HEIGHT, MARGIN = 300, 220, 46


@dataclass(frozen=True)
class Curve:
    """Median milliseconds for each size of one thing, and the slope of the line through them on log axes."""

    what: str
    sizes: list[int]
    milliseconds: list[float]

    @property
    def exponent(self) -> float:
        """Over the upper half of the sizes, where what a call costs anyway no longer counts."""
        half = len(self.sizes) // 2
        return float(np.polyfit(np.log(self.sizes[half:]), np.log(self.milliseconds[half:]), 1)[0])


def measure_growth() -> list[Curve]:
    """Time made-up forests of one output; the rest is held as `USUAL` says."""
    return [
        Curve(what, sizes, [_milliseconds(**{**USUAL, what: size}) for size in sizes]) for what, sizes in MOVES.items()
    ]


def _milliseconds(*, trees: int, depth: int, rows: int, fields: int) -> float:
    rng = np.random.default_rng(SEED)
    names = [f"field {at}" for at in range(fields)]
    table = pd.DataFrame(rng.normal(size=(N_TRAINED, fields)), columns=names)
    target = table.sum(axis=1) + rng.normal(size=N_TRAINED)
    forest = RandomForestRegressor(trees, max_depth=depth, n_jobs=2, random_state=0).fit(table, target)
    compiled = CompiledModel(compile_sklearn(forest, names, wanted="numbers"))
    asked = columns_of_table(pd.DataFrame(rng.normal(size=(rows, fields)), columns=names))
    return median_ms(lambda: compiled.predict(asked), 5 if rows > 10_000 else 25)


def draw(curves: list[Curve], path: Path, of_what: str) -> None:
    """Four panels with log axes, as SVG."""
    width, height = 2 * PANEL_WIDTH, 2 * PANEL_HEIGHT
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" font-family="sans-serif" '
        'font-size="11" fill="#23303a">',
        f"<title>Time of {of_what} against {', '.join(curve.what for curve in curves)}</title>",
        f'<rect width="{width}" height="{height}" fill="#fff"/>',
    ]
    for at, curve in enumerate(curves):
        parts.append(f'<g transform="translate({at % 2 * PANEL_WIDTH} {at // 2 * PANEL_HEIGHT})">')
        parts += _panel(curve)
        parts.append("</g>")
    path.write_text("\n".join([*parts, "</svg>"]) + "\n")


def _panel(curve: Curve) -> list[str]:
    x = _scale(curve.sizes, MARGIN, PANEL_WIDTH - 16)
    y = _scale(curve.milliseconds, PANEL_HEIGHT - 34, 30)
    points = [(x(size), y(spent)) for size, spent in zip(curve.sizes, curve.milliseconds, strict=True)]
    line = " ".join(f"{left:.1f},{top:.1f}" for left, top in points)
    parts = [
        f'<text x="{MARGIN}" y="18" font-weight="bold">{curve.what}: time ∝ {curve.what}^{curve.exponent:.2f}</text>',
        f'<polyline points="{line}" fill="none" stroke="#0f5f73" stroke-width="2"/>',
    ]
    for (left, top), size, spent in zip(points, curve.sizes, curve.milliseconds, strict=True):
        parts.append(f'<circle cx="{left:.1f}" cy="{top:.1f}" r="3" fill="#0f5f73"/>')
        parts.append(f'<text x="{left:.1f}" y="{PANEL_HEIGHT - 18}" text-anchor="middle">{size:,}</text>')
        parts.append(f'<text x="{left:.1f}" y="{top - 7:.1f}" text-anchor="middle">{spent:.2g}</text>')
    parts.append(f'<text x="{PANEL_WIDTH / 2}" y="{PANEL_HEIGHT - 4}" text-anchor="middle">{curve.what}</text>')
    parts.append(f'<text x="12" y="{PANEL_HEIGHT / 2}" transform="rotate(-90 12 {PANEL_HEIGHT / 2})">ms</text>')
    return parts


def _scale(values: list[float] | list[int], start: float, end: float) -> Callable[[float], float]:
    low, high = np.log(min(values)), np.log(max(values))
    return lambda value: start + (np.log(value) - low) / (high - low) * (end - start)
