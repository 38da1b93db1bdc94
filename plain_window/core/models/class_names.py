"""Names for classes: the model's own, the author's list, or the outcome's column where the model only has numbers."""

import csv
import io
from collections.abc import Sequence

import numpy as np
import pandas as pd
from scipy.optimize import linear_sum_assignment

from ..errors import Fault, MismatchFaults
from .sklearn import class_name

__all__ = ["names_of_classes"]

# What stands over a list of names in a table.
HEADINGS = {"class", "classes", "label", "labels", "name", "names", "category", "categories", "outcome", "target"}


def names_of_classes(
    classes: Sequence[str], labels: Sequence[str] | None, outcomes: pd.Series | None, outputs: np.ndarray
) -> tuple[list[str], str | None]:
    """What to call the classes, and a note for the author if that was concluded rather than said.

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
    if labels is not None:
        return _listed(classes, labels), None
    if outcomes is None or not all(name.isdigit() for name in classes):
        return list(classes), None
    names = sorted({class_name(value) for value in outcomes.dropna().unique()})
    if len(names) != len(classes) or set(names) == set(classes) or all(name.isdigit() for name in names):
        return list(classes), None
    agreement, best = _agreement(names, outcomes, outputs)
    if agreement < best:
        return list(classes), (
            f"The model's classes are only numbers ({', '.join(classes[:8])}), and the words in `{outcomes.name}` do "
            "not follow them in the order of the alphabet. Give the names in class order."
        )
    return names, (
        f"The model's classes are only numbers. The words in `{outcomes.name}` were taken for their names in the order "
        f"of the alphabet: the model then agrees with {agreement:.0%} of the first rows. Check the order."
    )


def _agreement(names: Sequence[str], outcomes: pd.Series, outputs: np.ndarray) -> tuple[float, float]:
    """How often the model agrees with the outcomes in this order of names, and in the order that suits it best."""
    counts = np.zeros((len(names), len(names)))
    met = [class_name(value) for value in outcomes.head(len(outputs))]
    for place, name in zip(outputs.argmax(axis=1), met, strict=True):
        if name in names:
            counts[place, names.index(name)] += 1
    rows, columns = linear_sum_assignment(counts, maximize=True)
    total = max(counts.sum(), 1.0)
    return float(np.trace(counts) / total), float(counts[rows, columns].sum() / total)


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
