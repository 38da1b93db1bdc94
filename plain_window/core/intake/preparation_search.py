"""How pictures were prepared for a model's training: the sensible ways tried on pictures whose classes are known."""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from time import monotonic
from typing import Any

import numpy as np
from PIL import Image

from ..contract.inspection import SEEN_APART, PreparationTry
from ..pictures.preparation import as_input, as_seen, is_line_art
from ..pictures.settings import Preparation
from .pixel_scale import SIXTEEN

__all__ = ["guess_preparation", "is_borne_out", "preparation_words"]

# How numbers are most often made of pixels: each a scale, and where means are taken off and spreads divided by, those
# of red, green and blue, for pixels from 0 to 1. A spread of 1/255 leaves what is left at 0 to 255.
BYTE = 1 / 255
COLOUR_CONVENTIONS: dict[str, dict[str, Any]] = {
    "from 0 to 1": {"scale": "0..1"},
    "mean and spread of everyday pictures": {
        "scale": "spread",
        "mean": [0.485, 0.456, 0.406],
        "spread": [0.229, 0.224, 0.225],
    },
    "from −1 to 1": {"scale": "-1..1"},
    "numbers from 0 to 255": {"scale": "0..255"},
    "0 to 255 less the mean of everyday pictures": {
        "scale": "spread",
        "mean": [123.68 / 255, 116.779 / 255, 103.939 / 255],
        "spread": [BYTE, BYTE, BYTE],
    },
    "mean and spread of pictures with captions": {
        "scale": "spread",
        "mean": [0.48145466, 0.4578275, 0.40821073],
        "spread": [0.26862954, 0.26130258, 0.27577711],
    },
    "mean and spread of very small pictures": {
        "scale": "spread",
        "mean": [0.4914, 0.4822, 0.4465],
        "spread": [0.247, 0.2435, 0.2616],
    },
}
GREY_CONVENTIONS: dict[str, dict[str, Any]] = {
    "from 0 to 1": {"scale": "0..1"},
    "numbers from 0 to 255": {"scale": "0..255"},
    "from −1 to 1": {"scale": "-1..1"},
    "numbers from 0 to 16": SIXTEEN,
    "mean and spread of handwritten digits": {"scale": "spread", "mean": [0.1307], "spread": [0.3081]},
    "mean and spread of small pictures of things": {"scale": "spread", "mean": [0.286], "spread": [0.353]},
    "mean and spread of everyday pictures in grey": {"scale": "spread", "mean": [0.449], "spread": [0.226]},
}
FITS = ("stretch", "crop", "border")
MOST_TRIED_PICTURES = 80
# So few more may be right by chance alone, as a share.
NEAR_SHARE = 1 / 40
# Of the mean logarithm of what the right class is given: probabilities a fifth smaller.
BY_FAR = 0.2
# Whatever is less likely counts as this: one picture must not decide alone.
LEAST_PROBABILITY = 1e-4
TRY_SECONDS = 20.0
WORDS = {
    "bgr": "blue first",
    "rgb": "red first",
    "stretch": "stretched",
    "crop": "the middle cut out",
    "border": "whole, with a border",
}
# Known pictures bear a preparation out from so many on, if the model is right for this share of them.
FEWEST_PICTURES, BORNE_OUT_SHARE = 10, 0.5


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
    also: Preparation | None = None,
    *,
    tells_scale: bool = False,
) -> list[PreparationTry]:
    """The sensible preparations, best first; among equals the one tried first.

    The best gets the most known pictures right. Of those that get next to as many right, it is the one whose
    probabilities fit best, and of those that say the same the one tried first: many models get the same pictures right
    on any scale, and are far too sure of it, or not sure enough, on a wrong one.

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
    also : Preparation, optional
        Tried as well: the author's own.
    tells_scale : bool, optional
        Whether numbers in the model speak for the scale that `start` has: next to as many right are enough for it then.
    """
    pictures = _some(images, places)
    begun = monotonic()
    tries: list[_Tried] = []
    for changes in _numbers(start, stated, pictures.images):
        if monotonic() - begun < TRY_SECONDS or not tries:
            tries.append(_tried(start, changes, pictures, predict))
    scale = _scale(start) if tells_scale else None
    best = _best_first(tries, scale)[0].told
    if "fit" not in stated and any(
        image.width * start.height != image.height * start.width for image in pictures.images
    ):
        for fit in FITS[1:]:
            if monotonic() - begun < TRY_SECONDS:
                tries.append(_tried(best.preparation, {"fit": fit}, pictures, predict))
    if also is not None and all(one.told.preparation != also for one in tries):
        tries.append(_tried(also, {}, pictures, predict))
    first, *others = _best_first(tries, scale)
    most = max(tries, key=lambda one: one.n_right)
    return [
        first.told,
        *(
            one.told.model_copy(
                update={"is_as_likely": (one.has(scale) or not first.has(scale)) and _is_as_likely(one, first, most)}
            )
            for one in others
        ),
    ]


