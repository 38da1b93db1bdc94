"""Train the network of *Along the belt*, film a belt, and write the demo folder.

Run with `python -m plain_window.samples.along_the_belt.train`; it takes some ten minutes. The same seed makes the same
belts; weights come out alike to rounding.
"""

import io
import zipfile
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from plain_window.core.pictures.settings import Preparation

from ..grid_network import save_onnx
from ..grid_training import DIVISOR, Thing, as_jpeg, as_pixels, found_in, train_grid, wanted_of
from .belt import CLASSES, SIZE, make_belt, seen_at

__all__ = ["main"]

FOLDER = Path(__file__).parent / "demo"
SEEN = (160, 120)
N_TRAINED, N_KEPT_BACK, N_TRIED, SEED = 1400, 150, 6, 20261128
CHANNELS = (3, 12, 20, 32, 40, 40)
EPOCHS, RATE, AT_ONCE = 14, 2e-3, 16
PREPARATION = Preparation(width=SEEN[0], height=SEEN[1])
SCALE = SEEN[0] / SIZE[0]
# The film: how long, how many frames a second, how far the belt moves from one to the next, and a seed.
FILM_SECONDS, FILM_RATE, FILM_STEP, FILM_SEED = 14, 12, 6, 3
FILM_QUALITY = {"preset": "veryslow", "crf": "29"}


def photographs(n: int, *, seed: int) -> tuple[list[np.ndarray], list[list[Thing]]]:
    """What a camera sees of so many belts, and the tiles in it.

    Parameters
    ----------
    n : int
    seed : int
    """
    rng = np.random.default_rng(seed)
    seen = [seen_at(make_belt(SIZE[0] + 60, rng), rng.uniform(0, 60), rng) for _ in range(n)]
    return [photograph for photograph, _ in seen], [things for _, things in seen]


def main() -> None:
    """Write `model.onnx`, pictures to try readings on, samples and the film, and say how good the network is."""
    seen, things = photographs(N_TRAINED, seed=SEED)
    network = train_grid(
        as_pixels(seen, PREPARATION),
        wanted_of(things, seen=SEEN, scale=SCALE),
        channels=CHANNELS,
        n_classes=len(CLASSES),
        epochs=EPOCHS,
        rate=RATE,
        at_once=AT_ONCE,
        seed=SEED,
    )
    (FOLDER / "samples").mkdir(parents=True, exist_ok=True)
    save_onnx(network, FOLDER / "model.onnx", size=SEEN, classes=list(CLASSES), divisor=DIVISOR)
    with zipfile.ZipFile(FOLDER / "known.zip", "w") as archive:
        for at, photograph in enumerate(photographs(N_TRIED, seed=SEED + 1)[0]):
            archive.writestr(zipfile.ZipInfo(f"belt-{at}.jpg", (2026, 11, 27, 0, 0, 0)), as_jpeg(photograph))
    for name, photograph in zip(("full", "few"), photographs(2, seed=SEED + 3)[0], strict=True):
        (FOLDER / "samples" / f"{name}.jpg").write_bytes(as_jpeg(photograph))
    (FOLDER / "samples" / "belt.mp4").write_bytes(film())
    _say_how_good(*photographs(N_KEPT_BACK, seed=SEED + 2))


def film() -> bytes:
    """The belt as it passes under the camera, as MP4."""
    rng = np.random.default_rng(FILM_SEED)
    n_frames = FILM_SECONDS * FILM_RATE
    belt = make_belt(SIZE[0] + FILM_STEP * n_frames, rng)
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as made:
        stream = made.add_stream("libx264", rate=FILM_RATE, options=dict(FILM_QUALITY))
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.codec_context.thread_count = 1
        for at in range(n_frames):
            photograph, _ = seen_at(belt, FILM_STEP * (n_frames - at), rng)
            frame = av.VideoFrame.from_ndarray(photograph, format="rgb24").reformat(
                format="yuv420p", dst_colorspace="ITU601", dst_color_range="MPEG"
            )
            frame.pts, frame.time_base = at, Fraction(1, FILM_RATE)
            made.mux(stream.encode(frame))
        made.mux(stream.encode(None))
    return file.getvalue()


def _say_how_good(seen: Sequence[np.ndarray], things: Sequence[Sequence[Thing]]) -> None:
    """Of tiles on belts that it has not seen how many are found, and how many boxes are none."""
    from plain_window.core.boxes.suppression import overlaps

    n_tiles = n_found = n_boxes = 0
    named = np.zeros((len(CLASSES), len(CLASSES)), dtype=int)
    model = (FOLDER / "model.onnx").read_bytes()
    for of_one, found in zip(things, found_in(model, seen, PREPARATION), strict=True):
        n_tiles, n_boxes = n_tiles + len(of_one), n_boxes + len(found.scores)
        for place, box in of_one:
            shared = overlaps(np.array(box), found.corners) if len(found.corners) else np.zeros(0)
            if len(shared) and shared.max() >= 0.4:
                n_found += 1
                named[place, found.classes[shared.argmax()]] += 1
    print(f"of {n_tiles} tiles on {len(seen)} kept-back photographs {n_found} are found;")
    print(f"of {n_boxes} boxes {n_boxes - n_found} are on nothing, or the second on a tile")
    for place, name in enumerate(CLASSES):
        print(f"{name}: named {', '.join(f'{one} {count}' for one, count in zip(CLASSES, named[place], strict=True))}")


if __name__ == "__main__":
    main()
