"""A function's signature, read off its file: what it takes, what is said of its answer, how many cases at once."""

import ast
import contextlib
import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from ...errors import Fault, MismatchFaults, ModelNotOpened
from ...fields.calendars import Calendar, number_of_date
from ...fields.kinds import Scalar
from .annotations import NotUnderstood, Scope, Takes, member_value, read_annotation, record_fields
from .constants import NotConstant, dotted_name
from .docstrings import Docstring, read_docstring
from .returned import Returned, read_returned
from .source import PythonFunction, SourceFile, listed, no_function, read_source

__all__ = ["CALENDAR", "HINTS", "Batch", "Form", "Parameter", "Signature", "read_signature"]

# How dates stand in a row: as the number that a date's field gives.
CALENDAR: Calendar = "days"
# One case by its values; many cases by columns, as one table, or as one array with a row a case.
Form = Literal["values", "columns", "table", "array"]
HINTS = (
    "Fields come from type hints: `float`, `int`, `bool`, `str`, `Literal[…]`, an enum, `datetime.date`, "
    "`PIL.Image.Image` or `numpy.ndarray`."
)
# Without a hint, one parameter of such a name is a whole table.
TABLE_NAMES = ("df", "data", "table", "frame", "rows")


@dataclass(frozen=True)
class Parameter:
    """One parameter: what it takes (None without a hint), and its default where that is a constant."""

    name: str
    takes: Takes | None
    default: Scalar | None = None
    has_default: bool = False
    # It has no name for its caller.
    by_place: bool = False
    # Whether the function's body reads it anywhere.
    is_read: bool = True


@dataclass(frozen=True)
class Batch:
    """Another function of the file that answers many cases at once."""

    function: str
    form: Form
    returned: Returned
    parameters: "tuple[Parameter, ...]"


@dataclass(frozen=True)
class Signature:
    """What is read off a file."""

    function: str
    form: Form
    parameters: tuple[Parameter, ...]
    returned: Returned
    batch: Batch | None = None
    doc: Docstring = field(default_factory=Docstring)
    # Where its one parameter is an object with a field each: the parameter, and the object's class.
    record: tuple[str, str] | None = None

    def parameter(self, name: str) -> Parameter | None:
        """The parameter of a name, if there is one.

        Parameters
        ----------
        name : str
        """
        return next((one for one in self.parameters if one.name == name), None)

    @property
    def without_hints(self) -> list[str]:
        """Parameters of which nothing says what they take."""
        return [one.name for one in self.parameters if one.takes is None] if self.form == "values" else []

    @property
    def pictures(self) -> list[Parameter]:
        """Parameters that take a picture."""
        if self.form == "array":
            return []
        return [one for one in self.parameters if one.takes is not None and one.takes.kind == "picture"]

    def with_array_of_rows(self) -> "Signature":
        """The same where its one array is no picture but rows of numbers, since a table came with it."""
        is_array = len(self.parameters) == 1 and _is_array(self.parameters[0])
        return replace(self, form="array") if is_array else self


def _is_array(parameter: Parameter) -> bool:
    return parameter.takes is not None and parameter.takes.kind == "picture" and not parameter.takes.as_image


def _is_many(parameter: Parameter) -> bool:
    return parameter.takes is not None and parameter.takes.many


def read_signature(content: bytes, wanted: str | None = None) -> Signature:
    """Read what a Python file's function takes, without running the file.

    Parameters
    ----------
    content : bytes
        The file.
    wanted : str, optional
        The function's name, where the file has several.

    Raises
    ------
    ModelNotOpened
        If it is no Python, or nothing can be asked of its function.
    MismatchFaults
        If it is not clear which function answers.
    """
    source = read_source(content)
    scope = Scope.of(source.tree)
    public = source.public_functions
    if wanted is None and not public:
        raise ModelNotOpened(
            f"{no_function(source)} Put what answers into a function, as "
            "`def predict(days: float, handle: bool) -> float`, or save the fitted model and bring that file:\n\n"
            'import joblib\njoblib.dump(model, "model.joblib")  # after model.fit(…)'
        )
    every = {one.name: _signature_or_error(one, scope) for one in public}
    name = _named(source, wanted) if wanted is not None else _answering(public, every)
    function = source.functions[name]
    _refuse(function)
    signature = _signature(function, scope)
    _refuse_mixed(signature)
    others = [one for one in every.values() if isinstance(one, Signature) and _is_batch_of(one, signature)]
    return replace(signature, batch=_as_batch(others[0])) if others else signature


def _named(source: SourceFile, wanted: str) -> str:
    if wanted in source.functions:
        return wanted
    public = source.public_functions
    there = f"It has {listed(public)}." if public else "It has no function at its top."
    message = f"The Python file has no function `{wanted[:60]}`. {there}"
    raise MismatchFaults([_which(message, public)])


