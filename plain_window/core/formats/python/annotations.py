"""Type hints, as they stand in the file, into what a parameter takes.

A hint says what a field is: `float`, `int`, `bool`, `str`, `Literal["a", "b"]`, an enum of the same file, a date, a
picture (`PIL.Image.Image` or `numpy.ndarray`), a table. `Annotated` adds a range, a unit, words.
"""

import ast
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from ...fields.kinds import Scalar
from .constants import NotConstant, constant, dotted_name, module_names

__all__ = [
    "ARRAYS",
    "COLUMNS",
    "NotUnderstood",
    "Scope",
    "Takes",
    "is_ellipsis",
    "member_value",
    "read_annotation",
    "record_fields",
]

Kind = Literal["number", "choice", "yes_no", "text", "date", "picture", "table"]

NUMBERS = {"float", "numpy.float64", "numpy.float32", "numbers.Real", "numbers.Number"}
WHOLE_NUMBERS = {"int", "numpy.int64", "numpy.int32", "numbers.Integral"}
DATES = {"datetime.date": False, "datetime.datetime": True}
ARRAYS = {"numpy.ndarray", "numpy.typing.NDArray", "numpy.typing.ArrayLike"}
COLUMNS = {
    "list", "tuple", "typing.List", "typing.Sequence", "typing.Iterable", "collections.abc.Sequence",
    "collections.abc.Iterable", "pandas.Series",
}  # fmt: skip
TYPING_NAMES = (
    "Annotated", "Dict", "Final", "FrozenSet", "Iterable", "List", "Literal", "Mapping", "NamedTuple", "NewType",
    "Optional", "Sequence", "Set", "Tuple", "TypedDict", "Union",
)  # fmt: skip
RECORDS = {"typing.NamedTuple", "typing.TypedDict", "pydantic.BaseModel"}
ENUMS = {"enum.Enum", "enum.StrEnum", "enum.IntEnum"}
# A string beside a number's type is its unit up to here, else it says what the number is.
UNIT_CHARACTERS = 16
MOST_DEEP = 12


class NotUnderstood(Exception):
    """A hint that says of no field what it is; the message is the hint as it stands."""


@dataclass(frozen=True)
class Takes:
    """What a parameter takes.

    Attributes
    ----------
    many : bool
        Of many cases at once: a column of values.
    whole : bool
        Whole numbers only.
    low, high, step : float or None
        The stated range.
    is_above, is_below : bool
        Whether the range's ends are no part of it.
    options, option_labels : tuple
        Of a choice: what may be given, and what members of an enum are called.
    enum : str
        The class whose members are meant, where options are an enum's values.
    as_image : bool
        A picture as Pillow has it, rather than an array.
    with_time : bool
        A `datetime` rather than a date.
    container : str
        What a column comes in: `list`, `array` or `series`.
    """

    kind: Kind
    many: bool = False
    optional: bool = False
    whole: bool = False
    low: float | None = None
    high: float | None = None
    step: float | None = None
    is_above: bool = False
    is_below: bool = False
    options: tuple[Scalar, ...] = ()
    option_labels: tuple[str, ...] = ()
    enum: str = ""
    unit: str = ""
    label: str = ""
    help: str = ""
    max_length: int | None = None
    as_image: bool = False
    with_time: bool = False
    container: Literal["", "list", "array", "series"] = ""