_Scale = tuple[str, list[float], list[float]]


def _scale(preparation: Preparation) -> _Scale:
    return preparation.scale, preparation.mean, preparation.spread


@dataclass(frozen=True, eq=False)
class _Tried:
    """A try with what the right class of each picture was given, shape (n_pictures,), and whether that is 0 or 1."""

    told: PreparationTry
    of_right: np.ndarray
    is_sure: bool

    @property
    def n_right(self) -> int:
        return self.told.n_right

    @property
    def losses(self) -> np.ndarray:
        return -np.log(self.of_right)

    def has(self, scale: _Scale | None) -> bool:
        """Whether it is on this scale; None is any."""
        return scale is None or _scale(self.told.preparation) == scale


def _best_first(tries: Sequence[_Tried], scale: _Scale | None) -> list[_Tried]:
    most = max(tries, key=lambda one: one.n_right)
    near = [one for one in tries if _is_near(one, most)]
    if any(one.has(scale) for one in near):
        near = [one for one in near if one.has(scale)]
    fits_best = min(near, key=lambda one: one.losses.mean())
    # Of those that say the same, the first tried is the likeliest beforehand.
    first = next(one for one in near if _apart(one, fits_best) < SEEN_APART)
    by_fit = sorted((one for one in near if one is not first), key=lambda one: one.losses.mean())
    rest = sorted((one for one in tries if one not in near), key=lambda one: -one.n_right)
    return [first, *by_fit, *rest]


def _is_near(one: _Tried, most: _Tried) -> bool:
    """Whether it gets as many right, or next to as many where there are probabilities to go by."""
    return most.n_right - one.n_right <= (0 if most.is_sure else NEAR_SHARE * most.of_right.size)


def _apart(one: _Tried, other: _Tried) -> float:
    """By how much their logarithms differ, on average."""
    return float(np.abs(one.losses - other.losses).mean())


def _is_worse(one: _Tried, other: _Tried) -> bool:
    """Whether its probabilities fit worse beyond chance, by two standard errors, and by far.

    By a little they do on the very scale of the training: a model held back in it is not sure enough then, one that
    was not is too sure of what it has not seen.
    """
    worse = one.losses - other.losses
    return bool(worse.mean() > max(BY_FAR, 2 * worse.std() / math.sqrt(max(1, worse.size - 1))))


def _is_as_likely(one: _Tried, first: _Tried, most: _Tried) -> bool:
    """Whether the pictures do not tell it from the first, and how sure the answers are hangs on it."""
    return _is_near(one, most) and _apart(one, first) >= SEEN_APART and not _is_worse(one, first)


def _some(images: Sequence[Image.Image], places: Sequence[int]) -> _Pictures:
    """At most so many, spread evenly over what came: folders stand behind one another."""
    kept = np.unique(np.linspace(0, len(images) - 1, MOST_TRIED_PICTURES).round().astype(int))
    return _Pictures([images[at] for at in kept], np.asarray(places)[kept])


