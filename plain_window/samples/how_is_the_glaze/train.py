"""Train the network of *How is the glaze?* and write its demo folder.

Run with `python -m plain_window.samples.how_is_the_glaze.train`; it takes some minutes. The same seed makes the same
photographs; weights come out alike to rounding.
"""

import io
import zipfile
from pathlib import Path

import numpy as np
from PIL import Image

from plain_window.core.pictures.preparation import as_seen
from plain_window.core.pictures.settings import Preparation

from ..network import Network, save_onnx, train
from .tiles import CLASSES, make_tiles

__all__ = ["SIDE_SEEN", "main"]

FOLDER = Path(__file__).parent / "demo"
SIDE_SEEN = 64
N_TRAINED, N_KNOWN, SEED = 4000, 300, 20261124
CHANNELS = (3, 16, 24, 32, 48)
EPOCHS, RATE = 24, 2e-3
# What pixels from −0.5 to 0.5 are divided by.
DIVISOR = 0.25
JPEG_QUALITY = 80
PREPARATION = Preparation(width=SIDE_SEEN, height=SIDE_SEEN)


def as_pixels(photographs: np.ndarray) -> np.ndarray:
    """As the demo prepares them, ready for the network.

    Parameters
    ----------
    photographs : ndarray
    """
    seen = np.array([as_seen(photograph, PREPARATION) for photograph in photographs])
    return (((seen / 255).astype("float32") - 0.5) / DIVISOR).transpose(0, 3, 1, 2)


def changed(pictures: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Turned, mirrored, lighter or darker.

    Parameters
    ----------
    pictures : ndarray
        Shape (n, channels, side, side).
    rng : Generator
        Decides everything that is drawn by chance.
    """
    if rng.random() < 0.5:
        pictures = pictures[:, :, :, ::-1]
    pictures = np.rot90(pictures, int(rng.integers(4)), axes=(2, 3))
    light = rng.uniform(0.8, 1.2, (len(pictures), 1, 1, 1)).astype("float32")
    return np.ascontiguousarray(pictures * light + rng.normal(0, 0.15, (len(pictures), 3, 1, 1)).astype("float32"))


def main() -> None:
    """Write `model.onnx`, `known.zip` and the sample pictures, and say how good the network is."""
    photographs, outcomes = make_tiles(N_TRAINED, seed=SEED)
    network = Network(CHANNELS, len(CLASSES), seed=SEED)
    train(network, as_pixels(photographs), outcomes, epochs=EPOCHS, rate=RATE, seed=SEED, changed=changed)
    known, known_outcomes = make_tiles(N_KNOWN, seed=SEED + 1)
    right = network.scores(as_pixels(known)).argmax(axis=1) == known_outcomes
    save_onnx(network, FOLDER / "model.onnx", channels=3, side=SIDE_SEEN, classes=list(CLASSES), divisor=DIVISOR)
    _write_known(known, known_outcomes)
    _write_samples()
    print(f"right for {right.mean():.1%} of {N_KNOWN} kept-back photographs")
    for place, name in enumerate(CLASSES):
        print(f"  {name}: {right[known_outcomes == place].mean():.0%}")


def _write_known(photographs: np.ndarray, outcomes: np.ndarray) -> None:
    with zipfile.ZipFile(FOLDER / "known.zip", "w") as archive:
        for at, (photograph, outcome) in enumerate(zip(photographs, outcomes, strict=True)):
            entry = zipfile.ZipInfo(f"{CLASSES[outcome]}/tile-{at:03}.jpg", (2026, 11, 24, 0, 0, 0))
            archive.writestr(entry, _jpeg(photograph))


def _write_samples() -> None:
    """One photograph a class, as the samples that visitors press, and one whose blisters can hardly be seen."""
    folder = FOLDER / "samples"
    folder.mkdir(exist_ok=True)
    photographs, outcomes = make_tiles(20, seed=SEED + 6)
    for place, name in enumerate(CLASSES):
        (folder / f"{name}.jpg").write_bytes(_jpeg(photographs[np.flatnonzero(outcomes == place)[0]]))
    photographs, outcomes = make_tiles(20, seed=SEED + 2)
    (folder / "hard.jpg").write_bytes(_jpeg(photographs[np.flatnonzero(outcomes == CLASSES.index("blisters"))[0]]))


def _jpeg(photograph: np.ndarray) -> bytes:
    content = io.BytesIO()
    Image.fromarray(photograph).save(content, "JPEG", quality=JPEG_QUALITY)
    return content.getvalue()


if __name__ == "__main__":
    main()
