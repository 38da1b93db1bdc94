"""What a function's annotation says of its answer: a mapping of classes, a number with its unit, a picture, boxes."""

import ast
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from .annotations import ARRAYS, COLUMNS, NotUnderstood, Scope, Takes, is_ellipsis, read_annotation, record_fields
from .constants import dotted_name

__all__ = ["Returned", "read_returned"]

# `shares` is a mapping from names to numbers, of which only the numbers tell whether they are probabilities;
# `record` a class with a number a field; `chosen` some of several names; `rows` a list of mappings or objects.
Shape = Literal[
    "unknown", "number", "yes_no", "class", "text", "shares", "flags", "record", "numbers", "chosen", "rows",
    "table", "picture", "array",
]  # fmt: skip

MAPPINGS = {"dict", "typing.Dict", "typing.Mapping", "collections.abc.Mapping", "typing.OrderedDict"}
SETS = {"set", "frozenset", "typing.Set", "typing.FrozenSet", "collections.abc.Set"}
NUMBER_KINDS = ("number", "yes_no")


@dataclass(frozen=True)
class Returned:
    """What is said of an answer.

    Attributes
    ----------
    names : tuple of str
        Of its classes, labels or numbers, where the annotation lists them.
    units : tuple of str
        Of its numbers.
    label, help : str
    is_column : bool
        Whether it is one answer a case, of many.
    """

    shape: Shape = "unknown"
    names: tuple[str, ...] = ()
    units: tuple[str, ...] = ()
    label: str = ""
    help: str = ""
    is_column: bool = False

    @property
    def of_one_case(self) -> "Returned":
        """What a column is where it answers one case: names that were chosen, numbers, rows of a table."""
        if not self.is_column:
            return self
        shapes: dict[Shape, Shape] = {"class": "chosen", "text": "chosen", "number": "numbers", "yes_no": "numbers"}
        shapes |= {"shares": "rows", "record": "rows", "flags": "rows"}
        return replace(self, shape=shapes.get(self.shape, self.shape), is_column=False)


def read_returned(hint: ast.expr | None, scope: Scope) -> Returned:
    """What the annotation of a function's answer says.

    Parameters
    ----------
    hint : ast.expr or None
    scope : Scope
    """
    if hint is None:
        return Returned()
    match hint:
        case ast.Constant(value=str() as text):
            try:
                return read_returned(ast.parse(text, mode="eval").body, scope)
            except SyntaxError:
                return Returned()
        case ast.Name() | ast.Attribute():
            name = scope.full_name(hint)
            if name in scope.names:
                return read_returned(scope.names[name], scope)
            if name in scope.classes and (found := _record(scope.classes[name], scope)):
                return found
            if name in MAPPINGS:
                return Returned("shares")
            if name in COLUMNS | SETS | {"tuple"}:
                return Returned()
        case ast.Subscript():
            found = _subscripted(hint, scope)
            if found is not None:
                return found
    try:
        return _single(read_annotation(hint, scope))
    except NotUnderstood:
        return Returned()


def _single(takes: Takes) -> Returned:
    """One value."""
    if takes.many and takes.kind != "table":
        return replace(_single(replace(takes, many=False)), is_column=True)
    names: tuple[str, ...] = ()
    units: tuple[str, ...] = ()
    shape: Shape = "unknown"
    match takes.kind:
        case "number":
            shape, units = "number", (takes.unit,) if takes.unit else ()
        case "yes_no":
            shape, names = "yes_no", ("no", "yes")
        case "choice":
            shape, names = "class", tuple(map(str, takes.options))
        case "text" | "table":
            shape = takes.kind
        case "picture":
            shape = "picture" if takes.as_image else "array"
    return Returned(shape, names=names, units=units, label=takes.label, help=takes.help)


