"""A network of PyTorch: an exported program, a scripted or pickled module, or weights with their class."""

import inspect
import io
import json
import warnings
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial
from types import ModuleType
from typing import Any, BinaryIO

import numpy as np
import torch

from ..errors import Fault, MismatchFaults, ModelNotOpened
from .failing import reason_of
from .network import NetworkInput

__all__ = ["TorchNetwork"]

# Under these names training scripts put weights beside what else they keep.
WRAPPED = ("state_dict", "model_state_dict", "model", "net", "network", "weights", "module")
PREFIXES = ("module.", "model.", "net.", "network.", "_orig_mod.")
# Sides that networks of pictures are trained with, the commonest first.
SIDES = (224, 32, 28, 64, 128, 96, 256, 48, 16, 299, 384, 512)
OTHER_SIDE, BATCH = 96, 2
MOST_LAYERS = 12
TENSORS = {torch.float32: "float32", torch.float64: "float64", torch.float16: "float16", torch.int64: "int64",
           torch.int32: "int32", torch.uint8: "uint8"}  # fmt: skip


class TorchNetwork:
    """A network of PyTorch.

    Parameters
    ----------
    kind : str
        What the file is.
    file : binary file
    code : sequence of module
        What came along.
    name : str or None
        Which class or function of it makes the network.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """

    library = "PyTorch"

    def __init__(self, kind: str, file: BinaryIO, code: Sequence[ModuleType], name: str | None) -> None:
        self.version = str(torch.__version__)
        torch.set_num_threads(1)
        self.notes: list[str] = []
        self._program: Any = None
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            self._module = self._opened(kind, file, code, name)
        if self._program is None:
            self._module.eval()
        self.stated = _stated(self._module)
        self.layers = _layers(self._module) if self._program is None else _steps(self._program)
        self.inputs = self._inputs_of_program() if self._program is not None else self._inputs_of_module()

    def _opened(self, kind: str, file: BinaryIO, code: Sequence[ModuleType], name: str | None) -> Any:
        match kind:
            case "torch-exported":
                self._program = torch.export.load(file)
                return self._program.module()
            case "torch-scripted":
                return torch.jit.load(file, map_location="cpu")
            case "safetensors":
                from safetensors.torch import load

                return _with_weights(load(file.read()), code, name)
        found = torch.load(file, map_location="cpu", weights_only=False)
        if isinstance(found, torch.nn.Module):
            return found
        if isinstance(found, Mapping):
            inner = next((found[one] for one in WRAPPED if isinstance(found.get(one), torch.nn.Module)), None)
            return inner if inner is not None else _with_weights(found, code, name)
        raise ModelNotOpened(f"The PyTorch file holds a `{type(found).__name__}`, which is no network.")

    # --- what it takes ------------------------------------------------------------------------------------------------

    def _inputs_of_program(self) -> list[NetworkInput]:
        names = list(self._program.graph_signature.user_inputs)
        nodes = {node.name: node for node in self._program.graph.nodes if node.op == "placeholder"}
        inputs = []
        for name in names:
            value = nodes[name].meta["val"]
            shape = [size if isinstance(size, int) else None for size in value.shape]
            inputs.append(NetworkInput(str(name), shape, TENSORS.get(value.dtype, "float32")))
        return inputs

    def _inputs_of_module(self) -> list[NetworkInput]:
        stated = _stated_inputs(self._module)
        if stated:
            return stated
        for shape in self._tried_shapes():
            if self._takes(shape):
                return [NetworkInput("input", [None, *self._with_open_sides(shape)], "float32")]
        raise ModelNotOpened(
            "Nothing in the PyTorch file says what the network takes, and no picture or row of numbers that was tried "
            "fits. Set `example_input_array` of the network to what it takes before you save it, or export it with "
            "`torch.export`."
        )

    def _tried_shapes(self) -> Iterator[tuple[int, ...]]:
        stated = _stated_shape(self._module)
        if stated is not None:
            yield stated
        for weight in _weights(self._module):
            if weight.ndim == 4:
                yield from ((int(weight.shape[1]), side, side) for side in SIDES)
                return
            if weight.ndim == 2:
                yield (int(weight.shape[1]),)
                # What comes before a first layer of rows may flatten a picture.
                side = round(float(weight.shape[1]) ** 0.5)
                yield (1, side, side)
                return

    def _takes(self, shape: Sequence[int]) -> bool:
        try:
            with torch.no_grad():
                self._module(torch.zeros(BATCH, *shape))
        except Exception:  # any refusal means the same: not this shape
            return False
        return True

    def _with_open_sides(self, shape: tuple[int, ...]) -> list[int | None]:
        """Where another size fits as well, none is stated."""
        if len(shape) == 3 and _stated_shape(self._module) is None and self._takes((shape[0], OTHER_SIDE, OTHER_SIDE)):
            return [shape[0], None, None]
        return list(shape)

    # --- what it does -------------------------------------------------------------------------------------------------

    def run(self, arrays: Sequence[np.ndarray]) -> list[np.ndarray]:
        """As `Network.run`."""
        with torch.no_grad(), warnings.catch_warnings():
            warnings.simplefilter("ignore")
            found = self._module(*(torch.from_numpy(np.array(array)) for array in arrays))
        return [tensor.detach().cpu().numpy() for tensor in _tensors(found)]

    def onnx(self) -> bytes:
        """As `Network.onnx`: by whichever of PyTorch's ways takes it.

        Raises
        ------
        ModelNotOpened
            If none does.
        """
        ways: list[Callable[[], bytes]] = [self._traced, self._exported]
        if self._program is not None:
            ways = [self._exported, self._traced]
        reasons = []
        for way in ways:
            try:
                with warnings.catch_warnings(), torch.no_grad():
                    warnings.simplefilter("ignore")
                    return way()
            except Exception as error:  # each of them has its own reasons
                reasons.append(reason_of(error))
        raise ModelNotOpened("; ".join(dict.fromkeys(reasons))[:300])

    def _examples(self) -> tuple[torch.Tensor, ...]:
        return tuple(torch.from_numpy(one.example(BATCH, SIDES[0])) for one in self.inputs)

    def _traced(self) -> bytes:
        made = io.BytesIO()
        names = [one.name for one in self.inputs]
        axes = {one.name: _open_axes(one) for one in self.inputs}
        n_outputs = len(_tensors(self._module(*self._examples())))
        outputs = ["output"] if n_outputs == 1 else [f"output{at + 1}" for at in range(n_outputs)]
        torch.onnx.export(
            self._module,
            self._examples(),
            made,
            dynamo=False,
            input_names=names,
            output_names=outputs,
            dynamic_axes={**axes, **{name: {0: "batch"} for name in outputs}},
        )
        return made.getvalue()

    def _exported(self) -> bytes:
        if self._program is not None:
            made = torch.onnx.export(self._program, dynamo=True, verbose=False)
        else:
            shapes = tuple(dict.fromkeys(_open_axes(one), torch.export.Dim.AUTO) for one in self.inputs)
            made = torch.onnx.export(self._module, self._examples(), dynamo=True, dynamic_shapes=shapes, verbose=False)
        assert made is not None, "it was not written to a file"
        content: bytes = made.model_proto.SerializeToString()
        return content


