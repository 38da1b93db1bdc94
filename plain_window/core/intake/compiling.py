"""From an opened model to a compiled one that has been proved, or to what stood in the way."""

from collections.abc import Sequence
from typing import Protocol

import numpy as np
import pandas as pd

from ..contract.compilation import CompiledReport
from ..contract.events import COMPILED_BYTES
from ..errors import ModelFailed
from ..fields import AnyField
from ..fields.columns import Column
from ..plan.building import CannotCompile
from ..plan.parity import prove
from ..plan.plan import Plan, PlanDamaged

__all__ = ["NOT_COMPILED", "Compilable", "compile_and_prove"]

# A model saved by another version may lack what this one reads; its own library still serves it.
NOT_COMPILED = (CannotCompile, PlanDamaged, AttributeError, ValueError, IndexError, KeyError, TypeError)


class Compilable(Protocol):
    """What can be compiled, and asked about the rows of a table."""

    @property
    def tolerance(self) -> float:
        """How far a compiled form may differ, relative to the size of answers."""

    def compile(self, columns: Sequence[Column]) -> Plan:
        """As `ModelAdapter.compile`.

        Parameters
        ----------
        columns : sequence of Column
        """

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`.

        Parameters
        ----------
        table : DataFrame
        """


def compile_and_prove(
    model: Compilable, table: pd.DataFrame, columns: Sequence[Column], fields: Sequence[AnyField]
) -> tuple[Plan | None, CompiledReport]:
    """Compile a model and compare it with the original on the reference rows and on rows around them.

    Parameters
    ----------
    model : Compilable
    table : DataFrame of shape (n_rows, n_columns)
    columns : sequence of Column
        What the model asks for, in its order.
    fields : sequence of field
        Which of them may be missing.

    Returns
    -------
    Plan or None, CompiledReport
    """
    names = [column.name for column in columns]
    try:
        plan = model.compile(columns)
    except CannotCompile as error:
        return None, CompiledReport(adopted=False, obstacle=str(error))
    except NOT_COMPILED as error:
        obstacle = f"The model could not be read step by step ({type(error).__name__}: {str(error)[:200]})."
        return None, CompiledReport(adopted=False, obstacle=obstacle)
    n_bytes = sum(array.nbytes for array in plan.arrays.values())
    if n_bytes > COMPILED_BYTES:
        obstacle = (
            f"Its compiled form would be {n_bytes >> 20} MB; {COMPILED_BYTES >> 20} MB are the most. Fewer or "
            "shallower trees make it smaller."
        )
        return None, CompiledReport(adopted=False, obstacle=obstacle)
    may_miss = {field.name for field in fields if field.optional}
    try:
        report = prove(plan, model.predict, table[names], may_miss=may_miss, tolerance=model.tolerance)
    except ModelFailed as error:
        return None, CompiledReport(adopted=False, obstacle=f"The comparison could not be finished. {error}")
    return (plan if report.adopted else None), report
