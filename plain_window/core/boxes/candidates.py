"""A model's outputs read as boxes with scores and classes, as a reading says."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..answers.in_picture import BoxReading
from ..errors import ModelFailed

__all__ = ["Candidates", "read_candidates", "table_of", "values_of"]

Outputs = Mapping[str, np.ndarray]


@dataclass(frozen=True)
class Candidates:
    """What a model proposes, before anything is thinned out.

    Attributes
    ----------
    corners : ndarray of float64, shape (n, 4)
        Left, top, right and bottom, in pixels of the picture as the model sees it.
    scores : ndarray of float64, shape (n,)
    classes : ndarray of int64, shape (n,)
        Places among the class names.
    is_ordered : ndarray of bool, shape (n,)
        Whether the corners came in order, or the sizes were not below zero.
    n_without : int
        How many were left out because one of their numbers was none.
    """

    corners: np.ndarray
    scores: np.ndarray
    classes: np.ndarray
    is_ordered: np.ndarray
    n_without: int = 0

    def among(self, kept: np.ndarray) -> "Candidates":
        """Some of them.

        Parameters
        ----------
        kept : ndarray
            Of bool, shape (n,), or their places.
        """
        return Candidates(
            self.corners[kept], self.scores[kept], self.classes[kept], self.is_ordered[kept], self.n_without
        )


def read_candidates(outputs: Outputs, reading: BoxReading, *, width: int, height: int) -> Candidates:
    """The candidates in a model's outputs for one picture.

    Parameters
    ----------
    outputs : mapping of str to ndarray
        By the outputs' names, each with an axis of one for the picture or without.
    reading : BoxReading
    width, height : int
        Of the picture as the model sees it, in pixels.

    Raises
    ------
    ModelFailed
        If the reading does not fit the outputs; the sentence says in what way.
    """
    boxes, scores, classes = _raw(outputs, reading)
    scores = scores.astype("float64")
    is_known = np.isfinite(boxes).all(axis=1) & np.isfinite(scores)
    first, second = _corners(boxes[is_known], reading)
    corners = np.concatenate([np.minimum(first, second), np.maximum(first, second)], axis=1)
    if reading.unit == "shares":
        corners = corners * [width, height, width, height]
    is_ordered = np.all(first <= second, axis=1)
    n_without = len(is_known) - len(corners)
    return Candidates(corners, scores[is_known], classes[is_known], is_ordered, n_without)


def table_of(array: np.ndarray) -> np.ndarray | None:
    """An output for one picture as a table of shape (n, k); None for what is none.

    Parameters
    ----------
    array : ndarray
        With an axis of one for the picture, or others of one, or without.
    """
    while array.ndim > 2 and 1 in array.shape[:-1]:
        array = array.squeeze(array.shape[:-1].index(1))
    return array if array.ndim == 2 else None


def values_of(array: np.ndarray) -> np.ndarray | None:
    """An output of one number a candidate, of shape (n,); None for what is more than that.

    Parameters
    ----------
    array : ndarray
    """
    return array.reshape(-1) if sum(size != 1 for size in array.shape) <= 1 else None


def _raw(outputs: Outputs, reading: BoxReading) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Four numbers, a score and a class for each candidate."""
    table = _table(outputs, reading.boxes, reading)
    if reading.count:
        table = table[: max(0, int(np.ravel(outputs[reading.count])[0]))]
    _need(table.shape[1] >= reading.box_at + 4, reading, f"has {table.shape[1]} numbers a candidate")
    boxes = table[:, reading.box_at : reading.box_at + 4].astype("float64")
    if reading.scores:
        return _apart(outputs, boxes, reading)
    last = max(reading.score_at or 0, reading.class_at or 0, reading.classes_from or 0)
    _need(table.shape[1] > last, reading, f"has {table.shape[1]} numbers a candidate, and {last + 1} are needed")
    thing = None if reading.score_at is None else _linked(table[:, reading.score_at], reading)
    if reading.classes_from is None:
        assert thing is not None, "a reading says where scores are"
        named = np.zeros(len(table)) if reading.class_at is None else table[:, reading.class_at]
        return boxes, thing, _numbered(named, reading)
    scores, classes = _best(table[:, reading.classes_from :], reading)
    return boxes, scores if thing is None else scores * thing, classes