@dataclass(frozen=True)
class Scope:
    """What names mean in a file: what was imported as what, what is bound at its top, and its classes."""

    imported: Mapping[str, str]
    names: Mapping[str, ast.expr]
    classes: Mapping[str, ast.ClassDef] = field(default_factory=dict)

    @classmethod
    def of(cls, tree: ast.Module) -> "Scope":
        """The scope of a whole file.

        Parameters
        ----------
        tree : ast.Module
        """
        # Whoever imports everything of a module means these of it.
        imported = {name: f"typing.{name}" for name in TYPING_NAMES}
        for part in ast.walk(tree):
            if isinstance(part, ast.Import):
                for one in part.names:
                    imported[one.asname or one.name.split(".")[0]] = one.name if one.asname else one.name.split(".")[0]
            elif isinstance(part, ast.ImportFrom) and part.module and not part.level:
                imported.update({one.asname or one.name: f"{part.module}.{one.name}" for one in part.names})
        classes = {part.name: part for part in tree.body if isinstance(part, ast.ClassDef)}
        return cls(imported, module_names(tree), classes)

    def full_name(self, part: ast.expr) -> str:
        """What a name stands for, as it is imported: `numpy.ndarray` for `np.ndarray`.

        Parameters
        ----------
        part : ast.expr
        """
        first, _, rest = dotted_name(part).partition(".")
        whole = self.imported.get(first, first)
        name = f"{whole}.{rest}" if rest else whole
        return re.sub(r"^typing_extensions\.", "typing.", name)

    def value(self, part: ast.expr) -> Any:
        """As `constant`, with this file's names.

        Parameters
        ----------
        part : ast.expr

        Raises
        ------
        NotConstant
        """
        return constant(part, self.names)


def read_annotation(hint: ast.expr, scope: Scope, *, deep: int = 0) -> Takes:
    """What a hint says that a parameter takes.

    Parameters
    ----------
    hint : ast.expr
    scope : Scope
    deep : int, optional
        How many hints this one lies in.

    Raises
    ------
    NotUnderstood
        If no field gives that.
    """
    if deep > MOST_DEEP:
        raise NotUnderstood(ast.unparse(hint)[:80])
    match hint:
        case ast.Constant(value=str() as text):
            return _quoted(text, scope, deep)
        case ast.BinOp(op=ast.BitOr()):
            return _either([hint.left, hint.right], scope, deep)
        case ast.Subscript():
            return _subscripted(hint, scope, deep)
        case ast.Name() | ast.Attribute():
            return _named(hint, scope, deep)
    raise NotUnderstood(ast.unparse(hint)[:80])


def _quoted(text: str, scope: Scope, deep: int) -> Takes:
    try:
        return read_annotation(ast.parse(text, mode="eval").body, scope, deep=deep + 1)
    except SyntaxError:
        raise NotUnderstood(repr(text)[:80]) from None


def _named(hint: ast.expr, scope: Scope, deep: int) -> Takes:
    name = scope.full_name(hint)
    if name in scope.names:
        return _aliased(scope.names[name], scope, deep)
    if name in scope.classes:
        return _enum(scope.classes[name], scope)
    if name in NUMBERS:
        return Takes("number")
    if name in WHOLE_NUMBERS:
        return Takes("number", whole=True)
    if name in ("bool", "numpy.bool_"):
        return Takes("yes_no")
    if name == "str":
        return Takes("text")
    if name in DATES:
        return Takes("date", with_time=DATES[name])
    if name == "PIL.Image.Image":
        return Takes("picture", as_image=True)
    if name in ARRAYS:
        return Takes("picture")
    if name == "pandas.DataFrame":
        return Takes("table", many=True)
    if name in COLUMNS:
        return Takes("number", many=True, container=_container(name))
    raise NotUnderstood(ast.unparse(hint)[:80])


def _aliased(bound: ast.expr, scope: Scope, deep: int) -> Takes:
    """A name for a type: `Kelvin = Annotated[float, "K"]`, or `NewType("Kelvin", float)`."""
    if isinstance(bound, ast.Call) and scope.full_name(bound.func) == "typing.NewType" and len(bound.args) == 2:
        return read_annotation(bound.args[1], scope, deep=deep + 1)
    return read_annotation(bound, scope, deep=deep + 1)


def _subscripted(hint: ast.Subscript, scope: Scope, deep: int) -> Takes:
    name = scope.full_name(hint.value)
    inside = list(hint.slice.elts) if isinstance(hint.slice, ast.Tuple) else [hint.slice]
    if name == "typing.Annotated":
        return _with_words(read_annotation(inside[0], scope, deep=deep + 1), inside[1:], scope)
    if name == "typing.Literal":
        return _literal(inside, scope)
    if name == "typing.Optional":
        return replace(read_annotation(inside[0], scope, deep=deep + 1), optional=True)
    if name == "typing.Union":
        return _either(inside, scope, deep)
    if name in ("typing.Final", "typing.Required"):
        return read_annotation(inside[0], scope, deep=deep + 1)
    if name in ARRAYS:
        return Takes("picture")
    if name in COLUMNS and not (name == "tuple" and len(inside) > 1 and not is_ellipsis(inside[1])):
        one = read_annotation(inside[0], scope, deep=deep + 1)
        if not one.many:
            return replace(one, many=True, container=_container(name))
    raise NotUnderstood(ast.unparse(hint)[:80])


