"""Texts into counts of words or of runs of characters."""

import re
import unicodedata
from collections import Counter
from collections.abc import Iterable
from typing import Any

import numpy as np

from .registry import Arrays, Blocks, Columns, Settings, need, operation
from .sparse import Sparse

__all__ = ["terms_of"]

ANALYZERS = ("word", "char", "char_wb")
_SPACES = re.compile(r"\s\s+")


def _count_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(len(settings["columns"]) == 1 and widths == [], "one column of text is wanted")
    need(settings["analyzer"] in ANALYZERS, "no such analyzer")
    need(settings["accents"] in (None, "ascii", "unicode"), "no such way to treat accents")
    low, high = settings["lengths"]
    need(1 <= low <= high, "runs of at least one term are wanted")
    re.compile(settings["pattern"])
    need(len(set(settings["terms"])) == len(settings["terms"]) > 0, "each term once")
    need(all(isinstance(term, str) for term in settings["terms"] + settings["left_out"]), "terms are text")
    return len(settings["terms"])


def _places_of_terms(arrays: Arrays, settings: Settings) -> Settings:
    return {"places": {term: at for at, term in enumerate(settings["terms"])}}


@operation("count_terms", _count_width, ready=_places_of_terms)
def _count_terms(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> Sparse:
    """How often each of the terms occurs in each text."""
    places = (settings if "places" in settings else _places_of_terms(arrays, settings))["places"]
    starts, found, counts = [0], [], []
    for text in columns[settings["columns"][0]]:
        own = Counter(places[term] for term in terms_of("" if text is None else str(text), settings) if term in places)
        at = sorted(own)
        found += at
        counts += [1.0 if settings["once"] else float(own[place]) for place in at]
        starts.append(len(found))
    return Sparse(
        np.array(starts), np.array(found, dtype="int64"), np.array(counts, dtype="float64"), len(settings["terms"])
    )


def terms_of(text: str, settings: Settings) -> Iterable[str]:
    """The terms of one text, in order, by the settings of `count_terms`.

    Parameters
    ----------
    text : str
    settings : mapping
        The step's, by name.
    """
    if settings["lowercase"]:
        text = text.lower()
    if settings["accents"]:
        text = _without_accents(text, to_ascii=settings["accents"] == "ascii")
    low, high = settings["lengths"]
    if settings["analyzer"] == "word":
        left_out = set(settings["left_out"])
        words = [word for word in re.findall(settings["pattern"], text) if word not in left_out]
        return _runs(words, low, high, " ".join)
    text = _SPACES.sub(" ", text)
    if settings["analyzer"] == "char":
        return _runs(text, low, high, str)
    return (run for word in text.split() for run in _runs_inside(f" {word} ", low, high))


def _runs(items: Any, low: int, high: int, join: Any) -> Iterable[str]:
    for length in range(low, min(high, len(items)) + 1):
        for start in range(len(items) - length + 1):
            yield join(items[start : start + length])


def _runs_inside(word: str, low: int, high: int) -> Iterable[str]:
    """Runs of characters of one word; a word shorter than a run counts whole, once."""
    for length in range(low, high + 1):
        yield word[:length]
        for start in range(1, len(word) - length + 1):
            yield word[start : start + length]
        if length >= len(word):
            return


def _without_accents(text: str, *, to_ascii: bool) -> str:
    if text.isascii():
        return text
    parts = unicodedata.normalize("NFKD", text)
    if to_ascii:
        return parts.encode("ASCII", "ignore").decode("ASCII")
    return "".join(part for part in parts if not unicodedata.combining(part))
