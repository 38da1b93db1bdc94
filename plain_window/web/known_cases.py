"""What the model said of the known cases of a version, and what happened."""

import math

import msgspec
import numpy as np

from ..authoring.kept_answers import KeptKnown, KnownOfVersion, in_order, kept_known
from .lookups import Version
from .problems import ApiProblem
from .state import state

__all__ = ["KnownOfVersion", "known_of", "truth_of"]

# Rows the runner is asked about together, where answers were not kept.
ROWS_AT_ONCE = 500


def known_of(version: Version) -> KnownOfVersion:
    """The known cases of a version with an answer and an outcome, in the order of the author's table.

    Parameters
    ----------
    version : Version

    Raises
    ------
    ApiProblem
        422 if there are none, or they were tried with pictures prepared in another way.
    """
    if version.evidence is None or version.job.kept_rows is None:
        measured = version.inspection.evidence is not None
        fixed = [field.label for field in version.document.fields if field.hidden]
        detail = (
            f"Known cases have values of their own in {fixed[0]}, which the page fixes: what they say of the model is "
            "not about its cases."
            if measured and fixed
            else "The known pictures were tried when pictures were prepared in another way. Give them again to see how "
            "the model does now."
            if measured
            else "There are no known cases. Bring some: rows with what happened, not those it was fitted on."
        )
        raise ApiProblem(422, "No known cases", detail)
    kept = kept_known(version.job.kept_rows)
    if not kept.known_outputs:
        kept = _asked(version, kept)
    return in_order(kept, version.document.answer)


def _asked(version: Version, kept: KeptKnown) -> KeptKnown:
    """Rows that were kept before answers were: the model is asked now."""
    columns = kept.known_columns
    rows = [dict(zip(columns, values, strict=True)) for values in zip(*columns.values(), strict=True)]
    if not rows:
        raise ApiProblem(422, "No known cases", "The known cases were brought before they were kept. Give them again.")
    outputs: list[list[float]] = []
    for start in range(0, len(rows), ROWS_AT_ONCE):
        outputs += state().services.runners.predict(version.job, rows[start : start + ROWS_AT_ONCE]).outputs
    return msgspec.structs.replace(
        kept,
        known_places=list(range(len(rows))),
        known_outputs=outputs,
        known_truths=[[value] for value in kept.known_outcomes],
    )


def truth_of(version: Version, truths: np.ndarray) -> object:
    """What happened in one case: a class's name, a number, or of several each by its name.

    Parameters
    ----------
    version : Version
    truths : ndarray of shape (n_truths,)
    """
    setting = version.document.answer
    if setting.kind == "class":
        return setting.classes[int(truths[0])].name
    if setting.kind == "number":
        return float(truths[0])
    assert setting.kind == "labels" or setting.kind == "numbers", "what lies in a picture has no known cases"
    values = [None if math.isnan(value) else value for value in truths.tolist()]
    if setting.kind == "numbers":
        return {part.name: value for part, value in zip(setting.values, values, strict=True)}
    applied = [None if value is None else value > 0.5 for value in values]
    return {label.name: value for label, value in zip(setting.labels, applied, strict=True)}
