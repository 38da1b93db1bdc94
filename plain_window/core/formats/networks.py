"""Networks of PyTorch and Keras: converted where their libraries are, and held against the original."""

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from ..errors import ModelFailed, ModelNotOpened
from .network_files import LIBRARY_OF
from .own_libraries import GuestLine, asked_of

if TYPE_CHECKING:
    from .adapter import ModelAdapter
    from .onnx.session import OpenedGraph
    from .picture_input import PictureModel

__all__ = ["MOST_DIFFERENT", "Conversion", "conversion_words", "open_network"]

# By how much an output of the converted network may differ, for outputs of the size of probabilities.
MOST_DIFFERENT = 1e-4
# Of the cases that it is asked about while it is taken in so many are asked of the original too.
MOST_COMPARED = 200
# What is tried in place of a side that is left open.
FREE, SEED = 64, 20261127
# What crosses to whoever keeps it is bounded.
MOST_BYTES = 200 << 20
TYPES = {"float32": "tensor(float)", "float64": "tensor(double)", "float16": "tensor(float16)",
         "int64": "tensor(int64)", "int32": "tensor(int32)", "uint8": "tensor(uint8)"}  # fmt: skip


class Conversion:
    """What became of a network: its ONNX file, how far that was compared, or why there is none.

    Attributes
    ----------
    content : bytes or None
        The ONNX file.
    obstacle : str
        Why there is none.
    n_compared : int
    largest_difference : float
        Of any output, relative where outputs are larger than 1.
    """

    def __init__(self, content: bytes | None, obstacle: str, library: str) -> None:
        self.content, self.obstacle, self.library = content, obstacle, library
        self.n_compared, self.largest_difference = 0, 0.0

    @property
    def is_same(self) -> bool:
        """Whether it may stand for the original, as far as it was compared."""
        return self.content is not None and self.n_compared > 0 and self.largest_difference <= MOST_DIFFERENT

    def note(self, original: Sequence[np.ndarray], converted: Sequence[Any], n_rows: int) -> None:
        """Count a comparison.

        Parameters
        ----------
        original, converted : sequence of ndarray
            Output by output.
        n_rows : int
            How many cases they are of.
        """
        self.n_compared += n_rows
        if len(original) != len(converted):
            self.largest_difference = float("inf")
            return
        for one, other in zip(original, map(np.asarray, converted), strict=True):
            self.largest_difference = max(self.largest_difference, _difference(one, other))


def conversion_words(conversion: Conversion, *, has_cases: bool) -> str:
    """What became of a network, as its author reads it.

    Parameters
    ----------
    conversion : Conversion
    has_cases : bool
        Whether real cases were among what it was compared on.
    """
    if conversion.content is None:
        reason = f": {conversion.obstacle.rstrip('.')}" if conversion.obstacle else ""
        return f"The network could not be converted to ONNX{reason}. It is served as it is, by {conversion.library}."
    difference = conversion.largest_difference
    shown = f"at most {difference:.1g}" if difference else "nothing"
    return (
        f"The network was converted to ONNX and compared with the original by {conversion.library} on "
        f"{conversion.n_compared} inputs{'' if has_cases else ', all of them noise'}: outputs differ by {shown}. "
        + ("" if has_cases else "Bring known cases, and they are compared too. ")
        + "From now on onnxruntime serves it."
    )


def _difference(original: np.ndarray, converted: np.ndarray) -> float:
    if original.size != converted.size:
        return float("inf")
    before, after = original.astype("float64").ravel(), converted.astype("float64").ravel()
    if not (np.isfinite(before) == np.isfinite(after)).all():
        return float("inf")
    known = np.isfinite(before)
    if not known.any():
        return 0.0
    return float((np.abs(before - after)[known] / np.maximum(1.0, np.abs(before[known]))).max())


@dataclass(frozen=True)
class _Input:
    name: str
    shape: list[Any]
    type: str


