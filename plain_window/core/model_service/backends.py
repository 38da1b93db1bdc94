"""What is asked: a model held by its library, its compiled form, or one that looks at pictures."""

import sys
import traceback
from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, Protocol, cast

import numpy as np

from ..contract.replies import WrittenReply
from ..contract.values import Row, picture_in
from ..errors import Fault, InputFaults, ModelFailed, PictureNotRead
from ..pictures.flattening import PIXELS, flattened, pixel_names
from ..plan.columns import Columns

if TYPE_CHECKING:  # a runner loads only what it serves with
    import pandas as pd

    from ..fields.columns import Column
    from ..formats.adapter import ModelAdapter
    from ..formats.picture_input import PictureModel
    from ..pictures.preparer import Prepared
    from ..plan.engine import CompiledModel
    from ..plan.plan import Plan

__all__ = [
    "Asked",
    "Backend",
    "Columns",
    "CompiledBackend",
    "CompiledPixels",
    "FunctionBackend",
    "LibraryBackend",
    "PictureBackend",
    "Writes",
]


def _no_pause() -> None:
    """Nobody waits."""


class Backend(Protocol):
    """What can be asked. Between the questions of an explanation it calls `pause`: answers that wait are given then."""

    pause: Callable[[], None]
    compiled: "CompiledModel | None"

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs).

        Parameters
        ----------
        rows : sequence of Row
            Value by column, one mapping a row.
        """

    def predict_columns(self, columns: Columns) -> np.ndarray:
        """The same for values by column, as an explanation asks.

        Parameters
        ----------
        columns : Columns
            Values by column, each of length n_rows.
        """


class LibraryBackend:
    """A model asked through the library it was made with.

    Parameters
    ----------
    model : ModelAdapter
    columns : sequence of Column
        What it takes.
    """

    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(self, model: "ModelAdapter", columns: Sequence["Column"]) -> None:
        self._model, self._columns = model, list(columns)

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        """As `Backend.predict`."""
        from ..formats.model_table import model_table

        return self._model.predict(model_table(self._columns, rows))

    compiled: "CompiledModel | None" = None

    def predict_columns(self, columns: Columns) -> np.ndarray:
        """As `Backend.predict_columns`."""
        self.pause()
        names = list(columns)
        return self.predict([dict(zip(names, values, strict=True)) for values in zip(*columns.values(), strict=True)])


class Asked(Protocol):
    """A function that is asked about rows of values, or about a whole table."""

    @property
    def takes_table(self) -> bool:
        """Whether it takes nothing but a whole table."""

    def write(self, row: Row) -> WrittenReply:
        """The text or table it answers a row with.

        Parameters
        ----------
        row : Row
        """

    def predict(self, table: "pd.DataFrame", *, passes_over: bool = False) -> np.ndarray:
        """Outputs for the rows of a table.

        Parameters
        ----------
        table : pandas.DataFrame
        passes_over : bool, optional
            Leave what it fails for without numbers.
        """

    def ask(
        self,
        rows: Sequence[Row],
        *,
        refuse_fractions: bool = False,
        passes_over: bool = False,
        between: Callable[[], None] = _no_pause,
    ) -> np.ndarray:
        """Outputs for rows of values.

        Parameters
        ----------
        rows : sequence of Row
        refuse_fractions : bool, optional
            Say where a whole number is needed, rather than taking the next one.
        passes_over : bool, optional
            Leave what it fails for without numbers.
        between : callable, optional
            Called between two cases.
        """


class Writes(Protocol):
    """What answers with a text or a table."""

    def written(self, row: Row) -> WrittenReply:
        """The answer to one row.

        Parameters
        ----------
        row : Row
        """


class FunctionBackend:
    """A function, asked case by case or about many at once.

    Parameters
    ----------
    function : Asked
    columns : sequence of Column
        What it takes.
    """

    pause: Callable[[], None] = staticmethod(_no_pause)
    compiled: "CompiledModel | None" = None

    def __init__(self, function: Asked, columns: Sequence["Column"]) -> None:
        self._function, self._columns = function, list(columns)

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        """As `Backend.predict`.

        Raises
        ------
        InputFaults
            If a whole number is needed.
        ModelFailed
            If the function raises, or its answer is none.
        """
        return self._asked(rows, is_visitors=True)

    def predict_columns(self, columns: Columns) -> np.ndarray:
        """As `Backend.predict_columns`. A case that nobody asked about may be one that the function refuses."""
        self.pause()
        names = list(columns)
        rows = [dict(zip(names, values, strict=True)) for values in zip(*columns.values(), strict=True)]
        return self._asked(rows, is_visitors=False)

    def written(self, row: Row) -> WrittenReply:
        """As `Writes.written`."""
        return self._function.write(row)

    def _asked(self, rows: Sequence[Row], *, is_visitors: bool) -> np.ndarray:
        if self._function.takes_table:
            from ..formats.model_table import model_table

            passes_over = not is_visitors and len(rows) > 1
            return self._function.predict(model_table(self._columns, rows), passes_over=passes_over)
        if is_visitors:
            return self._function.ask(rows, refuse_fractions=True)
        # Of a slow function others are answered between two cases of an explanation.
        return self._function.ask(rows, passes_over=len(rows) > 1, between=self.pause)


class CompiledBackend:
    """A model asked through its plan. Loads no machine learning library and opens no pickle."""

    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(self, content: bytes) -> None:
        # Should numba be needed after all: it looks for SciPy, of which the kernels use nothing.
        sys.modules.setdefault("scipy", None)  # type: ignore[arg-type]
        from ..plan.container import read_plan
        from ..plan.engine import CompiledModel
        from ..plan.operations import ValueNotKnown

        self._model = CompiledModel(read_plan(content))
        self._value_not_known = ValueNotKnown
        self.compiled: CompiledModel | None = self._model
        self._names = [item.name for item in self._model.plan.inputs]

    @property
    def plan(self) -> "Plan":
        """What it runs."""
        return self._model.plan

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        """As `Backend.predict`."""
        if len(rows) == 1:
            return self._asked(lambda: self._model.predict_row(rows[0]))
        columns = {name: [row[name] for row in rows] for name in self._names}
        return self._asked(lambda: self._model.predict(columns))

    def predict_columns(self, columns: Columns) -> np.ndarray:
        """As `Backend.predict_columns`."""
        self.pause()
        return self._asked(lambda: self._model.predict({name: columns[name] for name in self._names}))

    def _asked(self, ask: Callable[[], np.ndarray]) -> np.ndarray:
        try:
            return ask()
        except self._value_not_known as error:
            raise ModelFailed(str(error), traceback=traceback.format_exc(limit=-3)) from error


class CompiledPixels:
    """A model of flattened pixels asked through its plan.

    Parameters
    ----------
    content : bytes
        The compiled model's file.

    Raises
    ------
    PlanDamaged
        If the file is damaged, or none.
    """

    def __init__(self, content: bytes) -> None:
        self._compiled = CompiledBackend(content)

    def predict(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> np.ndarray:
        """Outputs of shape (n_pictures, n_outputs).

        Parameters
        ----------
        pictures : mapping
            Prepared pictures, under the one input there is.
        table : None
            Nothing stands beside them.
        """
        # Of pixels that nothing hangs on there may be no column.
        rows = flattened(pictures[PIXELS])
        return self._compiled.predict_columns(dict(zip(pixel_names(rows.shape[1]), rows.T, strict=True)))


class PictureBackend:
    """A model that looks at pictures, asked through its library or through its plan.

    Parameters
    ----------
    model : PictureModel or CompiledPixels
    picture_inputs : mapping of str to str
        The model's input by field.
    columns : sequence of Column
        What it takes beside pictures.
    """

    compiled: "CompiledModel | None" = None
    pause: Callable[[], None] = staticmethod(_no_pause)

    def __init__(
        self, model: "PictureModel | CompiledPixels", picture_inputs: Mapping[str, str], columns: Sequence["Column"]
    ) -> None:
        from ..pictures.preparer import Preparer

        self._model, self.picture_inputs, self._columns = model, dict(picture_inputs), list(columns)
        self._prepare = Preparer()

    def prepared(self, field: str, value: Mapping[str, object]) -> "Prepared":
        """One picture as the model sees it.

        Parameters
        ----------
        field : str
            Its name.
        value : mapping
            As it was sent.

        Raises
        ------
        InputFaults
            Naming the field, if it cannot be read.
        """
        try:
            return self._prepare(value)
        except PictureNotRead as error:
            raise InputFaults([Fault(field, str(error))]) from error

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        """As `Backend.predict`.

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
            prepared = {id(row[field]): picture_in(row, field) for row in rows}
            by_picture = {key: self.prepared(field, value).input for key, value in prepared.items()}
            pictures[name] = [by_picture[id(row[field])] for row in rows]
        return self._model.predict(pictures, self._table(rows))

    def predict_columns(self, columns: Columns) -> np.ndarray:
        """As `Backend.predict_columns`."""
        self.pause()
        names = list(columns)
        return self.predict([dict(zip(names, values, strict=True)) for values in zip(*columns.values(), strict=True)])

    def outputs(self, row: Row) -> dict[str, np.ndarray]:
        """All outputs by name for one row, of a model whose answer lies in the picture.

        Parameters
        ----------
        row : Row
            Value by column.

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        ModelFailed
            If the model raises, or is of another kind.
        """
        from ..formats.picture_input import in_picture_model

        model = None if isinstance(self._model, CompiledPixels) else in_picture_model(self._model)
        if model is None:
            raise ModelFailed("This model's answer does not lie in a picture.", traceback="")
        pictures = {
            name: [self.prepared(field, picture_in(row, field)).input] for field, name in self.picture_inputs.items()
        }
        return model.outputs(pictures, self._table([row]))

    def written(self, row: Row) -> WrittenReply:
        """As `Writes.written`, where the model is a function.

        Parameters
        ----------
        row : Row

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        ModelFailed
            If the function raises, or answers otherwise.
        """
        write = getattr(self._model, "write", None)
        if write is None:
            raise ModelFailed("This model answers with numbers.", traceback="")
        pictures = {
            name: [self.prepared(field, picture_in(row, field)).input] for field, name in self.picture_inputs.items()
        }
        reply: WrittenReply = write(pictures, self._table([row]))
        return reply

    def predict_inputs(self, row: Row, field: str, inputs: np.ndarray, *, pauses: bool = True) -> np.ndarray:
        """Outputs for one row with its picture in `field` replaced by each of `inputs`, of shape (n, *input).

        Without pauses it may be asked from any thread.

        Parameters
        ----------
        row : Row
            Value by column.
        field : str
            The field that holds the picture.
        inputs : ndarray
            Prepared pictures, one each place.
        pauses : bool, optional
            Whether others may be answered in between.
        """
        if pauses:
            self.pause()
        pictures: dict[str, Sequence[np.ndarray]] = {}
        for other, name in self.picture_inputs.items():
            if other == field:
                pictures[name] = cast("Sequence[np.ndarray]", inputs)
            else:
                pictures[name] = [self.prepared(other, picture_in(row, other)).input] * len(inputs)
        return self._model.predict(pictures, self._table([dict(row)] * len(inputs)))

    def _table(self, rows: Sequence[Row]) -> "pd.DataFrame | None":
        if not self._columns:
            return None
        from ..formats.model_table import model_table

        return model_table(self._columns, rows)
