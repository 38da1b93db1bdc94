"""How like the reference rows a case is: what is compared, made ready once."""

import numpy as np

from ..contract import FieldFacts, ModelFacts
from ..contract.kept_rows import TEXTS_COMPARED, KeptRows
from ..trust.likeness import FEWEST_KNOWN, Likeness, describe_text
from ..trust.similarity import Similarity

__all__ = ["likeness_of_texts", "similarity_of_rows"]


def similarity_of_rows(kept_rows: KeptRows, facts: ModelFacts) -> Similarity | None:
    """Over the fields that can move the answer; over all of them if none is known to. None for nothing but texts.

    Parameters
    ----------
    kept_rows : KeptRows
    facts : ModelFacts
    """
    fields: list[FieldFacts] = [one for one in facts.fields if one.name not in facts.unused] or list(facts.fields)
    numbers = [one.name for one in fields if one.kind == "number"]
    options = [one.name for one in fields if one.kind in ("choice", "yes_no")]
    return Similarity(kept_rows.columns, numbers, options) if numbers or options else None


def likeness_of_texts(kept_rows: KeptRows, facts: ModelFacts) -> dict[str, Likeness]:
    """By field of text, where the rows are enough to tell.

    Parameters
    ----------
    kept_rows : KeptRows
    facts : ModelFacts
    """
    made = {}
    for field in facts.fields:
        if field.kind != "text":
            continue
        texts = [text for text in kept_rows.columns[field.name][:TEXTS_COMPARED] if isinstance(text, str)]
        if len(texts) >= FEWEST_KNOWN:
            made[field.name] = Likeness(np.array([describe_text(text) for text in texts]), is_text=True)
    return made
