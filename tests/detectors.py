"""Detectors made by hand, which find red and blue patches on a light ground, each with its outputs in another order.

A window slides over the picture in steps; how red or how blue it is, is the score of its place. What is found is so
known beforehand, and computed here again in plain NumPy.
"""

from collections.abc import Callable
from typing import Any

import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper

__all__ = ["CLASSES", "ORDERS", "PATCH", "SIDE", "as_bytes", "detector", "picture_with", "plainly_found"]

# Width and height of the pictures, of what is found, and how far apart windows lie.
SIDE, PATCH, STEP = (128, 96), (32, 20), 8
CLASSES = ("red", "blue")
COLUMNS, ROWS = SIDE[0] // STEP, SIDE[1] // STEP
N = COLUMNS * ROWS
# What the detectors with suppression inside leave.
OVERLAP, LEAST, MOST = 0.5, 0.45, 20
Nodes = list[onnx.NodeProto]


def picture_with(*patches: tuple[str, int, int, float]) -> np.ndarray:
    """A light picture with patches: each of a class, with its middle in a column and row of windows, and so strong."""
    pixels = np.full((SIDE[1], SIDE[0], 3), 255, dtype="uint8")
    for name, column, row, strength in patches:
        x, y = STEP * column + STEP // 2, STEP * row + STEP // 2
        left, top = x - PATCH[0] // 2, y - PATCH[1] // 2
        weak = round(255 * (1 - strength))
        colour = (255, weak, weak) if name == "red" else (weak, weak, 255)
        pixels[max(0, top) : top + PATCH[1], max(0, left) : left + PATCH[0]] = colour
    return pixels


def plainly_found(pixels: np.ndarray, *, least: float = LEAST) -> list[tuple[str, float, float, float, float, float]]:
    """Class, score, x, y, width and height of what is found, as plainly as can be written."""
    light = pixels.astype("float64") / 255
    excess = [np.maximum(0, light[:, :, at] - light[:, :, [1, 2 - at]].mean(axis=2)) for at in (0, 2)]
    found = []
    for place, one in enumerate(excess):
        for row in range(ROWS):
            for column in range(COLUMNS):
                x, y = STEP * column + STEP / 2 - PATCH[0] / 2, STEP * row + STEP / 2 - PATCH[1] / 2
                inside = one[max(0, int(y)) : int(y) + PATCH[1], max(0, int(x)) : int(x) + PATCH[0]]
                score = inside.sum() / (PATCH[0] * PATCH[1])
                if score >= least:
                    found.append((CLASSES[place], score, x, y, float(PATCH[0]), float(PATCH[1])))
    kept: list[tuple[str, float, float, float, float, float]] = []
    for one in sorted(found, key=lambda each: -each[1]):
        if all(one[0] != other[0] or _shared(one, other) <= OVERLAP for other in kept):
            kept.append(one)
    return kept


def _shared(one: Any, other: Any) -> float:
    across = min(one[2] + one[4], other[2] + other[4]) - max(one[2], other[2])
    down = min(one[3] + one[5], other[3] + other[5]) - max(one[3], other[3])
    both = max(0.0, across) * max(0.0, down)
    return both / (one[4] * one[5] + other[4] * other[5] - both)


def detector(order: str, **properties: str) -> bytes:
    """An ONNX file of the detector with its outputs in one of `ORDERS`."""
    nodes, constants = _scoring()
    tail, outputs, own = ORDERS[order](nodes)
    graph = helper.make_graph(
        nodes + tail,
        order.replace(" ", "-"),
        [helper.make_tensor_value_info("images", TensorProto.FLOAT, [1, 3, SIDE[1], SIDE[0]])],
        [helper.make_tensor_value_info(name, type_, shape) for name, type_, shape in outputs],
        [numpy_helper.from_array(value, name) for name, value in {**constants, **own}.items()],
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8)
    helper.set_model_props(model, {"names": ",".join(CLASSES), **properties})
    onnx.checker.check_model(model)
    return model.SerializeToString()


