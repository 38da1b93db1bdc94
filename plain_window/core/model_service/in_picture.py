"""Answers that lie in a picture: what is found in it, what is made of it, a class for each of its pixels."""

import time
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

import numpy as np
from PIL import Image
from pydantic import BaseModel, ValidationError

from ..answers.in_picture import BoxReading, MaskReading, PictureReading
from ..boxes.drawing import draw_boxes
from ..boxes.finding import find_boxes
from ..contract.replies import BoxesReply, BoxFound, PictureReply
from ..contract.requests import BoxesRequest, DrawBoxesRequest, MakePictureRequest, MaskRequest
from ..contract.values import PictureCell, Row, picture_in
from ..errors import Fault, InputFaults, ModelFailed, PictureNotRead
from ..made.masks import laid_over, output_classes, shares_of_classes
from ..made.pictures import output_picture
from ..pictures.preparer import Prepared, image_of
from ..pictures.reading import Picture, read_picture
from ..pictures.results import in_shape_of_given, part_of_view
from ..pictures.writing import as_file, as_shown
from .backends import PictureBackend

__all__ = ["InPictureAnswers", "InPictureRequest"]

WARM_UP_CALLS = 2
InPictureRequest = BoxesRequest | DrawBoxesRequest | MakePictureRequest | MaskRequest
Reading = TypeVar("Reading", bound=BaseModel)
# What browsers show; anything else is shown as a PNG.
SHOWN_BY_BROWSERS = ("JPEG", "PNG", "WEBP", "GIF")