def is_borne_out(tries: Sequence[PreparationTry], n_classes: int) -> bool:
    """Whether known pictures tell that the best preparation is a right one: no other is as likely, and most of them are
    right, far more than by chance.

    Parameters
    ----------
    tries : sequence of PreparationTry
        What was found for each preparation that was tried.
    n_classes : int
    """
    if not tries or tries[0].n_tried < FEWEST_PICTURES or any(one.is_as_likely for one in tries):
        return False
    share = tries[0].n_right / tries[0].n_tried
    return share >= BORNE_OUT_SHARE and share >= 1.5 / max(1, n_classes)


def _numbers(start: Preparation, stated: frozenset[str], images: Sequence[Image.Image]) -> Iterator[dict[str, Any]]:
    """What is tried: the likeliest first, since the first of equals is taken and time may run out."""
    every = COLOUR_CONVENTIONS if start.n_channels == 3 else GREY_CONVENTIONS
    own = {"scale": start.scale, "mean": start.mean, "spread": start.spread}
    conventions = [own] if "scale" in stated else list(every.values())
    if start.layout == "flat" and "scale" not in stated:
        # Perhaps read off the model itself.
        conventions = [own, *(one for one in conventions if {"mean": [], "spread": [], **one} != own)]
    orders = [start.order] if "order" in stated or start.n_channels == 1 else ["rgb", "bgr"]
    for order, trained_on, numbers in itertools.product(orders, _grounds(start, stated, images), conventions):
        ordered = numbers if "scale" in stated or order == "rgb" else _blue_first(numbers)
        yield {"mean": [], "spread": [], **ordered, "order": order, "trained_on": trained_on}


def _blue_first(convention: dict[str, Any]) -> dict[str, Any]:
    """The same with its numbers in the order of the channels."""
    return {key: value[::-1] if isinstance(value, list) else value for key, value in convention.items()}


def _grounds(start: Preparation, stated: frozenset[str], images: Sequence[Image.Image]) -> list[str]:
    """Of drawings it is tried which way round they were; photographs have no ground to be turned by."""
    if "trained_on" in stated or start.n_channels == 3:
        return [start.trained_on]
    n_drawings = sum(map(is_line_art, images))
    return ["light on dark", "dark on light"] if 2 * n_drawings > len(images) else ["any"]


def _tried(
    start: Preparation,
    changes: dict[str, Any],
    pictures: _Pictures,
    predict: Callable[[list[np.ndarray]], np.ndarray],
) -> _Tried:
    preparation = Preparation.model_validate({**start.model_dump(), **changes})
    outputs = predict([as_input(as_seen(image, preparation), preparation) for image in pictures.images])
    of_right = np.take_along_axis(outputs, pictures.places[:, None], axis=1)[:, 0]
    of_right = np.clip(np.nan_to_num(of_right), LEAST_PROBABILITY, 1)
    told = PreparationTry(
        words=preparation_words(preparation),
        preparation=preparation,
        n_right=int((outputs.argmax(axis=1) == pictures.places).sum()),
        n_tried=pictures.places.size,
        log_loss=float(-np.log(of_right).mean()),
    )
    return _Tried(told, of_right, is_sure=bool(np.isin(outputs, (0, 1)).all()))


def preparation_words(preparation: Preparation) -> str:
    """A preparation in a few words.

    Parameters
    ----------
    preparation : Preparation
    """
    every = COLOUR_CONVENTIONS if preparation.n_channels == 3 else GREY_CONVENTIONS
    own = {"scale": preparation.scale, "mean": preparation.mean, "spread": preparation.spread}
    in_order = _blue_first if preparation.order == "bgr" else dict
    named = [name for name, known in every.items() if {"mean": [], "spread": [], **in_order(known)} == own]
    parts = [named[0] if named else "a mean and spread of its own"]
    if preparation.n_channels == 3:
        parts.append(WORDS[preparation.order])
    if preparation.trained_on != "any":
        parts.append(preparation.trained_on)
    parts.append(WORDS[preparation.fit])
    return ", ".join(parts)
