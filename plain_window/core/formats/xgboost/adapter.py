"""The adapter for models in XGBoost's own formats."""

import json
from collections.abc import Sequence
from typing import Any

import numpy as np
import pandas as pd
import xgboost

from ...contract.inspection import Found
from ...errors import ModelFailed, ModelNotOpened
from ...fields.columns import ColumnUse
from ...plan.building import Block, Builder, Raw
from ..adapter import SINGLE_PRECISION, NativeModel
from ..calling import ask
from .compiling import category_lists, compile_xgboost, linked_margins

__all__ = ["XgboostModel"]

# Objectives whose answer is a class, told by how they begin.
CLASS_OBJECTIVES = ("binary:logistic", "binary:hinge", "multi:")


class XgboostModel(NativeModel):
    """A booster, asked through the library.

    Parameters
    ----------
    content : bytes
        The file.
    format : str

    Raises
    ------
    ModelNotOpened
        If the library does not read it.
    """

    def __init__(self, content: bytes, format: str) -> None:
        self._booster = xgboost.Booster()
        try:
            self._booster.load_model(bytearray(content))
            self._booster.set_param({"nthread": 1})
            self._document = json.loads(self._booster.save_raw("json"))
            self._learner = self._document["learner"]
            self.found = self._found(format)
        except Exception as error:  # the library raises its own error for whatever its parsers meet
            reason = str(error).strip().split("\n")[0][:200]
            raise ModelNotOpened(
                f"XGBoost could not read the model file: {reason}. Save the model once more with `save_model`."
            ) from error
        self.tolerance = SINGLE_PRECISION

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
        margins = compile_xgboost(builder, self._document, value)
        return linked_margins(builder, self._objective, margins, as_classes=self.found.task == "class")

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        options = category_lists(self._document)
        return {
            name: ColumnUse(wants="category", categories=own, refuses_others=True) if own else ColumnUse(wants="number")
            for name, own, is_code in zip(names, options, self._is_code(len(names)), strict=False)
            if own or not is_code
        }

    @property
    def _objective(self) -> str:
        return self._learner["objective"]["name"]

    def _is_code(self, n_features: int) -> list[bool]:
        """Which features are options rather than numbers."""
        types = self._learner.get("feature_types") or []
        return [at < len(types) and types[at] == "c" for at in range(n_features)]

    def _outputs(self, table: pd.DataFrame) -> np.ndarray:
        matrix = xgboost.DMatrix(self._frame(table), enable_categorical=True, nthread=1)
        validate = self.found.features is not None
        if self._objective == "multi:softmax":
            margins = self._booster.predict(matrix, output_margin=True, validate_features=validate)
            exponents = np.exp(margins - margins.max(axis=1, keepdims=True))
            return (exponents / exponents.sum(axis=1, keepdims=True)).astype("float64")
        raw = self._booster.predict(matrix, validate_features=validate).astype("float64")
        out = raw.reshape(len(table), -1)
        if self.found.task == "class" and out.shape[1] == 1:
            return np.column_stack([1 - out, out])
        return out

    def _frame(self, table: pd.DataFrame) -> pd.DataFrame:
        """Numbers as floats, options as categories; what is neither is refused by its column's name."""
        columns: dict[str, Any] = {}
        options = category_lists(self._document)
        for at, (name, is_code) in enumerate(zip(table.columns, self._is_code(table.shape[1]), strict=True)):
            series = table[name]
            if is_code and (listed := options[at]):
                columns[name] = self._coded(series, listed)
            elif is_code:
                codes = pd.to_numeric(series).astype("float64")
                columns[name] = pd.Categorical(codes, categories=range(int(codes.max(skipna=True) or 0) + 1))
            elif pd.api.types.is_numeric_dtype(series):
                columns[name] = series.astype("float64").to_numpy()
            else:
                raise ModelFailed(f"The model wants numbers in `{name}`; the table has words there.", traceback="")
        return pd.DataFrame(columns)

    @staticmethod
    def _coded(series: pd.Series, options: list[Any]) -> pd.Categorical:
        stranger = set(series.dropna().unique()) - set(options)
        if stranger:
            known = ", ".join(map(str, options[:8]))
            message = f"The model does not know the value {sorted(map(str, stranger))[0]!r} of `{series.name}`. "
            raise ModelFailed(f"{message}It knows {known}.", traceback="")
        return pd.Categorical(series, categories=options)

    def _found(self, format: str) -> Found:
        parameters = self._learner["learner_model_param"]
        n_classes, n_targets = int(parameters.get("num_class", "0")), int(parameters.get("num_target", "1"))
        is_class = self._objective.startswith(CLASS_OBJECTIVES)
        task = "class" if is_class else "number"
        if n_targets > 1:
            task = "labels" if self._objective == "binary:logistic" else "numbers"
        n_named = n_targets if task == "labels" else max(n_classes, 2)
        version = ".".join(map(str, self._document.get("version", [])))
        names = self._booster.feature_names
        return Found(
            format=format,
            library="XGBoost",
            saved_with=version or None,
            running=xgboost.__version__,
            steps=[self._learner["gradient_booster"]["name"], self._objective],
            task=task,
            features=list(names) if names else None,
            n_features=int(parameters["num_feature"]),
            classes=[str(at) for at in range(n_named)] if task in ("class", "labels") else None,
            gives_probabilities=is_class and self._objective != "binary:hinge",
            warnings=[],
        )
