"""Train the network of *Where are the flaws?* and write its demo folder.

Run with `python -m plain_window.samples.where_are_the_flaws.train`; it takes half an hour. The same seed makes the same
photographs; weights come out alike to rounding.
"""

import zipfile
from pathlib import Path

import numpy as np

from plain_window.core.pictures.settings import Preparation

from ..grid_network import save_onnx
from ..grid_training import DIVISOR, as_jpeg, as_pixels, found_in, train_grid, wanted_of
from .tiles import CLASSES, SIZE, make_tile, make_tiles

__all__ = ["main"]

FOLDER = Path(__file__).parent / "demo"
SEEN = (160, 120)
N_TRAINED, N_KEPT_BACK, N_TRIED, SEED = 2000, 200, 6, 20261127
CHANNELS = (3, 12, 20, 32, 48, 48)
EPOCHS, RATE, AT_ONCE = 20, 2e-3, 16
# Of flaws that visitors see first: how many are tried, and a seed.
SAMPLE_TILES = {"four": (4, 12), "two": (2, 10), "faint": (4, 22), "none": (0, 5)}
PREPARATION = Preparation(width=SEEN[0], height=SEEN[1])
SCALE = SEEN[0] / SIZE[0]


def main() -> None:
    """Write `model.onnx`, pictures to try readings on and the sample pictures, and say how good the network is."""
    tiles = make_tiles(N_TRAINED, seed=SEED)
    pictures = as_pixels([tile.photograph for tile in tiles], PREPARATION)
    network = train_grid(
        pictures,
        wanted_of([tile.flaws for tile in tiles], seen=SEEN, scale=SCALE),
        channels=CHANNELS,
        n_classes=len(CLASSES),
        epochs=EPOCHS,
        rate=RATE,
        at_once=AT_ONCE,
        seed=SEED,
    )
    FOLDER.mkdir(exist_ok=True)
    save_onnx(network, FOLDER / "model.onnx", size=SEEN, classes=list(CLASSES), divisor=DIVISOR)
    _write_pictures()
    _say_how_good()


def _write_pictures() -> None:
    """Photographs that readings are tried on, and the samples that visitors press."""
    with zipfile.ZipFile(FOLDER / "known.zip", "w") as archive:
        for at, tile in enumerate(make_tiles(N_TRIED, seed=SEED + 1)):
            entry = zipfile.ZipInfo(f"tile-{at}.jpg", (2026, 11, 27, 0, 0, 0))
            archive.writestr(entry, as_jpeg(tile.photograph))
    folder = FOLDER / "samples"
    folder.mkdir(exist_ok=True)
    for name, (n_flaws, seed) in SAMPLE_TILES.items():
        tile = make_tile(np.random.default_rng(seed), n_flaws=n_flaws)
        (folder / f"{name}.jpg").write_bytes(as_jpeg(tile.photograph))


def _say_how_good() -> None:
    """Of flaws on tiles that it has not seen how many are found, and how many boxes are none."""
    from plain_window.core.boxes.suppression import overlaps

    tiles = make_tiles(N_KEPT_BACK, seed=SEED + 2)
    n_flaws = n_found = n_right = n_boxes = 0
    model = (FOLDER / "model.onnx").read_bytes()
    for tile, found in zip(tiles, found_in(model, [tile.photograph for tile in tiles], PREPARATION), strict=True):
        n_flaws, n_boxes = n_flaws + len(tile.flaws), n_boxes + len(found.scores)
        for place, box in tile.flaws:
            shared = overlaps(np.array(box), found.corners) if len(found.corners) else np.zeros(0)
            hit = np.flatnonzero(shared >= 0.4)
            n_found += bool(len(hit))
            n_right += bool(len(hit)) and bool((found.classes[hit] == place).any())
    print(f"of {n_flaws} flaws on {N_KEPT_BACK} kept-back tiles {n_found} are found, {n_right} by their right name;")
    print(f"of {n_boxes} boxes {n_boxes - n_found} are on nothing, or the second on a flaw")


if __name__ == "__main__":
    main()
