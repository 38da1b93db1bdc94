"""Words that agree in number: one of a kind, guessed from several where the author has not said."""

import re

__all__ = ["one_of", "several_of", "singular_label"]

# First words of a label that change with the number in a way of their own.
ODD_VERBS = {
    "are": "is",
    "were": "was",
    "have": "has",
    "do": "does",
    "don't": "doesn't",
    "don’t": "doesn’t",
    "go": "goes",
}
# Verbs that outcomes are told with; a label may begin with one. Any other first word may be a noun and is left alone.
VERBS = frozenset(
    re.findall(
        "[a-z]+",
        """
    arrive ask become begin bloat bloom bow break bring bubble burn burst buy call cancel change chip choose churn
    claim come complete cost crack crawl craze cure decline default die drip drop earn end enter explode fade fail
    fall fill find finish fit fly get give grow hold improve keep last lead learn leak leave lie live look lose
    love make match mean melt miss need open order owe pass pay pick play point produce pull push reach read
    recover relapse remain renew repay reply return ripen rise run say see sell send set settle show shrink sink
    sit sleep slump smell speak split spoil stand start stay stick stop suit survive swell take taste tell turn
    use vote wait walk want warp watch wear weigh wilt win work yield
    """,
    )
)
SIBILANTS = ("s", "x", "z", "ch", "sh", "o")
ODD_NOUNS = {"people": "person", "children": "child", "men": "man", "women": "woman", "mice": "mouse", "feet": "foot"}


def singular_label(label: str, stated: str = "") -> str:
    """What one of them does or is, where `label` says it of several.

    Parameters
    ----------
    label : str
        As the author wrote it.
    stated : str, optional
        What the author gave instead; it is taken where there is some.

    Examples
    --------
    >>> singular_label("are crazed"), singular_label("point to damp pots"), singular_label("green")
    ('is crazed', 'points to damp pots', 'green')
    """
    if stated:
        return stated
    first, space, rest = label.partition(" ")
    if first in ODD_VERBS:
        return f"{ODD_VERBS[first]}{space}{rest}"
    return f"{_third_person(first)}{space}{rest}" if first in VERBS else label


def _third_person(verb: str) -> str:
    if re.search("[^aeiou]y$", verb):
        return verb[:-1] + "ies"
    return verb + ("es" if verb.endswith(SIBILANTS) else "s")


def one_of(noun: str, stated: str = "") -> str:
    """One of what `noun` counts.

    Parameters
    ----------
    noun : str
        In the plural, as documents have it.
    stated : str, optional
        What the author gave instead; it is taken where there is some.

    Examples
    --------
    >>> one_of("pieces"), one_of("glazed dishes"), one_of("studios of potters"), one_of("sheep")
    ('piece', 'glazed dish', 'studio of potters', 'sheep')
    """
    if stated:
        return stated
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


def several_of(noun: str, stated: str = "") -> str:
    """Several of what `noun` is one of.

    Parameters
    ----------
    noun : str
        In the singular.
    stated : str, optional
        What the author gave instead; it is taken where there is some.

    Examples
    --------
    >>> several_of("bare spot"), several_of("glazed dish"), several_of("studio of a potter"), several_of("person")
    ('bare spots', 'glazed dishes', 'studios of a potter', 'people')
    """
    if stated:
        return stated
    head, of, rest = noun.partition(" of ")
    before, space, last = head.rpartition(" ")
    odd = {one: many for many, one in ODD_NOUNS.items()}
    if last.casefold() in odd:
        last = odd[last.casefold()]
    elif re.search("[^aeiou]y$", last):
        last = last[:-1] + "ies"
    elif last and last[-1].isalpha():
        last += "es" if last.endswith(("s", "x", "z", "ch", "sh")) else "s"
    return f"{before}{space}{last}{of}{rest}"