class InPictureAnswers:
    """Answers that lie in a picture.

    Parameters
    ----------
    backend : PictureBackend
    """

    def __init__(self, backend: PictureBackend) -> None:
        self._backend = backend

    def warm_up(self, row: Row) -> None:
        """Ask the model a few times, so that a visitor's first call is as fast as the rest.

        Parameters
        ----------
        row : Row
            Something it takes.
        """
        for _ in range(WARM_UP_CALLS):
            self._backend.outputs(row)

    def answer(self, request: InPictureRequest) -> BoxesReply | PictureReply:
        """What is asked for.

        Parameters
        ----------
        request : BoxesRequest, DrawBoxesRequest, MakePictureRequest or MaskRequest

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        ModelFailed
            If the model raises, or its outputs are read otherwise than they are.
        """
        match request:
            case BoxesRequest():
                return self._boxes(request)
            case DrawBoxesRequest():
                return self._drawn(request)
            case MakePictureRequest():
                return self._made(request)
            case MaskRequest():
                return self._mask(request)

    def _boxes(self, request: BoxesRequest) -> BoxesReply:
        reading = _read(BoxReading, request.reading)
        field, prepared = self._prepared(request.row)
        asked = _Asked(lambda: self._backend.outputs(request.row))
        height, width = prepared.seen.shape[:2]
        found = find_boxes(
            asked.outputs, reading, seen=(width, height), frame=prepared.frame, least_score=request.least_score
        )
        rows = zip(found.classes.tolist(), found.scores.tolist(), found.corners.tolist(), strict=True)
        return BoxesReply(
            [
                BoxFound(class_, score, left, top, right - left, bottom - top)
                for class_, score, (left, top, right, bottom) in rows
            ],
            *prepared.frame.full,
            predict_ms=asked.predict_ms,
            read_ms=asked.since_ms,
            n_without=found.n_without,
            n_outside=found.n_outside,
            is_cut=found.is_cut,
            notes=[(field, note) for note in prepared.notes],
            seen=_seen(request.seen, field, prepared),
        )

    def _drawn(self, request: DrawBoxesRequest) -> PictureReply:
        field = self._field
        picture = _whole(field, picture_in(request.row, field))
        drawn = draw_boxes(picture.image, request.boxes)
        content, type_ = as_file(drawn, picture.kind)
        return PictureReply(content, type_, *drawn.size)

    def _made(self, request: MakePictureRequest) -> PictureReply:
        reading = _read(PictureReading, request.reading)
        field, prepared = self._prepared(request.row)
        asked = _Asked(lambda: self._backend.outputs(request.row))
        height, width = prepared.seen.shape[:2]
        image, is_full = in_shape_of_given(
            output_picture(asked.outputs, reading),
            prepared.frame,
            (width, height),
            resample=Image.Resampling.BICUBIC,
            most_side=request.most_side,
        )
        content, type_ = as_file(image, _kind(prepared.kind, is_shown=request.most_side is not None))
        return PictureReply(
            content,
            type_,
            *image.size,
            part=part_of_view(prepared.frame),
            is_full=is_full,
            predict_ms=asked.predict_ms,
            read_ms=asked.since_ms,
            notes=[(field, note) for note in prepared.notes],
            seen=_seen(request.seen, field, prepared),
        )

    def _mask(self, request: MaskRequest) -> PictureReply:
        reading = _read(MaskReading, request.reading)
        field, prepared = self._prepared(request.row)
        asked = _Asked(lambda: self._backend.outputs(request.row))
        height, width = prepared.seen.shape[:2]
        classes, is_full = in_shape_of_given(
            output_classes(asked.outputs, reading, n_classes=request.n_classes),
            prepared.frame,
            (width, height),
            resample=Image.Resampling.NEAREST,
            most_side=request.most_side,
        )
        if request.laid_over:
            image = self._laid_over(request, prepared, classes)
            content, type_ = as_file(image, prepared.kind)
        else:
            image = classes
            content, type_ = as_file(classes, "PNG")
        return PictureReply(
            content,
            type_,
            *image.size,
            part=part_of_view(prepared.frame),
            is_full=is_full,
            shares=shares_of_classes(classes, request.n_classes),
            predict_ms=asked.predict_ms,
            read_ms=asked.since_ms,
            notes=[(field, note) for note in prepared.notes],
            seen=_seen(request.seen, field, prepared),
        )

    def _laid_over(self, request: MaskRequest, prepared: Prepared, classes: Image.Image) -> Image.Image:
        """The part of the picture that the mask is about, in full, with the mask over it."""
        picture = image_of({**picture_in(request.row, self._field), "full": True})
        left, top, width, height = part_of_view(prepared.frame)
        box = (
            round(left * picture.width),
            round(top * picture.height),
            round((left + width) * picture.width),
            round((top + height) * picture.height),
        )
        part = picture.crop(box)
        return laid_over(part, classes.resize(part.size, Image.Resampling.NEAREST), nothing=request.nothing)

    @property
    def _field(self) -> str:
        return next(iter(self._backend.picture_inputs))

    def _prepared(self, row: Row) -> tuple[str, Prepared]:
        return self._field, self._backend.prepared(self._field, picture_in(row, self._field))


class _Asked:
    """A model's outputs, and where the time goes."""

    def __init__(self, ask: Callable[[], dict[str, np.ndarray]]) -> None:
        started = time.perf_counter()
        self.outputs = ask()
        self._ended = time.perf_counter()
        self.predict_ms = (self._ended - started) * 1000

    @property
    def since_ms(self) -> float:
        """What was done with them since."""
        return (time.perf_counter() - self._ended) * 1000


def _read(type_: type[Reading], reading: Mapping[str, Any]) -> Reading:
    try:
        return type_.model_validate(reading)
    except ValidationError as error:
        raise ModelFailed(f"The reading of the answer is none: {error.errors()[0]['msg']}.", traceback="") from error


def _whole(field: str, value: PictureCell) -> Picture:
    try:
        return read_picture(value["content"], behind=tuple(value.get("behind") or (255, 255, 255)))
    except PictureNotRead as error:
        raise InputFaults([Fault(field, str(error))]) from error


def _kind(kind: str, *, is_shown: bool) -> str:
    return kind if not is_shown or kind in SHOWN_BY_BROWSERS else "PNG"


def _seen(is_wanted: bool, field: str, prepared: Prepared) -> dict[str, bytes] | None:
    return {field: as_shown(prepared.seen)} if is_wanted else None
