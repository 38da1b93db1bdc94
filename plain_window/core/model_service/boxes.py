"""What a model finds in a picture: its boxes, and the picture with them drawn in."""

import time

from pydantic import ValidationError

from ..answers.in_picture import BoxReading
from ..boxes.drawing import draw_boxes
from ..boxes.finding import find_boxes
from ..contract.replies import BoxesReply, BoxFound, PictureReply
from ..contract.requests import BoxesRequest, DrawBoxesRequest
from ..contract.values import Row, picture_in
from ..errors import Fault, InputFaults, ModelFailed, PictureNotRead
from ..pictures.preparer import Prepared
from ..pictures.reading import read_picture
from ..pictures.writing import as_file, as_shown
from .backends import PictureBackend

__all__ = ["BoxFinder"]

WARM_UP_CALLS = 2


class BoxFinder:
    """Answers with boxes.

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

    def answer(self, request: BoxesRequest | DrawBoxesRequest) -> BoxesReply | PictureReply:
        """What is asked for.

        Parameters
        ----------
        request : BoxesRequest or DrawBoxesRequest

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        ModelFailed
            If the model raises, or its outputs are read otherwise than they are.
        """
        return self._boxes(request) if isinstance(request, BoxesRequest) else self._drawn(request)

    def _boxes(self, request: BoxesRequest) -> BoxesReply:
        try:
            reading = BoxReading.model_validate(request.reading)
        except ValidationError as error:
            raise ModelFailed(f"The reading of boxes is none: {error.errors()[0]['msg']}.", traceback="") from error
        field, prepared = self._prepared(request.row)
        started = time.perf_counter()
        outputs = self._backend.outputs(request.row)
        predicted = time.perf_counter()
        height, width = prepared.seen.shape[:2]
        found = find_boxes(
            outputs, reading, seen=(width, height), frame=prepared.frame, least_score=request.least_score
        )
        rows = zip(found.classes.tolist(), found.scores.tolist(), found.corners.tolist(), strict=True)
        return BoxesReply(
            [
                BoxFound(class_, score, left, top, right - left, bottom - top)
                for class_, score, (left, top, right, bottom) in rows
            ],
            *prepared.frame.full,
            predict_ms=(predicted - started) * 1000,
            read_ms=(time.perf_counter() - predicted) * 1000,
            n_without=found.n_without,
            n_outside=found.n_outside,
            is_cut=found.is_cut,
            notes=[(field, note) for note in prepared.notes],
            seen={field: as_shown(prepared.seen)} if request.seen else None,
        )

    def _drawn(self, request: DrawBoxesRequest) -> PictureReply:
        field = next(iter(self._backend.picture_inputs))
        value = picture_in(request.row, field)
        try:
            picture = read_picture(value["content"], behind=tuple(value.get("behind") or (255, 255, 255)))
        except PictureNotRead as error:
            raise InputFaults([Fault(field, str(error))]) from error
        content, type_ = as_file(draw_boxes(picture.image, request.boxes), picture.kind)
        return PictureReply(content, type_)

    def _prepared(self, row: Row) -> tuple[str, Prepared]:
        field = next(iter(self._backend.picture_inputs))
        return field, self._backend.prepared(field, picture_in(row, field))
