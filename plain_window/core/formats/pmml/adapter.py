"""A PMML model as the rest of the program sees it."""

from collections.abc import Sequence

import numpy as np
import pandas as pd

from ...contract.inspection import Found
from ...fields.columns import ColumnUse
from ...fields.kinds import Scalar
from ...plan.building import Block, Builder, Raw, plain_scalar
from ..adapter import DOUBLE_PRECISION, NativeModel
from ..calling import ask
from .asking import ask_document
from .compiling import compile_pmml
from .reading import read_pmml

__all__ = ["PmmlModel"]


class PmmlModel(NativeModel):
    """A regression model, a tree or an ensemble of them.

    Parameters
    ----------
    content : bytes
        The file.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """

    def __init__(self, content: bytes) -> None:
        self._document = read_pmml(content)
        body = self._document.model.body
        names = [name for name in self._document.model.active if name in self._document.fields]
        is_class = body.task == "class"
        self.found = Found(
            format="pmml",
            library="PMML",
            saved_with=f"{self._document.version} {self._document.application}".strip(),
            running="read directly",
            steps=[type(body).__name__.lower()],
            task="class" if is_class else "number",
            features=names,
            n_features=len(names),
            classes=list(self._document.classes) if is_class else None,
            gives_probabilities=is_class,
            warnings=[],
        )
        self.tolerance = DOUBLE_PRECISION

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`."""

        def outputs() -> np.ndarray:
            columns = {name: [_plain(value) for value in table[name]] for name in table.columns}
            rows = [dict(zip(columns, values, strict=True)) for values in zip(*columns.values(), strict=True)]
            return np.array([ask_document(self._document, row) for row in rows])

        return ask(outputs)

    def compile_onto(self, builder: Builder, value: Raw | Block) -> Block:
        """The steps of this model on what came before it.

        Parameters
        ----------
        builder : Builder
            Steps are added to it.
        value : Raw or Block
            What came before the model.
        """
        return compile_pmml(builder, self._document, value)

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        uses = {}
        for name in names:
            field = self._document.fields[name]
            if field.is_category:
                options = list(field.options)
                uses[name] = ColumnUse(wants="category", categories=options or None, refuses_others=bool(options))
            else:
                uses[name] = ColumnUse(wants="number")
        return uses


def _plain(value: object) -> Scalar | None:
    return plain_scalar(None if value is pd.NA else value)
