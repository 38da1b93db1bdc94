"""Words that agree in number: one of a kind, guessed from several where the author has not said."""

import re

__all__ = ["one_of", "singular_label"]

# The first words of a label that change with the number, and what they become.
VERBS = {
    "are": "is",
    "were": "was",
    "have": "has",
    "do": "does",
    "don't": "doesn't",
    "don’t": "doesn’t",
    "go": "goes",
    "come": "comes",
    "turn": "turns",
    "stay": "stays",
    "leave": "leaves",
    "need": "needs",
    "get": "gets",
    "show": "shows",
    "fail": "fails",
    "pass": "passes",
    "crack": "cracks",
    "warp": "warps",
    "break": "breaks",
    "look": "looks",
    "sell": "sells",
    "last": "lasts",
    "run": "runs",
    "hold": "holds",
}
ODD_NOUNS = {"people": "person", "children": "child", "men": "man", "women": "woman", "mice": "mouse", "feet": "foot"}


def singular_label(label: str, given: str = "") -> str:
    """What one of them does or is, where `label` says it of several.

    Examples
    --------
    >>> singular_label("are crazed"), singular_label("come out sound"), singular_label("green")
    ('is crazed', 'comes out sound', 'green')
    """
    if given:
        return given
    first, space, rest = label.partition(" ")
    return f"{VERBS[first]}{space}{rest}" if first in VERBS else label


def one_of(noun: str, given: str = "") -> str:
    """One of what `noun` counts.

    Examples
    --------
    >>> one_of("pieces"), one_of("glazed dishes"), one_of("studios of potters"), one_of("sheep")
    ('piece', 'glazed dish', 'studio of potters', 'sheep')
    """
    if given:
        return given
    head, of, rest = noun.partition(" of ")
    before, space, last = head.rpartition(" ")
    plain = last.casefold()
    if plain in ODD_NOUNS:
        last = ODD_NOUNS[plain]
    elif re.search("[^aeiou]ies$", plain):
        last = last[:-3] + "y"
    elif re.search("(ss|x|ch|sh|zz)es$", plain):
        last = last[:-2]
    elif plain.endswith("s") and not plain.endswith(("ss", "us", "is")):
        last = last[:-1]
    return f"{before}{space}{last}{of}{rest}"
