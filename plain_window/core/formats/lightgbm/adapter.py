"""The adapter for models in LightGBM's own format."""

import re
from collections.abc import Sequence
from typing import Any

import lightgbm
import numpy as np
import pandas as pd

from ...contract.inspection import Found
from ...errors import ModelFailed, ModelNotOpened
from ...fields.columns import ColumnUse
from ...plan.building import Block, Builder, Raw
from ..adapter import DOUBLE_PRECISION, NativeModel
from ..calling import ask
from .compiling import compile_lightgbm, linked_scores, read_lightgbm

__all__ = ["LightgbmModel"]

# Objectives whose answer is a class.
CLASS_OBJECTIVES = ("binary", "multiclass", "multiclassova")


class LightgbmModel(NativeModel):
    """A booster, asked through the library.

    Parameters
    ----------
    content : bytes
        The file.

    Raises
    ------
    ModelNotOpened
        If it was cut off, or the library does not read it.
    """

    def __init__(self, content: bytes) -> None:
        try:
            text = content.decode()
            # Read here first: the library, given a text that was cut off, may end the process.
            self._text = read_lightgbm(text)
            self.found = self._found()
            self._booster = lightgbm.Booster(model_str=text)
        except Exception as error:  # both readers raise whatever they meet
            reason = str(error).strip().split("\n")[0][:200]
            raise ModelNotOpened(
                f"The LightGBM model could not be read: {reason}. Save it once more with `save_model`."
            ) from error
        self.tolerance = DOUBLE_PRECISION

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`."""
        return ask(lambda: self._outputs(table))

    def compile_onto(self, builder: Builder, value: Raw | Block) -> Block:
        """The steps of this model on what came before it.

        Parameters
        ----------
        builder : Builder
            Steps are added to it.
        value : Raw or Block
            What came before the model.
        """
        return linked_scores(builder, self._text, compile_lightgbm(builder, self._text, value))

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        options, by_options = self._text.categories_by_feature(), self._text.by_options
        uses = {}
        for at, name in enumerate(names):
            if at in options:
                uses[name] = ColumnUse(wants="category", categories=options[at])
            elif at < len(by_options) and not by_options[at]:
                uses[name] = ColumnUse(wants="number")
        return uses

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """The table's own names where the library wrote underscores for their spaces.

        Parameters
        ----------
        names : sequence of str
            Columns of the table.
        categories : mapping
            The distinct values of the table's columns of words.
        """
        written = {re.sub(r"\s", "_", name): name for name in names}
        features = self.found.features or []
        if features and all(name in written for name in features):
            return [written[name] for name in features]
        return None

    def _outputs(self, table: pd.DataFrame) -> np.ndarray:
        raw = self._booster.predict(self._matrix(table), num_threads=1)
        out = np.asarray(raw, dtype="float64").reshape(len(table), -1)
        if self.found.task == "class" and out.shape[1] == 1:
            return np.column_stack([1 - out, out])
        return out

    def _matrix(self, table: pd.DataFrame) -> np.ndarray:
        """Numbers as they are, options as the codes the model was trained with."""
        options = self._text.categories_by_feature()
        columns: list[Any] = []
        for at, name in enumerate(table.columns):
            series = table[name]
            if at in options:
                codes = pd.Categorical(series, categories=options[at]).codes.astype("float64")
                columns.append(np.where(codes < 0, np.nan, codes))
            elif pd.api.types.is_numeric_dtype(series):
                columns.append(series.astype("float64").to_numpy())
            else:
                raise ModelFailed(f"The model wants numbers in `{name}`; the table has words there.", traceback="")
        return np.column_stack(columns)

    def _found(self) -> Found:
        objective = self._text.objective[0]
        is_class = objective in CLASS_OBJECTIVES
        n_outputs = self._text.n_outputs
        names = self._text.features
        nameless = all(re.fullmatch(r"Column_\d+", name) for name in names)
        return Found(
            format="lightgbm",
            library="LightGBM",
            # The text has the version of its format, not the library's.
            saved_with=None,
            running=lightgbm.__version__,
            steps=["boosted trees", objective],
            task="class" if is_class else "numbers" if n_outputs > 1 else "number",
            features=None if nameless else names,
            n_features=len(names),
            classes=[str(at) for at in range(max(n_outputs, 2))] if is_class else None,
            gives_probabilities=is_class,
            warnings=[],
        )
