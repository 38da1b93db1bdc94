"""What every adapter offers, whatever kind of file it reads."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Protocol

import numpy as np

from ..contract.inspection import Found
from ..fields.columns import Column, ColumnUse

if TYPE_CHECKING:  # who opens a model again loads only what it is asked with
    import pandas as pd

    from ..plan.building import Block, Builder, Raw
    from ..plan.plan import Plan

__all__ = ["DOUBLE_PRECISION", "SINGLE_PRECISION", "ModelAdapter", "NativeModel"]

# How far a compiled model may differ, relative to the answer's size, by how the original computes.
DOUBLE_PRECISION = 1e-12
SINGLE_PRECISION = 1e-6


class ModelAdapter(Protocol):
    """A model opened from its file, asked through its own library."""

    found: Found
    tolerance: float

    def predict(self, table: "pd.DataFrame") -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs), float64, for a table with the model's columns in its order.

        Parameters
        ----------
        table : pandas.DataFrame
            Shape (n_rows, n_features).

        Raises
        ------
        ModelFailed
            With the library's traceback.
        """

    def compile(self, columns: Sequence[Column]) -> "Plan":
        """The model as plain arrays and steps.

        Parameters
        ----------
        columns : sequence of Column
            The columns it will be asked with, in the model's order.

        Raises
        ------
        CannotCompile
            Naming what stands in the way.
        """

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """What the model is known to do with each of these columns.

        Parameters
        ----------
        names : sequence of str
            Columns of the table.
        """

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """Columns the model was fitted with and throws away at once.

        Parameters
        ----------
        names : sequence of str
            Columns of the table.
        """

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """The model's columns by the names the table has for them, once the table is known; None to look by name.

        `categories` has the distinct values of the table's columns of words.

        Parameters
        ----------
        names : sequence of str
            Columns of the table.
        categories : mapping
            The distinct values of the table's columns of words.
        """


class NativeModel:
    """What models in a library's own format have in common: all their columns count, and are found by name."""

    found: Found
    tolerance: float

    def predict(self, table: "pd.DataFrame") -> np.ndarray:
        """As `ModelAdapter.predict`."""
        raise NotImplementedError

    def compile(self, columns: Sequence[Column]) -> "Plan":
        """As `ModelAdapter.compile`."""
        from ..plan.building import Builder

        builder = Builder([column.name for column in columns])
        return builder.finish(self.compile_onto(builder, builder.raw))

    def compile_onto(self, builder: "Builder", value: "Raw | Block") -> "Block":
        """The steps of this model on what came before it.

        Parameters
        ----------
        builder : Builder
            Steps are added to it.
        value : Raw or Block
            What came before the model.

        Raises
        ------
        CannotCompile
            Naming what stands in the way.
        """
        raise NotImplementedError

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """As `ModelAdapter.dropped_columns`."""
        return set()

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """As `ModelAdapter.settle`."""
        return None