def _answering(public: Sequence[PythonFunction], every: dict[str, "Signature | ModelNotOpened"]) -> str:
    """The one function that answers."""
    # What takes nothing, as the `main` of a script, answers nothing.
    taking = [one for one in public if not isinstance(every[one.name], Signature) or _takes_something(every[one.name])]
    answering = [one for one in taking or public if not _is_batch_of_any(every[one.name], every)]
    if len(answering) > 1:
        message = (
            f"The Python file has {len(answering)} public functions: {listed(answering)}. Say which one answers, or "
            "let the names of the others begin with an underscore."
        )
        raise MismatchFaults([_which(message, answering)])
    return (answering or taking or list(public))[0].name


def _which(message: str, functions: Sequence[PythonFunction]) -> Fault:
    return Fault("function_name", message, "function_name", tuple(one.name for one in functions))


def _takes_something(one: "Signature | ModelNotOpened") -> bool:
    return isinstance(one, Signature) and bool(one.parameters)


def _is_batch_of_any(batch: "Signature | ModelNotOpened", every: dict[str, "Signature | ModelNotOpened"]) -> bool:
    if not isinstance(batch, Signature):
        return False
    return any(isinstance(one, Signature) and _is_batch_of(batch, one) for one in every.values())


def _is_batch_of(batch: Signature, one: Signature) -> bool:
    """Whether one function takes many of what another takes one of."""
    if one.form != "values" or one.pictures or not one.parameters or batch.function == one.function:
        return False
    if batch.form == "table" or (len(batch.parameters) == 1 and _is_array(batch.parameters[0])):
        return True
    if [parameter.name for parameter in batch.parameters] != [parameter.name for parameter in one.parameters]:
        return False
    # Columns that are arrays look like pictures by their hints.
    return all(_is_array(parameter) or _is_many(parameter) for parameter in batch.parameters)


def _as_batch(one: Signature) -> Batch:
    if one.form == "table":
        return Batch(one.function, "table", one.returned, one.parameters)
    is_array = len(one.parameters) == 1 and _is_array(one.parameters[0]) and one.form != "columns"
    return Batch(one.function, "array" if is_array else "columns", one.returned, one.parameters)


def _signature_or_error(function: PythonFunction, scope: Scope) -> "Signature | ModelNotOpened":
    try:
        return _signature(function, scope)
    except ModelNotOpened as error:
        return error


def _signature(function: PythonFunction, scope: Scope) -> Signature:
    doc = read_docstring(ast.get_docstring(function))
    if (record := _record(function, scope)) is not None:
        name, class_, fields = record
        parameters = tuple(_record_parameters(class_, fields, scope, doc))
        returned = read_returned(function.returns, scope)
        return Signature(function.name, "values", parameters, returned, doc=doc, record=(name, class_.name))
    parameters = tuple(_parameters(function, scope, doc))
    if len(parameters) == 1 and parameters[0].takes is None and parameters[0].name.lower() in TABLE_NAMES:
        parameters = (replace(parameters[0], takes=Takes("table", many=True)),)
    is_table = len(parameters) == 1 and parameters[0].takes is not None and parameters[0].takes.kind == "table"
    many = [one.takes is not None and one.takes.many for one in parameters]
    form: Form = "table" if is_table else "columns" if many and all(many) else "values"
    return Signature(function.name, form, parameters, read_returned(function.returns, scope), doc=doc)


def _record(function: PythonFunction, scope: Scope) -> tuple[str, ast.ClassDef, list[ast.AnnAssign]] | None:
    """The one parameter of a function that takes a whole case as an object of a class of this file."""
    arguments = function.args
    every = [*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs]
    only = every[0] if len(every) == 1 else None
    if only is None or only.annotation is None:
        return None
    class_ = scope.classes.get(dotted_name(only.annotation))
    fields = record_fields(class_, scope) if class_ is not None else None
    return (only.arg, class_, fields) if class_ is not None and fields else None


def _record_parameters(
    class_: ast.ClassDef, fields: list[ast.AnnAssign], scope: Scope, doc: Docstring
) -> list[Parameter]:
    words = {**read_docstring(ast.get_docstring(class_)).parameters, **doc.parameters}
    told = replace(doc, parameters=words)
    names = [(one, one.target.id) for one in fields if isinstance(one.target, ast.Name)]
    return [_parameter(ast.arg(name, one.annotation), one.value, scope, told) for one, name in names]


