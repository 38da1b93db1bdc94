"""Which readings as boxes a model's outputs allow, by their shapes, their kinds and the numbers in them.

What is told here is where scores and classes stand and what they are; how the four numbers of a box are meant is tried
afterwards (`guessing`).
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..answers.in_picture import BoxReading
from ..answers.making import SUM_TOLERANCE
from .candidates import table_of, values_of

__all__ = ["NAMED_BY_EXPORTERS", "BoxOutputs", "possible_layouts"]

# Numbers that a candidate has at the least: a box and a score.
FEWEST_NUMBERS = 5
# Rows of more numbers than this are maps of a picture, not candidates with a score a class.
MOST_CLASSES = 10_000
# One family of exporters calls its outputs so. It gives top, left, bottom and right as shares, and counts from 1.
NAMED_BY_EXPORTERS = "detection_"
BOX_NAMES = re.compile(r"box|bbox|loc", re.IGNORECASE)
SCORE_NAMES = re.compile(r"score|conf|prob", re.IGNORECASE)
CLASS_NAMES = re.compile(r"class|label|cls", re.IGNORECASE)
COUNT_NAMES = re.compile(r"num|count|valid", re.IGNORECASE)
# From here on two scores of a candidate are high together.
BOTH_HIGH = 0.25
# Most candidates are nothing at all: this share of them, where a class says so.
MOSTLY = 0.5


@dataclass(frozen=True)
class BoxOutputs:
    """What a model gave for some pictures, and what is known of it besides.

    Attributes
    ----------
    answers : sequence of mapping
        Output by name, a mapping a picture.
    shapes : mapping of str to sequence
        What the file states of each output's axes; None for one that it leaves open.
    n_classes : int or None
        How many kinds of things there are, where that is known.
    has_suppression : bool
        Whether one of the model's steps thins out boxes.
    """

    answers: Sequence[Mapping[str, np.ndarray]]
    shapes: Mapping[str, Sequence[int | None]]
    n_classes: int | None
    has_suppression: bool

    def every(self, name: str) -> list[np.ndarray]:
        """One output, a picture each.

        Parameters
        ----------
        name : str
        """
        return [np.asarray(answer[name]) for answer in self.answers]

    @property
    def names(self) -> list[str]:
        """Of the outputs, in their order."""
        return list(self.answers[0])


def possible_layouts(found: BoxOutputs) -> list[BoxReading]:
    """Readings that the outputs allow, likeliest first; empty if they can be no boxes.

    Parameters
    ----------
    found : BoxOutputs
    """
    # A row of four numbers beside scores is hardly ever anything else.
    return list(_apart(found)) or list(_together(found))


# --- boxes, scores and classes apart ----------------------------------------------------------------------------------


def _apart(found: BoxOutputs) -> Iterator[BoxReading]:
    for name in sorted(found.names, key=lambda one: BOX_NAMES.search(one) is None):
        way = _way_round(found, name, wanted=4)
        if way is None or (_is_a_row_a_picture(found, name) and not BOX_NAMES.search(name)):
            continue
        n_each = [len(_turned(table_of(array), way)) for array in found.every(name)]
        settings: dict[str, Any] = {"boxes": name, "candidates": way, "count": _count_output(found)}
        rest = [one for one in found.names if one not in (name, settings["count"])]
        vectors = [one for one in rest if _is_a_number_each(found, one, n_each)]
        tables = [one for one in rest if one not in vectors and _is_a_row_each(found, one, n_each)]
        chosen = next((one for one in rest if _lists_chosen(found, one)), "")
        by_chosen = next((one for one in [*tables, *vectors] if chosen and one != chosen), "")
        if by_chosen:
            yield BoxReading(**settings, scores=by_chosen, chosen=chosen, suppression="inside")
        elif vectors and (own := _scores_among(found, vectors)):
            named = next((one for one in vectors if one != own), "")
            numbers = np.concatenate([_known(array) for array in found.every(named)]) if named else np.zeros(0)
            settings |= {"classes": named, "first_class": _first_class(found, numbers, named)}
            link = _link_of(np.concatenate([_known(array) for array in found.every(own)]))
            yield BoxReading(**settings, scores=own, link=link, suppression="inside")
        for scores in tables if not chosen else []:
            numbers = np.concatenate([_by_row(array, n) for array, n in zip(found.every(scores), n_each, strict=True)])
            yield BoxReading(**settings, scores=scores, **_class_scores(found, numbers), suppression=_who(found))


def _count_output(found: BoxOutputs) -> str:
    return next((n for n in found.names if COUNT_NAMES.search(n) and all(a.size == 1 for a in found.every(n))), "")


def _is_a_number_each(found: BoxOutputs, name: str, n_each: Sequence[int]) -> bool:
    values = [values_of(array) for array in found.every(name)]
    return all(one is not None and one.size == n for one, n in zip(values, n_each, strict=True))


def _is_a_row_each(found: BoxOutputs, name: str, n_each: Sequence[int]) -> bool:
    tables = [table_of(array) for array in found.every(name)]
    return all(one is not None and n in one.shape and one.size > n for one, n in zip(tables, n_each, strict=True))


def _lists_chosen(found: BoxOutputs, name: str) -> bool:
    """Rows of picture, class and box, as whole numbers."""
    arrays = found.every(name)
    return all(array.dtype.kind == "i" and array.ndim == 2 and array.shape[1] == 3 for array in arrays)


def _scores_among(found: BoxOutputs, vectors: Sequence[str]) -> str | None:
    """Which of two numbers a box is its score; the other is its class."""

    def is_class(name: str) -> bool:
        arrays = found.every(name)
        if all(array.dtype.kind in "iu" for array in arrays):
            return True
        if SCORE_NAMES.search(name):
            return False
        is_whole = len(vectors) > 1 and all(_is_whole(_known(array)) for array in arrays)
        return is_whole or CLASS_NAMES.search(name) is not None

    return next((name for name in vectors if not is_class(name)), None)


def _by_row(array: np.ndarray, n: int) -> np.ndarray:
    table = table_of(array)
    assert table is not None, "what is no table was left out"
    return (table if len(table) == n else table.T).astype("float64")


# --- everything in one table of candidates ----------------------------------------------------------------------------


def _together(found: BoxOutputs) -> Iterator[BoxReading]:
    for name in found.names:
        way = _way_round(found, name)
        if way is None or _is_a_row_a_picture(found, name):
            continue
        rows = np.concatenate([_turned(table_of(array), way) for array in found.every(name)]).astype("float64")
        for settings in _columns(found, rows):
            yield BoxReading(boxes=name, candidates=way, **settings)


def _is_a_row_a_picture(found: BoxOutputs, name: str) -> bool:
    """Whether an output has one row for each picture, as answers that are no lists have."""
    return all(array.ndim == 2 and len(array) == 1 for array in found.every(name))


def _way_round(found: BoxOutputs, name: str, *, wanted: int | None = None) -> Any:
    """Whether candidates are rows or columns of an output; None if it is no table of them."""
    tables = [table_of(array) for array in found.every(name)]
    if any(table is None or table.dtype.kind not in "f" for table in tables):
        return None
    shapes = [table.shape for table in tables if table is not None]
    stated = [size for size in found.shapes.get(name, []) if size != 1][-2:]
    fits = {
        "rows": all(_can_be(shape[1], wanted) for shape in shapes) and len({shape[1] for shape in shapes}) == 1,
        "columns": all(_can_be(shape[0], wanted) for shape in shapes) and len({shape[0] for shape in shapes}) == 1,
    }
    if fits["rows"] and fits["columns"]:
        # There are more candidates than numbers of each, unless the file leaves open how many.
        if len(stated) == 2 and (stated[0] is None) != (stated[1] is None):
            return "rows" if stated[0] is None else "columns"
        return "rows" if shapes[0][0] >= shapes[0][1] else "columns"
    # Fewer candidates than numbers of each are believed only where the file leaves open how many there are.
    open_ends = {"rows": len(stated) < 2 or stated[0] is None, "columns": len(stated) == 2 and stated[1] is None}
    n_each = {"rows": shapes[0][0] >= shapes[0][1], "columns": shapes[0][1] >= shapes[0][0]}
    return next((way for way, is_fit in fits.items() if is_fit and (open_ends[way] or n_each[way])), None)


def _can_be(n_numbers: int, wanted: int | None) -> bool:
    return n_numbers == wanted if wanted is not None else FEWEST_NUMBERS <= n_numbers <= MOST_CLASSES


def _turned(table: np.ndarray | None, way: str) -> np.ndarray:
    assert table is not None, "what is no table was left out"
    return table.T if way == "columns" else table


def _columns(found: BoxOutputs, rows: np.ndarray) -> Iterator[dict[str, Any]]:
    """Where score and class may stand among a candidate's numbers."""
    n_numbers = rows.shape[1]
    with_class = _with_class_number(found, rows) if n_numbers in (6, 7) else []
    yield from with_class
    # Of two classes, scores that are all 0 or 1 would look like the number of a class.
    if with_class and (n_numbers != 6 or found.n_classes != 2):
        return
    alone = {"classes_from": 4, **_class_scores(found, rows[:, 4:]), "suppression": _who(found)}
    beside_thing = {"score_at": 4, "classes_from": 5, "link": _link_of(rows[:, 4:]), "suppression": _who(found)}
    ways = [alone]
    if n_numbers > FEWEST_NUMBERS:
        ways = [beside_thing, alone] if _says_thing_first(found, rows) else [alone, beside_thing]
    fitting = [way for way in ways if _n_named(way, n_numbers) == found.n_classes]
    yield from fitting or ways