class _ComparedSession:
    """onnxruntime's session of the converted network, that asks the original too for the first cases."""

    def __init__(self, session: Any, line: GuestLine, conversion: Conversion) -> None:
        self._session, self._line, self._conversion = session, line, conversion
        self._names = [item.name for item in session.get_inputs()]

    def get_inputs(self) -> Sequence[Any]:
        return list(self._session.get_inputs())

    def get_outputs(self) -> Sequence[Any]:
        return list(self._session.get_outputs())

    def compare_noise(self) -> None:
        """Ask both about noise: a branch that tracing took for good shows there."""
        for arrays in _noise(self._session.get_inputs()):
            try:
                self.run(None, dict(zip(self._names, arrays, strict=True)))
            except Exception:  # what it takes may be narrower than its shape says; real inputs will tell
                continue

    def run(self, names: Sequence[str] | None, inputs: Mapping[str, np.ndarray]) -> list[Any]:
        found: list[Any] = self._session.run(names, dict(inputs))
        n_rows = len(next(iter(inputs.values())))
        if self._conversion.n_compared < MOST_COMPARED and names is None:
            original = asked_of(self._line, "run", arrays=[np.asarray(inputs[name]) for name in self._names])
            self._conversion.note(original, found, n_rows)
        return found


class _SessionElsewhere:
    """The network as it is, asked where its libraries are, as a session of onnxruntime's is asked."""

    def __init__(self, line: GuestLine, inputs: Sequence[_Input], outputs: Sequence[_Input]) -> None:
        self._line, self._inputs, self._outputs = line, list(inputs), list(outputs)

    def get_inputs(self) -> Sequence[Any]:
        return self._inputs

    def get_outputs(self) -> Sequence[Any]:
        return self._outputs

    def run(self, _names: Sequence[str] | None, inputs: Mapping[str, np.ndarray]) -> list[Any]:
        return list(asked_of(self._line, "run", arrays=[np.asarray(inputs[one.name]) for one in self._inputs]))


def open_network(
    line: GuestLine, kind: str, name: str | None, *, as_it_is: bool = False
) -> "tuple[ModelAdapter | PictureModel, Conversion]":
    """Have a network opened where its libraries are, and make a model of it.

    Parameters
    ----------
    line : GuestLine
    kind : str
        What the file is, by `network_kind`.
    name : str or None
        Which class makes it, where it has to be said.
    as_it_is : bool, optional
        Ask the original, though it could be converted: its conversion was found to say otherwise.

    Raises
    ------
    ModelNotOpened
        If it cannot be opened, or what it takes or gives is nothing that can be shown.
    """
    from .onnx.opening import model_of_graph

    files = {part: line.descriptor(part) for part in ("model", "beside")}
    opened = asked_of(line, "open_network", kind=kind, name=name, **files)
    library = f"{opened['library']} {opened['version']}"
    content, obstacle = opened["onnx"], str(opened["obstacle"])
    if content is not None and len(content) > MOST_BYTES:
        content, obstacle = None, f"as ONNX it is larger than {MOST_BYTES >> 20} MB"
    conversion = Conversion(None if as_it_is else content, obstacle, library)
    try:
        graph = _graph(line, opened, conversion)
        model = model_of_graph(graph)
    except (ModelNotOpened, ModelFailed):
        if conversion.content is None:
            raise
        conversion.content, conversion.obstacle = None, "what was made of it cannot be read as it was"
        model = model_of_graph(_graph(line, opened, conversion))
    _state_preparation(model, opened["stated"])
    layers = [str(layer) for layer in opened["layers"]]
    running = "onnxruntime" if conversion.content is not None else library
    changes = {
        "format": kind,
        "library": LIBRARY_OF[kind],
        "saved_with": None,
        "running": f"{running}, converted from {library}" if conversion.content is not None else library,
        "steps": layers or model.found.steps,
    }
    model.found = model.found.model_copy(update=changes)
    return model, conversion


