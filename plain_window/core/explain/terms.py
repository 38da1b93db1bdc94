"""Texts with words left out, as the counts a compiled model makes of them, without writing them out.

Cutting a text into words and pairs of words takes most of the time a text model needs. Here that is done once: with
some words left out, the terms are those of the words that remain, which are looked up by their numbers.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from ..contract.values import Cell
from ..plan.engine import CompiledModel
from ..plan.operations.sparse import Sparse
from ..plan.operations.words import terms_of
from ..plan.plan import Step
from .text import AskWords, words_of

__all__ = ["ask_terms"]

# Words and pairs of words; longer runs are written out instead.
LONGEST_RUN = 2


def ask_terms(compiled: CompiledModel, field: str, row: Mapping[str, Cell], of: int) -> AskWords | None:
    """Asks a compiled model about a row with words of one field left out; None if it cuts texts in another way.

    Parameters
    ----------
    compiled : CompiledModel
    field : str
        The field of text.
    row : mapping
        All raw values.
    of : int
        The output that is explained.
    """
    plan = compiled.plan
    readers = [at for at, step in enumerate(plan.steps) if field in step.settings.get("columns", ())]
    if len(readers) != 1 or plan.steps[readers[0]].op != "count_terms":
        return None
    step, text = plan.steps[readers[0]], str(row[field])
    terms = _terms(step, text)
    if terms is None:
        return None
    last, rest = plan.steps[-1].out, [at for at in range(len(plan.steps)) if at != readers[0]]

    def asked(takes: np.ndarray) -> np.ndarray:
        out = np.empty(len(takes))
        for start in range(0, len(takes), compiled.chunk_rows):
            some = takes[start : start + compiled.chunk_rows]
            columns = {item.name: [row[item.name]] * len(some) for item in plan.inputs}
            counted = {step.out: terms.counts(some)}
            outputs = compiled.run_steps(rest, counted, columns, keep=[last])[last]
            out[start : start + len(some)] = outputs[:, of]
        return out

    return asked


class _Terms:
    """One text's tokens, and the places of their terms.

    Parameters
    ----------
    word_of_token : ndarray of int, shape (n_tokens,)
        Which word of the text each token is part of.
    single : ndarray of int, shape (n_tokens,)
        The place of each token's term, −1 for none.
    pairs : ndarray of int, shape (n_tokens, n_tokens)
        The place of the pair of two tokens.
    width : int
    once : bool
        Whether a term counts once however often it occurs.
    """

    def __init__(
        self, word_of_token: np.ndarray, single: np.ndarray, pairs: np.ndarray | None, width: int, *, once: bool
    ) -> None:
        self._word_of_token, self._single, self._pairs = word_of_token, single, pairs
        self._width, self._once = width, once

    def counts(self, takes: np.ndarray) -> Sparse:
        """How often each term occurs with only some of the words in."""
        starts, columns, data = [0], [], []
        for is_in in takes[:, self._word_of_token]:
            tokens = np.flatnonzero(is_in)
            found = self._single[tokens]
            if self._pairs is not None and tokens.size > 1:
                found = np.concatenate([found, self._pairs[tokens[:-1], tokens[1:]]])
            places, counts = np.unique(found[found >= 0], return_counts=True)
            columns.append(places)
            data.append(np.ones(places.size) if self._once else counts.astype("float64"))
            starts.append(starts[-1] + places.size)
        return Sparse(np.array(starts), np.concatenate(columns).astype("int64"), np.concatenate(data), self._width)


def _terms(step: Step, text: str) -> _Terms | None:
    settings = step.settings
    low, high = settings["lengths"]
    if settings["analyzer"] != "word" or high > LONGEST_RUN or not words_of(text):
        return None
    # Each word is cut by itself; together that must be what the whole is cut into.
    spans = sorted((place, number) for number, own in enumerate(words_of(text).values()) for place in own)
    singles = {**settings, "lengths": (1, 1)}
    tokens: list[str] = []
    word_of_token: list[int] = []
    for (start, end), number in spans:
        own = list(terms_of(text[start:end], singles))
        tokens += own
        word_of_token += [number] * len(own)
    if tokens != list(terms_of(text, singles)) or not tokens:
        return None
    places = {term: at for at, term in enumerate(settings["terms"])}
    single = np.array([places.get(token, -1) if low == 1 else -1 for token in tokens])
    pairs = _pairs(tokens, places) if high == LONGEST_RUN else None
    return _Terms(np.array(word_of_token), single, pairs, step.width, once=settings["once"])


def _pairs(tokens: Sequence[str], places: Mapping[str, int]) -> np.ndarray:
    """The place of the pair of any two tokens: words that were apart may come to stand together."""
    out = np.full((len(tokens), len(tokens)), -1)
    numbers: dict[str, list[int]] = {}
    for at, token in enumerate(tokens):
        numbers.setdefault(token, []).append(at)
    for first, firsts in numbers.items():
        for second, seconds in numbers.items():
            place = places.get(f"{first} {second}")
            if place is not None:
                out[np.ix_(firsts, seconds)] = place
    return out
