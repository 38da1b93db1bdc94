"""A PMML document as plain parts: fields, derived fields, and one model."""

from dataclasses import dataclass, field
from typing import Literal

from ...fields.kinds import Scalar

__all__ = [
    "DataField",
    "Derived",
    "Document",
    "Ensemble",
    "Model",
    "Node",
    "Predicate",
    "Regression",
    "Segment",
    "Table",
    "Target",
    "Task",
    "Term",
    "Tree",
]

Task = Literal["class", "number"]


@dataclass(frozen=True)
class DataField:
    """One field of the data dictionary. Options are values of the field's own type."""

    name: str
    is_number: bool
    is_category: bool
    options: tuple[Scalar, ...]


@dataclass(frozen=True)
class Derived:
    """A field made of others: a function by name, what it is given, and its numbers."""

    name: str
    function: str
    arguments: tuple["str | float | Derived", ...]
    points: tuple[tuple[float, float], ...] = ()
    option: Scalar | None = None


@dataclass(frozen=True)
class Term:
    """A coefficient times fields to their powers, counted only where other fields have these options."""

    coefficient: float
    powers: tuple[tuple[str, float], ...] = ()
    options: tuple[tuple[str, Scalar], ...] = ()


@dataclass(frozen=True)
class Table:
    """A sum of terms; for a class, with its name."""

    intercept: float
    terms: tuple[Term, ...]
    category: str | None


@dataclass(frozen=True)
class Predicate:
    """A question about a row.

    `operator` is `true`, `false`, one of lessThan, lessOrEqual, greaterThan, greaterOrEqual, equal, notEqual, isIn,
    isNotIn, isMissing, isNotMissing, or one of and, or, xor, surrogate over `parts`.
    """

    operator: str
    name: str = ""
    values: tuple[Scalar, ...] = ()
    parts: tuple["Predicate", ...] = ()


@dataclass(frozen=True)
class Node:
    """A node of a tree: when it is entered, and what it says."""

    predicate: Predicate
    score: str | None
    shares: dict[str, float]
    children: tuple["Node", ...]
    id: str | None = None
    default_child: str | None = None


@dataclass(frozen=True)
class Target:
    """What is done with a number at the end."""

    factor: float = 1.0
    constant: float = 0.0
    low: float | None = None
    high: float | None = None
    whole: str | None = None


@dataclass(frozen=True)
class Regression:
    """Sums of terms, and the function they go through."""

    task: Task
    link: str
    tables: tuple[Table, ...]
    # A class that has no table of its own and gets what the others leave.
    reference: str | None = None
    exponent: float = 1.0


@dataclass(frozen=True)
class Tree:
    """A decision tree, with its rules for rows that fit nowhere."""

    task: Task
    root: Node
    missing: str
    no_child: str


@dataclass(frozen=True)
class Segment:
    """One of several models, asked where its predicate holds; it hands on what it says under these names."""

    predicate: Predicate
    model: "Model"
    weight: float
    hands_on: tuple[tuple[str, str, str | None], ...]


@dataclass(frozen=True)
class Ensemble:
    """Several models, and how their answers become one."""

    task: Task
    method: str
    segments: tuple[Segment, ...]


@dataclass(frozen=True)
class Model:
    """A model with what is done before and after it."""

    body: Regression | Tree | Ensemble
    active: tuple[str, ...]
    # Values that stand in for missing ones, and fields made only for this model.
    replacements: dict[str, Scalar]
    derived: tuple[Derived, ...]
    target: Target
    target_name: str | None


@dataclass(frozen=True)
class Document:
    """All of a file that counts."""

    version: str
    application: str
    fields: dict[str, DataField]
    derived: tuple[Derived, ...]
    model: Model
    classes: tuple[str, ...] = field(default_factory=tuple)
