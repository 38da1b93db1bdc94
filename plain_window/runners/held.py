"""What a runner holds: a model opened from its file, its compiled form, or one that looks at pictures."""

import sys
import traceback
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ..core.errors import Fault, InputFaults, ModelFailed, PictureNotRead

__all__ = ["HeldCompiled", "HeldLibrary", "HeldPictures"]


def _no_pause() -> None:
    """Nobody waits."""


class HeldLibrary:
    """A model asked through the library it was made with.

    `pause` is called, here and below, between the questions of an explanation: answers that wait are given then.
    """

    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(self, model: Any, inspection: Any) -> None:
        self._model = model
        self._columns = inspection.columns

    def predict(self, rows: list[dict[str, Any]]) -> Any:
        from ..core.tables.rows import model_table

        return self._model.predict(model_table(self._columns, rows))

    compiled = None

    def predict_columns(self, columns: dict[str, list[Any]]) -> Any:
        """The same for values by column, as an explanation asks."""
        self.pause()
        names = list(columns)
        return self.predict([dict(zip(names, values, strict=True)) for values in zip(*columns.values(), strict=True)])


class HeldCompiled:
    """A model asked through its plan. Loads no machine learning library and opens no pickle."""

    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(self, content: bytes) -> None:
        # Should numba be needed after all: it looks for SciPy, of which the kernels use nothing.
        sys.modules.setdefault("scipy", None)  # type: ignore[arg-type]
        from ..core.compiled.container import read_plan
        from ..core.compiled.engine import CompiledModel

        self.compiled = CompiledModel(read_plan(content))
        self._names = [item.name for item in self.compiled.plan.inputs]

    def predict(self, rows: list[dict[str, Any]]) -> Any:
        return self._asked({name: [row[name] for row in rows] for name in self._names})

    def predict_columns(self, columns: dict[str, list[Any]]) -> Any:
        """The same for values by column, as an explanation asks."""
        self.pause()
        return self._asked(columns)

    def _asked(self, columns: dict[str, list[Any]]) -> Any:
        from ..core.compiled.operations import ValueNotKnown

        try:
            return self.compiled.predict({name: columns[name] for name in self._names})
        except ValueNotKnown as error:
            raise ModelFailed(str(error), traceback=traceback.format_exc(limit=-3)) from error


class HeldPictures:
    """A model that looks at pictures, asked through its library.

    Parameters
    ----------
    model : PictureModel
    picture_inputs : mapping of str to str
        The model's input by field.
    columns : sequence of Column
        What it takes beside pictures.
    """

    compiled = None
    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(self, model: Any, picture_inputs: Mapping[str, str], columns: Sequence[Any]) -> None:
        from ..core.pictures.preparing import Preparer

        self._model, self.picture_inputs, self._columns = model, dict(picture_inputs), list(columns)
        self._prepare = Preparer()

    def prepared(self, field: str, value: Mapping[str, Any]) -> Any:
        """One picture as the model sees it.

        Raises
        ------
        InputFaults
            Naming the field, if it cannot be read.
        """
        try:
            return self._prepare(value)
        except PictureNotRead as error:
            raise InputFaults([Fault(field, str(error))]) from error

    def predict(self, rows: list[dict[str, Any]]) -> Any:
        """Outputs of shape (n_rows, n_outputs).

        Raises
        ------
        InputFaults
            If a picture cannot be read.
        ModelFailed
            If the model raises.
        """
        pictures = {}
        for field, name in self.picture_inputs.items():
            # Where one picture stands in every row it is looked up once.
            prepared = {id(row[field]): row[field] for row in rows}
            given = {key: self.prepared(field, value).given for key, value in prepared.items()}
            pictures[name] = [given[id(row[field])] for row in rows]
        return self._model.predict(pictures, self._table(rows))

    def predict_columns(self, columns: dict[str, list[Any]]) -> Any:
        """The same for values by column, as an explanation asks."""
        self.pause()
        names = list(columns)
        return self.predict([dict(zip(names, values, strict=True)) for values in zip(*columns.values(), strict=True)])

    def predict_inputs(self, row: Mapping[str, Any], field: str, inputs: np.ndarray) -> np.ndarray:
        """Outputs for one row with its picture in `field` replaced by each of `inputs`, of shape (n, *input)."""
        self.pause()
        pictures = {}
        for other, name in self.picture_inputs.items():
            if other == field:
                pictures[name] = inputs
            else:
                pictures[name] = [self.prepared(other, row[other]).given] * len(inputs)
        return self._model.predict(pictures, self._table([dict(row)] * len(inputs)))

    def _table(self, rows: list[dict[str, Any]]) -> Any:
        if not self._columns:
            return None
        from ..core.tables.rows import model_table

        return model_table(self._columns, rows)
