"""Answers without anything that explains them: what the usual way and the quick one make alike."""

import json
import time
from collections.abc import Mapping
from typing import NamedTuple

import msgspec

from ..core.answers import make_answer
from ..core.documents import DemoDocument
from ..core.fields import CheckedInputs, DrawingField, PictureField
from ..runners.client import RunnerClient
from .answer_ids import AnswerIds
from .explanation_answers import CurveWritten
from .lookups import ServedDemo, Version
from .quick_models import QuickModels
from .types.predictions import PredictionAnswer, Timing

__all__ = [
    "WrittenAnswer",
    "add_id",
    "plain_answer_elsewhere",
    "plain_answer_here",
    "recorded_inputs",
]


_SERIALIZER = PredictionAnswer.__pydantic_serializer__


class WrittenAnswer(NamedTuple):
    """An answer, and apart from it the curves: they are nearly all of its numbers, and are written down at once."""

    answer: PredictionAnswer
    curves: list[CurveWritten] | None = None

    def json(self) -> bytes:
        """Both together, as `PredictionAnswer` describes them."""
        # What `model_dump_json` does, without looking at all its options and without making a text of the bytes.
        written = _SERIALIZER.to_json(self.answer, by_alias=True)
        if self.curves is None:
            return written
        # Within a text of JSON its marks are escaped, so this stands there as a name only.
        return written.replace(b'"curves":null', b'"curves":' + msgspec.json.encode(self.curves), 1)


def _plain_answer(
    version: Version,
    checked: CheckedInputs,
    outputs: list[float],
    *,
    is_unlike: bool,
    predict_ms: float,
    started: float,
) -> WrittenAnswer:
    """A model's outputs for one case as its answer.

    Parameters
    ----------
    version : Version
    checked : CheckedInputs
    outputs : list of float
    is_unlike : bool
        Whether the reference rows have nothing like this case.
    predict_ms : float
        What the model took.
    started : float
        When the request came (`time.perf_counter`).

    Raises
    ------
    ModelFailed
        If the outputs are none that the answer could be.
    """
    # A value that was never seen makes a case that was never seen.
    strange = bool(checked.notes) or is_unlike
    answer, notes = make_answer(version.document.answer, outputs, version.evidence, is_unlike=strange)
    total_ms = (time.perf_counter() - started) * 1000
    return WrittenAnswer(
        PredictionAnswer(
            answer=answer,
            notes=checked.notes + notes,
            release=version.number,
            timing_ms=Timing(predict=round(predict_ms, 3), total=round(total_ms, 3)),
        )
    )


def plain_answer_here(
    models: QuickModels, version: Version, checked: CheckedInputs, *, started: float
) -> WrittenAnswer | None:
    """The answer of a model that this process asks itself; None if it is to be asked elsewhere.

    Parameters
    ----------
    models : QuickModels
    version : Version
    checked : CheckedInputs
    started : float

    Raises
    ------
    ModelFailed
        If the model refuses the row, or its outputs are none that the answer could be.
    """
    begun = time.perf_counter()
    found = models.predict(version.job, checked.values)
    if found is None:
        return None
    predict_ms = (time.perf_counter() - begun) * 1000
    return _plain_answer(
        version, checked, found.outputs, is_unlike=bool(found.is_unlike), predict_ms=predict_ms, started=started
    )


def plain_answer_elsewhere(
    runners: RunnerClient, version: Version, checked: CheckedInputs, *, caller: str, started: float
) -> WrittenAnswer:
    """The answer of a model that its runner is asked for.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
    checked : CheckedInputs
    caller : str
        Who asks, by which calls have their turns.
    started : float

    Raises
    ------
    ModelFailed
        If the outputs are none that the answer could be.
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.predict` does.
    """
    found = runners.predict(version.job, [checked.values], caller=caller)
    return _plain_answer(
        version,
        checked,
        found.outputs[0],
        is_unlike=any(found.unlike),
        predict_ms=found.predict_ms,
        started=started,
    )


def add_id(ids: AnswerIds, demo: ServedDemo, version: Version, answer: WrittenAnswer) -> None:
    """Give the answer its id, where visitors may say what became of it.

    Parameters
    ----------
    ids : AnswerIds
    demo : ServedDemo
    version : Version
    answer : WrittenAnswer
    """
    if version.number is not None and version.document.parts.outcomes:
        answer.answer.id = ids.make(demo.id, version.number, answer.answer.answer)


def recorded_inputs(document: DemoDocument, inputs: Mapping[str, object]) -> str | None:
    """What is kept of the inputs where the author keeps them: never a picture.

    Parameters
    ----------
    document : DemoDocument
    inputs : mapping of str to value
        As they came.
    """
    if not document.record_inputs:
        return None
    names = [field.name for field in document.fields if not isinstance(field, PictureField | DrawingField)]
    return json.dumps({name: inputs[name] for name in names if name in inputs})