def _parameters(function: PythonFunction, scope: Scope, doc: Docstring) -> list[Parameter]:
    arguments = function.args
    positional = [*arguments.posonlyargs, *arguments.args]
    defaults: list[ast.expr | None] = [*[None] * (len(positional) - len(arguments.defaults)), *arguments.defaults]
    pairs = [*zip(positional, defaults, strict=True), *zip(arguments.kwonlyargs, arguments.kw_defaults, strict=True)]
    found = [_parameter(one, default, scope, doc) for one, default in pairs]
    read = _names_read(function)
    return [
        replace(one, by_place=at < len(arguments.posonlyargs), is_read=read is None or one.name in read)
        for at, one in enumerate(found)
    ]


def _names_read(function: PythonFunction) -> set[str] | None:
    """The names that the body reads; None where it may read any, by asking for all of them."""
    parts = [part for statement in function.body for part in ast.walk(statement)]
    read = {part.id for part in parts if isinstance(part, ast.Name) and isinstance(part.ctx, ast.Load)}
    return None if read & {"locals", "vars", "eval", "exec"} else read


def _parameter(argument: ast.arg, default: ast.expr | None, scope: Scope, doc: Docstring) -> Parameter:
    value, is_known = None, False
    if default is not None:
        with contextlib.suppress(NotConstant):
            value, is_known = scope.value(default), True
        if not is_known:
            value = _said_otherwise(default, scope)
            is_known = value is not None
    takes = _takes(argument, value, scope)
    if takes is not None:
        takes = replace(takes, help=takes.help or doc.parameters.get(argument.arg, ""))
        takes = replace(takes, optional=takes.optional or (is_known and value is None))
    is_scalar = isinstance(value, bool | int | float | str)
    return Parameter(argument.arg, takes, value if is_scalar else None, default is not None)


def _said_otherwise(default: ast.expr, scope: Scope) -> Scalar | None:
    """A default that is a member of an enum, or a date; None if it is only known once the file is run."""
    if (member := member_value(default, scope)) is not None:
        return member
    if isinstance(default, ast.Call) and scope.full_name(default.func) in ("datetime.date", "datetime.datetime"):
        with contextlib.suppress(NotConstant, TypeError, ValueError):
            return number_of_date(dt.date(*[scope.value(part) for part in default.args[:3]]), CALENDAR)
    return None


def _takes(argument: ast.arg, default: object, scope: Scope) -> Takes | None:
    if argument.annotation is not None:
        try:
            return read_annotation(argument.annotation, scope)
        except NotUnderstood as error:
            raise ModelNotOpened(
                f"The hint of `{argument.arg}`, `{error}`, says of no field what it is. {HINTS}"
            ) from None
    # A default says as much as a hint.
    match default:
        case bool():
            return Takes("yes_no")
        case int() | float():
            return Takes("number")
        case str():
            return Takes("text")
    return None


def _refuse(function: PythonFunction) -> None:
    """Functions that cannot be asked about a case, whatever their hints.

    Raises
    ------
    ModelNotOpened
    """
    name, arguments = f"`{function.name}`", function.args
    if isinstance(function, ast.AsyncFunctionDef):
        raise ModelNotOpened(f"{name} is asynchronous. Make it a plain `def`: its answer is waited for here.")
    if any(isinstance(part, ast.Yield | ast.YieldFrom) for part in _own_parts(function)):
        raise ModelNotOpened(f"{name} yields its answer in pieces. Let it return the whole of it.")
    for star, one in (("*", arguments.vararg), ("**", arguments.kwarg)):
        if one is not None:
            raise ModelNotOpened(
                f"{name} takes `{star}{one.arg}`, which names no fields. List what it takes, each with a type hint."
            )
    if not [*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs]:
        raise ModelNotOpened(f"{name} takes nothing, so its answer cannot depend on anything. List what it takes.")


def _refuse_mixed(signature: Signature) -> None:
    """Functions that take one case and many at once.

    Raises
    ------
    ModelNotOpened
    """
    name = f"`{signature.function}`"
    tables = [one.name for one in signature.parameters if one.takes is not None and one.takes.kind == "table"]
    if tables and len(signature.parameters) > 1:
        raise ModelNotOpened(
            f"{name} takes a whole table (`{tables[0]}`) and more beside it. Let it take the table alone."
        )
    many = [one.takes is not None and one.takes.many for one in signature.parameters]
    if any(many) and not all(many):
        lists = next(one.name for one, is_many in zip(signature.parameters, many, strict=True) if is_many)
        raise ModelNotOpened(
            f"{name} takes a list (`{lists}`) beside single values. Let it take single values, or a list of each."
        )


def _own_parts(function: PythonFunction) -> list[ast.AST]:
    """The parts of a function without those of functions inside it."""
    waiting: list[ast.AST] = list(function.body)
    found = []
    while waiting:
        part = waiting.pop()
        if isinstance(part, ast.FunctionDef | ast.AsyncFunctionDef | ast.Lambda | ast.ClassDef):
            continue
        found.append(part)
        waiting += list(ast.iter_child_nodes(part))
    return found
