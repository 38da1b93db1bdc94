"""Photographs of glazed tiles with a few flaws, made up, and a box around each flaw.

Flaws differ in how large and how strong they are, down to hardly visible ones, and some tiles have marks that are no
flaws: a brush's trail, a speck of iron. Nobody could find all of the one and none of the other, and no model should.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.ndimage import distance_transform_edt, gaussian_filter, zoom

__all__ = ["CLASSES", "SIZE", "Tile", "make_tile", "make_tiles"]

CLASSES = ("blister", "bare spot", "crack")
# Width and height, in pixels.
SIZE = (320, 240)
GLAZES = np.array(
    [[150, 178, 158], [70, 52, 44], [222, 216, 205], [52, 72, 122], [146, 68, 48], [190, 150, 90]], dtype="float64"
)
CLAYS = np.array([[196, 170, 140], [150, 105, 80], [214, 204, 190]], dtype="float64")
MOST_FLAWS = 5
# How far from the edge a flaw's middle lies, and how much of another it may cover.
MARGIN, MOST_SHARED = 12, 0.15
Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Tile:
    """A photograph, uint8 of shape (240, 320, 3), and its flaws: class, left, top, right and bottom of each."""

    photograph: np.ndarray
    flaws: list[tuple[int, Box]]


@dataclass
class _Surface:
    """Colours of shape (240, 320, 3), and how far the surface stands up, of shape (240, 320)."""

    colours: np.ndarray
    height: np.ndarray
    clay: np.ndarray


# How much each pixel belongs to a flaw, and what that does to the surface.
Flaw = tuple[np.ndarray, Callable[[_Surface, np.ndarray], None]]


def make_tiles(n: int, *, seed: int) -> list[Tile]:
    """Tiles with no flaw to some.

    Parameters
    ----------
    n : int
        How many.
    seed : int
        For what is drawn by chance.
    """
    rng = np.random.default_rng(seed)
    return [make_tile(rng) for _ in range(n)]


def make_tile(rng: np.random.Generator, *, n_flaws: int | None = None) -> Tile:
    """One tile.

    Parameters
    ----------
    rng : Generator
        Decides everything that is drawn by chance.
    n_flaws : int, optional
    """
    glaze = GLAZES[rng.integers(len(GLAZES))] * rng.uniform(0.88, 1.1, 3)
    clay = CLAYS[rng.integers(len(CLAYS))] * rng.uniform(0.9, 1.08)
    colours = glaze * (1 + 0.07 * _clouds(rng, 50) + 0.03 * _clouds(rng, 8))[:, :, None]
    surface = _Surface(colours, 0.5 * _clouds(rng, 30), clay)
    _add_innocent_marks(surface, rng)
    flaws: list[tuple[int, Box]] = []
    for _ in range(int(rng.integers(0, MOST_FLAWS + 1)) if n_flaws is None else n_flaws):
        place = int(rng.integers(len(CLASSES)))
        middle = rng.uniform(MARGIN, np.array(SIZE) - MARGIN)
        where, change = FLAWS[CLASSES[place]](middle, rng)
        box = _box_around(where)
        if box is not None and all(_shared(box, other) <= MOST_SHARED for _, other in flaws):
            change(surface, where)
            flaws.append((place, box))
    return Tile(_photographed(surface, rng), flaws)


def _clouds(rng: np.random.Generator, size: float) -> np.ndarray:
    """Soft noise of this size, about one high."""
    shape = [max(3, int(side / size * 2)) for side in SIZE[::-1]]
    coarse = rng.normal(size=shape)
    soft = zoom(coarse, [side / n for side, n in zip(SIZE[::-1], shape, strict=True)], order=3)
    soft = soft[: SIZE[1], : SIZE[0]]
    return soft / (soft.std() + 1e-9)


def _away(middle: np.ndarray) -> np.ndarray:
    down, across = np.mgrid[: SIZE[1], : SIZE[0]].astype("float64")
    return np.hypot(across - middle[0], down - middle[1])


# --- flaws ------------------------------------------------------------------------------------------------------------


def _blister(middle: np.ndarray, rng: np.random.Generator) -> Flaw:
    radius, strength = rng.uniform(7, 19), rng.uniform(0.25, 1.0)
    away = _away(middle)
    where = 1 / (1 + np.exp((away - radius) / 1.2))
    is_burst = rng.random() < 0.35

    def change(surface: _Surface, inside: np.ndarray) -> None:
        surface.height += radius * (0.35 + 0.6 * strength) * inside * 0.8
        if is_burst:
            hole = 1 / (1 + np.exp((away - 0.45 * radius) / 0.8))
            surface.colours += (surface.clay * 0.5 - surface.colours) * (0.8 * hole)[:, :, None]
            surface.height -= radius * hole

    return where, change


def _bare_spot(middle: np.ndarray, rng: np.random.Generator) -> Flaw:
    radius = rng.uniform(8, 26)
    ragged = radius * (1 + 0.28 * _clouds(rng, rng.uniform(14, 30)))
    where = 1 / (1 + np.exp((_away(middle) - ragged) / 1.0))
    share, rough = rng.uniform(0.45, 1.0), 1 + 0.06 * rng.normal(size=SIZE[::-1])

    def change(surface: _Surface, inside: np.ndarray) -> None:
        bare = surface.clay * rough[:, :, None]
        surface.colours += (bare - surface.colours) * (share * inside)[:, :, None]
        surface.height += 2.2 * np.exp(-(((inside - 0.35) / 0.2) ** 2)) - 3 * inside

    return where, change


def _crack(middle: np.ndarray, rng: np.random.Generator) -> Flaw:
    length, turn, bend = rng.uniform(36, 100), rng.uniform(0, np.pi), rng.uniform(-0.02, 0.02)
    along = np.linspace(-length / 2, length / 2, 80)
    angle = turn + bend * along + 0.12 * np.cumsum(rng.normal(size=80)) / np.sqrt(80)
    step = length / 80
    points = middle + np.stack([np.cumsum(np.cos(angle)), np.cumsum(np.sin(angle))], axis=1) * step
    points -= points.mean(axis=0) - middle
    width, share = rng.uniform(0.9, 1.9), rng.uniform(0.4, 0.95)
    is_off = np.ones(SIZE[::-1], dtype=bool)
    columns, rows = np.rint(points).astype(int).T
    is_inside = (columns >= 0) & (columns < SIZE[0]) & (rows >= 0) & (rows < SIZE[1])
    is_off[rows[is_inside], columns[is_inside]] = False
    where = np.exp(-(distance_transform_edt(is_off) ** 2) / (2 * width**2)) if is_inside.any() else 0.0 * is_off

    def change(surface: _Surface, inside: np.ndarray) -> None:
        stain = surface.clay * 0.3 if surface.colours.mean() > 90 else surface.clay
        surface.colours += (stain - surface.colours) * (share * inside)[:, :, None]
        surface.height -= 1.2 * inside

    return where, change


FLAWS = {"blister": _blister, "bare spot": _bare_spot, "crack": _crack}


def _add_innocent_marks(surface: _Surface, rng: np.random.Generator) -> None:
    """Specks of iron and a brush's trail, which are no flaws."""
    for _ in range(int(rng.poisson(6))):
        speck = np.exp(-((_away(rng.uniform(0, SIZE)) / rng.uniform(0.8, 2.2)) ** 2))
        surface.colours += (np.array([60.0, 40, 30]) - surface.colours) * (0.7 * speck)[:, :, None]
    if rng.random() < 0.4:
        down, across = np.mgrid[: SIZE[1], : SIZE[0]] / 240
        turn = rng.uniform(0, np.pi)
        band = np.exp(-(((np.cos(turn) * across + np.sin(turn) * down - rng.uniform(0.2, 1.0)) / 0.06) ** 2))
        surface.colours *= (1 + rng.uniform(-0.18, 0.18) * band)[:, :, None]


