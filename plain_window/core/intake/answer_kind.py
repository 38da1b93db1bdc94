"""Whether a model's answers are one of several classes, several labels or several numbers: by what it is and gives."""

import numpy as np

from ..contract.inspection import Found
from ..contract.model_facts import OutputKind
from ..errors import Fault, MismatchFaults

__all__ = ["settle_kind"]

# How far probabilities computed in single precision may be from adding up to 1.
SUM_TOLERANCE = 1e-3
# From fewer rows it is not concluded that they always add up.
FEWEST_ROWS = 5
WORDS = {
    "class": "one of several classes",
    "labels": "several labels, each of which may apply",
    "number": "one number",
    "numbers": "several numbers",
}


def settle_kind(found: Found, outputs: np.ndarray, wanted: OutputKind | None = None) -> tuple[Found, list[str]]:
    """What was found in the model, put right by what it says of some rows, and what the author should check of that.

    Parameters
    ----------
    found : Found
    outputs : ndarray of shape (n_rows, n_outputs)
        What the model says of the first reference rows.
    wanted : str, optional
        The kind the author knows it to be.

    Raises
    ------
    MismatchFaults
        If the outputs cannot be what the author says.
    """
    known = outputs[np.isfinite(outputs).all(axis=1)]
    if wanted is not None:
        if wanted == found.task:
            return found, []
        if not _can_be(wanted, found, known):
            raise MismatchFaults([Fault("answer", _not_that(wanted, found, known))])
        return _as_kind(found, wanted, outputs.shape[1]), []
    shares = _are_shares(known)
    adds_up = shares and _add_up(known)
    if found.task == "class" and shares and not adds_up:
        note = (
            "The probabilities do not add up to 1, so they were taken for labels, each of which may apply by itself. "
            "If they are classes, say so under Model."
        )
        return _as_kind(found, "labels", outputs.shape[1]), [note]
    if found.task not in ("labels", "numbers") or len(known) < FEWEST_ROWS or not adds_up or known.shape[1] < 2:
        return found, []
    if found.library == "ONNX" and found.task_is_guessed:
        note = (
            f"For all of {len(known):,} rows the outputs add up to 1, so they were taken for the probabilities of "
            f"{known.shape[1]} classes. If they are {WORDS[found.task]}, say so under Model."
        )
        return _as_kind(found, "class", outputs.shape[1]), [note]
    if found.task == "labels" and found.gives_probabilities:
        note = (
            "The probabilities of the labels add up to 1 for every row tried: exactly one of them seems to apply. If "
            "they are classes, say so under Model."
        )
        return found, [note]
    return found, []


def _are_shares(outputs: np.ndarray) -> bool:
    return bool(len(outputs)) and bool(((outputs >= -SUM_TOLERANCE) & (outputs <= 1 + SUM_TOLERANCE)).all())


def _add_up(outputs: np.ndarray) -> bool:
    return bool((np.abs(outputs.sum(axis=1) - 1) <= SUM_TOLERANCE).all())


def _can_be(wanted: OutputKind, found: Found, outputs: np.ndarray) -> bool:
    if "number" in (wanted, found.task):
        # One number is one number: as two classes it would have to be known which of them it speaks for.
        return False
    if wanted == "numbers":
        return found.library == "ONNX"
    return _are_shares(outputs) and (wanted == "labels" or (_add_up(outputs) and outputs.shape[1] > 1))


def _not_that(wanted: OutputKind, found: Found, outputs: np.ndarray) -> str:
    shown = ", ".join(f"{value:.4g}" for value in outputs[0][:5]) if len(outputs) else "nothing"
    more = " …" if len(outputs) and outputs.shape[1] > 5 else ""
    return (
        f"The model's answers cannot be {WORDS[wanted]}: for the first row it gives {shown}{more}. They are read as "
        f"{WORDS[found.task]}."
    )


def _as_kind(found: Found, kind: OutputKind, n_outputs: int) -> Found:
    names = found.classes if found.classes is not None and len(found.classes) == n_outputs else None
    if kind == "numbers":
        names = None
    elif names is None or all(name == f"Label {at + 1}" for at, name in enumerate(names)):
        names = [f"Label {at + 1}" if kind == "labels" else str(at) for at in range(n_outputs)]
    return found.model_copy(
        update={"task": kind, "classes": names, "gives_probabilities": kind != "numbers", "task_is_guessed": False}
    )
