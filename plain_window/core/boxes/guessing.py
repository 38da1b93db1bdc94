"""Which reading of a model's outputs as boxes fits.

What a model finds in a picture it finds at the mirrored place in the mirrored picture. Only the right reading of a
box's four numbers says so: read as a corner, a centre lands elsewhere. So every reading is tried on pictures and their
mirror images, and how far the boxes agree is its evidence. Where a model does not answer to pictures at all, what is
left is how much of the boxes lies inside the picture, and what is usual.
"""

import itertools
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..answers.in_picture import BoxReading
from ..contract.inspection import ReadingTry
from ..errors import ModelFailed
from .candidates import Candidates, read_candidates
from .readings import NAMED_BY_EXPORTERS, BoxOutputs, possible_layouts
from .suppression import overlaps, suppressed
from .words import reading_words

__all__ = ["fitting_readings", "has_boxes"]

FORMS = ("two corners", "centre and size", "corner and size", "two corners, down first")
# Of each picture so many of the best candidates are compared.
COMPARED = 20
# Numbers of boxes are shares if none is much above one.
MOST_SHARE = 2.0
# Corners stand the right way round for this many of all candidates, if they are corners.
ORDERED_SHARE = 0.98
# Agreement and what lies inside are told apart no finer than this.
STEP, CLEARLY_BETTER = 0.04, 0.15
# What shares more than this with another of its class is the same thing found twice.
FOUND_TWICE = 0.85
MOST_TRIES = 6


def has_boxes(found: BoxOutputs) -> bool:
    """Whether the outputs can be read as boxes at all.

    Parameters
    ----------
    found : BoxOutputs
    """
    return bool(possible_layouts(found))


def fitting_readings(
    ask: Callable[[np.ndarray], Mapping[str, np.ndarray]], pictures: Sequence[np.ndarray], found: BoxOutputs
) -> list[ReadingTry]:
    """Readings that the outputs allow, with how well each fits; best first.

    Parameters
    ----------
    ask : callable
        From a picture as the model sees it, uint8 of shape (height, width, n_channels), to outputs by name.
    pictures : sequence of ndarray
        As the model sees them.
    found : BoxOutputs
        What the model gave for these pictures.
    """
    answers = list(found.answers)
    mirrored = [ask(np.ascontiguousarray(picture[:, ::-1])) for picture in pictures]
    # What says the same of a picture and its mirror image has looked at neither.
    looks = any(
        not np.array_equal(np.asarray(one[name]), np.asarray(other[name]), equal_nan=False)
        for one, other in zip(answers, mirrored, strict=True)
        for name in one
    )
    height, width = pictures[0].shape[:2]
    tries: list[_Tried] = []
    for rank, layout in enumerate(possible_layouts(found)):
        for place, form in enumerate(_forms(layout)):
            reading = layout.model_copy(update={"form": form, "unit": _unit(layout, answers)})
            try:
                here = [_best(answer, reading, width, height) for answer in answers]
                there = [_best(answer, reading, width, height) for answer in mirrored] if looks else []
            except ModelFailed:
                continue
            reading = _thinned(reading, here)
            is_ordered, agreement, inside = _fit(here, there, width, height)
            said = ReadingTry(
                words=reading_words(reading),
                reading=reading,
                # As fine as it says anything: another processor adds up in another order.
                agreement=round(agreement, 2) if looks and any(len(one.scores) for one in here) else None,
                inside=round(inside, 2),
                n_boxes=sum(len(one.scores) for one in here),
            )
            tries.append(_Tried(said, is_ordered, rank, place))
    return [one.said for one in _ranked(tries)[:MOST_TRIES]]


@dataclass(frozen=True)
class _Tried:
    """A reading that was tried; `rank` and `place` say how usual its layout and its form are, the most usual 0."""

    said: ReadingTry
    is_ordered: bool
    rank: int
    place: int

    @property
    def agreement(self) -> float:
        return self.said.agreement or 0.0


