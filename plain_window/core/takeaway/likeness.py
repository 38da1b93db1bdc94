"""What tells how like the reference rows, or the known pictures, a case is, for a file that carries them along."""

import base64
from collections.abc import Mapping

from ..contract import ModelFacts
from ..contract.kept_rows import TEXTS_COMPARED, KeptRows
from ..model_service.likeness_of_rows import LikenessOfRows
from ..trust.likeness import Likeness, as_descriptions

__all__ = ["likeness_along", "likeness_of_pictures_along"]


def likeness_along(kept_rows: KeptRows, facts: ModelFacts) -> tuple[dict[str, object] | None, Mapping[str, object]]:
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
    of_rows: dict[str, object] = {
        "numbers": compared.numbers,
        "options": compared.options,
        "spread": compared.spread.tolist(),
        "usual": sorted(similarity.usual),
        "n_needed": compared.n_needed,
        "n_compared": len(compared.known),
    }
    return of_rows, of_texts


def likeness_of_pictures_along(kept_rows: KeptRows, field: str) -> dict[str, object] | None:
    """How a picture is compared with the known ones: by numbers that describe each of them, not by the pictures.

    Parameters
    ----------
    kept_rows : KeptRows
    field : str
        The picture's.
    """
    kept = kept_rows.descriptions.get(field)
    if not kept:
        return None
    likeness = Likeness(as_descriptions(kept))
    middle, spread = likeness.scale
    return {
        "described_as": kept_rows.described_as[field],
        "known": base64.b64encode(likeness.scaled.astype("<f4").tobytes()).decode("ascii"),
        "middle": middle.tolist(),
        "spread": spread.tolist(),
        "units": list(likeness.units),
        "usual": sorted(likeness.usual),
        "threshold": likeness.threshold,
    }
