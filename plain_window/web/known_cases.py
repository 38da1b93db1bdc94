"""What the model said of the known cases of a version, and what happened."""

import functools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgspec
import numpy as np

from ..core.answers import ClassSetting
from ..core.answers.deciding import threshold_of
from ..core.answers.kinds import AnyAnswerSetting
from ..core.contract.values import Value
from ..core.report.answers import KnownAnswers
from .lookups import Version
from .problems import ApiProblem
from .state import state

__all__ = ["KnownOfVersion", "known_of", "truth_of"]

# The cases of so many models are remembered; those of one may be 10,000.
REMEMBERED_MODELS = 4
# Rows the runner is asked about together, where answers were not kept.
ROWS_AT_ONCE = 500


class _Kept(msgspec.Struct):
    """Of a file of kept rows what is of known cases; the rest is passed over."""

    known_columns: dict[str, list[Value]] = {}
    known_outcomes: list[float] = []
    known_places: list[int] = []
    known_names: list[str] = []
    known_outputs: list[list[float]] = []
    known_truths: list[list[float]] = []


@dataclass(frozen=True)
class KnownOfVersion:
    """Answers to known cases, and the cases themselves.

    Parameters
    ----------
    answers : KnownAnswers
    columns : mapping of str to sequence
        The model's values of all kept cases by field; empty for pictures.
    names : sequence of str
        The names of pictures, of all kept cases; empty for rows.
    """

    answers: KnownAnswers
    columns: Mapping[str, Sequence[Value]]
    names: Sequence[str]

    def row(self, at: int) -> dict[str, Any]:
        """One case's values by field.

        Parameters
        ----------
        at : int
            Its place among the answers.
        """
        place = int(self.answers.kept[at])
        return {name: values[place] for name, values in self.columns.items()}

    def name(self, at: int) -> str | None:
        """The name of a case that is a picture.

        Parameters
        ----------
        at : int
            Its place among the answers.
        """
        return self.names[int(self.answers.kept[at])] if self.names else None


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
    kept = _kept(version.job.kept_rows)
    if not kept.known_outputs:
        kept = _asked(version, kept)
    return _in_order(kept, version.document.answer)


@functools.lru_cache(maxsize=REMEMBERED_MODELS)
def _kept(path: str) -> _Kept:
    """Files never change under their names."""
    return msgspec.msgpack.decode(Path(path).read_bytes(), type=_Kept)


def _asked(version: Version, kept: _Kept) -> _Kept:
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


def _in_order(kept: _Kept, setting: AnyAnswerSetting) -> KnownOfVersion:
    outputs, truths = np.array(kept.known_outputs, dtype="float64"), np.array(kept.known_truths, dtype="float64")
    places = np.array(kept.known_places)
    counts = np.isfinite(outputs).all(axis=1) & np.isfinite(truths).any(axis=1)
    order = np.flatnonzero(counts)
    order = order[np.argsort(places[order], kind="stable")]
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    answers = KnownAnswers(places[order], order, outputs[order], truths[order], threshold)
    return KnownOfVersion(answers, kept.known_columns, kept.known_names)


def truth_of(version: Version, truths: np.ndarray) -> Any:
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