def _n_named(way: Mapping[str, Any], n_numbers: int) -> int:
    return n_numbers - way["classes_from"] - (way.get("background", "none") != "none")


def _with_class_number(found: BoxOutputs, rows: np.ndarray) -> list[dict[str, Any]]:
    """A score and the number of a class, as what has been thinned out has; perhaps behind the picture's number."""
    usual = (
        [{"box_at": 0, "score_at": 4, "class_at": 5}, {"box_at": 0, "score_at": 5, "class_at": 4},
         {"box_at": 2, "score_at": 1, "class_at": 0}]
        if rows.shape[1] == 6
        else [{"box_at": 1, "score_at": 6, "class_at": 5}, {"box_at": 1, "score_at": 5, "class_at": 6},
              {"box_at": 3, "score_at": 2, "class_at": 1}]
    )  # fmt: skip
    first = usual[0]["box_at"]
    if first and not _is_whole(_known(rows[:, 0])):
        return []
    ways = []
    for way in usual:
        named, scores = _known(rows[:, way["class_at"]]), _known(rows[:, way["score_at"]])
        if _is_whole(named) and _link_of(scores) == "none":
            ways.append({**way, "first_class": _first_class(found, named, ""), "suppression": "inside"})
    return ways


def _says_thing_first(found: BoxOutputs, rows: np.ndarray) -> bool:
    """Whether the fifth number is how likely a candidate is a thing at all, and not the score of the first class."""
    scores = np.nan_to_num(_as_shares(rows[:, 4:]))
    if not len(scores):
        return False
    together = float((scores[:, 0] * scores[:, 1:].max(axis=1)).max())
    if max(together, float(scores.max())) > BOTH_HIGH:
        # Scores of classes are hardly ever high together; of a thing and its class they are.
        return together > BOTH_HIGH * float(scores.max())
    return found.n_classes == rows.shape[1] - FEWEST_NUMBERS


