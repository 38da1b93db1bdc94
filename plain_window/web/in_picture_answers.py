"""What all answers that lie in a picture have in common: how they are given."""

import time

from ..core.answers import BoxesAnswer, MaskAnswer, PictureAnswer
from ..core.contract import BoxesReply, PictureReply
from ..core.fields import Note
from .explanation_answers import seen_answer
from .lookups import Version
from .plain_answers import WrittenAnswer
from .types.predictions import PredictionAnswer, Timing

__all__ = ["in_picture_written"]


def in_picture_written(
    answer: BoxesAnswer | PictureAnswer | MaskAnswer,
    reply: BoxesReply | PictureReply,
    notes: list[Note],
    version: Version,
    *,
    started: float,
) -> WrittenAnswer:
    """An answer that lies in a picture, with what is said beside it.

    Parameters
    ----------
    answer : BoxesAnswer, PictureAnswer or MaskAnswer
    reply : BoxesReply or PictureReply
        What it was made of.
    notes : list of Note
    version : Version
    started : float
        When the request came (`time.perf_counter`).
    """
    return WrittenAnswer(
        PredictionAnswer(
            answer=answer,
            notes=notes,
            seen=None if reply.seen is None else seen_answer(reply.seen),
            release=version.number,
            timing_ms=Timing(
                predict=round(reply.predict_ms, 3),
                explain=round(reply.read_ms, 3),
                total=round((time.perf_counter() - started) * 1000, 3),
            ),
        )
    )
