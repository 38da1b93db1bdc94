"""Hot loops as machine code: compiled by numba once, run without it.

Importing numba and its compiler takes a process half a second and seventy megabytes. A runner needs neither: whoever
keeps runners has the kernels compiled into a folder beforehand (`build_machine_code`), and a runner that is told of it
(`use_machine_code`) loads the object code alone. Everywhere else kernels are compiled when they are first imported.
"""

import ctypes
import importlib
import json
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import numpy as np

__all__ = ["KERNEL_MODULES", "build_machine_code", "fixed", "helper", "kernel", "use_machine_code"]

# Where kernels are.
KERNEL_MODULES = (
    "plain_window.core.plan.kernels",
    "plain_window.core.plan.row_kernels",
    "plain_window.core.explain.kernels",
    "plain_window.core.explain.path_kernels",
    "plain_window.core.explain.curve_kernels",
    "plain_window.core.model_service.likeness_kernel",
)
MANIFEST = "kernels.json"
SCALARS = {"float64": ctypes.c_double, "int64": ctypes.c_int64, "bool": ctypes.c_bool}

_kernels: dict[str, Any] = {}
_loaded: "_MachineCode | None" = None


def kernel(signature: Callable[[Any], Any]) -> Callable[[Callable[..., None]], Callable[..., None]]:
    """Make a kernel of the function below.

    Parameters
    ----------
    signature : callable
        Takes numba's module, returns the signature: contiguous arrays, float64, int64 and boolean numbers in, nothing
        out. A kernel trusts what it is given, raises nothing and allocates nothing: its object code then stands alone.
    """

    def register(function: Callable[..., None]) -> Callable[..., None]:
        if _loaded is not None:
            return _loaded.function(function.__qualname__)
        import numba

        compiled = numba.njit(signature(numba), cache=True, nogil=True, error_model="numpy")(function)
        _kernels[function.__qualname__] = compiled
        return compiled

    return register


def helper(function: Callable[..., Any]) -> Callable[..., Any]:
    """A function for kernels to use, compiled into each of them.

    Parameters
    ----------
    function : callable
        Compiled into whoever calls it.
    """
    if _loaded is not None:
        return function
    import numba

    return numba.njit(inline="always", error_model="numpy")(function)


def fixed(array: np.ndarray) -> Any:
    """An array that goes to a kernel again and again: described once. It must stay as it is, and where it is.

    Parameters
    ----------
    array : ndarray
        Contiguous, of the type the kernel takes.
    """
    return array if _loaded is None else _Described(array)


def build_machine_code(folder: Path, modules: Sequence[str]) -> None:
    """Compile the kernels of `modules` and write their object code into `folder`.

    Parameters
    ----------
    folder : Path
        Where machine code is kept.
    modules : sequence of str
        Names of modules with kernels.
    """
    for module in modules:
        importlib.import_module(module)
    manifest = {}
    for name, compiled in _kernels.items():
        result = _bare(compiled)
        (folder / f"{name}.o").write_bytes(result.library._get_compiled_object())
        arguments = [_described(argument) for argument in result.signature.args]
        manifest[name] = {"symbol": result.fndesc.llvm_func_name, "arguments": arguments}
    (folder / MANIFEST).write_text(json.dumps(manifest))


def use_machine_code(folder: Path) -> bool:
    """Take kernels that are imported from now on out of `folder`; False if it holds none.

    Once for each process: kernels that are there already stay as they are.

    Parameters
    ----------
    folder : Path
    """
    global _loaded
    if _loaded is not None:
        return True
    if _kernels:
        return False
    if not (folder / MANIFEST).is_file():
        return False
    _loaded = _MachineCode(folder)
    return True


def _bare(compiled: Any) -> Any:
    """A kernel compiled once more without what lets Python call it: that part needs all of numba."""
    from numba.core import compiler
    from numba.core.registry import cpu_target

    flags: Any = compiler.Flags()
    flags.no_cpython_wrapper = flags.no_cfunc_wrapper = True
    flags.error_model = "numpy"
    (signature,) = compiled.nopython_signatures
    result = compiler.compile_extra(
        cpu_target.typing_context,
        cpu_target.target_context,
        compiled.py_func,
        signature.args,
        signature.return_type,
        flags,
        {},
    )
    # Object code comes to be when an address is asked for.
    result.library.get_pointer_to_function(result.fndesc.llvm_func_name)
    return result


def _described(argument: Any) -> str:
    return f"array {argument.ndim}" if hasattr(argument, "ndim") else str(argument)


class _MachineCode:
    """Object code in this process."""

    def __init__(self, folder: Path) -> None:
        import llvmlite.binding as llvm

        self._manifest = json.loads((folder / MANIFEST).read_text())
        self._folder = folder
        self._llvm = llvm
        llvm.initialize_native_target()
        llvm.initialize_native_asmprinter()
        machine = llvm.Target.from_default_triple().create_target_machine(jit=True)
        self._engine = llvm.create_mcjit_compiler(llvm.parse_assembly(""), machine)

    def function(self, name: str) -> Callable[..., None]:
        """The kernel of this name.

        Raises
        ------
        KeyError
            If the folder does not have it.
        """
        entry = self._manifest[name]
        code = self._llvm.ObjectFileRef.from_data((self._folder / f"{name}.o").read_bytes())
        self._engine.add_object_file(code)
        self._engine.finalize_object()
        return _callable(self._engine.get_function_address(entry["symbol"]), entry["arguments"])


def _callable(address: int, arguments: Sequence[str]) -> Callable[..., None]:
    """A kernel behind its address, by numba's convention: a place for the result and for an error, then the arguments.

    An array is its owner twice (none), number and size of items, address, then shape and strides.
    """
    types: list[Any] = [ctypes.c_void_p, ctypes.c_void_p]
    for argument in arguments:
        if argument.startswith("array"):
            n_axes = int(argument.split()[1])
            types += [ctypes.c_void_p, ctypes.c_void_p, ctypes.c_int64, ctypes.c_int64, ctypes.c_void_p]
            types += [ctypes.c_int64] * (2 * n_axes)
        else:
            types.append(SCALARS[argument])
    function = ctypes.CFUNCTYPE(ctypes.c_int32, *types)(address)
    # Numba writes a pointer to what went wrong there. A kernel raises nothing and nobody reads it, but the places must
    # be real, and stay.
    result, error = ctypes.c_int64(), ctypes.c_int64()
    places = (ctypes.addressof(result), ctypes.addressof(error))

    def call(*arguments: Any, _kept: Any = (result, error)) -> None:
        flat: list[Any] = [*places]
        for value in arguments:
            if isinstance(value, _Described):
                flat += value.flattened
            elif isinstance(value, np.ndarray):
                flat += _flattened(value)
            else:
                flat.append(value)
        if function(*flat):
            raise RuntimeError("a kernel failed")

    return call


_Start = ctypes.c_char * 0


class _Described:
    """An array with what a kernel is told of it."""

    __slots__ = ("_array", "flattened")

    def __init__(self, array: np.ndarray) -> None:
        self._array, self.flattened = array, _flattened(array)


def _flattened(array: np.ndarray) -> tuple[Any, ...]:
    try:
        # A quarter of the time that the array's own way takes; not there for one that is read only.
        address = ctypes.addressof(_Start.from_buffer(array.data))
    except (TypeError, ValueError):
        address = array.__array_interface__["data"][0]
    return (None, None, array.size, array.itemsize, address, *array.shape, *array.strides)
