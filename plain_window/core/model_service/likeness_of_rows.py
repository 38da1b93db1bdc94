"""How like the reference rows a case is: what is compared, made ready once."""

import numpy as np

from ..contract import FieldFacts, ModelFacts
from ..contract.kept_rows import TEXTS_COMPARED, KeptRows
from ..contract.replies import FamiliarityFound
from ..contract.values import Row
from ..trust.likeness import FEWEST_KNOWN, Likeness, describe_text
from ..trust.similarity import Similarity
from .strangers import Strangers

__all__ = ["LikenessOfRows"]


class LikenessOfRows:
    """The reference rows, by their numbers and options, and by each of their texts.

    Parameters
    ----------
    kept_rows : KeptRows
        With at least one reference row.
    facts : ModelFacts

    Attributes
    ----------
    similarity : Similarity or None
        By numbers and options; None where there are none.
    strangers : Strangers or None
        The same, for whoever only asks whether a case is unlike them.
    texts : dict of str to Likeness
        By field of text.
    """

    def __init__(self, kept_rows: KeptRows, facts: ModelFacts) -> None:
        self.similarity = _similarity(kept_rows, facts)
        self.strangers = None if self.similarity is None else Strangers(self.similarity.compared)
        self.texts = _likeness_of_texts(kept_rows, facts)

    def familiarity(self, row: Row) -> FamiliarityFound | None:
        """How like the reference rows a case is; None where nothing of it can be compared.

        Parameters
        ----------
        row : mapping of str to value
        """
        found = []
        if self.similarity is not None and self.strangers is not None:
            found.append(self.similarity.familiarity(self.strangers.distances(row)))
        found += [
            likeness.familiarity(describe_text(text))
            for name, likeness in self.texts.items()
            if isinstance(text := row[name], str)
        ]
        if not found:
            return None
        strangest = min(found, key=lambda one: (not one.is_unlike, one.share_as_far))
        return FamiliarityFound(strangest.distance, strangest.share_as_far, strangest.is_unlike)

    def is_unlike(self, row: Row) -> bool | None:
        """Whether `familiarity` would say that a case is unlike anything seen, found out as quickly as may be.

        Parameters
        ----------
        row : mapping of str to value
        """
        if self.strangers is not None and not self.texts:
            return self.strangers.is_unlike(row)
        familiarity = self.familiarity(row)
        return None if familiarity is None else familiarity.is_unlike


def _similarity(kept_rows: KeptRows, facts: ModelFacts) -> Similarity | None:
    """Over the fields that can move the answer; over all of them if none is known to. None for nothing but texts."""
    fields: list[FieldFacts] = [one for one in facts.fields if one.name not in facts.unused] or list(facts.fields)
    numbers = [one.name for one in fields if one.kind == "number"]
    options = [one.name for one in fields if one.kind in ("choice", "yes_no")]
    return Similarity(kept_rows.columns, numbers, options) if numbers or options else None


def _likeness_of_texts(kept_rows: KeptRows, facts: ModelFacts) -> dict[str, Likeness]:
    """By field of text, where the rows are enough to tell."""
    made = {}
    for field in facts.fields:
        if field.kind != "text":
            continue
        texts = [text for text in kept_rows.columns[field.name][:TEXTS_COMPARED] if isinstance(text, str)]
        if len(texts) >= FEWEST_KNOWN:
            made[field.name] = Likeness(np.array([describe_text(text) for text in texts]), is_text=True)
    return made
