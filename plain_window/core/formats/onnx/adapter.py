"""The adapter for ONNX models of tables, asked through onnxruntime."""

import re
from collections.abc import Sequence
from typing import Any

import numpy as np
import onnx
import onnxruntime
import pandas as pd

from ...contract.inspection import Found
from ...errors import ModelFailed, ModelNotOpened
from ...fields.columns import ColumnUse
from ...plan.building import Block, Builder, CannotCompile, Raw
from ..adapter import SINGLE_PRECISION, NativeModel
from ..calling import ask
from .outputs import TEXT, OnnxOutputs
from .session import NUMBERS, OpenedGraph

__all__ = ["OnnxModel", "as_array"]


class OnnxModel(NativeModel):
    """A model of a table.

    Parameters
    ----------
    graph : OpenedGraph

    Raises
    ------
    ModelNotOpened
        If it cannot be read, uses an operator that is not known, or wants pictures.
    """

    def __init__(self, graph: OpenedGraph) -> None:
        document, self._session = graph.document, graph.session
        self._inputs = list(self._session.get_inputs())
        _refuse_other_shapes(self._inputs)
        self._outputs = OnnxOutputs(document, self._session, self._probe())
        self.found = self._found(document)
        self.tolerance = SINGLE_PRECISION

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`."""
        inputs = self._inputs_of(table)
        return ask(lambda: self._outputs.table(self._session.run(None, inputs)))

    def compile_onto(self, builder: Builder, value: Raw | Block) -> Block:
        """The steps of this model on what came before it.

        Parameters
        ----------
        builder : Builder
            Steps are added to it.
        value : Raw or Block
            What came before the model.

        Raises
        ------
        CannotCompile
            Always.
        """
        raise CannotCompile("ONNX models have no compiled form; onnxruntime serves them.")

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        if self.found.features is None:
            return {name: ColumnUse(wants="number") for name in names} if self._inputs[0].type != TEXT else {}
        wants = {item.name: "number" for item in self._inputs if item.type != TEXT}
        return {name: ColumnUse(wants="number") for name in names if name in wants}

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """The table's own names where the file's differ only in what is no letter or number.

        Parameters
        ----------
        names : sequence of str
            Columns of the table.
        categories : mapping
            The distinct values of the table's columns of words.
        """
        written = {re.sub(r"\W", "_", name): name for name in names}
        features = self.found.features or []
        if features and not set(features) <= set(names) and all(name in written for name in features):
            return [written[name] for name in features]
        return None

    def _inputs_of(self, table: pd.DataFrame) -> dict[str, np.ndarray]:
        if len(self._inputs) == 1:
            item = self._inputs[0]
            return {item.name: as_array(table, item.type)}
        inputs = {}
        for item, name in zip(self._inputs, table.columns, strict=True):
            column = as_array(table[[name]], item.type)
            inputs[item.name] = column if len(item.shape) == 2 else column[:, 0]
        return inputs

    def _probe(self) -> list[Any] | None:
        """What comes out for one row of nothing in particular; None if the model takes no such row."""
        n_features = _width(self._inputs[0]) or 1
        frame = {f"{at}": [0.0] for at in range(n_features if len(self._inputs) == 1 else len(self._inputs))}
        try:
            return self._session.run(None, self._inputs_of(pd.DataFrame(frame)))
        except Exception:  # a row of zeros may be refused for any reason; the table's rows will tell
            return None

    def _found(self, document: onnx.ModelProto) -> Found:
        several = len(self._inputs) > 1
        one_wide = _width(self._inputs[0])
        name = document.producer_name or None
        version = " ".join(part for part in (name, document.producer_version) if part)
        return Found(
            format="onnx",
            library="ONNX",
            saved_with=version or None,
            running=f"onnxruntime {onnxruntime.__version__}",
            steps=list(dict.fromkeys(node.op_type for node in document.graph.node))[:12],
            task=self._outputs.task,
            features=[item.name for item in self._inputs] if several else None,
            n_features=len(self._inputs) if several else one_wide,
            classes=self._outputs.classes,
            gives_probabilities=self._outputs.probabilities is not None,
            warnings=[],
            task_is_guessed=self._outputs.is_guessed,
            output_names=self._outputs.output_names,
        )


def _width(item: Any) -> int | None:
    last = item.shape[-1] if len(item.shape) > 1 else 1
    return last if isinstance(last, int) and last > 0 else None


def _refuse_other_shapes(inputs: Sequence[Any]) -> None:
    for item in inputs:
        if len(item.shape) >= 3:
            shape = " × ".join(str(part) if isinstance(part, int) else "any" for part in item.shape)
            raise ModelNotOpened(
                f"The ONNX model's input `{item.name}` has the shape {shape}: it wants pictures or sequences, not rows "
                "of a table."
            )
        if item.type not in NUMBERS and item.type != TEXT:
            raise ModelNotOpened(f"The ONNX model's input `{item.name}` is a {item.type}, which no field gives.")
        if len(inputs) > 1 and (_width(item) or 1) > 1:
            raise ModelNotOpened(
                f"The ONNX model has several inputs, of which `{item.name}` is {_width(item)} columns wide. Export it "
                "with one input for all columns, or one for each."
            )


def as_array(table: pd.DataFrame, type_: str) -> np.ndarray:
    """A table as what an input of this type takes.

    Parameters
    ----------
    table : pandas.DataFrame
    type_ : str
        ONNX's name of an element's type.

    Raises
    ------
    ModelFailed
        Naming the column that does not fit.
    """
    if type_ == TEXT:
        return table.astype("object").map(lambda value: "" if pd.isna(value) else str(value)).to_numpy()
    for name in table.columns:
        if not pd.api.types.is_numeric_dtype(table[name]) and not pd.api.types.is_bool_dtype(table[name]):
            try:
                pd.to_numeric(table[name])
            except (ValueError, TypeError):
                raise ModelFailed(
                    f"The model wants numbers in `{name}`; the table has words there.", traceback=""
                ) from None
    numbers = table.apply(pd.to_numeric).to_numpy(dtype="float64")
    if "int" in type_ and np.isnan(numbers).any():
        raise ModelFailed("The model takes whole numbers only, and a value is missing.", traceback="")
    return numbers.astype(NUMBERS[type_])
