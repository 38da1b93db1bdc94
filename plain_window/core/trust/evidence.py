"""What known cases say of a model, and how an answer looks it up. Needs no NumPy."""

from collections.abc import Sequence

from pydantic import BaseModel

__all__ = ["COVERAGES", "Evidence", "bears_out", "margin_at", "still_possible"]

# Whole percents an author can choose as coverage.
COVERAGES = range(50, 100)


class Evidence(BaseModel):
    """How the model did on known cases, or one of its outputs did."""

    n_known: int
    # For each whole percent from 50 to 99 how far off an answer may be; None where the cases are too few.
    margins: list[float | None]
    # Of all known cases: the share whose likeliest class was right, or half of the errors are below this.
    right: float | None = None
    typical_error: float | None = None
    # For each class the stretches of whole percents, first and last, at which its probability comes true.
    borne_out: list[list[list[int]]] = []
    # For each class how often it was answered as each class.
    confusion: list[list[int]] = []
    # For a label how many known cases are right at each whole percent from 1 to 99 as its threshold.
    n_right_at: list[int] = []
    # Of two classes likewise, for each of them as the one that is said from the threshold on.
    n_right_from: list[list[int]] = []
    # For several numbers or labels the evidence of each, in their order.
    outputs: list["Evidence"] = []


def margin_at(evidence: Evidence, coverage: float) -> float | None:
    """How far off an answer may be, at this coverage in whole percents; None if the known cases are too few.

    Parameters
    ----------
    evidence : Evidence
        What was measured on known cases.
    coverage : float
        How often the truth is to lie within, from 0 to 1.
    """
    return evidence.margins[round(coverage * 100) - COVERAGES.start]


def still_possible(evidence: Evidence, probabilities: Sequence[float], coverage: float) -> list[int] | None:
    """The classes that cannot be ruled out, likeliest first; None if the known cases are too few.

    The likeliest class is always among them: a set without it would say nothing a visitor could use.

    Parameters
    ----------
    evidence : Evidence
        What was measured on known cases.
    probabilities : sequence of float
        By class, in the model's order.
    coverage : float
        How often the truth is to lie within, from 0 to 1.
    """
    margin = margin_at(evidence, coverage)
    if margin is None:
        return None
    order = sorted(range(len(probabilities)), key=lambda index: -probabilities[index])
    return [index for index in order if index == order[0] or 1.0 - probabilities[index] <= margin]


def bears_out(evidence: Evidence, index: int, probability: float) -> bool:
    """Whether known cases bear out this probability of class `index`.

    Parameters
    ----------
    evidence : Evidence
        What was measured on known cases.
    index : int
        Index of a class.
    probability : float
        From 0 to 1.
    """
    percent = round(probability * 100)
    stretches = evidence.borne_out[index] if index < len(evidence.borne_out) else []
    return any(low <= percent <= high for low, high in stretches)
