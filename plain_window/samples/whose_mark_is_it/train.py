"""Train the network of *Whose mark is it?* and write its demo folder.

Run with `python -m plain_window.samples.whose_mark_is_it.train`. The same seed draws the same marks; weights come out
alike to rounding.
"""

import io
import json
import zipfile
from collections.abc import Sequence
from pathlib import Path

import numpy as np

from plain_window.core.pictures.preparation import as_seen
from plain_window.core.pictures.settings import Preparation
from plain_window.core.pictures.strokes import draw_strokes

from ..network import Network, save_onnx, train
from .marks import POTTERS, make_marks

__all__ = ["LINE_WIDTH", "main"]

FOLDER = Path(__file__).parent / "demo"
SIDE_SEEN, LINE_WIDTH = 32, 0.07
N_TRAINED, N_KNOWN, SEED = 4000, 400, 20261125
CHANNELS = (1, 16, 24, 32)
EPOCHS, RATE, DIVISOR = 18, 2e-3, 0.25
PREPARATION = Preparation(width=SIDE_SEEN, height=SIDE_SEEN, colour="grey", trained_on="light on dark")


def as_pixels(drawings: Sequence[Sequence[Sequence[Sequence[float]]]]) -> np.ndarray:
    """As the demo prepares them, ready for the network.

    Parameters
    ----------
    drawings : sequence of drawings
        Strokes of points.
    """
    images = (draw_strokes(strokes, line_width=LINE_WIDTH, centred=True) for strokes in drawings)
    seen = np.array([as_seen(image, PREPARATION) for image in images])
    return (((seen / 255).astype("float32") - 0.5) / DIVISOR).transpose(0, 3, 1, 2)


def changed(pictures: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Moved by a pixel or two.

    Parameters
    ----------
    pictures : ndarray
        Shape (n, channels, side, side).
    rng : Generator
        Decides everything that is drawn by chance.
    """
    return np.roll(pictures, tuple(rng.integers(-2, 3, 2)), axis=(2, 3))


def main() -> None:
    """Write `model.onnx` and `known.zip`, print samples for `demo.toml`, and say how good the network is."""
    drawings, outcomes = make_marks(N_TRAINED, seed=SEED)
    network = Network(CHANNELS, len(POTTERS), seed=SEED)
    train(network, as_pixels(drawings), outcomes, epochs=EPOCHS, rate=RATE, seed=SEED, changed=changed)
    known, known_outcomes = make_marks(N_KNOWN, seed=SEED + 1)
    right = network.scores(as_pixels(known)).argmax(axis=1) == known_outcomes
    save_onnx(network, FOLDER / "model.onnx", channels=1, side=SIDE_SEEN, classes=list(POTTERS), divisor=DIVISOR)
    with zipfile.ZipFile(FOLDER / "known.zip", "w") as archive:
        for at, (strokes, outcome) in enumerate(zip(known, known_outcomes, strict=True)):
            content = io.BytesIO()
            draw_strokes(strokes, line_width=LINE_WIDTH, centred=True, side=96).convert("L").save(content, "PNG")
            entry = zipfile.ZipInfo(f"{POTTERS[outcome]}/mark-{at:03}.png", (2026, 11, 25, 0, 0, 0))
            archive.writestr(entry, content.getvalue())
    samples, sample_outcomes = make_marks(60, seed=SEED + 2)
    scores = network.scores(as_pixels(samples))
    for potter in ("Chiyo", "Edda", "Ivo"):
        place = POTTERS.index(potter)
        own = np.flatnonzero(sample_outcomes == place)
        # The clearest of six, and of all marks the one it is furthest off with.
        print(f"{potter}: {json.dumps(samples[own[scores[own, place].argmax()]])}")
    off = scores[np.arange(len(samples)), sample_outcomes] - scores.max(axis=1)
    print(f"hard, {POTTERS[sample_outcomes[off.argmin()]]}: {json.dumps(samples[off.argmin()])}")
    print(f"right for {right.mean():.1%} of {N_KNOWN} kept-back marks")
    for place, name in enumerate(POTTERS):
        print(f"  {name}: {right[known_outcomes == place].mean():.0%}")


if __name__ == "__main__":
    main()
