"""Pictures to try readings of a model's outputs on: the author's, or some that are made up."""

from collections.abc import Sequence

import numpy as np
from PIL import Image

from ..pictures.preparation import as_seen
from ..pictures.settings import Preparation

__all__ = ["trial_pictures"]

# Each is looked at once or twice.
MOST_TRIED = 6
MADE_UP_SEED, N_MADE_UP, RECTANGLES, RECTANGLE_SHARES = 20261127, 4, 6, (0.1, 0.4)
# Of a model that takes pictures of any size.
MADE_UP_SIDE = 192


def trial_pictures(images: Sequence[Image.Image], preparation: Preparation) -> list[np.ndarray]:
    """Pictures as the model sees them, uint8 of shape (height, width, n_channels).

    Parameters
    ----------
    images : sequence of Image
        The author's; without any, coloured rectangles are made up: a model may find something in them, as it hardly
        does in noise.
    preparation : Preparation
    """
    if images:
        return [as_seen(image, preparation) for image in images[:MOST_TRIED]]
    random = np.random.default_rng(MADE_UP_SEED)
    width, height = preparation.width, preparation.height
    if preparation.own_size:
        width = height = -(-min(MADE_UP_SIDE, width, height) // preparation.multiple) * preparation.multiple
    pictures = []
    for _ in range(N_MADE_UP):
        picture = np.full((height, width, preparation.n_channels), random.integers(150, 256), dtype="uint8")
        for _ in range(RECTANGLES):
            across, down = (int(side * random.uniform(*RECTANGLE_SHARES)) + 1 for side in (width, height))
            left, top = int(random.integers(0, width - across + 1)), int(random.integers(0, height - down + 1))
            picture[top : top + down, left : left + across] = random.integers(0, 2, preparation.n_channels) * 255
        pictures.append(picture)
    return pictures