def _container(name: str) -> Literal["list", "series"]:
    return "series" if name == "pandas.Series" else "list"


def is_ellipsis(part: ast.expr) -> bool:
    """Whether it is the `...` of a tuple of any length.

    Parameters
    ----------
    part : ast.expr
        What stands at that place of the tuple's annotation.
    """
    return isinstance(part, ast.Constant) and part.value is ...


def _either(parts: Sequence[ast.expr], scope: Scope, deep: int) -> Takes:
    """`X | None`, or numbers of two types."""
    nothing = [part for part in parts if isinstance(part, ast.Constant) and part.value is None]
    takes = [read_annotation(part, scope, deep=deep + 1) for part in parts if part not in nothing]
    if not takes:
        raise NotUnderstood("None")
    first = takes[0]
    optional = bool(nothing) or any(one.optional for one in takes)
    if len({(one.kind, one.many) for one in takes}) > 1:
        raise NotUnderstood(" | ".join(ast.unparse(part) for part in parts)[:80])
    if first.kind == "choice" and len(takes) > 1:
        options = tuple(option for one in takes for option in one.options)
        first = replace(first, options=options, option_labels=())
    return replace(first, optional=optional, whole=all(one.whole for one in takes))


def _literal(parts: Sequence[ast.expr], scope: Scope) -> Takes:
    try:
        values = [scope.value(part) for part in parts]
    except NotConstant:
        raise NotUnderstood(f"Literal[{', '.join(ast.unparse(part) for part in parts)}]"[:80]) from None
    options = [value for value in values if value is not None]
    if not options or not all(isinstance(value, bool | int | float | str) for value in options):
        raise NotUnderstood(f"Literal[{', '.join(map(repr, values))}]"[:80])
    has_gap = len(options) < len(values)
    if {*map(type, options)} == {bool}:
        return Takes("yes_no", optional=has_gap)
    return Takes("choice", options=tuple(dict.fromkeys(options)), optional=has_gap)


def _enum(class_: ast.ClassDef, scope: Scope) -> Takes:
    """The members of an enum of the same file, by their values."""
    bases = {scope.full_name(base) for base in class_.bases}
    if not bases & ENUMS:
        raise NotUnderstood(class_.name)
    values: dict[str, Scalar] = {}
    for part in class_.body:
        if isinstance(part, ast.Assign) and len(part.targets) == 1 and isinstance(part.targets[0], ast.Name):
            values[part.targets[0].id] = _member_value(part.targets[0].id, part.value, scope, bases)
    if not values:
        raise NotUnderstood(class_.name)
    unique = {value: name for name, value in reversed(values.items())}
    options = tuple(dict.fromkeys(values.values()))
    # Words that are values are what a person reads; names stand for numbers.
    labels = tuple("" if isinstance(value, str) else unique[value].replace("_", " ").lower() for value in options)
    return Takes("choice", options=options, option_labels=labels, enum=class_.name)


def record_fields(class_: ast.ClassDef, scope: Scope) -> list[ast.AnnAssign] | None:
    """The fields of a named tuple, typed dictionary, data class or pydantic model; None of any other class.

    Parameters
    ----------
    class_ : ast.ClassDef
    scope : Scope
    """
    decorators = (one.func if isinstance(one, ast.Call) else one for one in class_.decorator_list)
    is_data = any(scope.full_name(one).endswith("dataclass") for one in decorators)
    if not is_data and not {scope.full_name(base) for base in class_.bases} & RECORDS:
        return None
    return [part for part in class_.body if isinstance(part, ast.AnnAssign) and isinstance(part.target, ast.Name)]