def _open_axes(one: NetworkInput) -> dict[int, str]:
    names = {0: "batch", 2: "height", 3: "width"}
    return {at: names.get(at, f"size{at}") for at, size in enumerate(one.shape) if size is None}


def _tensors(found: Any) -> list[torch.Tensor]:
    """The tensors of an answer, in their order."""
    if isinstance(found, torch.Tensor):
        return [found]
    parts = found.values() if isinstance(found, Mapping) else found if isinstance(found, list | tuple) else []
    return [tensor for part in parts for tensor in _tensors(part)]


def _weights(module: Any) -> list[Any]:
    return [tensor for tensor in module.state_dict().values() if isinstance(tensor, torch.Tensor) and tensor.ndim > 1]


def _layers(module: Any) -> list[str]:
    names = (getattr(one, "original_name", type(one).__name__) for one in module.modules() if not list(one.children()))
    return list(dict.fromkeys(str(name) for name in names))[:MOST_LAYERS]


def _steps(program: Any) -> list[str]:
    """An exported program has no layers any more, but what they do."""
    calls = (str(node.target).split(".") for node in program.graph.nodes if node.op == "call_function")
    return list(dict.fromkeys(parts[1] if len(parts) > 1 else parts[0] for parts in calls))[:MOST_LAYERS]


def _stated_inputs(module: Any) -> list[NetworkInput]:
    """What `example_input_array` says: one tensor, several in their order, or several by name."""
    example = getattr(module, "example_input_array", None)
    if isinstance(example, torch.Tensor):
        named = {"input": example}
    elif isinstance(example, Mapping):
        # They are given in the order in which the network takes them.
        order = [name for name in _parameters(module) if name in example]
        named = {str(name): example[name] for name in (order if len(order) == len(example) else example)}
    elif isinstance(example, tuple | list):
        names = _parameters(module)
        named = {names[at] if at < len(names) else f"input{at + 1}": one for at, one in enumerate(example)}
    else:
        return []
    if not all(isinstance(one, torch.Tensor) and one.ndim > 0 for one in named.values()):
        return []
    return [
        NetworkInput(name, [None, *one.shape[1:]], TENSORS.get(one.dtype, "float32")) for name, one in named.items()
    ]


