"""A classifier's figures.

References
----------
.. [1] G. W. Brier, "Verification of Forecasts Expressed in Terms of Probability", Monthly Weather Review 78, 1950.
.. [2] M. H. DeGroot, S. E. Fienberg, "The Comparison and Evaluation of Forecasters", The Statistician 32, 1983.
"""

from collections.abc import Sequence

import numpy as np

from .answers import said_classes
from .figures import CalibrationBin, ClassFigures, ClassRow, Confusion
from .intervals import share_of

__all__ = ["calibration_bins", "class_figures"]

N_BINS = 10
# A probability of nothing at all is taken for the smallest that can be told from it.
SMALLEST = float(np.finfo("float64").eps)


def class_figures(
    outputs: np.ndarray,
    truths: np.ndarray,
    classes: Sequence[str],
    *,
    gives_probabilities: bool,
    threshold: tuple[int, float] | None = None,
    together: np.ndarray | None = None,
) -> ClassFigures:
    """How a classifier did.

    Parameters
    ----------
    outputs : ndarray of shape (n_cases, n_classes)
        Probabilities, or 1 at the answered class.
    truths : ndarray of int, shape (n_cases,)
        The class's place.
    classes : sequence of str
        Their names, in the model's order.
    gives_probabilities : bool
        Losses and reliability are left out where there are none.
    threshold : (int, float), optional
        Of two classes the one that is said from a probability on, and from which.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    answered = said_classes(outputs, threshold)
    counts = np.zeros((len(classes), len(classes)), dtype="int64")
    np.add.at(counts, (truths, answered), 1)
    # Of two classes the second is what is asked about, as the field has it; of more, the likeliest.
    positive = 1 if len(classes) == 2 else None
    probabilities = outputs[:, positive] if positive is not None else outputs.max(axis=1)
    happened = truths == positive if positive is not None else answered == truths
    return ClassFigures(
        share_right=share_of(answered == truths, together),
        confusion=Confusion(classes=list(classes), counts=counts.tolist()),
        by_class=[_row(name, at, counts) for at, name in enumerate(classes)],
        calibration_of=None if positive is None else classes[positive],
        calibration=calibration_bins(probabilities, happened, together) if gives_probabilities else [],
        log_loss=_log_loss(outputs, truths) if gives_probabilities else None,
        brier=_brier(outputs, truths) if gives_probabilities else None,
    )


def calibration_bins(
    probabilities: np.ndarray, happened: np.ndarray, together: np.ndarray | None = None
) -> list[CalibrationBin]:
    """Whether probabilities come true [2]_: in tenths, those that hold a case.

    Parameters
    ----------
    probabilities : ndarray of shape (n_cases,)
    happened : ndarray of bool, shape (n_cases,)
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    # A probability on an edge belongs below it, 0 to the first.
    places = np.searchsorted(np.linspace(0, 1, N_BINS + 1)[1:-1], probabilities)
    bins = []
    for place in range(N_BINS):
        own = places == place
        n_own = int(own.sum())
        if n_own:
            share = share_of(happened[own], None if together is None else together[own])
            predicted = float(probabilities[own].mean())
            bins.append(
                CalibrationBin(predicted=predicted, happened=share.value, low=share.low, high=share.high, cases=n_own)
            )
    return bins


def _row(name: str, at: int, counts: np.ndarray) -> ClassRow:
    right, cases, answered = int(counts[at, at]), int(counts[at].sum()), int(counts[:, at].sum())
    return ClassRow(
        name=name,
        precision=right / answered if answered else None,
        recall=right / cases if cases else None,
        cases=cases,
        answered=answered,
    )


def _log_loss(outputs: np.ndarray, truths: np.ndarray) -> float:
    own = outputs[np.arange(len(truths)), truths] / outputs.sum(axis=1)
    return float(-np.log(np.clip(own, SMALLEST, 1 - SMALLEST)).mean())


def _brier(outputs: np.ndarray, truths: np.ndarray) -> float:
    """Of two classes that of one of them; of more, summed over them [1]_."""
    apart = outputs.copy()
    apart[np.arange(len(truths)), truths] -= 1.0
    return float((apart**2).sum(axis=1).mean() / (2 if outputs.shape[1] == 2 else 1))
