"""Train the network of *How will it look fired?* and write its demo folder.

Run with `python -m plain_window.samples.how_will_it_look_fired.train`; it takes some minutes. The same seed makes the
same photographs; weights come out alike to rounding.
"""

import io
from pathlib import Path

import numpy as np
import onnxruntime
from PIL import Image

from ..network import Descent
from .network import PictureNetwork, save_onnx
from .tiles import make_pair, make_pairs

__all__ = ["main"]

FOLDER = Path(__file__).parent / "demo"
SIZE, CROP, N_PAIRS, N_KEPT_BACK, SEED = (160, 120), 40, 400, 60, 20261128
CHANNELS = (3, 16, 16, 16, 16, 3)
STEPS, RATE, AT_ONCE = 3000, 4e-3, 16
# What visitors press: larger than what it was trained on.
SAMPLE_SIZE, JPEG_QUALITY = (640, 480), 88


def as_pixels(photographs: np.ndarray) -> np.ndarray:
    """From −0.5 to 0.5, channels first.

    Parameters
    ----------
    photographs : ndarray of uint8, shape (n, height, width, 3)
    """
    return ((photographs / 255).astype("float32") - 0.5).transpose(0, 3, 1, 2)


def main() -> None:
    """Write `model.onnx` and the sample pictures, and say how near the network comes."""
    raw, fired = (as_pixels(part) for part in make_pairs(N_PAIRS, size=SIZE, seed=SEED))
    network, rng = PictureNetwork(CHANNELS, seed=SEED), np.random.default_rng(SEED)
    descent, losses = Descent(network.weights, rate=RATE, n_steps=STEPS), []
    for step in range(STEPS):
        which = rng.integers(N_PAIRS, size=AT_ONCE)
        tops, lefts = rng.integers(0, SIZE[1] - CROP, AT_ONCE), rng.integers(0, SIZE[0] - CROP, AT_ONCE)
        cuts = [
            np.s_[one, :, top : top + CROP, left : left + CROP]
            for one, top, left in zip(which, tops, lefts, strict=True)
        ]
        loss, slopes = network.slopes(np.array([raw[cut] for cut in cuts]), np.array([fired[cut] for cut in cuts]))
        losses.append(loss)
        descent.step(slopes)
        if step % 250 == 249:
            print(f"step {step + 1}: off by {255 * np.sqrt(np.mean(losses[-250:])):.1f} of 255", flush=True)
    FOLDER.mkdir(exist_ok=True)
    save_onnx(network, FOLDER / "model.onnx", name="fired")
    _write_samples()
    _say_how_near()


def _write_samples() -> None:
    folder, rng = FOLDER / "samples", np.random.default_rng(SEED + 3)
    folder.mkdir(exist_ok=True)
    for name in ("bands", "patches", "layers"):
        photograph, _ = make_pair(rng, size=SAMPLE_SIZE)
        content = io.BytesIO()
        Image.fromarray(photograph).save(content, "JPEG", quality=JPEG_QUALITY)
        (folder / f"{name}.jpg").write_bytes(content.getvalue())


def _say_how_near() -> None:
    """On tiles that it has not seen, against leaving them raw and against the mean of all fired ones."""
    raw, fired = make_pairs(N_KEPT_BACK, size=SIZE, seed=SEED + 2)
    session = onnxruntime.InferenceSession((FOLDER / "model.onnx").read_bytes())
    said = session.run(None, {"picture": (raw / 255).astype("float32").transpose(0, 3, 1, 2)})[0]
    off = np.abs(255 * said.transpose(0, 2, 3, 1) - fired).mean()
    print(f"of {N_KEPT_BACK} kept-back tiles it is off by {off:.1f} of 255 a pixel;", end=" ")
    print(f"left raw they are off by {np.abs(raw - fired.astype(float)).mean():.1f},", end=" ")
    print(f"the mean colour by {np.abs(fired - fired.mean(axis=(0, 1, 2))).mean():.1f}")


if __name__ == "__main__":
    main()
