"""Whether an ONNX model's outputs are boxes, told from what they are for a few pictures."""

from collections.abc import Sequence
from typing import Any

import numpy as np
import onnx

from ...boxes.guessing import has_boxes
from ...boxes.readings import BoxOutputs
from ...pictures.settings import Preparation

__all__ = ["box_outputs", "is_clearly_of_boxes", "named_outputs", "suppressing_step"]

# Steps that choose among boxes.
SUPPRESSING = ("NonMaxSuppression", "EfficientNMS_TRT", "BatchedNMS_TRT")
CHOOSING = (*SUPPRESSING, "RoiAlign", "MaxRoiPool")
BOX_WIDTH, SHORTEST_SIDE = 4, 8


def suppressing_step(document: onnx.ModelProto) -> str | None:
    """A step that chooses among boxes; None if the model has none.

    Parameters
    ----------
    document : ModelProto
    """
    return next((node.op_type for node in document.graph.node if node.op_type in CHOOSING), None)


def box_outputs(
    document: onnx.ModelProto,
    outputs: Sequence[Any],
    answers: Sequence[Sequence[Any]],
    preparation: Preparation,
    *,
    n_classes: int | None,
) -> BoxOutputs | None:
    """The outputs that can be read as boxes; None if that is no reading of them.

    Parameters
    ----------
    document : ModelProto
    outputs : sequence
        A session's.
    answers : sequence of sequence
        What it gave, a picture each.
    preparation : Preparation
        Of the pictures.
    n_classes : int or None
        How many classes the file names.
    """
    names = [item.name for item in outputs]
    kept = [at for at in range(len(names)) if all(_may_be(answer[at], preparation) for answer in answers)]
    if not kept:
        return None
    found = BoxOutputs(
        answers=[{names[at]: np.asarray(answer[at]) for at in kept} for answer in answers],
        shapes={names[at]: _stated(outputs[at].shape) for at in kept},
        n_classes=n_classes,
        has_suppression=any(node.op_type in SUPPRESSING for node in document.graph.node),
    )
    return found if has_boxes(found) else None


def is_clearly_of_boxes(document: onnx.ModelProto, found: BoxOutputs) -> bool:
    """Whether it is said that there are boxes: by a step that chooses among them, or by an output's name.

    Parameters
    ----------
    document : ModelProto
    found : BoxOutputs
    """
    named = [name for name in found.names if "box" in name.lower()]
    are_boxes = any(BOX_WIDTH in np.asarray(found.answers[0][name]).shape[-2:] for name in named)
    return suppressing_step(document) is not None or (are_boxes and len(found.names) > 1)


def _may_be(output: Any, preparation: Preparation) -> bool:
    """Whether an output is numbers, and no picture."""
    if isinstance(output, list) or np.asarray(output).dtype.kind not in "fiu":
        return False
    shape = np.asarray(output).shape
    side = (preparation.height, preparation.width)
    is_picture = len(shape) >= 3 and min(shape[-2:]) >= SHORTEST_SIDE and _is_in_proportion(shape[-2:], side)
    return not is_picture


def _is_in_proportion(size: Sequence[int], side: Sequence[int]) -> bool:
    """As a picture, or the map of one that was made smaller step by step."""
    return size[0] * side[1] == size[1] * side[0] and (side[0] % size[0] == 0 or size[0] % side[0] == 0)


def _stated(shape: Sequence[Any]) -> list[int | None]:
    return [size if isinstance(size, int) and size > 0 else None for size in shape or []]


def named_outputs(names: Sequence[str], answer: Sequence[Any]) -> dict[str, np.ndarray]:
    """What a session gave, by name, but for what is no array.

    Parameters
    ----------
    names : sequence of str
    answer : sequence of object
    """
    return {name: np.asarray(one) for name, one in zip(names, answer, strict=True) if not isinstance(one, list)}
