"""A model that answers a picture with a picture, or with a class for each pixel: how its output is read."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from PIL import Image

from ..answers.in_picture import MOST_KINDS, BoxLabel, MaskSetting, PictureSetting
from ..contract.inspection import Question
from ..errors import Fault, MismatchFaults, ModelFailed
from ..formats.picture_input import InPictureModel, PictureInput
from ..made.masks import output_classes
from ..made.outputs import MapOutput, map_outputs, mask_reading, picture_reading
from ..made.pictures import output_picture
from ..pictures.preparation import as_input
from ..pictures.settings import Preparation
from .trial_pictures import trial_pictures

__all__ = ["MadePut", "keeping_own_size", "put_made"]

# Of a model that takes any size the largest picture that is not made smaller: what it takes grows with every pixel.
LARGEST_OWN = 1600
MULTIPLES = (1, 2, 4, 8, 16, 32, 64)
# Sides in multiples, two that are not alike.
TRIED_SIDES = (5, 7)
FEWEST_TRIED = 32
NOTHING_NAMES = ("background", "nothing", "none", "_background_", "__background__")


@dataclass(frozen=True)
class MadePut:
    """The answer's setting, and what its author should confirm and know."""

    setting: PictureSetting | MaskSetting
    questions: list[Question]
    notes: list[str]


def keeping_own_size(model: InPictureModel, one: PictureInput) -> PictureInput:
    """The input with pictures in their own size, where the model takes any.

    Parameters
    ----------
    model : InPictureModel
    one : PictureInput
    """
    if {"width", "height"} & one.stated:
        return one
    for multiple in MULTIPLES:
        if all(_takes(model, one, _sides(multiple, turned)) for turned in (False, True)):
            settings = {"own_size": True, "multiple": multiple, "width": LARGEST_OWN, "height": LARGEST_OWN}
            own = Preparation.model_validate({**one.preparation.model_dump(), **settings})
            return replace(one, preparation=own, stated=one.stated | {"width", "height"})
    return one


def _sides(multiple: int, turned: bool) -> tuple[int, int]:
    times = -(-FEWEST_TRIED // multiple)
    sides = tuple(multiple * max(part, times + part) for part in TRIED_SIDES)
    return (sides[1], sides[0]) if turned else (sides[0], sides[1])


def _takes(model: InPictureModel, one: PictureInput, sides: tuple[int, int]) -> bool:
    """Whether it answers a picture of this height and width with maps of that shape."""
    seen = np.full((*sides, one.preparation.n_channels), 128, dtype="uint8")
    try:
        outputs = model.outputs({one.name: [as_input(seen, one.preparation)]}, None)
    except ModelFailed:
        return False
    return bool(map_outputs([outputs], [sides]))


def put_made(
    model: InPictureModel,
    preparation: Preparation,
    *,
    images: Sequence[Image.Image],
    labels: list[str] | None,
    told: Literal["picture", "mask"] | None,
) -> MadePut:
    """How the answer is read and called.

    Parameters
    ----------
    model : InPictureModel
    preparation : Preparation
        Of its pictures.
    images : sequence of Image
        The author's, to try the reading on.
    labels : list of str, optional
        Names of the classes.
    told : str, optional
        What the author says it is.

    Raises
    ------
    MismatchFaults
        If `labels` are of another number than classes, or the model fails on a picture.
    """
    name = model.pictures[0].name
    pictures = trial_pictures(images, preparation)
    try:
        answers = [model.outputs({name: [as_input(picture, preparation)]}, None) for picture in pictures]
    except ModelFailed as error:
        raise MismatchFaults([Fault(None, f"{error} This came up when it was shown a picture.")]) from error
    maps = map_outputs(answers, [(picture.shape[0], picture.shape[1]) for picture in pictures])
    if not maps:
        message = "The model's outputs have not the shape of the pictures it was shown. Export it with that alone."
        raise MismatchFaults([Fault("model", message)])
    found, kind = maps[0], told or model.found.task
    left = [f"`{one.name}`" for one in maps[1:5]]
    notes = [f"The model gives {', '.join(left)} as well, of which nothing is shown."] if left else []
    if kind == "picture" and found.n_channels in (1, 3):
        return _picture(found, answers, preparation, notes, is_told=told is not None)
    if kind == "picture":
        raise MismatchFaults(
            [Fault("answer", f"`{found.name}` has {found.n_channels} channels, which are no picture.")]
        )
    return _mask(found, model.found.classes, answers, labels, notes, is_told=told is not None)


def _picture(
    found: MapOutput,
    answers: Sequence[Mapping[str, np.ndarray]],
    preparation: Preparation,
    notes: list[str],
    *,
    is_told: bool,
) -> MadePut:
    reading = picture_reading(found, order=preparation.order)
    try:
        for answer in answers:
            output_picture(answer, reading)
    except ModelFailed as error:
        raise MismatchFaults([Fault("model", str(error))]) from error
    text = (
        f"The answer is taken for a picture: `{found.name}` has {found.n_channels} "
        f"{'channel' if found.n_channels == 1 else 'channels'} with numbers from {found.low:.3g} to {found.high:.3g}, "
        f"read as {reading.scale.replace('..', ' to ')}. Look at one you know."
    )
    questions = [] if is_told else [Question(name="reading", text=text)]
    return MadePut(PictureSetting(reading=reading), questions, notes)


def _mask(
    found: MapOutput,
    known: Sequence[str] | None,
    answers: Sequence[Mapping[str, np.ndarray]],
    labels: list[str] | None,
    notes: list[str],
    *,
    is_told: bool,
) -> MadePut:
    reading = mask_reading(found)
    n_classes = {"numbers": max(1, int(found.high) + 1)}.get(reading.layout, max(2, found.n_channels))
    names = list(labels or known or [])
    if reading.layout != "numbers" and found.n_channels == 1 and len(names) < n_classes:
        # Of one score a place only what is there has a name.
        names = ["nothing", *(names or ["something"])]
    if labels and len(names) != n_classes and reading.layout != "numbers":
        message = f"The model tells {n_classes} classes apart; `labels` names {len(labels)}. Give one name a line."
        raise MismatchFaults([Fault("labels", message)])
    if len(names) < n_classes:
        notes = [*notes, "The model does not name all its classes; the others are called by their numbers."]
        names += [str(place) for place in range(len(names), n_classes)]
    if len(names) > MOST_KINDS:
        raise MismatchFaults([Fault("labels", f"There are {len(names)} classes; the limit is {MOST_KINDS}.")])
    try:
        for answer in answers:
            output_classes(answer, reading, n_classes=len(names))
    except ModelFailed as error:
        raise MismatchFaults([Fault("model", str(error))]) from error
    nothing = next((name for name in names if name.lower() in NOTHING_NAMES), "")
    wordings = [BoxLabel(name=name, label=name.replace("_", " ").strip() or name) for name in names]
    scores = "one score" if found.n_channels == 1 else f"{found.n_channels} scores"
    what = "the number of a class" if reading.layout == "numbers" else scores
    text = f"The answer is taken for a class a pixel: `{found.name}` has {what} for each. Look at one you know."
    questions = [] if is_told else [Question(name="reading", text=text)]
    return MadePut(MaskSetting(labels=wordings, nothing=nothing, reading=reading), questions, notes)