def _subscripted(hint: ast.Subscript, scope: Scope) -> Returned | None:
    name = scope.full_name(hint.value)
    inside = list(hint.slice.elts) if isinstance(hint.slice, ast.Tuple) else [hint.slice]
    if name == "typing.Annotated":
        return _with_words(read_returned(inside[0], scope), inside, scope)
    if name in MAPPINGS and len(inside) == 2:
        return _mapping(inside[0], inside[1], scope)
    if name in SETS:
        return replace(_chosen(inside[0], scope), is_column=False)
    if name in ("tuple", "typing.Tuple") and not is_ellipsis(inside[-1]):
        return _tuple(inside, scope)
    if name in ARRAYS:
        return Returned("array")
    if name in COLUMNS or name in ("tuple", "typing.Tuple"):
        return _list(inside[0], scope)
    return None


def _with_words(found: Returned, inside: Sequence[ast.expr], scope: Scope) -> Returned:
    """What `Annotated` adds to an answer: the unit of a number, a name, or words."""
    number = ast.Subscript(ast.Name("Annotated"), ast.Tuple([ast.Name("float"), *inside[1:]]))
    try:
        takes = read_annotation(number, Scope({**scope.imported, "Annotated": "typing.Annotated"}, scope.names))
    except NotUnderstood:
        return found
    units = (takes.unit,) if takes.unit and found.shape == "number" else found.units
    words = takes.help or ("" if found.shape == "number" else takes.unit)
    return replace(found, units=units, label=takes.label or found.label, help=words or found.help)


def _mapping(key: ast.expr, value: ast.expr, scope: Scope) -> Returned:
    names, what = _names_in(key, scope), _takes(value, scope)
    if what is not None and what.kind == "yes_no":
        return Returned("flags", names=names)
    if what is not None and what.kind != "number":
        return Returned()
    unit = what.unit if what else ""
    # Of a unit there are no probabilities.
    return Returned("record" if unit else "shares", names=names, units=(unit,) * len(names) if unit else ())


def _names_in(part: ast.expr, scope: Scope) -> tuple[str, ...]:
    takes = _takes(part, scope)
    return tuple(map(str, takes.options)) if takes is not None and takes.kind == "choice" else ()


def _takes(part: ast.expr, scope: Scope) -> Takes | None:
    try:
        return read_annotation(part, scope)
    except NotUnderstood:
        return None


def _chosen(part: ast.expr, scope: Scope) -> Returned:
    """Some of several names."""
    return Returned("chosen", names=_names_in(part, scope))


def _tuple(parts: Sequence[ast.expr], scope: Scope) -> Returned:
    takes = [_takes(part, scope) for part in parts]
    if any(one is None or one.kind not in NUMBER_KINDS or one.many for one in takes):
        return Returned()
    known = [one for one in takes if one is not None]
    return Returned("numbers", names=tuple(one.label for one in known), units=tuple(one.unit for one in known))


def _list(part: ast.expr, scope: Scope) -> Returned:
    one = read_returned(part, scope)
    is_object = (
        isinstance(part, ast.Subscript | ast.Name) and one.shape == "unknown" and dotted_name(part) in scope.classes
    )
    return replace(one, shape="rows" if is_object else one.shape, is_column=True)


def _record(class_: ast.ClassDef, scope: Scope) -> Returned | None:
    """A named tuple, typed dictionary or data class with a number a field."""
    fields = record_fields(class_, scope)
    if fields is None:
        return None
    takes = {part.target.id: _takes(part.annotation, scope) for part in fields if isinstance(part.target, ast.Name)}
    known = {name: one for name, one in takes.items() if one is not None and one.kind in NUMBER_KINDS and not one.many}
    if not takes or len(known) < len(takes):
        # Of boxes: what kinds there are.
        kinds = [one for one in takes.values() if one is not None and one.kind == "choice"]
        return Returned(names=tuple(map(str, kinds[0].options)) if len(kinds) == 1 else ())
    return Returned("record", names=tuple(known), units=tuple(one.unit for one in known.values()))
