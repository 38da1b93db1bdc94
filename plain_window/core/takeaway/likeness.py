"""What tells how like the reference rows a case is, for a file that carries those rows."""

from typing import Any

from ..contract import ModelFacts
from ..contract.kept_rows import TEXTS_COMPARED, KeptRows
from ..model_service.likeness_of_rows import LikenessOfRows

__all__ = ["likeness_along"]


def likeness_along(kept_rows: KeptRows, facts: ModelFacts) -> tuple[dict[str, Any] | None, dict[str, Any]]:
    """How a case's numbers and options are compared with the rows, and by field how its texts are.

    Parameters
    ----------
    kept_rows : KeptRows
        With at least one reference row.
    facts : ModelFacts

    Returns
    -------
    of_rows : dict or None
        None where there is nothing but texts.
    of_texts : dict
        By field of text.
    """
    likeness = LikenessOfRows(kept_rows, facts)
    of_texts = {
        name: {
            "n_compared": TEXTS_COMPARED,
            "unit": own.unit,
            "threshold": own.threshold,
            "usual": sorted(own.usual),
        }
        for name, own in likeness.texts.items()
    }
    similarity = likeness.similarity
    if similarity is None:
        return None, of_texts
    compared = similarity.compared
    of_rows = {
        "numbers": compared.numbers,
        "options": compared.options,
        "spread": compared.spread.tolist(),
        "usual": sorted(similarity.usual),
        "n_needed": compared.n_needed,
        "n_compared": len(compared.known),
    }
    return of_rows, of_texts
