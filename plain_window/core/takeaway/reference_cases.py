"""Cases that a file brings with what the server said of them, so that it can be checked wherever it is opened.

They are drawn from what fields take, never from the reference table: a file that leaves the table out must not hand out
rows of it as its proof.
"""

import random
from collections.abc import Mapping, Sequence
from typing import Any

from ..fields import AnyField, ChoiceField, DrawingField, NumberField, PictureField, TextField, YesNoField

__all__ = ["reference_cases"]

SEED = 20261128
# Of what may be unknown, so often it is.
UNKNOWN_SHARE = 0.1
MOST_WORDS = 40


def reference_cases(
    fields: Sequence[AnyField], texts: Mapping[str, Sequence[str]], n_cases: int
) -> list[dict[str, object]]:
    """Cases as visitors would enter them, drawn once: the same fields give the same cases.

    Parameters
    ----------
    fields : sequence of AnyField
        A document's; hidden ones are left to their start values.
    texts : mapping of str to sequence of str
        Texts that are there to be shown, by field; their words are drawn from.
    n_cases : int

    Returns
    -------
    list of dict
        Entered value by field.

    Examples
    --------
    >>> handle = YesNoField(name="handle", label="Handle", no=0, yes=1, default=False)
    >>> reference_cases([handle], {}, 3) == reference_cases([handle], {}, 3)
    True
    """
    draw = random.Random(SEED)
    shown = [field for field in fields if not field.hidden]
    return [{field.name: _drawn(field, texts, draw) for field in shown} for _ in range(n_cases)]


def _drawn(field: AnyField, texts: Mapping[str, Sequence[str]], draw: random.Random) -> Any:
    if field.optional and draw.random() < UNKNOWN_SHARE:
        return None
    if isinstance(field, NumberField):
        value = draw.uniform(field.seen.low, field.seen.high)
        on_step = round(value / field.step) * field.step
        return float(round(on_step)) if field.whole else on_step
    if isinstance(field, ChoiceField):
        return draw.choice(field.options).value
    if isinstance(field, YesNoField):
        return draw.random() < 0.5
    if isinstance(field, PictureField | DrawingField):
        # What draws is loaded where it is needed.
        from .made_pictures import made_drawing, made_picture

        return made_drawing(draw) if isinstance(field, DrawingField) else made_picture(draw)
    assert isinstance(field, TextField)
    words = " ".join(texts.get(field.name) or [field.default or "clay"]).split() or ["clay"]
    return " ".join(draw.choice(words) for _ in range(draw.randint(1, MOST_WORDS)))[: field.max_length]
