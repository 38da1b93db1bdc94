"""Which words of a text brought its answer about: contributions of words, by leaving them out.

A word is a player, all its occurrences together: it is in the text or it is not. The contributions are Shapley values
of that game, from the answer to no words at all up to the answer to the text [1]_. Words that change nothing, neither
where they are left out of the text nor standing alone, are not players: their contribution is nothing.

References
----------
.. [1] E. Štrumbelj, I. Kononenko, "An Efficient Explanation of Individual Classifications using Game Theory", Journal
       of Machine Learning Research 11, 2010, section 3.
"""

import re
import zlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from .coalitions import enumerate_coalitions, sample_orders

__all__ = ["TextExplanation", "WordShare", "ask_texts", "explain_text", "words_of"]

MOST_ENUMERATED, MOST_PLAYERS = 9, 250
# A standard error too small to be seen, as a share of how far the words brought the answer at the most.
SMALL_ERROR = 0.01
# What sampling may ask, and a limit on its time that only slow models reach, not busy machines.
MOST_ROWS, SECONDS = 1300, 0.6
# Letters and digits run together; signs that are words by themselves (Chinese, Japanese, little pictures) do not.
ALONE = "\u3040-\u30ff\u3400-\u9fff\U0001f300-\U0001faff"
WORD = re.compile(rf"[{ALONE}]|(?:(?![{ALONE}])\w)+(?:['’][^\W_]+)*")

# Which words are in, as rows of shape (n_rows, n_words), to the one output that is explained.
AskWords = Callable[[np.ndarray], np.ndarray]


@dataclass(frozen=True)
class WordShare:
    """One word: where it stands (start and end of each occurrence), and what it did to the answer."""

    word: str
    places: list[tuple[int, int]]
    contribution: float
    error: float
    # By how much the answer falls when this word alone is left out.
    left_out: float


@dataclass(frozen=True)
class TextExplanation:
    """Contributions of words add up to answer − baseline; the baseline is the answer to no words."""

    method: str
    baseline: float
    words: list[WordShare]


def words_of(text: str) -> dict[str, list[tuple[int, int]]]:
    """The words of a text with the places where they stand, upper and lower case alike.

    Of a text with very many words, several that come one after the other for the first time are one player.

    Parameters
    ----------
    text : str

    Examples
    --------
    >>> words_of("Bang! A bang at 200")
    {'bang': [(0, 4), (8, 12)], 'a': [(6, 7)], 'at': [(13, 15)], '200': [(16, 19)]}
    """
    words: dict[str, list[tuple[int, int]]] = {}
    for found in WORD.finditer(text):
        words.setdefault(found[0].casefold(), []).append(found.span())
    if len(words) <= MOST_PLAYERS:
        return words
    at_once = -(-len(words) // MOST_PLAYERS)
    names = list(words)
    groups = [names[at : at + at_once] for at in range(0, len(names), at_once)]
    return {" ".join(group): sorted(place for name in group for place in words[name]) for group in groups}


def ask_texts(ask: Callable[[Sequence[str]], np.ndarray], text: str) -> AskWords:
    """Asks by writing each text out with words left out.

    Parameters
    ----------
    ask : callable
        Texts to the one output that is explained, shape (n_texts,).
    text : str
    """
    places = list(words_of(text).values())

    def asked(takes: np.ndarray) -> np.ndarray:
        # A row often comes twice: orders begin with nothing and end with everything.
        unique, which = np.unique(takes, axis=0, return_inverse=True)
        return ask([_written(text, places, row) for row in unique])[which.ravel()]

    return asked


def explain_text(
    ask: AskWords,
    text: str,
    *,
    small_error: float = SMALL_ERROR,
    seconds: float = SECONDS,
    most_rows: int = 1 << MOST_ENUMERATED,
) -> TextExplanation:
    """Contributions of the words of a text.

    Parameters
    ----------
    ask : callable
        Which words of `words_of(text)` are in, to the output that is explained.
    text : str
    small_error : float
        When sampling may stop: as a share of the largest step the words made.
    seconds : float
        The most that sampling may take.
    most_rows : int
        Of so many texts the model may be asked about all; where that is not enough for all groups of words, some are
        sampled.

    Returns
    -------
    TextExplanation
        The strongest words first; exact where few of them count, else sampled with its standard error.
    """
    found = words_of(text)
    n_words, all_in = len(found), np.ones((1, len(found)), dtype=bool)
    one_only = np.eye(n_words, dtype=bool)
    outputs = ask(np.concatenate([all_in, ~all_in, ~one_only, one_only]))
    whole, baseline = float(outputs[0]), float(outputs[1])
    left_out, alone = outputs[2 : 2 + n_words], outputs[2 + n_words :]
    players = np.flatnonzero((left_out != whole) | (alone != baseline))
    contributions, errors = np.zeros(n_words), np.zeros(n_words)

    def ask_players(takes: np.ndarray, _: np.ndarray) -> np.ndarray:
        every = np.ones((len(takes), n_words), dtype=bool)
        every[:, players] = takes
        return ask(every)[:, None]

    method = "exact-enumeration"
    if 0 < players.size <= MOST_ENUMERATED and 1 << players.size <= most_rows:
        contributions[players] = enumerate_coalitions(ask_players, n_fields=players.size, n_sample_rows=1)[:, 0]
    elif players.size > 0:
        method = "sampled"
        sampled = sample_orders(
            ask_players,
            n_fields=players.size,
            n_sample_rows=1,
            # Same text, same numbers.
            seed=zlib.crc32(text.encode("utf-8", "surrogatepass")),
            seconds=seconds,
            small_error=small_error * np.ptp(outputs),
            most_pairs=max(2, MOST_ROWS // (2 * (players.size + 1))),
        )
        contributions[players], errors[players] = sampled.contributions[:, 0], sampled.errors[:, 0]
    shares = [
        WordShare(name, own, float(contribution), float(error), whole - float(without))
        for (name, own), contribution, error, without in zip(
            found.items(), contributions, errors, left_out, strict=True
        )
    ]
    return TextExplanation(method, baseline, sorted(shares, key=lambda share: -abs(share.contribution)))


def _written(text: str, places: Sequence[Sequence[tuple[int, int]]], taken: np.ndarray) -> str:
    """The text with some words blank: what stood on either side does not run together."""
    gone = sorted(place for own, is_in in zip(places, taken, strict=True) if not is_in for place in own)
    parts, at = [], 0
    for start, end in gone:
        parts += [text[at:start], " "]
        at = end
    return "".join([*parts, text[at:]])
