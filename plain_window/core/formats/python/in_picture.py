"""What a function found in a picture or made of it, as outputs that are read like any model's."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from PIL import Image

from ...answers.in_picture import (
    MOST_KINDS,
    BoxesSetting,
    BoxLabel,
    BoxReading,
    MaskReading,
    MaskSetting,
    PictureReading,
    PictureSetting,
)
from ...errors import Fault, MismatchFaults, ModelFailed
from .answers import plain
from .returned import Returned

__all__ = ["InPictureForm", "learn_in_picture"]

BOXES, SCORES, CLASSES, PICTURE, MASK = "boxes", "scores", "classes", "picture", "mask"
THING = "thing"
# How the places of a box may be called: left, top, and then right and bottom, or width and height.
CORNERS = (("left", "top", "right", "bottom"), ("x0", "y0", "x1", "y1"), ("x1", "y1", "x2", "y2"),
           ("xmin", "ymin", "xmax", "ymax"), ("x_min", "y_min", "x_max", "y_max"))  # fmt: skip
SIZES = (("left", "top", "width", "height"), ("x", "y", "width", "height"), ("x", "y", "w", "h"))
LABELS = ("label", "name", "kind", "class", "class_", "class_name")
SCORE_NAMES = ("score", "probability", "confidence")
# A grey array with no more distinct whole numbers than this, all small, has a class in each place.
MOST_CLASSES_GUESSED = 32
ABOVE_ONE = 1.5

Task = Literal["boxes", "picture", "mask"]


@dataclass(frozen=True)
class InPictureForm:
    """How a function's answers that lie in a picture become outputs.

    Attributes
    ----------
    names : tuple of str
        Of what it finds, or of a mask's classes.
    """

    task: Task
    names: tuple[str, ...] = ()

    def outputs(self, answer: Any) -> dict[str, np.ndarray]:
        """One answer as outputs by name.

        Parameters
        ----------
        answer : object

        Raises
        ------
        ModelFailed
            If it is no such answer, saying what came.
        """
        if self.task == "boxes":
            return self._boxes(answer)
        array = _as_array(answer)
        if array is None or array.ndim not in (2, 3):
            raise ModelFailed(f"The function gave no picture but a {type(answer).__name__}.", traceback="")
        return {self.task: array}

    def _boxes(self, answer: Any) -> dict[str, np.ndarray]:
        if not isinstance(answer, Sequence) or isinstance(answer, str):
            raise ModelFailed(f"The function gave no list of boxes but a {type(answer).__name__}.", traceback="")
        boxes = [_box(one) for one in answer]
        places = [self._place(label) for _, _, label in boxes]
        return {
            BOXES: np.array([corners for corners, _, _ in boxes], dtype="float64").reshape(-1, 4),
            SCORES: np.array([score for _, score, _ in boxes], dtype="float64"),
            CLASSES: np.array(places, dtype="int64"),
        }

    def _place(self, label: str) -> int:
        if label not in self.names:
            known = ", ".join(f"`{name}`" for name in self.names[:8])
            raise ModelFailed(
                f"The function found `{label[:60]}`, which is none of what it is said to find: {known}.", traceback=""
            )
        return self.names.index(label)


def _box(one: Any) -> tuple[list[float], float, str]:
    """Left, top, right and bottom; the score; the name."""
    value = plain(one)
    if not isinstance(value, Mapping):
        raise ModelFailed(
            f"The function gave a box as a {type(one).__name__}. Let it be a mapping with `left`, `top`, `right`, "
            "`bottom`, `label` and `score`.",
            traceback="",
        )
    corners = _corners(value)
    label = next((str(plain(value[name])) for name in LABELS if name in value), THING)
    score = next((float(value[name]) for name in SCORE_NAMES if name in value), 1.0)
    return corners, score, label


def _corners(value: Mapping[str, Any]) -> list[float]:
    try:
        for names in CORNERS:
            if all(name in value for name in names):
                return [float(value[name]) for name in names]
        for names in SIZES:
            if all(name in value for name in names):
                left, top, width, height = (float(value[name]) for name in names)
                return [left, top, left + width, top + height]
    except (TypeError, ValueError) as error:
        raise ModelFailed(f"The function gave a box whose places are no numbers: {error}.", traceback="") from error
    raise ModelFailed(
        f"The function gave a box with {', '.join(f'`{name}`' for name in list(value)[:8])}. It needs `left`, `top`, "
        "`right` and `bottom`, or `left`, `top`, `width` and `height`.",
        traceback="",
    )


def learn_in_picture(
    returned: Returned, answers: Sequence[Any], *, wanted: str | None, labels: Sequence[str] | None
) -> tuple[InPictureForm, BoxesSetting | PictureSetting | MaskSetting] | None:
    """How answers that lie in a picture are read; None if these do not.

    Parameters
    ----------
    returned : Returned
    answers : sequence of object
        What came back for some pictures.
    wanted : str or None
        The kind that its author says it is.
    labels : sequence of str or None
        Names of what it finds, or of classes.

    Raises
    ------
    MismatchFaults
        If it finds things and it is not known what they are called.
    """
    if any(hasattr(one, "to_dict") for one in answers) or all(isinstance(one, str) for one in answers):
        return None
    if returned.shape == "rows" or (returned.is_column and returned.shape == "unknown") or _are_boxes(answers):
        return _of_boxes(returned, answers, labels)
    arrays = [_as_array(answer) for answer in answers]
    if wanted in ("class", "labels", "number", "numbers") or any(
        one is None or one.ndim not in (2, 3) for one in arrays
    ):
        return None
    known = [one for one in arrays if one is not None]
    is_mask = wanted == "mask" or (wanted is None and returned.shape != "picture" and _may_be_mask(known))
    return _of_mask(known, labels) if is_mask else _of_picture(known)


def _are_boxes(answers: Sequence[Any]) -> bool:
    lists = [one for one in answers if isinstance(one, list | tuple)]
    return len(lists) == len(answers) and any(isinstance(plain(box), Mapping) for one in lists for box in one)


def _of_boxes(
    returned: Returned, answers: Sequence[Any], labels: Sequence[str] | None
) -> tuple[InPictureForm, BoxesSetting]:
    try:
        met = dict.fromkeys(_box(box)[2] for answer in answers if isinstance(answer, Sequence) for box in answer)
    except ModelFailed as error:
        raise MismatchFaults([Fault("function", str(error))]) from error
    names = tuple(labels or returned.names or met)
    if not names:
        message = (
            "The function found nothing in the pictures it was tried on, so it is not known what it finds. Bring the "
            "names as `labels`, one a line, or let its boxes say so: `label: Literal[…]`."
        )
        raise MismatchFaults([Fault("labels", message)])
    reading = BoxReading(boxes=BOXES, scores=SCORES, classes=CLASSES, suppression="inside")
    wordings = [BoxLabel(name=name, label=name.replace("_", " ").strip() or name) for name in names]
    return InPictureForm("boxes", names), BoxesSetting(labels=wordings, reading=reading)


def _of_picture(arrays: Sequence[np.ndarray]) -> tuple[InPictureForm, PictureSetting]:
    is_share = all(one.dtype.kind == "f" and np.nanmax(one, initial=0) <= ABOVE_ONE for one in arrays)
    layout: Literal["channels last", "grey"] = "grey" if arrays[0].ndim == 2 else "channels last"
    reading = PictureReading(output=PICTURE, layout=layout, scale="0..1" if is_share else "0..255")
    return InPictureForm("picture"), PictureSetting(reading=reading)


def _may_be_mask(arrays: Sequence[np.ndarray]) -> bool:
    return all(
        one.ndim == 2
        and one.dtype.kind in "bui"
        and (one.size == 0 or 0 <= one.min() <= one.max() < MOST_CLASSES_GUESSED)
        for one in arrays
    )


def _of_mask(arrays: Sequence[np.ndarray], labels: Sequence[str] | None) -> tuple[InPictureForm, MaskSetting]:
    n_met = max((int(one.max(initial=0)) + 1 for one in arrays), default=1)
    names = tuple(labels or map(str, range(max(2, n_met))))
    if n_met > min(len(names), MOST_KINDS):
        message = f"The function tells at least {n_met} classes apart, and {len(names)} are named. Name all of them."
        raise MismatchFaults([Fault("labels", message)])
    wordings = [BoxLabel(name=name, label=name.replace("_", " ").strip() or name) for name in names]
    nothing = names[0] if names[0].casefold() in ("nothing", "background", "none", "0") else ""
    return InPictureForm("mask", names), MaskSetting(
        labels=wordings, nothing=nothing, reading=MaskReading(output=MASK, layout="numbers")
    )


def _as_array(answer: Any) -> np.ndarray | None:
    """A picture as an array; None if it is none."""
    if isinstance(answer, Image.Image):
        return np.asarray(answer if answer.mode in ("L", "RGB") else answer.convert("RGB"))
    if isinstance(answer, np.ndarray) and answer.dtype.kind in "bui" + "f":
        squeezed = answer[0] if answer.ndim == 4 and len(answer) == 1 else answer
        return squeezed[:, :, :3] if squeezed.ndim == 3 and squeezed.shape[2] == 4 else squeezed
    return None
