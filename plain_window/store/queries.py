"""Rows of a query as plain tuples: what peewee gives of them has no types of its own."""

from collections.abc import Iterable
from typing import Any, TypeVar, cast

import peewee

__all__ = ["tuples_of"]

Shape = TypeVar("Shape", bound=tuple[object, ...])


def tuples_of(query: "peewee.ModelSelect[Any]", shape: type[Shape]) -> list[Shape]:
    """All rows of a query, each as the values of the columns it selects.

    Parameters
    ----------
    query : ModelSelect
        Selecting columns, not records.
    shape : type
        A tuple of the columns' types.
    """
    return list(cast("Iterable[Shape]", query.tuples()))
