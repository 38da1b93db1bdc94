"""What a model said of its known cases, as it is kept beside it."""

import functools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

import msgspec
import numpy as np

from ..core.answers import ClassSetting
from ..core.answers.deciding import threshold_of
from ..core.answers.kinds import AnyAnswerSetting
from ..core.contract.values import Value
from ..core.report.answers import KnownAnswers

__all__ = ["KeptKnown", "KnownOfVersion", "in_order", "kept_known"]

# The cases of so many models are remembered; those of one may be 10,000.
REMEMBERED_MODELS = 4


class KeptKnown(msgspec.Struct):
    """Of a file of kept rows what is of known cases; the rest is passed over."""

    known_columns: dict[str, list[Value]] = {}
    known_outcomes: list[float] = []
    known_places: list[int] = []
    known_names: list[str] = []
    known_outputs: list[list[float]] = []
    known_truths: list[list[float]] = []
    known_together: list[int] = []


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

    def row(self, at: int) -> dict[str, object]:
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


@functools.lru_cache(maxsize=REMEMBERED_MODELS)
def kept_known(path: str) -> KeptKnown:
    """What is kept of known cases. Files never change under their names.

    Parameters
    ----------
    path : str
        Of a file of kept rows.
    """
    return msgspec.msgpack.decode(Path(path).read_bytes(), type=KeptKnown)


def in_order(kept: KeptKnown, setting: AnyAnswerSetting) -> KnownOfVersion:
    """Known cases with an answer and an outcome, in the order of their author's table.

    Parameters
    ----------
    kept : KeptKnown
    setting : answer setting
        What a page says of outputs.
    """
    outputs, truths = np.array(kept.known_outputs, dtype="float64"), np.array(kept.known_truths, dtype="float64")
    places = np.array(kept.known_places)
    counts = np.isfinite(outputs).all(axis=1) & np.isfinite(truths).any(axis=1)
    order = np.flatnonzero(counts)
    order = order[np.argsort(places[order], kind="stable")]
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    together = np.array(kept.known_together)[order] if kept.known_together else None
    answers = KnownAnswers(places[order], order, outputs[order], truths[order], threshold, together)
    return KnownOfVersion(answers, kept.known_columns, kept.known_names)