def _ranked(tries: Sequence[_Tried]) -> list[_Tried]:
    """Best first. A layout that is less usual must fit clearly better; a form only better."""
    best = max((one.agreement for one in tries if one.is_ordered), default=0.0)

    def order(one: _Tried) -> tuple[float, ...]:
        behind = math.floor((best - one.agreement) / CLEARLY_BETTER)
        fit = (-round(one.agreement / STEP), -round(one.said.inside / STEP))
        return (not one.is_ordered, max(0, behind), one.rank, *fit, one.place)

    return sorted(tries, key=order)


def _forms(layout: BoxReading) -> tuple[str, ...]:
    """How a box's four numbers may be meant, the usual first."""
    # As the standard has it where suppression is asked for a list of what it leaves.
    if layout.boxes.startswith(NAMED_BY_EXPORTERS) or layout.chosen:
        return ("two corners, down first", "two corners", "centre and size", "corner and size")
    if not layout.scores and layout.classes_from is not None:
        return ("centre and size", "two corners", "corner and size", "two corners, down first")
    return FORMS


def _unit(layout: BoxReading, answers: Sequence[Mapping[str, np.ndarray]]) -> str:
    as_they_are = layout.model_copy(update={"form": "two corners, down first", "unit": "pixels"})
    numbers = [np.abs(_best(answer, as_they_are, 1, 1).corners) for answer in answers]
    largest = max((float(np.quantile(one, 0.95)) for one in numbers if one.size), default=0.0)
    if largest == 0:
        return "shares" if layout.boxes.startswith(NAMED_BY_EXPORTERS) else "pixels"
    return "shares" if largest <= MOST_SHARE else "pixels"


def _best(answer: Mapping[str, np.ndarray], reading: BoxReading, width: int, height: int) -> Candidates:
    """The best candidates, thinned out, that none stands for another."""
    candidates = read_candidates(answer, reading, width=width, height=height)
    if reading.suppression == "inside":
        return candidates.among(np.argsort(-candidates.scores, kind="stable")[:COMPARED])
    return suppressed(candidates, overlap=reading.overlap, most=COMPARED)


def _fit(here: Sequence[Candidates], there: Sequence[Candidates], width: int, height: int) -> tuple[bool, float, float]:
    """Whether corners stand the right way round, how far mirror images agree, and how much lies inside the picture."""
    ordered = np.concatenate([one.is_ordered for one in here]) if here else np.zeros(0)
    inside = np.concatenate([_inside(one.corners, width, height) for one in here])
    agreement = [_agreement(one, other, width) for one, other in zip(here, there, strict=False) if len(one.scores)]
    return (
        bool(ordered.size == 0 or ordered.mean() >= ORDERED_SHARE),
        float(np.mean(agreement)) if agreement else 0.0,
        float(inside.mean()) if inside.size else 0.0,
    )


def _agreement(one: Candidates, other: Candidates, width: int) -> float:
    """How much the boxes share, on average, with the best of the mirror image's boxes, mirrored back; by score."""
    back = other.corners.copy()
    back[:, [0, 2]] = width - other.corners[:, [2, 0]]
    if not len(back):
        return 0.0
    shared = [float(overlaps(corners, back).max()) for corners in one.corners]
    weights = np.clip(one.scores, 1e-6, None)
    return float(np.average(shared, weights=weights))


def _inside(corners: np.ndarray, width: int, height: int) -> np.ndarray:
    """Of each box the share of its area that lies inside the picture."""
    cut = np.clip(corners, 0, [width, height, width, height])
    area = (corners[:, 2:] - corners[:, :2]).prod(axis=1)
    return np.divide((cut[:, 2:] - cut[:, :2]).prod(axis=1), area, out=np.zeros(len(area)), where=area > 0)


def _thinned(reading: BoxReading, here: Sequence[Candidates]) -> BoxReading:
    """With suppression of ours, should the model's own leave one thing found twice."""
    if reading.suppression == "ours" or reading.chosen:
        return reading
    for one in here:
        for at, other in itertools.combinations(range(len(one.scores)), 2):
            if one.classes[at] == one.classes[other] and one.scores[at] > 0 and one.scores[other] > 0:
                shared = overlaps(one.corners[at], one.corners[other : other + 1])
                if shared[0] > FOUND_TWICE:
                    return reading.model_copy(update={"suppression": "ours"})
    return reading
