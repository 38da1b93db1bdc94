"""Photographs of glazed test tiles, made up: a glaze with its fault, under some light, through some camera.

Faults differ in how strong they are, down to hardly visible ones; a few tiles carry a second, weaker fault. Nobody
could tell all of them apart, and no model should.
"""

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates, zoom

__all__ = ["CLASSES", "SIDE", "make_tile", "make_tiles"]

CLASSES = ("blisters", "crawling", "crazing", "even", "pinholes")
SIDE = 192
# Celadon, tenmoku, white, cobalt, iron red, ochre: red, green, blue.
GLAZES = np.array(
    [[150, 178, 158], [58, 38, 30], [222, 216, 205], [46, 66, 118], [140, 60, 40], [190, 150, 90]], dtype="float64"
)
CLAYS = np.array([[196, 170, 140], [150, 105, 80], [214, 204, 190]], dtype="float64")
SECOND_FAULT_SHARE = 0.06

# Colours of shape (192, 192, 3), and how far the surface stands up, of shape (192, 192).
Tile = tuple[np.ndarray, np.ndarray]


def make_tiles(n: int, *, seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Photographs, uint8 of shape (n, 192, 192, 3), and the place of each one's class.

    Parameters
    ----------
    n : int
        How many.
    seed : int
        For what is drawn by chance.
    """
    rng = np.random.default_rng(seed)
    outcomes = np.arange(n) % len(CLASSES)
    rng.shuffle(outcomes)
    return np.array([make_tile(CLASSES[outcome], rng) for outcome in outcomes]), outcomes


def make_tile(fault: str, rng: np.random.Generator) -> np.ndarray:
    """One photograph, uint8 of shape (192, 192, 3).

    Parameters
    ----------
    fault : str
    rng : Generator
        Decides everything that is drawn by chance.
    """
    glaze = GLAZES[rng.integers(len(GLAZES))] * rng.uniform(0.88, 1.1, 3)
    clay = CLAYS[rng.integers(len(CLAYS))] * rng.uniform(0.9, 1.08)
    tile = glaze * (1 + 0.10 * _clouds(rng, 30) + 0.04 * _clouds(rng, 6))[:, :, None]
    # How far the surface stands up decides where light glances off it.
    height = 0.6 * _clouds(rng, 24)
    strength = rng.beta(2.2, 1.6) * 0.9 + 0.1
    tile, height = FAULTS[fault](tile, height, clay, strength, rng)
    if rng.random() < SECOND_FAULT_SHARE:
        other = CLASSES[rng.integers(len(CLASSES))]
        tile, height = FAULTS[other](tile, height, clay, 0.15, rng)
    return _photographed(tile, height, rng)


def _clouds(rng: np.random.Generator, size: float) -> np.ndarray:
    """Soft noise of this size, about one high."""
    coarse = rng.normal(size=(max(3, int(SIDE / size * 2)),) * 2)
    soft = zoom(coarse, SIDE / len(coarse), order=3)[:SIDE, :SIDE]
    return soft / (soft.std() + 1e-9)


def _even(tile: np.ndarray, height: np.ndarray, clay: np.ndarray, strength: float, rng: np.random.Generator) -> Tile:
    return tile, height


def _spots(rng: np.random.Generator, n: int, low: float, high: float) -> tuple[np.ndarray, np.ndarray]:
    """Places and radii of spots that gather in one part of the tile."""
    middle = rng.uniform(0.2, 0.8, 2) * SIDE
    spread = rng.uniform(0.18, 0.6) * SIDE
    places = middle + rng.normal(size=(n, 2)) * spread
    keep = ((places > 4) & (places < SIDE - 4)).all(axis=1)
    return places[keep], rng.uniform(low, high, keep.sum())


def _dent(shape: np.ndarray, place: np.ndarray, radius: float, edge: float) -> tuple[tuple[slice, slice], np.ndarray]:
    """Where a round spot lies, and how much each pixel there belongs to it."""
    reach = int(np.ceil(radius + 3 * edge))
    top, left = (max(0, int(part) - reach) for part in place)
    bottom, right = (min(SIDE, int(part) + reach + 1) for part in place)
    down, across = np.mgrid[top:bottom, left:right]
    away = np.hypot(down - place[0], across - place[1])
    return (slice(top, bottom), slice(left, right)), 1 / (1 + np.exp((away - radius) / edge))


def _pinholes(
    tile: np.ndarray, height: np.ndarray, clay: np.ndarray, strength: float, rng: np.random.Generator
) -> Tile:
    places, radii = _spots(rng, int(8 + 70 * strength), 1.0, 1.5 + 1.6 * strength)
    for place, radius in zip(places, radii, strict=True):
        where, inside = _dent(tile, place, radius, 0.45)
        tile[where] += (clay * 0.35 - tile[where]) * (0.9 * inside)[:, :, None]
        height[where] -= 1.6 * inside
    return tile, height


def _blisters(
    tile: np.ndarray, height: np.ndarray, clay: np.ndarray, strength: float, rng: np.random.Generator
) -> Tile:
    places, radii = _spots(rng, int(4 + 16 * strength), 4.0, 6 + 7 * strength)
    for place, radius in zip(places, radii, strict=True):
        where, inside = _dent(tile, place, radius, 1.1)
        height[where] += radius * (0.5 + 0.5 * strength) * inside * 0.8
        if rng.random() < 0.3:
            # Burst: a crater with a sharp rim.
            within, hole = _dent(tile, place, radius * 0.5, 0.6)
            tile[within] += (clay * 0.5 - tile[within]) * (0.8 * hole)[:, :, None]
            height[within] -= radius * hole
    return tile, height


def _crawling(
    tile: np.ndarray, height: np.ndarray, clay: np.ndarray, strength: float, rng: np.random.Generator
) -> Tile:
    """Glaze that drew back: bare patches with thick, rounded edges."""
    islands = _clouds(rng, rng.uniform(14, 26)) + 0.6 * _clouds(rng, 50)
    level = np.quantile(islands, 1 - (0.05 + 0.35 * strength))
    bare = 1 / (1 + np.exp(-(islands - level) / 0.06))
    rough = clay * (1 + 0.07 * rng.normal(size=(SIDE, SIDE)))[:, :, None]
    tile = tile + (rough - tile) * bare[:, :, None]
    return tile, height - 5 * bare + 3 * np.exp(-(((islands - level + 0.25) / 0.18) ** 2))


def _crazing(tile: np.ndarray, height: np.ndarray, clay: np.ndarray, strength: float, rng: np.random.Generator) -> Tile:
    """A net of fine cracks: the borders between the places nearest to each of some points."""
    n = int(10 + 55 * strength)
    points = rng.uniform(-0.1, 1.1, (n, 2)) * SIDE
    down, across = np.mgrid[:SIDE, :SIDE].astype("float64")
    down, across = down + 2.5 * _clouds(rng, 18), across + 2.5 * _clouds(rng, 18)
    away = np.hypot(down[None] - points[:, 0, None, None], across[None] - points[:, 1, None, None])
    nearest = np.partition(away, 1, axis=0)[:2]
    line = np.exp(-(((nearest[1] - nearest[0]) / rng.uniform(1.0, 1.9)) ** 2))
    stain = clay * 0.4 if tile.mean() > 90 else np.minimum(255, tile.mean(axis=(0, 1)) * 1.9 + 25)
    share = (0.25 + 0.6 * strength) * line
    return tile + (stain - tile) * share[:, :, None], height - 0.8 * line


FAULTS = {"even": _even, "pinholes": _pinholes, "blisters": _blisters, "crawling": _crawling, "crazing": _crazing}


def _photographed(tile: np.ndarray, height: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Light from one side with its glints, a camera a little askew, blur, grain and its own idea of white."""
    slope_down, slope_across = np.gradient(gaussian_filter(height, 0.7))
    turn = rng.uniform(0, 2 * np.pi)
    lit = slope_down * np.sin(turn) + slope_across * np.cos(turn)
    shaded = tile * (1 + 0.22 * np.clip(lit, -2, 2))[:, :, None]
    shaded += (rng.uniform(60, 170) * np.clip(lit - 0.45, 0, 1) ** 2)[:, :, None]
    down, across = np.mgrid[:SIDE, :SIDE] / SIDE - 0.5
    light = 1 + rng.uniform(-0.35, 0.35) * down + rng.uniform(-0.35, 0.35) * across
    glare = np.exp(-((down - rng.uniform(-0.5, 0.5)) ** 2 + (across - rng.uniform(-0.5, 0.5)) ** 2) / 0.05)
    shaded = shaded * (light * rng.uniform(0.75, 1.15))[:, :, None] + rng.uniform(0, 45) * glare[:, :, None]
    shaded *= rng.uniform(0.92, 1.08, 3)
    angle, size = rng.uniform(-0.2, 0.2), rng.uniform(0.85, 1.0)
    where = np.array(
        [
            (np.cos(angle) * down - np.sin(angle) * across) * size + 0.5,
            (np.sin(angle) * down + np.cos(angle) * across) * size + 0.5,
        ]
    ) * (SIDE - 1)
    photographed = np.stack(
        [map_coordinates(shaded[:, :, part], where, order=1, mode="reflect") for part in range(3)], axis=2
    )
    photographed = gaussian_filter(photographed, (*[rng.uniform(0.2, 0.9)] * 2, 0))
    photographed += rng.normal(size=photographed.shape) * rng.uniform(1.5, 6.0)
    return np.clip(np.rint(photographed), 0, 255).astype("uint8")
