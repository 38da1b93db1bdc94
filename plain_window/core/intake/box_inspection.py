"""A model that finds things in a picture: how its outputs are read, by what fits, and what its boxes are called."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from PIL import Image

from ..answers.in_picture import BoxesSetting, BoxLabel, BoxReading
from ..answers.rounding import counted_of_100
from ..boxes.candidates import read_candidates
from ..boxes.guessing import fitting_readings
from ..boxes.readings import BoxOutputs
from ..contract.inspection import BoxFindings, Question
from ..errors import Fault, MismatchFaults, ModelFailed
from ..formats.picture_input import InPictureModel
from ..pictures.preparation import as_input
from ..pictures.settings import Preparation
from .trial_pictures import trial_pictures

__all__ = ["BoxesPut", "put_boxes"]

# With so much more agreement than any other a reading is told from all others.
CLEARLY = 0.2
# A model without names for its classes has at least one.
FEWEST_LABELS, MOST_LABELS = 1, 10_000


@dataclass(frozen=True)
class BoxesPut:
    """The answer's setting, what was tried, and what its author should confirm."""

    setting: BoxesSetting
    findings: BoxFindings
    questions: list[Question]
    notes: list[str]


def put_boxes(
    model: InPictureModel,
    preparation: Preparation,
    *,
    images: Sequence[Image.Image],
    labels: list[str] | None,
) -> BoxesPut:
    """How boxes are read and called.

    Parameters
    ----------
    model : InPictureModel
    preparation : Preparation
        Of its pictures.
    images : sequence of Image
        Pictures of the author's to try readings on; without any, some are made up.
    labels : list of str, optional
        Names of the classes.

    Raises
    ------
    MismatchFaults
        If the outputs fit no reading.
    """
    name = model.pictures[0].name
    n_classes = len(labels) if labels else len(model.found.classes or []) or None

    def ask(seen: np.ndarray) -> Mapping[str, np.ndarray]:
        return model.outputs({name: [as_input(seen, preparation)]}, None)

    pictures = trial_pictures(images, preparation)
    try:
        answers = [ask(picture) for picture in pictures]
        found = _found(model, answers, n_classes)
        tries = fitting_readings(ask, pictures, found)
    except ModelFailed as error:
        raise MismatchFaults([Fault(None, f"{error} This came up when it was shown a picture.")]) from error
    if not tries:
        raise MismatchFaults([Fault("model", _fits_none(found))])
    reading = tries[0].reading
    n_seen = _classes_seen(answers, reading, pictures[0])
    names = _names(labels or model.found.classes, n_classes or n_seen)
    findings = BoxFindings(
        tries=tries,
        n_pictures=len(pictures),
        are_authors=bool(images),
        outputs={one: list(found.shapes[one]) for one in found.names},
    )
    return BoxesPut(
        setting=BoxesSetting(labels=[BoxLabel(name=one, label=_words(one)) for one in names], reading=reading),
        findings=findings,
        questions=[_question(findings)],
        notes=[*_left_notes(found, reading), *_naming_notes(names, n_seen, has_names=bool(n_classes))],
    )


def _found(model: InPictureModel, answers: Sequence[Mapping[str, np.ndarray]], n_classes: int | None) -> BoxOutputs:
    """What came out for these pictures, of the outputs that can be of boxes."""
    assert model.boxes is not None, "only models that find boxes come here"
    names = model.boxes.names
    return BoxOutputs(
        answers=[{name: answer[name] for name in names} for answer in answers],
        shapes=model.boxes.shapes,
        n_classes=n_classes,
        has_suppression=model.boxes.has_suppression,
    )


def _fits_none(found: BoxOutputs) -> str:
    shapes = "; ".join(f"`{name}` {' × '.join(map(str, found.every(name)[0].shape))}" for name in found.names[:8])
    return (
        f"The model's outputs ({shapes}) fit no reading of boxes: neither boxes, scores and classes apart, nor one "
        "table of candidates. Export it with the decoding of its boxes inside."
    )


def _classes_seen(answers: Sequence[Mapping[str, np.ndarray]], reading: BoxReading, picture: np.ndarray) -> int:
    """How many classes the outputs tell apart: as many as have a score, or as were named."""
    height, width = picture.shape[:2]
    most = 0
    for answer in answers:
        if reading.classes_from is not None:
            shape = np.asarray(answer[reading.boxes]).shape
            n_numbers = shape[-1] if reading.candidates == "rows" else shape[-2]
            return n_numbers - reading.classes_from - (reading.background != "none")
        try:
            named = read_candidates(answer, reading, width=width, height=height).classes
        except ModelFailed:
            continue
        most = max(most, int(named.max(initial=-1)) + 1)
    return min(most, MOST_LABELS)


def _names(known: Sequence[str] | None, n_wanted: int) -> list[str]:
    return list(known) if known else [str(number) for number in range(max(FEWEST_LABELS, n_wanted))]


def _words(name: str) -> str:
    return name.replace("_", " ").strip() or name


def _question(findings: BoxFindings) -> Question:
    """That how boxes are read is a guess, and what speaks for it."""
    best = findings.tries[0]
    text = f"How boxes are read is a guess: {best.words}. {_evidence(findings)} Look at them on a picture you know."
    return Question(name="reading", text=text)


def _evidence(findings: BoxFindings) -> str:
    best = findings.tries[0]
    on = f"{findings.n_pictures} of your pictures" if findings.are_authors else "made-up pictures of rectangles"
    if best.n_boxes == 0:
        return f"On {on} the model found nothing, so nothing speaks for it but that it is usual."
    if best.agreement is None:
        return "The model says the same of a picture and its mirror image, so its boxes could not be compared."
    next_best = max((one.agreement or 0.0 for one in findings.tries[1:]), default=0.0)
    told = "no other reading comes near" if best.agreement > next_best + CLEARLY else "others come near"
    share = counted_of_100(best.agreement)
    return f"On {on} they share {share} of 100 parts of their area with those of the mirrored pictures; {told}."


def _left_notes(found: BoxOutputs, reading: BoxReading) -> list[str]:
    used = {reading.boxes, reading.scores, reading.classes, reading.chosen, reading.count}
    left = [name for name in found.names if name not in used]
    if not left:
        return []
    return [f"The model gives {', '.join(f'`{name}`' for name in left[:5])} as well, of which nothing is shown."]


def _naming_notes(names: Sequence[str], n_seen: int, *, has_names: bool) -> list[str]:
    if not has_names:
        return ["The model does not name what it finds; its classes are called by their numbers. Bring `labels`."]
    if n_seen > len(names):
        return [f"The model tells {n_seen} classes apart, and {len(names)} are named; the others go by their numbers."]
    return []
