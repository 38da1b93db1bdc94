"""Rows of a query as plain tuples: what peewee gives of them has no types of its own."""

from collections.abc import Iterable
from typing import Any, cast

import peewee

__all__ = ["tuples_of"]


def tuples_of(query: "peewee.ModelSelect[Any]") -> list[tuple[Any, ...]]:
    """All rows of a query, each as the values of the columns it selects.

    Parameters
    ----------
    query : ModelSelect
        Selecting columns, not records.
    """
    return list(cast("Iterable[tuple[Any, ...]]", query.tuples()))