def _class_scores(found: BoxOutputs, numbers: np.ndarray) -> dict[str, Any]:
    """What makes scores of these numbers, a column each class, and which column means that there is nothing."""
    known = numbers[np.isfinite(numbers).all(axis=1)]
    link = _link_of(known)
    n_columns = numbers.shape[1]
    if n_columns < 2 or not len(known):
        return {"link": link}
    adds_up = link == "none" and bool((np.abs(known.sum(axis=1) - 1) <= SUM_TOLERANCE).all())
    best = known.argmax(axis=1)
    at_end = {"first": float((best == 0).mean()), "last": float((best == n_columns - 1).mean())}
    nothing = "first" if at_end["first"] >= at_end["last"] else "last"
    one_more = found.n_classes == n_columns - 1
    if one_more or adds_up or (found.n_classes is None and link == "sigmoid" and at_end[nothing] > MOSTLY):
        return {"link": "softmax" if link == "sigmoid" else "none", "background": nothing}
    return {"link": link}


def _link_of(numbers: np.ndarray) -> str:
    known = numbers[np.isfinite(numbers)]
    return "none" if bool(((known >= -SUM_TOLERANCE) & (known <= 1 + SUM_TOLERANCE)).all()) else "sigmoid"


def _as_shares(numbers: np.ndarray) -> np.ndarray:
    return numbers if _link_of(numbers) == "none" else 1 / (1 + np.exp(-np.clip(numbers, -500, 500)))


def _first_class(found: BoxOutputs, numbers: np.ndarray, name: str) -> int:
    """Whether classes are counted from 0 or from 1."""
    if not numbers.size or numbers.min() < 1:
        return 0
    return int(numbers.max() == found.n_classes or name.startswith(NAMED_BY_EXPORTERS))


def _who(found: BoxOutputs) -> str:
    return "inside" if found.has_suppression else "ours"


def _known(array: np.ndarray) -> np.ndarray:
    values = np.ravel(array).astype("float64")
    return values[np.isfinite(values)]


def _is_whole(values: np.ndarray) -> bool:
    return bool(((values == np.rint(values)) & (values >= 0)).all())
