"""The adapter for ONNX models of tables, asked through onnxruntime."""

import re
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
import onnx
import onnxruntime
import pandas as pd

from ..compiled.building import Block, Builder, CannotCompile, Raw
from ..errors import ModelFailed, ModelNotOpened
from ..fields.inference import ColumnUse
from .adapter import SINGLE_PRECISION, NativeModel
from .calling import ask
from .found import Found

__all__ = ["OnnxModel"]

NUMBERS = {
    "tensor(float)": "float32",
    "tensor(double)": "float64",
    "tensor(float16)": "float16",
    "tensor(int64)": "int64",
    "tensor(int32)": "int32",
    "tensor(bool)": "bool",
}
TEXT = "tensor(string)"
# Operators that end in probabilities.
TO_PROBABILITIES = ("Softmax", "Sigmoid")
MAX_CLASSES = 10_000


class OnnxModel(NativeModel):
    """A model of a table.

    Parameters
    ----------
    content : bytes
        The file.

    Raises
    ------
    ModelNotOpened
        If it cannot be read, uses an operator that is not known, or wants pictures.
    """

    def __init__(self, content: bytes) -> None:
        document = _read(content)
        self._session = _session(content)
        self._inputs = list(self._session.get_inputs())
        _refuse_other_shapes(self._inputs)
        self._said = _Outputs(document, self._session, self._probe())
        self.found = self._found(document)
        self.tolerance = SINGLE_PRECISION

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`."""
        given = self._given(table)
        return ask(lambda: self._said.table(self._session.run(None, given)))

    def compile_onto(self, builder: Builder, value: Raw | Block) -> Block:
        """The steps of this model on what came before it."""
        raise CannotCompile("ONNX models have no compiled form; onnxruntime serves them.")

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        if self.found.features is None:
            return {name: ColumnUse(wants="number") for name in names} if self._inputs[0].type != TEXT else {}
        wants = {item.name: "number" for item in self._inputs if item.type != TEXT}
        return {name: ColumnUse(wants="number") for name in names if name in wants}

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """The table's own names where the file's differ only in what is no letter or number."""
        written = {re.sub(r"\W", "_", name): name for name in names}
        features = self.found.features or []
        if features and not set(features) <= set(names) and all(name in written for name in features):
            return [written[name] for name in features]
        return None

    def _given(self, table: pd.DataFrame) -> dict[str, np.ndarray]:
        if len(self._inputs) == 1:
            item = self._inputs[0]
            return {item.name: _as_array(table, item.type)}
        given = {}
        for item, name in zip(self._inputs, table.columns, strict=True):
            column = _as_array(table[[name]], item.type)
            given[item.name] = column if len(item.shape) == 2 else column[:, 0]
        return given

    def _probe(self) -> list[Any] | None:
        """What comes out for one row of nothing in particular; None if the model takes no such row."""
        n_features = _width(self._inputs[0]) or 1
        frame = {f"{at}": [0.0] for at in range(n_features if len(self._inputs) == 1 else len(self._inputs))}
        try:
            return self._session.run(None, self._given(pd.DataFrame(frame)))
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
            task=self._said.task,
            features=[item.name for item in self._inputs] if several else None,
            n_features=len(self._inputs) if several else one_wide,
            classes=self._said.classes,
            gives_probabilities=self._said.probabilities is not None,
            warnings=[],
        )


def _read(content: bytes) -> onnx.ModelProto:
    try:
        document = onnx.ModelProto.FromString(content)
    except Exception as error:  # the parser's error depends on its build
        raise ModelNotOpened(
            "The model file is damaged, or is neither ONNX nor another format that is known here. Export it once more."
        ) from error
    if not document.graph.node:
        raise ModelNotOpened("The model file holds no ONNX model: its graph has no steps. Export it once more.")
    if any(tensor.data_location == onnx.TensorProto.EXTERNAL for tensor in document.graph.initializer):
        raise ModelNotOpened("The ONNX model keeps its weights in a file of their own. Save it as one file.")
    return document


def _session(content: bytes) -> onnxruntime.InferenceSession:
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = options.inter_op_num_threads = 1
    options.log_severity_level = 4
    try:
        return onnxruntime.InferenceSession(content, options, providers=["CPUExecutionProvider"])
    except Exception as error:  # onnxruntime's own errors have no common parent but this one
        text = str(error)
        unknown = re.search(
            r"(?:No Op registered for|No opset import|Unrecognized|unregistered).*?(\w+)(?: with| op|$)", text
        )
        fatal = re.search(r"([A-Za-z][\w.:]*)\(?-?\d*\)? is not a registered function/op", text)
        operator = fatal or unknown
        if operator:
            raise ModelNotOpened(
                f"The ONNX model uses the operator `{operator.group(1)}`, which onnxruntime does not have. "
                "Export it with standard operators."
            ) from error
        reason = text.split("\n")[0][:200]
        raise ModelNotOpened(f"onnxruntime could not load the model: {reason}") from error


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


def _as_array(table: pd.DataFrame, type_: str) -> np.ndarray:
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


class _Outputs:
    """What the outputs mean, told from the graph and from one row that was asked."""

    def __init__(
        self, document: onnx.ModelProto, session: onnxruntime.InferenceSession, probe: list[Any] | None
    ) -> None:
        self._outputs = list(session.get_outputs())
        self._makers: Mapping[str, onnx.NodeProto] = {
            name: node for node in document.graph.node for name in node.output
        }
        self.probabilities: int | None = None
        self._label: int | None = None
        self._link = "none"
        self.classes: list[str] | None = None
        self.task = "number"
        self._known = _class_names(document)
        self._decide(probe)

    def table(self, said: list[Any]) -> np.ndarray:
        """Probabilities in class order, 1 at the predicted class, or numbers: shape (n_rows, n_outputs)."""
        if self.probabilities is not None:
            return self._probabilities(said[self.probabilities])
        if self._label is not None:
            labels = [_plain(value) for value in np.ravel(said[self._label])]
            return np.array([[float(name == label) for name in self.classes or []] for label in labels])
        return np.asarray(said[0], dtype="float64").reshape(len(said[0]), -1)

    def _probabilities(self, said: Any) -> np.ndarray:
        if isinstance(said, list):
            by_name = [{_plain(name): value for name, value in row.items()} for row in said]
            return np.array([[row[name] for name in self.classes or []] for row in by_name], dtype="float64")
        out = np.asarray(said, dtype="float64").reshape(len(said), -1)
        if self._link == "softmax":
            exponents = np.exp(out - out.max(axis=1, keepdims=True))
            return exponents / exponents.sum(axis=1, keepdims=True)
        return np.column_stack([1 - out, out]) if out.shape[1] == 1 else out

    def _decide(self, probe: list[Any] | None) -> None:
        types = [item.type for item in self._outputs]
        maps = [at for at, type_ in enumerate(types) if type_.startswith("seq(map")]
        labels = [at for at, type_ in enumerate(types) if type_ in (TEXT, "tensor(int64)", "tensor(int32)")]
        floats = [at for at, type_ in enumerate(types) if type_ in ("tensor(float)", "tensor(double)")]
        if maps:
            self._take_classes(maps[0], labels, list(probe[maps[0]][0]) if probe else None)
        elif labels and floats:
            self._take_classes(floats[0], labels, None, width=self._width_of(floats[0], probe))
        elif labels:
            self.task, self._label = "class", labels[0]
            self.classes = self._known
            if self.classes is None:
                raise ModelNotOpened(
                    "The ONNX model gives only a class and does not name its classes. Export it with probabilities."
                )
        elif floats:
            self._decide_floats(floats[0], probe)
        else:
            raise ModelNotOpened(f"The ONNX model's output is a {types[0]}, which is no answer that is known here.")

    def _take_classes(self, at: int, labels: list[int], names: list[Any] | None, *, width: int | None = None) -> None:
        self.task, self.probabilities = "class", at
        known = [_plain(name) for name in names] if names is not None else self._known
        if known is None and width is not None:
            known = [str(number) for number in range(max(width, 2))]
        if known is None:
            raise ModelNotOpened("The ONNX model does not name its classes. Export it with them, or without ZipMap.")
        self.classes = known

    def _width_of(self, at: int, probe: list[Any] | None) -> int | None:
        stated = self._outputs[at].shape[-1] if self._outputs[at].shape else None
        if isinstance(stated, int):
            return stated
        return int(np.asarray(probe[at]).reshape(1, -1).shape[1]) if probe is not None else None

    def _decide_floats(self, at: int, probe: list[Any] | None) -> None:
        """One table of numbers: probabilities if the graph ends in what makes them, numbers otherwise."""
        width = self._width_of(at, probe) or 1
        maker = self._makers.get(self._outputs[at].name)
        ends_in = maker.op_type if maker is not None else ""
        if ends_in in TO_PROBABILITIES and not (ends_in == "Sigmoid" and width > 1):
            self._take_classes(at, [], None, width=width)
        elif ends_in == "Sigmoid":
            self.task, self.probabilities = "labels", at
            self.classes = self._known or [f"Label {number + 1}" for number in range(width)]
        else:
            self.task = "numbers" if width > 1 else "number"


def _class_names(document: onnx.ModelProto) -> list[str] | None:
    """The classes by name, where the graph has them; a map to names in words stands behind one to numbers."""
    nodes = sorted(document.graph.node, key=lambda node: node.op_type != "ZipMap")
    named = [_plain(value) for node in nodes for value in _attribute(node, "classlabels_strings")[:MAX_CLASSES]]
    if named:
        return list(dict.fromkeys(named))
    for tensor in document.graph.initializer:
        # Where converters keep the names that a class's number is looked up in.
        if tensor.name.startswith("classes") and tensor.string_data:
            return [_plain(value) for value in tensor.string_data]
    for name in ("classlabels_int64s", "classlabels_ints"):
        for node in nodes:
            if values := _attribute(node, name):
                return [_plain(value) for value in values]
    return None


def _attribute(node: onnx.NodeProto, name: str) -> list[Any]:
    found = next((attribute for attribute in node.attribute if attribute.name == name), None)
    return [] if found is None else list(found.strings) or list(found.ints)


def _plain(value: Any) -> str:
    plain = value.item() if isinstance(value, np.generic) else value
    return plain.decode("utf-8", errors="replace") if isinstance(plain, bytes) else str(plain)
