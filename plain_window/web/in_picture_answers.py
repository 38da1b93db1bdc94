"""What all answers that are no row of outputs have in common: how they are given."""

import time

from ..core.answers import BoxesAnswer, MaskAnswer, PictureAnswer, TableAnswer, TextAnswer
from ..core.contract import BoxesReply, PictureReply, WrittenReply
from ..core.fields import Note
from .explanation_answers import seen_answer
from .lookups import Version
from .plain_answers import WrittenAnswer
from .types.predictions import PredictionAnswer, Timing

__all__ = ["answer_written"]


def answer_written(
    answer: BoxesAnswer | PictureAnswer | MaskAnswer | TextAnswer | TableAnswer,
    reply: BoxesReply | PictureReply | WrittenReply,
    notes: list[Note],
    version: Version,
    *,
    started: float,
) -> WrittenAnswer:
    """An answer that lies in a picture or is written, with what is said beside it.

    Parameters
    ----------
    answer : BoxesAnswer, PictureAnswer, MaskAnswer, TextAnswer or TableAnswer
    reply : BoxesReply, PictureReply or WrittenReply
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
                explain=None if isinstance(reply, WrittenReply) else round(reply.read_ms, 3),
                total=round((time.perf_counter() - started) * 1000, 3),
            ),
        )
    )