def as_bytes(pixels: np.ndarray, kind: str = "PNG", **options: Any) -> bytes:
    """The picture as a file."""
    import io

    from PIL import Image

    content = io.BytesIO()
    Image.fromarray(pixels).save(content, kind, **options)
    return content.getvalue()


# --- what all have in common: scores of shape (1, 2, N), and boxes in every form --------------------------------------


def _scoring() -> tuple[Nodes, dict[str, np.ndarray]]:
    excess = np.array([[1, -0.5, -0.5], [-0.5, -0.5, 1]], dtype="float32")[:, :, None, None]
    window = np.full((2, 1, PATCH[1], PATCH[0]), 1 / (PATCH[0] * PATCH[1]), dtype="float32")
    down, across = (PATCH[1] - STEP) // 2, (PATCH[0] - STEP) // 2
    nodes = [
        helper.make_node("Conv", ["images", "excess"], ["colours"]),
        helper.make_node("Relu", ["colours"], ["positive"]),
        helper.make_node(
            "Conv", ["positive", "window"], ["grid"], group=2, strides=[STEP, STEP], pads=[down, across, down, across]
        ),
        helper.make_node("Reshape", ["grid", "flat"], ["by_class"]),
        helper.make_node("Transpose", ["by_class"], ["by_place"], perm=[0, 2, 1]),
    ]
    return nodes, {"excess": excess, "window": window, "flat": np.array([1, 2, N], dtype="int64")}


def _boxes(form: str, *, shares: bool = False) -> np.ndarray:
    rows, columns = np.divmod(np.arange(N), COLUMNS)
    middle = np.stack([STEP * columns + STEP / 2, STEP * rows + STEP / 2], axis=1)
    size = np.tile(np.array(PATCH, dtype="float64"), (N, 1))
    first, last = middle - size / 2, middle + size / 2
    side = np.array(SIDE) if shares else 1
    first, last, middle, size = first / side, last / side, middle / side, size / side
    parts = {
        "corners": (first, last),
        "down first": (first[:, ::-1], last[:, ::-1]),
        "centre": (middle, size),
        "corner": (first, size),
    }[form]
    return np.concatenate(parts, axis=1).astype("float32")[None]


def _thinned(boxes: str) -> tuple[Nodes, dict[str, np.ndarray]]:
    """Suppression inside: `left` has rows of picture, class and box; with classes, scores and boxes by them."""
    nodes = [
        helper.make_node("NonMaxSuppression", [boxes, "by_class", "most", "overlap", "least"], ["left"]),
        helper.make_node("Gather", ["left", "one"], ["left_class"], axis=1),
        helper.make_node("Gather", ["left", "two"], ["left_place"], axis=1),
        helper.make_node("GatherND", ["by_class", "left"], ["left_score"]),
    ]
    constants = {
        "most": np.array([MOST], dtype="int64"),
        "overlap": np.array([OVERLAP], dtype="float32"),
        "least": np.array([LEAST], dtype="float32"),
        "one": np.array(1, dtype="int64"),
        "two": np.array(2, dtype="int64"),
    }
    return nodes, constants


# --- the orders -------------------------------------------------------------------------------------------------------

Made = tuple[Nodes, list[tuple[str, int, list[Any]]], dict[str, np.ndarray]]


