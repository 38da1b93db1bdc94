"""How a model's answers to its reference rows lie, by bins: counted a few rows at a time."""

import json
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

import msgspec

from ..core.answers import AnyAnswerSetting
from ..core.contract.inspection import Inspection
from ..core.contract.jobs import RunnerJob
from ..core.contract.values import Row, Value
from ..core.drift.bins import CaseBins, answer_bins, answer_parts, answered_values
from ..core.errors import InputFaults
from ..runners.failures import RunnerRaised, RunnerUnavailable
from .services import Services

__all__ = [
    "USUAL_ANSWERS",
    "AnswerCounts",
    "answers_can_be_counted",
    "count_answers",
    "n_to_count",
    "reference_columns",
]

# Under which counts are kept with their model.
USUAL_ANSWERS = "usual-answers"
MOST_ASKED, MOST_TOGETHER = 2000, 500
# A visitor waits no longer than this for a model that is being asked.
PIECE_SECONDS = 0.25


class _Kept(msgspec.Struct):
    """Of a file of kept rows what is of reference rows."""

    columns: dict[str, list[Value]] = {}


@dataclass
class AnswerCounts:
    """Counts by part of the answer and bin; how many rows were asked about, and how many of them have an answer."""

    parts: dict[str, dict[int, int]] = field(default_factory=dict)
    n_asked: int = 0
    n_answered: int = 0

    def to_json(self) -> str:
        """As it is kept."""
        return json.dumps({"parts": self.parts, "n_asked": self.n_asked, "n_answered": self.n_answered})

    @classmethod
    def from_json(cls, text: str) -> "AnswerCounts":
        """What was kept.

        Parameters
        ----------
        text : str
        """
        kept = json.loads(text)
        parts = {name: {int(at): count for at, count in counts.items()} for name, counts in kept["parts"].items()}
        return cls(parts, kept["n_asked"], kept["n_answered"])


def reference_columns(runner: RunnerJob, inspection: Inspection) -> Mapping[str, Sequence[Value]]:
    """The reference rows kept beside a model, by column; none of a model without a table.

    Parameters
    ----------
    runner : RunnerJob
        The model's.
    inspection : Inspection
    """
    if runner.kept_rows is None or not inspection.n_reference_rows:
        return {}
    return msgspec.msgpack.decode(Path(runner.kept_rows).read_bytes(), type=_Kept).columns


def answers_can_be_counted(inspection: Inspection, columns: Mapping[str, Sequence[Value]]) -> bool:
    """Whether there are rows to ask about, and bins for what comes back.

    Parameters
    ----------
    inspection : Inspection
    columns : mapping of str to sequence
        Of reference rows.
    """
    is_whole = bool(columns) and all(column.name in columns for column in inspection.columns)
    return is_whole and any(map(answer_bins, answer_parts(inspection.answer).values()))


def n_to_count(columns: Mapping[str, Sequence[Value]]) -> int:
    """How many of the reference rows are asked about.

    Parameters
    ----------
    columns : mapping of str to sequence
    """
    return min(MOST_ASKED, len(next(iter(columns.values()), [])))


def count_answers(
    services: Services,
    runner: RunnerJob,
    inspection: Inspection,
    columns: Mapping[str, Sequence[Value]],
    counts: AnswerCounts,
    *,
    caller: str,
) -> Iterator[int]:
    """Add what the model says of reference rows to counts, from where these are; after each piece of how many rows.

    Parameters
    ----------
    services : Services
    runner : RunnerJob
        The model's.
    inspection : Inspection
    columns : mapping of str to sequence
        Of reference rows.
    counts : AnswerCounts
        Added to.
    caller : str
        Who waits for it.

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed
        As a prediction does.
    """
    names = [column.name for column in inspection.columns]
    n_rows, together = n_to_count(columns), 1
    while counts.n_asked < n_rows:
        places = range(counts.n_asked, min(n_rows, counts.n_asked + together))
        rows: list[Row] = [{name: columns[name][place] for name in names} for place in places]
        begun = time.monotonic()
        try:
            outputs = services.runners.predict(runner, rows, caller=caller).outputs
        except (RunnerRaised, InputFaults):
            # One of them, perhaps; that one is told apart from the others.
            if together > 1:
                together = 1
                continue
            outputs = []
        except RunnerUnavailable as error:
            if not error.overran or together == 1:
                raise
            together = 1
            continue
        _add(counts, inspection.answer, outputs)
        counts.n_asked += len(rows)
        # As many as it would have answered in the time of a piece, but not at a leap: a first call may have been lucky.
        each = (time.monotonic() - begun) / len(rows)
        together = max(1, min(MOST_TOGETHER, 8 * together, int(PIECE_SECONDS / max(each, 1e-6))))
        yield counts.n_asked


def _add(counts: AnswerCounts, setting: AnyAnswerSetting, outputs: Sequence[Sequence[float]]) -> None:
    bins = CaseBins([], setting)
    for row in outputs:
        counts.n_answered += 1
        for name, place in bins.of({}, answered_values(setting, row)).items():
            of_part = counts.parts.setdefault(name, {})
            of_part[place] = of_part.get(place, 0) + 1
