"""Photographs of tiles with brushed glazes, made up: before the kiln, and what came out of it.

Raw glazes are chalk: pale, dull, and some of them nearly alike. Fired, they are what they are: deep, glossy, run a
little where they lie thick. How thick they lie can be seen before only as a shade.
"""

import numpy as np
from scipy.ndimage import gaussian_filter, zoom

__all__ = ["make_pair", "make_pairs"]

# What each glaze looks like raw and fired: red, green, blue. Before they are fired the first two can hardly be told
# apart.
RAW = np.array([[226, 222, 214], [220, 222, 212], [206, 196, 206], [214, 178, 160], [178, 170, 160]], dtype="float64")
FIRED = np.array([[238, 232, 220], [132, 168, 142], [38, 62, 128], [128, 52, 34], [58, 40, 32]], dtype="float64")
CLAY_RAW, CLAY_FIRED = np.array([188, 160, 138.0]), np.array([168, 112, 78.0])
MOST_LAYERS = 4


def make_pairs(n: int, *, size: tuple[int, int], seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Photographs before and after, each uint8 of shape (n, height, width, 3).

    Parameters
    ----------
    n : int
        How many.
    size : (int, int)
        Width and height.
    seed : int
        For what is drawn by chance.
    """
    rng = np.random.default_rng(seed)
    pairs = [make_pair(rng, size=size) for _ in range(n)]
    return np.array([raw for raw, _ in pairs]), np.array([fired for _, fired in pairs])


def make_pair(rng: np.random.Generator, *, size: tuple[int, int]) -> tuple[np.ndarray, np.ndarray]:
    """One tile before and after.

    Parameters
    ----------
    rng : Generator
        Decides everything that is drawn by chance.
    size : (int, int)
        Width and height.
    """
    width, height = size
    raw, fired = np.tile(CLAY_RAW, (height, width, 1)), np.tile(CLAY_FIRED, (height, width, 1))
    fired *= (1 + 0.025 * _clouds(rng, size, 9))[:, :, None]
    for _ in range(int(rng.integers(2, MOST_LAYERS + 1))):
        glaze = int(rng.integers(len(RAW)))
        where = _brushed(rng, size)
        # Thin, it lets the clay through; thick, it is deeper.
        thick = np.clip(0.9 + 0.14 * _clouds(rng, size, 32), 0.45, 1.25)
        raw += (RAW[glaze] * (1.04 - 0.07 * thick)[:, :, None] - raw) * where[:, :, None]
        # What lies thick runs down a little.
        run = gaussian_filter(where * thick, (2.2, 0.8))
        run = 0.6 * run + 0.4 * np.roll(run, 2, axis=0)
        colour = FIRED[glaze] * (1.22 - 0.34 * thick)[:, :, None]
        fired += (colour - fired) * np.clip(1.35 * run, 0, 1)[:, :, None]
    raw *= (1 + 0.025 * rng.normal(size=(height, width)))[:, :, None]
    light = _light(rng, size)
    return _photographed(raw * light, rng), _photographed(_glossy(fired, rng) * light, rng)


def _clouds(rng: np.random.Generator, size: tuple[int, int], scale: float) -> np.ndarray:
    shape = [max(3, int(side / scale * 2)) for side in size[::-1]]
    soft = zoom(rng.normal(size=shape), [side / n for side, n in zip(size[::-1], shape, strict=True)], order=3)
    soft = soft[: size[1], : size[0]]
    return soft / (soft.std() + 1e-9)


def _brushed(rng: np.random.Generator, size: tuple[int, int]) -> np.ndarray:
    """Where a brush left glaze: a band or a patch, with the brush's lines at its edge."""
    down, across = np.mgrid[: size[1], : size[0]] / max(size)
    turn = rng.uniform(0, np.pi)
    along = np.cos(turn) * across + np.sin(turn) * down
    over = -np.sin(turn) * across + np.cos(turn) * down + 0.03 * _clouds(rng, size, 25)
    if rng.random() < 0.6:
        away = np.abs(over - rng.uniform(-0.2, 0.7)) - rng.uniform(0.08, 0.3)
    else:
        middle = rng.uniform(0.1, 0.7, 2)
        away = np.hypot(across - middle[0], down - middle[1]) - rng.uniform(0.15, 0.45) + 0.03 * _clouds(rng, size, 20)
    away = away + 0.012 * np.sin(along * rng.uniform(60, 160)) + 0.008 * _clouds(rng, size, 4)
    return 1 / (1 + np.exp(away / 0.012))


def _light(rng: np.random.Generator, size: tuple[int, int]) -> np.ndarray:
    down, across = np.mgrid[: size[1], : size[0]] / max(size) - 0.4
    light = 1 + rng.uniform(-0.15, 0.15) * down + rng.uniform(-0.15, 0.15) * across
    return light[:, :, None] * rng.uniform(0.94, 1.04)


def _glossy(fired: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """A soft glare, as glass has it. Where it lies cannot be known beforehand."""
    height, width = fired.shape[:2]
    down, across = np.mgrid[:height, :width] / max(height, width)
    glare = np.exp(-((down - rng.uniform(0, 0.8)) ** 2 + (across - rng.uniform(0, 1)) ** 2) / 0.03)
    return fired + rng.uniform(0, 22) * glare[:, :, None]


def _photographed(colours: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    noisy = gaussian_filter(colours, (0.5, 0.5, 0)) + rng.normal(size=colours.shape) * 1.5
    return np.clip(np.rint(noisy), 0, 255).astype("uint8")
