"""Whether an ONNX model's outputs are boxes, told from what they are for a few pictures."""

from collections.abc import Collection, Sequence
from typing import Any

import numpy as np
import onnx

from ...boxes.guessing import has_boxes
from ...boxes.readings import BoxOutputs

__all__ = ["box_outputs", "is_clearly_of_boxes", "named_outputs", "suppressing_step"]

# Steps that choose among boxes.
SUPPRESSING = ("NonMaxSuppression", "EfficientNMS_TRT", "BatchedNMS_TRT")
CHOOSING = (*SUPPRESSING, "RoiAlign", "MaxRoiPool")
BOX_WIDTH = 4


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
    *,
    but: Collection[str],
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
    but : collection of str
        Names of outputs that are something else.
    n_classes : int or None
        How many classes the file names.
    """
    names = [item.name for item in outputs]
    kept = [at for at, name in enumerate(names) if name not in but and all(_may_be(one[at]) for one in answers)]
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


def _may_be(output: Any) -> bool:
    return not isinstance(output, list) and np.asarray(output).dtype.kind in "fiu"


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
