"""A belt with glazed tiles on it, made up, and what a camera above it sees while it moves.

Some tiles have lost a corner, some are cracked; both come down to hardly visible ones, and where a tile is half out of
the picture nobody could say. No model should be right about all of them.
"""

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter, uniform_filter1d

__all__ = ["CLASSES", "SIZE", "Belt", "make_belt", "seen_at"]

CLASSES = ("sound", "chipped", "cracked")
SHARES = (0.6, 0.2, 0.2)
# Width and height of what the camera sees, in pixels.
SIZE = (320, 240)
RAIL = 18
LANES = (78, 162)
GLAZES = np.array(
    [[150, 178, 158], [84, 64, 54], [222, 216, 205], [62, 84, 134], [156, 78, 58], [198, 158, 98]], dtype="float64"
)
RUBBER, METAL, CLAY = np.array([52.0, 56, 54]), np.array([150.0, 150, 146]), np.array([188.0, 160, 130])
# So much of a tile must be in the picture for it to count.
LEAST_SHARE = 0.4
# How far apart tiles of a lane lie, from one's middle to the next.
CLOSEST, FARTHEST = 74, 150
# A class by its place, and left, top, right and bottom of its box.
Tile = tuple[int, tuple[float, float, float, float]]


@dataclass(frozen=True)
class Belt:
    """A belt seen from above, float64 of shape (240, length, 3), and its tiles: class, left, top, right and bottom."""

    colours: np.ndarray
    tiles: list[Tile]


def make_belt(length: int, rng: np.random.Generator) -> Belt:
    """A belt with tiles in two lanes.

    Parameters
    ----------
    length : int
        In pixels, at least as much as the camera sees.
    rng : Generator
        Decides everything that is drawn by chance.
    """
    grain = (
        gaussian_filter(rng.normal(size=(SIZE[1], length)), 1.2) * 22
        + gaussian_filter(rng.normal(size=(SIZE[1], length)), (6, 20)) * 60
    )
    colours = RUBBER + grain[:, :, None]
    for edge in (slice(0, RAIL), slice(SIZE[1] - RAIL, None)):
        colours[edge] = METAL
    tiles = []
    for lane in LANES:
        x = rng.uniform(-20, 60)
        while x < length + 30:
            tiles.append(_lay_tile(colours, np.array([x, lane + rng.uniform(-9, 9)]), rng))
            x += rng.uniform(CLOSEST, FARTHEST)
    return Belt(colours, [tile for tile in tiles if tile[1][2] > tile[1][0]])


def seen_at(belt: Belt, x: float, rng: np.random.Generator) -> tuple[np.ndarray, list[Tile]]:
    """What the camera sees of a belt that has moved by `x` pixels: uint8 of shape (240, 320, 3), and the tiles in it.

    Parameters
    ----------
    belt : Belt
    x : float
    rng : Generator
        For its grain.
    """
    left = round(x)
    part = belt.colours[:, left : left + SIZE[0]]
    down, across = np.mgrid[: SIZE[1], : SIZE[0]]
    light = 1.06 - 0.22 * (((across - 150) / 320) ** 2 + ((down - 110) / 240) ** 2)
    moved = uniform_filter1d(part * light[:, :, None], 3, axis=1)
    photograph = gaussian_filter(moved, (0.6, 0.6, 0)) + rng.normal(size=part.shape) * 3.5
    found = []
    for place, (low, top, high, bottom) in belt.tiles:
        inside = (max(low - left, 0.0), top, min(high - left, float(SIZE[0])), bottom)
        if inside[2] - inside[0] >= LEAST_SHARE * (high - low):
            found.append((place, inside))
    return np.clip(np.rint(photograph), 0, 255).astype("uint8"), found


def _lay_tile(
    colours: np.ndarray, middle: np.ndarray, rng: np.random.Generator
) -> tuple[int, tuple[float, float, float, float]]:
    """Draw a tile, and say what it is and where."""
    place = int(rng.choice(len(CLASSES), p=SHARES))
    half, turn = rng.uniform(23, 29), rng.uniform(-0.16, 0.16)
    reach = round(half * 1.6)
    low = np.maximum(np.floor(middle).astype(int) - reach, 0)
    high = np.minimum(np.floor(middle).astype(int) + reach, [colours.shape[1], SIZE[1]])
    if (high <= low).any():
        return place, (0.0, 0.0, 0.0, 0.0)
    down, across = np.mgrid[low[1] : high[1], low[0] : high[0]].astype("float64")
    across, down = across - middle[0], down - middle[1]
    u, v = np.cos(turn) * across + np.sin(turn) * down, np.cos(turn) * down - np.sin(turn) * across
    # How far inside the edge, with corners a little rounded.
    depth = half - np.hypot(np.maximum(np.abs(u) - half + 4, 0), np.maximum(np.abs(v) - half + 4, 0)) - half + 4
    shade = np.full(u.shape, 1.0)
    if place == 1:
        corner = half * rng.choice([-1, 1], 2) * rng.uniform(0.86, 1.0)
        away = np.hypot(u - corner[0], v - corner[1]) + 1.2 * np.sin(5 * np.arctan2(v - corner[1], u - corner[0]))
        depth = np.minimum(depth, away - rng.uniform(7, 17))
    elif place == 2:
        slope, shift = rng.uniform(0, np.pi), rng.uniform(-0.35, 0.35) * half
        line = (
            np.cos(slope) * u + np.sin(slope) * v - shift + 1.5 * np.sin(0.24 * (np.cos(slope) * v - np.sin(slope) * u))
        )
        shade = 1 - rng.uniform(0.35, 0.85) * np.exp(-((line / rng.uniform(0.7, 1.5)) ** 2))
    cover = 1 / (1 + np.exp(-np.clip(depth / 0.6, -40, 40)))
    glaze = GLAZES[rng.integers(len(GLAZES))] * rng.uniform(0.9, 1.08, 3)
    clouds = 1 + 0.05 * gaussian_filter(rng.normal(size=u.shape), 5) * 10
    rim = np.exp(-((depth / 2.2) ** 2))[:, :, None]
    surface = (glaze * (clouds * shade)[:, :, None]) * (1 - 0.45 * rim) + CLAY * 0.45 * rim
    under = colours[low[1] : high[1], low[0] : high[0]]
    # Its shadow on the belt, then itself.
    shadow = np.pad(cover, ((3, 0), (3, 0)))[:-3, :-3]
    under *= 1 - 0.35 * shadow[:, :, None]
    under += (surface - under) * cover[:, :, None]
    rows, columns = np.flatnonzero((cover > 0.5).any(axis=1)), np.flatnonzero((cover > 0.5).any(axis=0))
    if not len(rows):
        return place, (0.0, 0.0, 0.0, 0.0)
    box = (low[0] + columns[0], low[1] + rows[0], low[0] + columns[-1] + 1, low[1] + rows[-1] + 1)
    return place, tuple(float(side) for side in box)  # type: ignore[return-value]
