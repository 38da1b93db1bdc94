"""What happened, as it stands in a table, as the report takes it."""

import numpy as np
import pyarrow as pa
from pyarrow import compute as pc

from ..answers.kinds import AnyAnswerSetting, ClassSetting

__all__ = ["truths_of"]


def truths_of(setting: AnyAnswerSetting, texts: pa.Array) -> np.ndarray:
    """The class's place, or the number, by row; NaN where there is none.

    Parameters
    ----------
    setting : answer setting
        Of one class or one number.
    texts : pyarrow.Array of string
    """
    encoded = pc.dictionary_encode(pc.fill_null(texts, ""))
    known = np.array([_truth(setting, text.strip()) for text in encoded.dictionary.to_pylist()] or [np.nan])
    codes = encoded.indices.to_numpy(zero_copy_only=False)
    return known[codes]


def _truth(setting: AnyAnswerSetting, text: str) -> float:
    if isinstance(setting, ClassSetting):
        for at, wording in enumerate(setting.classes):
            if text in (wording.name, wording.label, wording.headline):
                return float(at)
        # A class that is a number may be written 1.0.
        names = {wording.name: at for at, wording in enumerate(setting.classes)}
        return float(names.get(text.removesuffix(".0"), np.nan))
    try:
        return float(text)
    except ValueError:
        return float("nan")