def member_value(part: ast.expr, scope: Scope) -> Scalar | None:
    """The value of a member that is named as `Clay.STONE`; None if it is none of this file's enums.

    Parameters
    ----------
    part : ast.expr
    scope : Scope
    """
    if not isinstance(part, ast.Attribute) or not isinstance(part.value, ast.Name):
        return None
    class_ = scope.classes.get(part.value.id)
    for one in class_.body if class_ is not None else []:
        if isinstance(one, ast.Assign) and isinstance(one.targets[0], ast.Name) and one.targets[0].id == part.attr:
            bases = {scope.full_name(base) for base in class_.bases} if class_ is not None else set()
            return _member_value(part.attr, one.value, scope, bases)
    return None


def _member_value(name: str, value: ast.expr, scope: Scope, bases: set[str]) -> Scalar:
    """A member's value; its name where that is only known once the file is run (`auto()`)."""
    try:
        known = scope.value(value)
    except NotConstant:
        return name.lower() if "enum.StrEnum" in bases else name
    return known if isinstance(known, bool | int | float | str) else name


# --- what `Annotated` adds ----------------------------------------------------------------------------------------


def _with_words(takes: Takes, parts: Sequence[ast.expr], scope: Scope) -> Takes:
    for part in parts:
        takes = _with_word(takes, part, scope)
    return takes


def _with_word(takes: Takes, part: ast.expr, scope: Scope) -> Takes:
    """With what one part beside the type adds. What is not known here is meant for somebody else."""
    if isinstance(part, ast.Call):
        return _with_call(takes, part, scope)
    try:
        value = scope.value(part)
    except NotConstant:
        bound = scope.names.get(dotted_name(part))
        return _with_call(takes, bound, scope) if isinstance(bound, ast.Call) else takes
    if isinstance(value, str):
        is_unit = takes.kind == "number" and not takes.unit and 0 < len(value) <= UNIT_CHARACTERS
        return replace(takes, unit=value.strip()) if is_unit else replace(takes, help=value.strip())
    if isinstance(value, tuple) and len(value) in (2, 3) and takes.kind == "number" and all(map(_is_number, value)):
        low, high, step = (*value, None)[:3]
        return replace(takes, low=float(low), high=float(high), step=None if step is None else float(step))
    return takes


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _with_call(takes: Takes, call: ast.Call, scope: Scope) -> Takes:
    """`range(0, 10)`, `Ge(0)`, `Interval(ge=0, lt=5)`, `Field(ge=0, description="…")` and their like."""
    name = scope.full_name(call.func).rsplit(".", 1)[-1]
    given = [_known(part, scope) for part in call.args]
    words = {one.arg: _known(one.value, scope) for one in call.keywords if one.arg}
    if name == "range" and 1 <= len(given) <= 3 and all(isinstance(one, int) for one in given):
        values = range(*given)
        if not values:
            return takes
        return replace(takes, low=float(values[0]), high=float(values[-1]), step=float(abs(values.step)))
    single = {"Ge": "ge", "Gt": "gt", "Le": "le", "Lt": "lt", "MultipleOf": "multiple_of", "Unit": "unit"}
    single |= {"MaxLen": "max_length", "Doc": "description", "doc": "description"}
    if name in single and given:
        words = {single[name]: given[0]}
    return _with_constraints(takes, words)


def _known(part: ast.expr, scope: Scope) -> Any:
    try:
        return scope.value(part)
    except NotConstant:
        return None


def _with_constraints(takes: Takes, words: Mapping[str, Any]) -> Takes:
    changes: dict[str, Any] = {}
    for word, end, is_open in (
        ("ge", "low", ""),
        ("gt", "low", "is_above"),
        ("le", "high", ""),
        ("lt", "high", "is_below"),
    ):
        if _is_number(words.get(word)):
            changes[end] = float(words[word])
            changes |= {is_open: True} if is_open else {}
    if _is_number(words.get("multiple_of")) and words["multiple_of"] > 0:
        changes["step"] = float(words["multiple_of"])
    for word, name in (("unit", "unit"), ("title", "label"), ("description", "help"), ("documentation", "help")):
        if isinstance(words.get(word), str):
            changes[name] = words[word].strip()
    if isinstance(words.get("max_length"), int) and words["max_length"] > 0:
        changes["max_length"] = words["max_length"]
    return replace(takes, **changes)