def _parameters(module: Any) -> list[str]:
    """What its `forward` calls what it takes."""
    try:
        taken = inspect.signature(module.forward).parameters.values()
    except (TypeError, ValueError, AttributeError):
        return []
    return [one.name for one in taken if one.kind in (one.POSITIONAL_ONLY, one.POSITIONAL_OR_KEYWORD)]


def _stated_shape(module: Any) -> tuple[int, ...] | None:
    """What collections of networks and their configurations say of the picture they take."""
    for settings in (getattr(module, "pretrained_cfg", None), getattr(module, "default_cfg", None)):
        size = settings.get("input_size") if isinstance(settings, Mapping) else None
        if isinstance(size, list | tuple) and len(size) == 3:
            return tuple(int(one) for one in size)
    config = getattr(module, "config", None)
    side, channels = getattr(config, "image_size", None), getattr(config, "num_channels", 3)
    if isinstance(side, int):
        return (int(channels), side, side)
    size = getattr(module, "input_size", None)
    if isinstance(size, list | tuple) and len(size) == 3 and all(isinstance(one, int) for one in size):
        return tuple(size)
    return None


def _stated(module: Any) -> dict[str, str]:
    """Classes and preparation, where the network says them."""
    stated: dict[str, str] = {}
    named = (getattr(module, one, None) for one in ("classes", "class_names", "labels"))
    names = next((one for one in named if one is not None), None)
    by_number = getattr(getattr(module, "config", None), "id2label", None)
    if isinstance(by_number, Mapping):
        names = [name for _, name in sorted(by_number.items())]
    if isinstance(names, list | tuple) and names and all(isinstance(name, str) for name in names):
        stated["names"] = json.dumps(list(names))
    for settings in (getattr(module, "pretrained_cfg", None), getattr(module, "default_cfg", None)):
        if isinstance(settings, Mapping) and settings.get("mean") and settings.get("std"):
            stated["mean"] = json.dumps([float(one) for one in settings["mean"]])
            stated["spread"] = json.dumps([float(one) for one in settings["std"]])
            break
    return stated


def _with_weights(found: Mapping[str, Any], code: Sequence[ModuleType], name: str | None) -> Any:
    """The network that weights belong to, made by one of the classes that came along."""
    weights = _only_weights(found)
    if not code:
        raise ModelNotOpened(
            "The file has weights and no network. Bring the Python file with the network's class `beside` it."
        )
    made, reasons = [], []
    for label, make in _makers(code, name):
        try:
            network = make()
            network.load_state_dict(weights, strict=True)
            made.append((label, network))
        except Exception as error:  # a class may want anything of who makes it
            reasons.append(f"`{label}`: {reason_of(error)}")
    if len(made) == 1:
        return made[0][1]
    if made:
        names = tuple(label for label, _ in made)
        message = f"The weights fit several classes: {', '.join(names)}. Say which as `function_name`."
        raise MismatchFaults([Fault("function_name", message, "function_name", names)])
    raise ModelNotOpened(
        "The weights fit no class of the file beside them that can be made without arguments. "
        f"{'; '.join(reasons)[:400].rstrip('.')}."
    )


def _makers(code: Sequence[ModuleType], name: str | None) -> Iterator[tuple[str, Callable[[], Any]]]:
    for module in code:
        for label, value in vars(module).items():
            if name is not None and label != name:
                continue
            is_class = isinstance(value, type) and issubclass(value, torch.nn.Module)
            is_own = getattr(value, "__module__", None) == module.__name__
            if isinstance(value, torch.nn.Module) and name is not None:
                yield label, partial(_itself, value)
            elif (is_class and is_own) or (name is not None and callable(value)):
                yield label, value


def _itself(network: Any) -> Any:
    return network


def _only_weights(found: Mapping[str, Any]) -> dict[str, Any]:
    inner = next((found[one] for one in WRAPPED if isinstance(found.get(one), Mapping)), found)
    weights = {str(name): value for name, value in inner.items() if isinstance(value, torch.Tensor)}
    if not weights:
        raise ModelNotOpened("The PyTorch file holds neither a network nor weights.")
    for prefix in PREFIXES:
        # Training on several devices, or compiled, puts a name in front of all of them.
        if all(name.startswith(prefix) for name in weights):
            weights = {name.removeprefix(prefix): value for name, value in weights.items()}
    return weights