def _box_around(where: np.ndarray) -> Box | None:
    """The smallest box around what clearly belongs to a flaw; None if too little of it is in the picture."""
    rows, columns = np.flatnonzero((where > 0.3).any(axis=1)), np.flatnonzero((where > 0.3).any(axis=0))
    if (len(rows) < 6 and len(columns) < 6) or not len(rows):
        return None
    return float(columns[0]), float(rows[0]), float(columns[-1] + 1), float(rows[-1] + 1)


def _shared(one: Box, other: Box) -> float:
    across = max(0.0, min(one[2], other[2]) - max(one[0], other[0]))
    down = max(0.0, min(one[3], other[3]) - max(one[1], other[1]))
    smaller = min((box[2] - box[0]) * (box[3] - box[1]) for box in (one, other))
    return across * down / smaller


def _photographed(surface: _Surface, rng: np.random.Generator) -> np.ndarray:
    """Light from one side with its glints, blur, grain and the camera's own idea of white."""
    slope_down, slope_across = np.gradient(gaussian_filter(surface.height, 0.8))
    turn = rng.uniform(0, 2 * np.pi)
    lit = slope_down * np.sin(turn) + slope_across * np.cos(turn)
    shaded = surface.colours * (1 + 0.24 * np.clip(lit, -2, 2))[:, :, None]
    shaded += (rng.uniform(60, 160) * np.clip(lit - 0.45, 0, 1) ** 2)[:, :, None]
    down, across = np.mgrid[: SIZE[1], : SIZE[0]] / 320 - 0.4
    light = 1 + rng.uniform(-0.3, 0.3) * down + rng.uniform(-0.3, 0.3) * across
    shaded = shaded * (light * rng.uniform(0.8, 1.12))[:, :, None] * rng.uniform(0.93, 1.07, 3)
    shaded = gaussian_filter(shaded, (*[rng.uniform(0.3, 0.9)] * 2, 0))
    shaded += rng.normal(size=shaded.shape) * rng.uniform(1.5, 5.0)
    return np.clip(np.rint(shaded), 0, 255).astype("uint8")
