"""How pictures were prepared for a model's training: the sensible ways tried on pictures whose classes are known."""

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from time import monotonic
from typing import Any

import numpy as np
from PIL import Image

from ..pictures.preparation import as_input, as_seen
from ..pictures.settings import Preparation
from .found import PreparationTry

__all__ = ["guess_preparation"]

# What networks for photographs are most often trained with: the means and spreads of everyday pictures.
USUAL_MEAN, USUAL_SPREAD = [0.485, 0.456, 0.406], [0.229, 0.224, 0.225]
FITS = ("stretch", "crop", "border")
MOST_TRIED_PICTURES = 80
TRY_SECONDS = 20.0
WORDS = {
    "0..255": "numbers from 0 to 255",
    "0..1": "from 0 to 1",
    "-1..1": "from −1 to 1",
    "spread": "mean and spread of everyday pictures",
    "bgr": "blue first",
    "rgb": "red first",
    "stretch": "stretched",
    "crop": "the middle cut out",
    "border": "whole, with a border",
}


@dataclass(frozen=True)
class _Pictures:
    images: list[Image.Image]
    places: np.ndarray


def guess_preparation(
    start: Preparation,
    stated: frozenset[str],
    images: Sequence[Image.Image],
    places: Sequence[int],
    predict: Callable[[list[np.ndarray]], np.ndarray],
) -> list[PreparationTry]:
    """The sensible preparations, best first; among equals the one tried first.

    Numbers and order of channels are tried together, with pictures stretched; then how the best of them are fitted.

    Parameters
    ----------
    start : Preparation
        With what the model states.
    stated : frozenset of str
        Settings that the model states, which are not tried otherwise.
    images : sequence of Image
        Upright, of colour.
    places : sequence of int
        The class of each.
    predict : callable
        From inputs to outputs of shape (n_pictures, n_classes).
    """
    pictures = _some(images, places)
    begun = monotonic()
    tries: list[PreparationTry] = []
    for changes in _numbers(start, stated):
        if monotonic() - begun < TRY_SECONDS or not tries:
            tries.append(_tried(start, changes, pictures, predict))
    best = max(tries, key=lambda one: one.n_right)
    if any(image.width * start.height != image.height * start.width for image in pictures.images):
        for fit in FITS[1:]:
            if monotonic() - begun < TRY_SECONDS:
                tries.append(_tried(best.preparation, {"fit": fit}, pictures, predict))
    return sorted(tries, key=lambda one: -one.n_right)


def _some(images: Sequence[Image.Image], places: Sequence[int]) -> _Pictures:
    """At most so many, spread evenly over what came: folders stand behind one another."""
    kept = np.unique(np.linspace(0, len(images) - 1, MOST_TRIED_PICTURES).round().astype(int))
    return _Pictures([images[at] for at in kept], np.asarray(places)[kept])


def _numbers(start: Preparation, stated: frozenset[str]) -> Iterator[dict[str, Any]]:
    scales = [start.scale] if "scale" in stated else ["0..1", "-1..1", "spread", "0..255"]
    orders = [start.order] if "order" in stated or start.n_channels == 1 else ["rgb", "bgr"]
    inverts = [False, True] if start.n_channels == 1 else [False]
    for scale, order, invert in itertools.product(scales, orders, inverts):
        if scale == "spread" and start.n_channels == 1:
            continue
        own = {"mean": USUAL_MEAN, "spread": USUAL_SPREAD} if scale == "spread" else {"mean": [], "spread": []}
        yield {"scale": scale, "order": order, "invert": invert, **own}


def _tried(
    start: Preparation,
    changes: dict[str, Any],
    pictures: _Pictures,
    predict: Callable[[list[np.ndarray]], np.ndarray],
) -> PreparationTry:
    preparation = Preparation.model_validate({**start.model_dump(), **changes})
    outputs = predict([as_input(as_seen(image, preparation), preparation) for image in pictures.images])
    right = int((outputs.argmax(axis=1) == pictures.places).sum())
    return PreparationTry(
        words=_words(preparation), preparation=preparation, n_right=right, n_tried=pictures.places.size
    )


def _words(preparation: Preparation) -> str:
    parts = [WORDS[preparation.scale]]
    if preparation.n_channels == 3:
        parts.append(WORDS[preparation.order])
    if preparation.invert:
        parts.append("light for dark")
    parts.append(WORDS[preparation.fit])
    return ", ".join(parts)