def _candidates(form: str, *, shares: bool = False, upright: bool = False, thing: bool = False, logits: bool = False):
    """One table of all candidates, as rows or columns; perhaps with how likely each is a thing at all, or as logits."""

    def made(_: Nodes) -> Made:
        nodes: Nodes = []
        scores = "by_place"
        constants = {"boxes": _boxes(form, shares=shares), "small": np.array(1e-6, dtype="float32")}
        if logits:
            nodes += [
                helper.make_node("Clip", ["by_place", "small", "nearly"], ["clipped"]),
                helper.make_node("Sub", ["whole", "clipped"], ["against"]),
                helper.make_node("Div", ["clipped", "against"], ["odds"]),
                helper.make_node("Log", ["odds"], ["logits"]),
            ]
            constants |= {"nearly": np.array(1 - 1e-6, dtype="float32"), "whole": np.array(1, dtype="float32")}
            scores = "logits"
        if thing:
            nodes += [
                helper.make_node("ReduceMax", ["by_place"], ["thing"], axes=[2], keepdims=1),
                helper.make_node("Add", ["thing", "small"], ["divisor"]),
                helper.make_node("Div", ["by_place", "divisor"], ["of_thing"]),
                helper.make_node("Concat", ["boxes", "thing", "of_thing"], ["table"], axis=2),
            ]
        else:
            nodes.append(helper.make_node("Concat", ["boxes", scores], ["table"], axis=2))
        width = 7 if thing else 6
        nodes.append(helper.make_node("Transpose", ["table"], ["out"], perm=[0, 2, 1] if upright else [0, 1, 2]))
        shape = [1, width, N] if upright else [1, N, width]
        return nodes, [("out", TensorProto.FLOAT, shape)], constants

    return made


def _apart(form: str, *, shares: bool = False, background: bool = False, upright: bool = False) -> Any:
    def made(_: Nodes) -> Made:
        constants = {"every": _boxes(form, shares=shares)}
        nodes = [helper.make_node("Identity", ["every"], ["boxes"])]
        shape: list[Any] = [1, N, 2]
        if background:
            # Nothing at all is as likely as a window that is half covered.
            nodes += [
                helper.make_node("Mul", ["by_place", "steep"], ["steeper"]),
                helper.make_node("Concat", ["nothing", "steeper"], ["scores"], axis=2),
            ]
            constants |= {
                "steep": np.array(10, dtype="float32"),
                "nothing": np.full((1, N, 1), 5, dtype="float32"),
            }
            shape = [1, N, 3]
        else:
            nodes.append(helper.make_node("Identity", ["by_class" if upright else "by_place"], ["scores"]))
            shape = [1, 2, N] if upright else shape
        return nodes, [("boxes", TensorProto.FLOAT, [1, N, 4]), ("scores", TensorProto.FLOAT, shape)], constants

    return made


def _chosen(_: Nodes) -> Made:
    thinning, constants = _thinned("every")
    nodes = [
        *thinning,
        helper.make_node("Identity", ["every"], ["boxes"]),
        helper.make_node("Identity", ["by_class"], ["scores"]),
        helper.make_node("Identity", ["left"], ["selected"]),
    ]
    outputs = [
        ("boxes", TensorProto.FLOAT, [1, N, 4]),
        ("scores", TensorProto.FLOAT, [1, 2, N]),
        ("selected", TensorProto.INT64, ["n", 3]),
    ]
    return nodes, outputs, {**constants, "every": _boxes("down first")}


def _left_over(kind: str) -> Callable[[Nodes], Made]:
    """What suppression inside leaves, as one table or apart."""

    def made(_: Nodes) -> Made:
        thinning, constants = _thinned("every")
        form = {"apart": "corners", "padded": "down first"}.get(kind, "corners")
        constants |= {
            "every": _boxes("down first"),
            "shown": _boxes(form, shares=kind in ("image first", "padded"))[0],
            "down": np.array([-1, 1], dtype="int64"),
            "begin": np.array(1, dtype="float32"),
        }
        nodes = [
            *thinning,
            helper.make_node("Gather", ["shown", "left_place"], ["left_boxes"], axis=0),
            helper.make_node("Cast", ["left_class"], ["class_number"], to=TensorProto.FLOAT),
            helper.make_node("Reshape", ["left_score", "down"], ["score_column"]),
            helper.make_node("Reshape", ["class_number", "down"], ["class_column"]),
            helper.make_node("Sub", ["class_column", "class_column"], ["zeros"]),
            helper.make_node("Add", ["class_column", "begin"], ["from_one"]),
        ]
        last, outputs, more = _ends(kind)
        return nodes + last, outputs, {**constants, **more}

    return made