def _apart(outputs: Outputs, boxes: np.ndarray, reading: BoxReading) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Scores and classes that are outputs of their own."""
    found = _output(outputs, reading.scores)
    n = len(boxes)
    if reading.chosen:
        return _chosen(outputs, boxes, found, reading)
    values = values_of(found)
    if values is not None and (values.size == n or reading.count):
        scores = _linked(values[:n], reading)
        named = values_of(_output(outputs, reading.classes)) if reading.classes else np.zeros(n)
        _need(named is not None and named.size >= n, reading, "has other classes than boxes")
        assert named is not None, "checked above"
        return boxes, scores, _numbered(named[:n], reading)
    scores, classes = _best(_by_class(found, n, reading), reading)
    return boxes, scores, classes


def _chosen(
    outputs: Outputs, boxes: np.ndarray, found: np.ndarray, reading: BoxReading
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """What ONNX's own suppression left, as rows of picture, class and box; rows of −1 fill up what is not used."""
    left = table_of(_output(outputs, reading.chosen))
    _need(left is not None and left.shape[1] == 3, reading, f"has no three numbers a row in `{reading.chosen}`")
    assert left is not None, "checked above"
    rows = left.astype("int64")
    scores = _by_class(found, len(boxes), reading)
    rows = rows[(rows >= 0).all(axis=1) & (rows[:, 1] < scores.shape[1]) & (rows[:, 2] < len(boxes))]
    return boxes[rows[:, 2]], _linked(scores[rows[:, 2], rows[:, 1]], reading), rows[:, 1]


def _by_class(found: np.ndarray, n: int, reading: BoxReading) -> np.ndarray:
    """Scores of shape (n, n_classes), whichever way round they came."""
    table = table_of(found)
    if table is not None and table.shape[0] != n and table.shape[1] == n:
        table = table.T
    if table is None or table.shape[0] < n or (table.shape[0] > n and not reading.count):
        values = values_of(found)
        table = None if values is None or values.size != n else values[:, None]
    _need(table is not None, reading, f"has other scores in `{reading.scores}` than boxes")
    assert table is not None, "checked above"
    return table[:n]


def _best(scores: np.ndarray, reading: BoxReading) -> tuple[np.ndarray, np.ndarray]:
    """Each candidate's likeliest class and its score, nothing at all set aside."""
    _need(scores.shape[1] > (reading.background != "none"), reading, "has no scores of classes")
    numbers = _linked(scores, reading)
    if reading.background == "first":
        numbers = numbers[:, 1:]
    elif reading.background == "last":
        numbers = numbers[:, :-1]
    # A candidate without any number is told by its score.
    without = np.isnan(numbers)
    best = (np.where(without, -np.inf, numbers) if without.any() else numbers).argmax(axis=1)
    return numbers[np.arange(len(numbers)), best], best


def _linked(numbers: np.ndarray, reading: BoxReading) -> np.ndarray:
    if reading.link == "none":
        # As they came: thousands of candidates with a hundred classes each are not worth a copy.
        return numbers
    numbers = numbers.astype("float64")
    if reading.link == "sigmoid":
        # Beyond this a double has no room for more, and its square would not fit.
        return 1 / (1 + np.exp(-np.clip(numbers, -500, 500)))
    if reading.link == "softmax" and numbers.ndim == 2:
        powers = np.exp(numbers - numbers.max(axis=1, keepdims=True))
        shares: np.ndarray = powers / powers.sum(axis=1, keepdims=True)
        return shares
    return numbers


def _numbered(named: np.ndarray, reading: BoxReading) -> np.ndarray:
    known = np.where(np.isfinite(named.astype("float64")), named.astype("float64"), -1)
    return np.rint(known).astype("int64") - reading.first_class


def _corners(boxes: np.ndarray, reading: BoxReading) -> tuple[np.ndarray, np.ndarray]:
    """The two corners as they are meant, each across and down."""
    first, second = boxes[:, :2], boxes[:, 2:]
    if reading.form == "centre and size":
        first, second = first - second / 2, first + second / 2
    elif reading.form == "corner and size":
        second = first + second
    elif reading.form == "two corners, down first":
        first, second = first[:, ::-1], second[:, ::-1]
    return first, second


def _output(outputs: Outputs, name: str) -> np.ndarray:
    if name not in outputs:
        known = ", ".join(f"`{one}`" for one in list(outputs)[:8])
        raise ModelFailed(f"The reading of boxes names the output `{name}`; the model has {known}.", traceback="")
    return outputs[name]


def _table(outputs: Outputs, name: str, reading: BoxReading) -> np.ndarray:
    found = table_of(_output(outputs, name))
    _need(found is not None, reading, "is no table of candidates")
    assert found is not None, "checked above"
    return found.T if reading.candidates == "columns" else found


def _need(holds: bool, reading: BoxReading, what: str) -> None:
    if not holds:
        raise ModelFailed(
            f"The reading of boxes does not fit the model's output: `{reading.boxes}` {what}. Choose another reading.",
            traceback="",
        )
