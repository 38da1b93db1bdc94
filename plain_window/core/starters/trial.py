"""Models fitted on some rows and tried on others; inputs are prepared once for all that take them alike."""

import numpy as np
import pandas as pd
from sklearn.compose import ColumnTransformer
from threadpoolctl import threadpool_limits

from .by_hand import MOST_NEIGHBOURS_ROWS, fit, pipeline
from .intervals import errors_of
from .shapes import CandidateSettings, Recipe

__all__ = ["Trial"]


class Trial:
    """Rows that are learned from, and rows that models are tried on.

    Parameters
    ----------
    features : DataFrame of shape (n_rows, n_features)
    outcome : Series of shape (n_rows,)
    recipe : dict
    learned, tried_on : ndarray of int
        Which of the rows.
    """

    def __init__(
        self,
        features: pd.DataFrame,
        outcome: pd.Series,
        recipe: Recipe,
        learned: np.ndarray,
        tried_on: np.ndarray,
    ) -> None:
        self._features, self._asked = features.iloc[learned], features.iloc[tried_on]
        self._outcome, self.happened = outcome.iloc[learned], outcome.iloc[tried_on].to_numpy()
        self._recipe, self._is_class = recipe, recipe["target"]["kind"] == "class"
        self._prepared: dict[bool, tuple[np.ndarray, np.ndarray]] = {}

    def errors(self, candidate: str, settings: CandidateSettings) -> np.ndarray:
        """By row that is tried whether it was said wrongly, or how far off.

        Parameters
        ----------
        candidate : str
            As for `by_hand.pipeline`; what is said is what that would say.
        settings : dict
        """
        if self._is_class and self._outcome.nunique() == 1:
            # Of one class nothing can be learned but that.
            candidate, settings = "guess", {}
        if candidate == "neighbours" and len(self._features) > MOST_NEIGHBOURS_ROWS:
            # Its inputs are prepared by the rows that it carries.
            model = fit(self._features, self._outcome, self._recipe, candidate, settings)
            return errors_of(model.predict(self._asked), self.happened, is_class=self._is_class)
        inputs, model = pipeline(self._recipe, candidate, settings)
        with threadpool_limits(limits=1):
            learned, asked = self._inputs(inputs, are_codes=candidate == "boosted")
            said = model.fit(learned, self._outcome.to_numpy()).predict(asked)
        return errors_of(said, self.happened, is_class=self._is_class)

    def _inputs(self, inputs: ColumnTransformer, *, are_codes: bool) -> tuple[np.ndarray, np.ndarray]:
        """Of what is learned from and of what is tried; boosted trees take categories as codes."""
        if are_codes not in self._prepared:
            learned = inputs.fit_transform(self._features, self._outcome.to_numpy())
            self._prepared[are_codes] = (learned, inputs.transform(self._asked))
        return self._prepared[are_codes]
