"""Train the network of *Where are the flaws?* and write its demo folder.

Run with `python -m plain_window.samples.where_are_the_flaws.train`; it takes half an hour. The same seed makes the same
photographs; weights come out alike to rounding.
"""

import io
import zipfile
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image

from plain_window.core.pictures.preparation import as_seen
from plain_window.core.pictures.settings import Preparation

from ..network import Descent
from .network import CELL, USUAL_SIZE, GridNetwork, save_onnx
from .tiles import CLASSES, SIZE, Tile, make_tile, make_tiles

__all__ = ["main", "wanted_of"]

FOLDER = Path(__file__).parent / "demo"
SEEN = (160, 120)
N_TRAINED, N_KEPT_BACK, N_TRIED, SEED = 2000, 200, 6, 20261127
CHANNELS = (3, 12, 20, 32, 48, 48)
EPOCHS, RATE, AT_ONCE = 20, 2e-3, 16
DIVISOR = 0.25
JPEG_QUALITY = 85
# Of flaws that visitors see first: how many are tried, and a seed.
SAMPLE_TILES = {"four": (4, 12), "two": (2, 10), "faint": (4, 22), "none": (0, 5)}
PREPARATION = Preparation(width=SEEN[0], height=SEEN[1])
SCALE = SEEN[0] / SIZE[0]


def as_pixels(tiles: Sequence[Tile]) -> np.ndarray:
    """As the demo prepares them, ready for the network.

    Parameters
    ----------
    tiles : sequence of Tile
    """
    seen = np.array([as_seen(tile.photograph, PREPARATION) for tile in tiles])
    return (((seen / 255).astype("float32") - 0.5) / DIVISOR).transpose(0, 3, 1, 2)


def wanted_of(tiles: Sequence[Tile]) -> np.ndarray:
    """What should come out, of shape (n, 15, 20, 6): where, how large, whether anything, and which class.

    Parameters
    ----------
    tiles : sequence of Tile
    """
    wanted = np.zeros((len(tiles), SEEN[1] // CELL, SEEN[0] // CELL, 6), dtype="float32")
    for at, tile in enumerate(tiles):
        for place, (left, top, right, bottom) in tile.flaws:
            middle = np.array([left + right, top + bottom]) / 2 * SCALE / CELL
            column, row = np.minimum(middle.astype(int), [SEEN[0] // CELL - 1, SEEN[1] // CELL - 1])
            sizes = np.log(np.array([right - left, bottom - top]) * SCALE / USUAL_SIZE)
            wanted[at, row, column] = [*(middle - [column, row]), *sizes, 1, place]
    return wanted


def changed(pictures: np.ndarray, wanted: np.ndarray, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    """Mirrored, lighter or darker.

    Parameters
    ----------
    pictures : ndarray of shape (n, channels, height, width)
    wanted : ndarray of shape (n, height, width, 6)
    rng : Generator
    """
    wanted = wanted.copy()
    for axis, part in ((3, 0), (2, 1)):
        if rng.random() < 0.5:
            pictures, wanted = np.flip(pictures, axis), np.flip(wanted, axis - 1).copy()
            wanted[..., part] = np.where(wanted[..., 4] > 0, 1 - wanted[..., part], 0)
    light = rng.uniform(0.85, 1.15, (len(pictures), 1, 1, 1)).astype("float32")
    shift = rng.normal(0, 0.12, (len(pictures), 3, 1, 1)).astype("float32")
    return np.ascontiguousarray(pictures * light + shift), wanted


def main() -> None:
    """Write `model.onnx`, pictures to try readings on and the sample pictures, and say how good the network is."""
    tiles = make_tiles(N_TRAINED, seed=SEED)
    pictures, wanted = as_pixels(tiles), wanted_of(tiles)
    network = GridNetwork(CHANNELS, len(CLASSES), seed=SEED)
    rng = np.random.default_rng(SEED)
    descent = Descent(network.weights, rate=RATE, n_steps=EPOCHS * (N_TRAINED // AT_ONCE))
    for epoch in range(EPOCHS):
        losses, order = [], rng.permutation(N_TRAINED)
        for start in range(0, N_TRAINED - AT_ONCE + 1, AT_ONCE):
            some = order[start : start + AT_ONCE]
            loss, slopes = network.slopes(*changed(pictures[some], wanted[some], rng))
            losses.append(loss)
            descent.step(slopes)
        print(f"epoch {epoch + 1}: {np.mean(losses):.3f}", flush=True)
    FOLDER.mkdir(exist_ok=True)
    save_onnx(network, FOLDER / "model.onnx", size=SEEN, classes=list(CLASSES), divisor=DIVISOR)
    _write_pictures()
    _say_how_good()


def _write_pictures() -> None:
    """Photographs that readings are tried on, and the samples that visitors press."""
    with zipfile.ZipFile(FOLDER / "known.zip", "w") as archive:
        for at, tile in enumerate(make_tiles(N_TRIED, seed=SEED + 1)):
            entry = zipfile.ZipInfo(f"tile-{at}.jpg", (2026, 11, 27, 0, 0, 0))
            archive.writestr(entry, _jpeg(tile.photograph))
    folder = FOLDER / "samples"
    folder.mkdir(exist_ok=True)
    for name, (n_flaws, seed) in SAMPLE_TILES.items():
        tile = make_tile(np.random.default_rng(seed), n_flaws=n_flaws)
        (folder / f"{name}.jpg").write_bytes(_jpeg(tile.photograph))


def _say_how_good() -> None:
    """Of flaws on tiles that it has not seen how many are found, and how many boxes are none, asked as the demo is."""
    from plain_window.core.answers.in_picture import BoxReading
    from plain_window.core.boxes.finding import find_boxes
    from plain_window.core.boxes.suppression import overlaps
    from plain_window.core.formats.onnx.pictures import OnnxPictureModel
    from plain_window.core.pictures.preparation import as_input
    from plain_window.core.pictures.preparer import Preparer

    model, prepare = OnnxPictureModel((FOLDER / "model.onnx").read_bytes()), Preparer()
    reading = BoxReading(boxes="candidates", score_at=4, classes_from=5, form="centre and size", overlap=0.3)
    n_flaws = n_found = n_right = n_boxes = 0
    for tile in make_tiles(N_KEPT_BACK, seed=SEED + 2):
        prepared = prepare({"content": _jpeg(tile.photograph), "preparation": PREPARATION.model_dump()})
        outputs = model.outputs({"picture": [as_input(prepared.seen, PREPARATION)]}, None)
        found = find_boxes(outputs, reading, seen=SEEN, frame=prepared.frame, least_score=0.5)
        n_flaws, n_boxes = n_flaws + len(tile.flaws), n_boxes + len(found.scores)
        for place, box in tile.flaws:
            shared = overlaps(np.array(box), found.corners) if len(found.corners) else np.zeros(0)
            hit = np.flatnonzero(shared >= 0.4)
            n_found += bool(len(hit))
            n_right += bool(len(hit)) and bool((found.classes[hit] == place).any())
    print(f"of {n_flaws} flaws on {N_KEPT_BACK} kept-back tiles {n_found} are found, {n_right} by their right name;")
    print(f"of {n_boxes} boxes {n_boxes - n_found} are on nothing, or the second on a flaw")


def _jpeg(photograph: np.ndarray) -> bytes:
    content = io.BytesIO()
    Image.fromarray(photograph).save(content, "JPEG", quality=JPEG_QUALITY)
    return content.getvalue()


if __name__ == "__main__":
    main()
