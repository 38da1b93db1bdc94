"""Names for classes: the model's own, the author's list, or the outcome's column where the model only has numbers."""

import csv
import io
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import pandas as pd

from ..errors import Fault, MismatchFaults
from ..guest.class_names import class_name
from .outcomes import WordMatch, match_words

__all__ = ["ClassNames", "names_of_classes"]

# What stands over a list of names in a table.
HEADINGS = {"class", "classes", "label", "labels", "name", "names", "category", "categories", "outcome", "target"}


class ClassNames(NamedTuple):
    """What classes are called, which words in the outcome's column mean which of them, and what to check of that.

    `words` has names by the outcome's own words, where those are others; `is_open` if the author should confirm it.
    """

    names: list[str]
    words: dict[str, str]
    note: str | None
    is_open: bool = False


def names_of_classes(
    classes: Sequence[str], labels: Sequence[str] | None, outcomes: pd.Series | None, outputs: np.ndarray
) -> ClassNames:
    """What to call the classes, and what was concluded for that.

    Parameters
    ----------
    classes : sequence of str, length n_classes
        As the model has them, in its order.
    labels : sequence of str, optional
        The author's list: one name a line in class order, or the lines of a CSV.
    outcomes : Series of length n_rows or more, optional
        The outcome's column.
    outputs : ndarray of shape (n_rows, n_classes)
        What the model says of the first rows.

    Raises
    ------
    MismatchFaults
        If the list does not fit the model.
    """
    listed = _listed(classes, labels) if labels is not None else None
    if outcomes is None:
        return ClassNames(listed or list(classes), {}, None)
    met = [None if pd.isna(value) else class_name(value) for value in outcomes.head(len(outputs))]
    words = sorted({class_name(value) for value in outcomes.dropna().unique()})
    understood = set(classes) | set(listed or [])
    if set(words) <= understood or (listed is None and (not _are_numbers(classes) or _are_numbers(words))):
        return ClassNames(listed or list(classes), {}, None)
    match = match_words(words, met, outputs, n_classes=len(classes))
    if match is None:
        return ClassNames(listed or list(classes), {}, _not_matched(words, outcomes, listed or list(classes)))
    if listed is not None:
        return _listed_and_met(listed, match, outcomes)
    if match.as_listed >= match.agreement:
        # Scripts that turn words into numbers count them in the order of the alphabet.
        return ClassNames(
            words,
            {},
            f"The model's classes are only numbers. The words in `{outcomes.name}` were taken for their names in the "
            f"order of the alphabet: the model then agrees with {match.words}. Check the order.",
        )
    pairs = _pairs(classes, match.by_class)
    if match.is_believed:
        return ClassNames(
            match.by_class,
            {},
            f"The model's classes are only numbers. The words in `{outcomes.name}` were matched with them by where "
            f"model and outcome agree: {pairs}. They agree for {match.words}, and for "
            f"{round(match.as_listed * 100)} of 100 in the order of the alphabet. Confirm it, or give the names.",
            is_open=True,
        )
    return ClassNames(
        list(classes),
        {},
        f"The model's classes are only numbers ({', '.join(classes[:8])}), and the words in `{outcomes.name}` do "
        "not follow them in the order of the alphabet. Give the names in class order.",
    )


def _listed_and_met(listed: list[str], match: WordMatch, outcomes: pd.Series) -> ClassNames:
    """The author's names beside other words in the outcome's column."""
    pairs = _pairs(match.by_class, listed)
    if match.is_believed:
        return ClassNames(
            listed,
            dict(zip(match.by_class, listed, strict=True)),
            f"`{outcomes.name}` has other words than `labels`. They were matched by where model and outcome agree: "
            f"{pairs}. They then agree for {match.words}. Confirm it, or change `labels`.",
            is_open=True,
        )
    return ClassNames(
        listed,
        {},
        f"`{outcomes.name}` has other words than `labels`, and which means which cannot be told: matched as well as "
        f"can be ({pairs}), model and outcome agree for only {match.words}. Give `labels` as a CSV with the outcome's "
        "words in one column.",
    )


def _not_matched(words: Sequence[str], outcomes: pd.Series, names: Sequence[str]) -> str:
    shown = ", ".join(f"`{word}`" for word in words[:8]) + (" …" if len(words) > 8 else "")
    expected = ", ".join(f"`{name}`" for name in names[:8]) + (" …" if len(names) > 8 else "")
    return (
        f"`{outcomes.name}` has {shown}; the model's classes are {expected}. Outcomes it does not know do not count as "
        "evidence."
    )


def _pairs(one: Sequence[str], other: Sequence[str]) -> str:
    shown = "; ".join(f"`{left}` is `{right}`" for left, right in list(zip(one, other, strict=True))[:8])
    return shown + (" …" if len(one) > 8 else "")


def _are_numbers(names: Sequence[str]) -> bool:
    return all(name.isdigit() for name in names)


def _listed(classes: Sequence[str], labels: Sequence[str]) -> list[str]:
    names = _from_csv(classes, labels) or list(labels)
    if len(names) != len(classes):
        raise MismatchFaults(
            [
                Fault(
                    "labels",
                    f"The model has {len(classes)} classes ({', '.join(classes[:8])}); `labels` names {len(names)}. "
                    "Give one name a line, in class order.",
                )
            ]
        )
    if len(set(names)) < len(names):
        raise MismatchFaults([Fault("labels", "`labels` names a class twice. Give each class a name of its own.")])
    return names


def _from_csv(classes: Sequence[str], lines: Sequence[str]) -> list[str] | None:
    """Names from a table: the column beside the one that holds the classes, or a single column under a heading."""
    rows = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO("\n".join(lines)))]
    is_headed = rows and len(rows[0]) == 1 and rows[0][0].casefold() in HEADINGS
    if is_headed and len(rows) == len(classes) + 1 and all(len(row) == 1 for row in rows):
        return [row[0] for row in rows[1:]]
    width = len(rows[0]) if rows else 0
    if width < 2 or any(len(row) != width for row in rows):
        return None
    for column in range(width):
        by_class = {row[column]: row for row in rows}
        if set(classes) <= set(by_class):
            beside = (column + 1) % width
            return [by_class[name][beside] for name in classes]
    return None
