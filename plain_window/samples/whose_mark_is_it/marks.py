"""Potters' marks as strokes of a pen, made up: each potter has one mark, and no hand draws it twice alike.

Hands shake, lean, stretch, leave strokes short and now and then forget one; some marks resemble each other. Nobody
could tell all of them apart, and no model should.
"""

import math

import numpy as np

__all__ = ["POTTERS", "make_mark", "make_marks"]

Points = list[tuple[float, float]]


def _arc(x: float, y: float, across: float, down: float, start: float, end: float, n: int = 14) -> Points:
    """Points on an ellipse, angles in turns, clockwise from the right."""
    turns = np.linspace(start, end, n)
    return [(x + across * math.cos(2 * math.pi * turn), y + down * math.sin(2 * math.pi * turn)) for turn in turns]


# Strokes from 0 to 1, y downwards.
MARKS: dict[str, list[Points]] = {
    "Ada": [[(0.2, 0.8), (0.5, 0.2), (0.8, 0.8)], [(0.34, 0.58), (0.66, 0.58)]],
    "Bruno": [_arc(0.5, 0.5, 0.32, 0.32, 0, 1, 22), [(0.5, 0.34), (0.5, 0.66)], [(0.34, 0.5), (0.66, 0.5)]],
    "Chiyo": [
        [(0.22, 0.3), (0.78, 0.3)],
        [(0.5, 0.14), (0.5, 0.86)],
        [(0.5, 0.42), (0.24, 0.76)],
        [(0.5, 0.42), (0.76, 0.76)],
    ],
    "Dov": [_arc(0.5, 0.5, 0.3, 0.3, 0.08, 0.92, 20)],
    "Edda": [[(0.3, 0.15), (0.3, 0.85)], [(0.3, 0.2), (0.74, 0.34), (0.3, 0.5)], [(0.3, 0.5), (0.74, 0.84)]],
    "Fadil": [[(0.15, 0.62), (0.3, 0.4), (0.45, 0.62), (0.6, 0.4), (0.75, 0.62), (0.88, 0.42)]],
    "Greta": [
        [(0.5, 0.15), (0.5, 0.85)],
        [(0.5, 0.2), (0.28, 0.36)],
        [(0.5, 0.2), (0.72, 0.36)],
        [(0.5, 0.45), (0.28, 0.61)],
        [(0.5, 0.45), (0.72, 0.61)],
    ],
    "Hana": [[(0.28, 0.16), (0.28, 0.84)], [(0.72, 0.16), (0.72, 0.84)], [(0.28, 0.5), (0.72, 0.5)]],
    "Ivo": [
        [
            (0.5 + 0.34 * share * math.cos(14 * share), 0.5 + 0.34 * share * math.sin(14 * share))
            for share in np.linspace(0.06, 1, 34)
        ]
    ],
    "Jun": [[(0.3, 0.2), (0.72, 0.2), (0.3, 0.8), (0.72, 0.8)], [(0.34, 0.5), (0.66, 0.5)]],
}
POTTERS = tuple(MARKS)
FORGOTTEN_SHARE, SHORT_SHARE = 0.16, 0.5


def make_marks(n: int, *, seed: int) -> tuple[list[list[list[list[float]]]], np.ndarray]:
    """Drawings (strokes of points), and the place of each one's potter.

    Parameters
    ----------
    n : int
        How many.
    seed : int
        For what is drawn by chance.
    """
    rng = np.random.default_rng(seed)
    outcomes = np.arange(n) % len(POTTERS)
    rng.shuffle(outcomes)
    return [make_mark(POTTERS[outcome], rng) for outcome in outcomes], outcomes


def make_mark(potter: str, rng: np.random.Generator) -> list[list[list[float]]]:
    """One drawing: strokes of points (x, y, pressure).

    Parameters
    ----------
    potter : str
    rng : Generator
        Decides everything that is drawn by chance.
    """
    strokes = [np.array(stroke) for stroke in MARKS[potter]]
    if len(strokes) > 1 and rng.random() < FORGOTTEN_SHARE:
        strokes.pop(rng.integers(len(strokes)))
    turn = rng.normal(0, 0.2)
    stretch = rng.normal(1, 0.18, 2).clip(0.6, 1.5)
    lean = rng.normal(0, 0.25)
    cosine, sine = math.cos(turn), math.sin(turn)
    along = np.array([[cosine, -sine], [sine, cosine]]) @ np.array([[1, lean], [0, 1]]) @ np.diag(stretch)
    place, size = rng.uniform(0.42, 0.58, 2), rng.uniform(0.7, 1.05)
    drawn = []
    for stroke in strokes:
        points = _between(stroke)
        if rng.random() < SHORT_SHARE:
            # The hand came late, or left early.
            cut = max(1, int(len(points) * rng.uniform(0, 0.45)))
            points = points[cut:] if rng.random() < 0.5 else points[:-cut]
        points = (points - 0.5) @ along.T * size + place + rng.normal(0, 0.045, 2)
        shake = np.cumsum(rng.normal(0, 0.011, points.shape), axis=0)
        points = points + shake - shake.mean(axis=0)
        pressure = np.clip(rng.uniform(0.3, 0.8) + np.linspace(-0.1, 0.1, len(points)) * rng.normal(), 0.05, 1)
        drawn.append(
            [
                [round(float(x), 3), round(float(y), 3), round(float(p), 2)]
                for (x, y), p in zip(points, pressure, strict=True)
            ]
        )
    return drawn


def _between(stroke: np.ndarray, step: float = 0.05) -> np.ndarray:
    """Points evenly along the way through these."""
    lengths = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(stroke, axis=0).T))])
    at = np.linspace(0, lengths[-1], max(2, int(lengths[-1] / step) + 1))
    return np.column_stack([np.interp(at, lengths, stroke[:, axis]) for axis in range(2)])
