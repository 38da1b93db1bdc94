"""Answers that are a text or a table."""

from ..core.answers import TableAnswer, TableSetting, TextAnswer
from ..core.contract import WrittenReply
from ..core.contract.requests import WriteRequest
from ..core.fields import CheckedInputs, Note
from ..runners.client import RunnerClient
from .explained_answers import Wanted
from .in_picture_answers import answer_written
from .lookups import Version
from .plain_answers import WrittenAnswer

__all__ = ["written_answer"]


def written_answer(
    runners: RunnerClient,
    version: Version,
    checked: CheckedInputs,
    wanted: Wanted,
    *,
    caller: str,
    started: float,
) -> WrittenAnswer:
    """Ask a function for its text or table.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
        Of a demo whose answer is that.
    checked : CheckedInputs
    wanted : Wanted
        What else is to come along.
    caller : str
        Who asks, by which calls have their turns.
    started : float
        When the request came (`time.perf_counter`).

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.written` does.
    """
    reply = runners.written(version.job, WriteRequest(row=checked.values), caller=caller)
    answer = (
        TableAnswer(columns=reply.columns, rows=reply.rows)
        if isinstance(version.document.answer, TableSetting)
        else TextAnswer(text=reply.text or "")
    )
    return answer_written(answer, reply, [*checked.notes, *_notes(reply, wanted)], version, started=started)


def _notes(reply: WrittenReply, wanted: Wanted) -> list[Note]:
    notes = [Note(field=field, level="info", message=message[:500]) for field, message in reply.notes]
    if reply.is_cut:
        message = "The answer is longer than can be shown here; this is its beginning."
        notes.append(Note(field=None, level="warn", message=message))
    if wanted.parts - {"seen"}:
        message = "An answer that is written is not explained."
        notes.append(Note(field=None, level="warn", message=message, code="not-explained"))
    return notes