def _ends(kind: str) -> Made:
    none: dict[str, np.ndarray] = {}
    floats = TensorProto.FLOAT
    if kind == "apart":
        nodes = [
            helper.make_node("Identity", ["left_boxes"], ["boxes"]),
            helper.make_node("Identity", ["left_class"], ["labels"]),
            helper.make_node("Identity", ["left_score"], ["scores"]),
        ]
        outputs = [("boxes", floats, ["n", 4]), ("labels", TensorProto.INT64, ["n"]), ("scores", floats, ["n"])]
        return nodes, outputs, none
    if kind == "padded":
        return _padded()
    parts = {
        "score then class": ["left_boxes", "score_column", "class_column"],
        "batch first": ["zeros", "left_boxes", "class_column", "score_column"],
        "image first": ["zeros", "from_one", "score_column", "left_boxes"],
    }[kind]
    width = 6 if len(parts) == 3 else 7
    nodes = [helper.make_node("Concat", parts, ["table"], axis=1)]
    if kind == "image first":
        nodes.append(helper.make_node("Unsqueeze", ["table", "axes"], ["out"]))
        return nodes, [("out", floats, [1, 1, "n", 7])], {"axes": np.array([0, 1], dtype="int64")}
    nodes.append(helper.make_node("Identity", ["table"], ["out"]))
    return nodes, [("out", floats, ["n", width])], none


def _padded() -> Made:
    """Always so many, filled up with nothing, and how many of them count."""
    nodes: Nodes = [helper.make_node("Shape", ["left_score"], ["how_many"])]
    for name, source in (
        ("detection_boxes", "left_boxes"),
        ("detection_scores", "left_score"),
        ("detection_classes", "counted"),
    ):
        nodes += [
            helper.make_node("Concat", [source, f"{name}_fill"], [f"{name}_long"], axis=0),
            helper.make_node("Slice", [f"{name}_long", "start", "end", "first_axis"], [f"{name}_cut"]),
            helper.make_node("Unsqueeze", [f"{name}_cut", "front"], [name]),
        ]
    nodes = [
        helper.make_node("Reshape", ["from_one", "flat_one"], ["counted"]),
        *nodes,
        helper.make_node("Cast", ["how_many"], ["num_detections"], to=TensorProto.FLOAT),
    ]
    constants = {
        "detection_boxes_fill": np.zeros((MOST, 4), dtype="float32"),
        "detection_scores_fill": np.zeros(MOST, dtype="float32"),
        "detection_classes_fill": np.ones(MOST, dtype="float32"),
        "start": np.array([0], dtype="int64"),
        "end": np.array([MOST], dtype="int64"),
        "first_axis": np.array([0], dtype="int64"),
        "front": np.array([0], dtype="int64"),
        "flat_one": np.array([-1], dtype="int64"),
    }
    floats = TensorProto.FLOAT
    outputs = [
        ("detection_boxes", floats, [1, MOST, 4]),
        ("detection_scores", floats, [1, MOST]),
        ("detection_classes", floats, [1, MOST]),
        ("num_detections", floats, [1]),
    ]
    return nodes, outputs, constants


ORDERS: dict[str, Callable[[Nodes], Made]] = {
    "columns, centre": _candidates("centre", upright=True),
    "columns, centre, shares": _candidates("centre", upright=True, shares=True),
    "rows, centre": _candidates("centre"),
    "rows, centre, logits": _candidates("centre", logits=True),
    "rows, thing, centre": _candidates("centre", thing=True),
    "rows, corners": _candidates("corners"),
    "rows, corner and size": _candidates("corner"),
    "apart, corners": _apart("corners"),
    "apart, centre, shares": _apart("centre", shares=True),
    "apart, scores upright": _apart("corners", upright=True),
    "apart, background": _apart("corners", background=True),
    "chosen": _chosen,
    "left, score then class": _left_over("score then class"),
    "left, batch first": _left_over("batch first"),
    "left, image first": _left_over("image first"),
    "left, apart": _left_over("apart"),
    "left, padded": _left_over("padded"),
}