def _graph(line: GuestLine, opened: Mapping[str, Any], conversion: Conversion) -> "OpenedGraph":
    import onnx

    from .onnx.session import OpenedGraph, open_graph

    if conversion.content is not None:
        document = onnx.ModelProto.FromString(conversion.content)
        _state(document, opened["stated"])
        conversion.content = document.SerializeToString()
        graph = open_graph(conversion.content)
        session = _ComparedSession(graph.session, line, conversion)
        session.compare_noise()
        return OpenedGraph(graph.document, session)
    inputs = [
        _Input(one["name"], [size if size else "any" for size in one["shape"]], TYPES.get(one["dtype"], ""))
        for one in opened["inputs"]
    ]
    found = [list(map(np.asarray, asked_of(line, "run", arrays=arrays))) for arrays in _noise(inputs)]
    outputs = [
        _Input(f"output{at + 1}", ["any", *value.shape[1:]], TYPES.get(str(value.dtype), "tensor(float)"))
        for at, value in enumerate(found[0])
    ]
    shares = [one.name for at, one in enumerate(outputs) if all(_are_probabilities(each[at]) for each in found)]
    return OpenedGraph(_document(inputs, shares, opened["stated"]), _SessionElsewhere(line, inputs, outputs))


def _noise(inputs: Sequence[Any]) -> list[list[np.ndarray]]:
    """Inputs of several sizes that are noise: a branch that depends on them shows there."""
    random = np.random.default_rng(SEED)
    noises: tuple[Callable[[list[int]], Any], ...] = (
        np.zeros,
        lambda shape: random.uniform(0, 1, shape),
        np.ones,
        lambda shape: random.normal(0, 3, shape),
        lambda shape: random.uniform(0, 255, shape),
    )
    return [[np.asarray(noise(_sizes(item))).astype(_dtype(item)) for item in inputs] for noise in noises]


def _sizes(item: Any) -> list[int]:
    others = [2, *([FREE] * (len(item.shape) - 1))]
    return [one if isinstance(one, int) and one > 0 else other for one, other in zip(item.shape, others, strict=True)]


def _are_probabilities(output: np.ndarray) -> bool:
    """Whether each row adds up to 1, of numbers from 0 to 1."""
    if output.ndim != 2 or output.shape[1] < 2 or not np.isfinite(output).all():
        return False
    return bool((output >= 0).all() and (np.abs(output.sum(axis=1) - 1) < MOST_DIFFERENT).all())


def _dtype(one: Any) -> str:
    return next((name for name, type_ in TYPES.items() if type_ == one.type), "float32")


def _document(inputs: Sequence[_Input], shares: Sequence[str], stated: Mapping[str, str]) -> Any:
    """What ONNX would say of a network that could not be converted: its inputs, which outputs are probabilities."""
    import onnx

    items = [
        onnx.helper.make_tensor_value_info(
            one.name, onnx.TensorProto.FLOAT, [size if isinstance(size, int) else None for size in one.shape]
        )
        for one in inputs
    ]
    nodes = [onnx.helper.make_node("Softmax", [inputs[0].name], [name]) for name in shares]
    document = onnx.helper.make_model(onnx.helper.make_graph(nodes, "network", items, []))
    _state(document, stated)
    return document


def _state(document: Any, stated: Mapping[str, str]) -> None:
    """Put into ONNX's own metadata what the network says of its classes and of pixels."""
    known = {one.key for one in document.metadata_props}
    for key, value in stated.items():
        if key not in known and key not in ("mean", "spread"):
            entry = document.metadata_props.add()
            entry.key, entry.value = key, value


def _state_preparation(model: "ModelAdapter | PictureModel", stated: Mapping[str, str]) -> None:
    """Put mean and spread of the training's pictures where they were stated."""
    pictures = getattr(model, "pictures", None)
    if not pictures or len(pictures) != 1 or "mean" not in stated:
        return
    from .picture_input import PictureInput

    mean, spread = json.loads(stated["mean"]), json.loads(stated["spread"])
    one: PictureInput = pictures[0]
    if len(mean) != one.preparation.n_channels or len(spread) != len(mean):
        return
    prepared = one.preparation.model_copy(update={"scale": "spread", "mean": mean, "spread": spread})
    known = frozenset({*one.stated, "scale", "mean", "spread"})
    model.pictures = [PictureInput(one.name, prepared, known)]  # type: ignore[union-attr]
