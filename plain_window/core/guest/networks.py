"""Networks of PyTorch and Keras: opened, described, converted to ONNX, and asked as they are for comparison."""

import importlib.util
import re
import sys
import tempfile
from collections.abc import Mapping, Sequence
from pathlib import Path
from types import ModuleType
from typing import Any, BinaryIO

from ..errors import ModelNotOpened
from .failing import failure, missing_packages, reason_of
from .loading import unpacked
from .network import Network

__all__ = ["described", "open_network"]

PYTORCH_KINDS = ("torch-exported", "torch-scripted", "torch-pickled", "torch-weights", "safetensors")
MOST_ALIASES = 5
ZIP = b"PK\x03\x04"
# What Python, and what Keras says of a class that it does not know.
MISSING_CLASS = re.compile(
    r"Can't get attribute '(\w+)'|Could not locate class '(?:\w+>)?(\w+)'|Unknown layer: '?(\w+)'?"
)
LACKING = "`{name}` was defined in the script or notebook that it was saved from; bring that Python file `beside` it"


def open_network(kind: str, model: BinaryIO, path: str, beside: BinaryIO | None, name: str | None) -> Network:
    """Open a network with the library it is of.

    Parameters
    ----------
    kind : str
        What the file is: of `PYTORCH_KINDS`, `keras` or `keras-h5`.
    model : binary file
    path : str
        Where the same can be opened by name.
    beside : binary file or None
        A Python file, or a zip archive of some, with the classes that it is made of.
    name : str or None
        Which of them it is, where it has to be said.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    library = "PyTorch" if kind in PYTORCH_KINDS else "Keras"
    try:
        code = _imported(beside) if beside is not None else []
        return _opened(kind, model, path, code, name)
    except ModelNotOpened:
        raise
    # A damaged or hostile file can raise anything, `SystemExit` included; whatever it raises is the reason.
    except BaseException as error:
        lacking = MISSING_CLASS.search(str(error))
        reason = reason_of(error) if lacking is None else LACKING.format(name=next(filter(None, lacking.groups())))
        raise ModelNotOpened(
            f"The {library} file could not be opened: {reason}.", requirements=missing_packages(error)
        ) from error


def _opened(kind: str, model: BinaryIO, path: str, code: Sequence[ModuleType], name: str | None) -> Network:
    for _ in range(MOST_ALIASES):
        try:
            model.seek(0)
            return _network(kind, model, path, code, name)
        except ModuleNotFoundError as error:
            # The file that came along may have had another name where it was trained.
            if len(code) != 1 or not error.name or error.name in sys.modules:
                raise
            sys.modules[error.name] = code[0]
    return _network(kind, model, path, code, name)


def _network(kind: str, model: BinaryIO, path: str, code: Sequence[ModuleType], name: str | None) -> Network:
    if kind in PYTORCH_KINDS:
        from .torch_network import TorchNetwork

        return TorchNetwork(kind, model, code, name)
    from .keras_network import KerasNetwork

    return KerasNetwork(kind, path, code)


def _imported(beside: BinaryIO) -> list[ModuleType]:
    """The modules of the files that came along. What was pickled in a script is looked for in `__main__`."""
    folder = Path(tempfile.mkdtemp(prefix="network-"))
    if beside.read(len(ZIP)) == ZIP:
        beside.seek(0)
        unpacked(beside, folder)
    else:
        beside.seek(0)
        (folder / "network.py").write_bytes(beside.read())
    sys.path.insert(0, str(folder))
    modules = [_module_of(path, folder) for path in sorted(folder.glob("*.py"))]
    if not modules:
        raise ModelNotOpened("There is no Python file among those beside the network.")
    main = sys.modules["__main__"]
    for module in modules:
        for name, value in vars(module).items():
            if not name.startswith("__") and not hasattr(main, name):
                setattr(main, name, value)
    return modules


def _module_of(path: Path, folder: Path) -> ModuleType:
    spec = importlib.util.spec_from_file_location(path.stem, path)
    if spec is None or spec.loader is None:
        raise ModelNotOpened(f"`{path.name}` beside the network is no Python file.")
    module = sys.modules.setdefault(path.stem, importlib.util.module_from_spec(spec))
    try:
        spec.loader.exec_module(module)
    except (Exception, SystemExit) as error:
        found = failure(error, folder, f"`{path.name}` beside the network could not be run")
        raise ModelNotOpened(str(found), traceback=found.traceback, requirements=missing_packages(error)) from None
    return module


def described(network: Network) -> Mapping[str, Any]:
    """What is told of a network.

    Parameters
    ----------
    network : Network
    """
    return {
        "library": network.library,
        "version": network.version,
        "inputs": [{"name": one.name, "shape": one.shape, "dtype": one.dtype} for one in network.inputs],
        "layers": network.layers,
        "stated": network.stated,
        "notes": network.notes,
    }
