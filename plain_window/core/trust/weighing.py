"""From answers to known cases and their outcomes to evidence."""

import numpy as np

from .calibration import borne_out
from .conformal import class_scores, conformal_margin
from .evidence import COVERAGES, Evidence

__all__ = ["weigh_classes", "weigh_label", "weigh_numbers", "weigh_several"]

# Thresholds that are tried.
PERCENTS = range(1, 100)


def weigh_classes(probabilities: np.ndarray, classes: np.ndarray, together: np.ndarray | None = None) -> Evidence:
    """Evidence for a classifier.

    Parameters
    ----------
    probabilities : ndarray of shape (n_rows, n_classes)
        On known cases.
    classes : ndarray of int, shape (n_rows,)
        Which class each of them was.
    together : ndarray of int, shape (n_rows,), optional
        What each is a case of; each by itself if left out.
    """
    n_classes = probabilities.shape[1]
    answered = probabilities.argmax(axis=1)
    confusion = np.zeros((n_classes, n_classes), dtype="int64")
    np.add.at(confusion, (classes, answered), 1)
    return Evidence(
        n_known=len(classes),
        margins=_margins(class_scores(probabilities, classes), together),
        right=float(np.mean(answered == classes)),
        borne_out=[borne_out(probabilities[:, index], classes == index, together) for index in range(n_classes)],
        confusion=confusion.tolist(),
        n_right_from=[_right_from(probabilities[:, at], classes == at) for at in range(2)] if n_classes == 2 else [],
    )


def _right_from(probabilities: np.ndarray, applied: np.ndarray) -> list[int]:
    return [int(np.sum((probabilities >= percent / 100) == applied)) for percent in PERCENTS]


def weigh_numbers(values: np.ndarray, outcomes: np.ndarray, together: np.ndarray | None = None) -> Evidence:
    """Evidence for a regressor: values and outcomes of shape (n_rows,).

    Parameters
    ----------
    values : ndarray
        The model's answers, shape (n_rows,).
    outcomes : ndarray
        Shape (n_rows,).
    together : ndarray of int, shape (n_rows,), optional
        What each is a case of; each by itself if left out.
    """
    errors = np.abs(values - outcomes)
    return Evidence(
        n_known=len(errors),
        margins=_margins(errors, together),
        typical_error=float(np.median(errors)) if errors.size else None,
    )


def weigh_label(probabilities: np.ndarray, applied: np.ndarray, together: np.ndarray | None = None) -> Evidence:
    """Evidence for one label: its probabilities on known cases, and whether it applied; both of shape (n_rows,).

    Parameters
    ----------
    probabilities : ndarray
        Shape (n_rows,).
    applied : ndarray
        Whether the label was true of each row, shape (n_rows,).
    together : ndarray of int, shape (n_rows,), optional
        What each is a case of; each by itself if left out.
    """
    return Evidence(
        n_known=len(applied),
        margins=[None] * len(COVERAGES),
        borne_out=[borne_out(probabilities, applied, together)],
        n_right_at=_right_from(probabilities, applied),
    )


def weigh_several(
    outputs: np.ndarray, outcomes: np.ndarray, *, are_labels: bool, together: np.ndarray | None = None
) -> Evidence:
    """Evidence for several numbers or labels, each by itself: both of shape (n_rows, n_outputs), NaN where unknown.

    Parameters
    ----------
    outputs : ndarray
        Shape (n_rows, n_outputs).
    outcomes : ndarray
        Shape (n_rows, n_outputs).
    are_labels : bool
        Whether outputs are probabilities of labels.
    together : ndarray of int, shape (n_rows,), optional
        What each is a case of; each by itself if left out.
    """
    parts = []
    for answers, truth in zip(outputs.T, outcomes.T, strict=True):
        has = np.isfinite(answers) & np.isfinite(truth)
        own = None if together is None else together[has]
        parts.append(
            weigh_label(answers[has], truth[has] > 0.5, own)
            if are_labels
            else weigh_numbers(answers[has], truth[has], own)
        )
    n_known = int(np.isfinite(outcomes).any(axis=1).sum())
    return Evidence(n_known=n_known, margins=[None] * len(COVERAGES), outputs=parts)


def _margins(scores: np.ndarray, together: np.ndarray | None) -> list[float | None]:
    return [conformal_margin(scores, coverage=percent / 100, together=together) for percent in COVERAGES]
