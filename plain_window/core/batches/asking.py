"""Rows as a worker gets them, asked of a compiled model. Opens no file of anybody's."""

import time
from collections import OrderedDict
from typing import Any

import numpy as np

from ..answers.deciding import said_place
from ..contract.chunks import (
    AskChunk,
    ChunkColumns,
    ChunkDone,
    ChunkNotDone,
    ChunkReply,
    ModelParts,
    ModelWanted,
    strongest_of,
)
from ..contract.kept_rows import read_kept_rows
from ..contract.replies import ExplainReply, Numbers
from ..contract.requests import ExplainRequest
from ..errors import ModelFailed
from ..model_service.service import ModelService, compiled_service
from ..plan.columns import Columns, ColumnValues
from .likeness_of_many import LikenessOfMany

__all__ = ["ChunkAsker", "columns_of"]

# Models a worker has at hand.
MOST_MODELS = 4


class ChunkAsker:
    """Holds the models asked last, and asks them about chunks of rows."""

    def __init__(self) -> None:
        self._models: OrderedDict[str, _Model] = OrderedDict()

    def answer(self, ask: AskChunk) -> ChunkReply:
        """What the model says of a chunk; `ModelWanted` if it must be sent first.

        What goes wrong and is not the model's doing is raised: of a row that nobody could ask about nothing is known.

        Parameters
        ----------
        ask : AskChunk

        Raises
        ------
        PlanDamaged
            If the model's file is.
        """
        started = time.perf_counter()
        try:
            model = self._model(ask)
            if model is None:
                return ModelWanted()
            return model.answer(ask, started)
        except ModelFailed as error:
            return ChunkNotDone(str(error))

    def _model(self, ask: AskChunk) -> "_Model | None":
        found = self._models.get(ask.model)
        if found is None and ask.parts is not None:
            found = self._models[ask.model] = _Model(ask.parts)
            while len(self._models) > MOST_MODELS:
                self._models.popitem(last=False)
        if found is not None:
            self._models.move_to_end(ask.model)
        return found


class _Model:
    """A compiled model with what is said beside its outputs."""

    def __init__(self, parts: ModelParts) -> None:
        kept_rows = read_kept_rows(parts.kept_rows) if parts.kept_rows else None
        self._service: ModelService = compiled_service(
            parts.plan, parts.facts, kept_rows, background_rows=parts.background_rows
        )
        has_rows = kept_rows is not None and kept_rows.n_rows > 0
        is_told = parts.facts.has_evidence and has_rows and kept_rows is not None
        self._likeness = LikenessOfMany(kept_rows, parts.facts) if is_told and kept_rows else None

    def answer(self, ask: AskChunk, started: float) -> ChunkDone:
        columns = columns_of(ask.columns)
        n_rows = ask.columns.n_rows
        if not n_rows:
            return ChunkDone(Numbers(0, 0, b""))
        outputs = self._service.backend.predict_columns(columns)
        unlike = self._likeness.unlike(columns, n_rows).tobytes() if self._likeness else b""
        strongest = self._strongest(ask, columns, outputs) if ask.n_strongest else []
        numbers = Numbers(n_rows, outputs.shape[1], np.ascontiguousarray(outputs, dtype="float64").tobytes())
        return ChunkDone(numbers, unlike, strongest, time.perf_counter() - started)

    def _strongest(self, ask: AskChunk, columns: Columns, outputs: np.ndarray) -> list[list[tuple[str, float]]]:
        found: list[list[tuple[str, float]]] = []
        for at, output in enumerate(outputs.tolist()):
            row = {name: _plain(values[at]) for name, values in columns.items()}
            of = said_place(output, ask.threshold) if len(output) > 1 else None
            reply = self._service.answer(ExplainRequest(row=row, of=of, explanation=True))
            found.append(strongest_of(reply, ask.n_strongest) if isinstance(reply, ExplainReply) else [])
        return found


def _plain(value: Any) -> Any:
    value = value.item() if hasattr(value, "item") else value
    return None if isinstance(value, float) and value != value else value


def columns_of(columns: ChunkColumns) -> dict[str, ColumnValues]:
    """Values by field, as a model is asked.

    Parameters
    ----------
    columns : ChunkColumns

    Returns
    -------
    dict of str to ndarray or list, each of length n_rows
    """
    made: dict[str, ColumnValues] = {
        name: np.frombuffer(data, dtype="float64") for name, data in columns.numbers.items()
    }
    for name, coded in columns.coded.items():
        values, codes = coded.values, np.frombuffer(coded.codes, dtype="int32")
        made[name] = [values[code] for code in codes.tolist()]
    made |= columns.texts
    return made
