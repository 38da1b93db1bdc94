"""What matters overall, as far as it is known by now: one number, whoever says it."""

import msgspec

from ..core.contract import Missing, OverallReply
from ..jobs.reference_job import overall_name
from ..runners.client import RunnerClient
from ..store.worked_out import find_worked_out
from .lookups import Version

__all__ = ["known_overall"]


def known_overall(runners: RunnerClient, version: Version, of: int, *, caller: str = "") -> OverallReply | Missing:
    """By all rows that are kept, where a job has worked that out; else by as many as a glance takes.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
    of : int
        Index of an output.
    caller : str, optional
        Who asks, by which calls have their turns.

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
        As `RunnerClient.overall` does.
    """
    kept = find_worked_out(version.model_id, overall_name(of, version.document.background_rows))
    if kept is not None:
        return msgspec.json.decode(kept, type=OverallReply)
    return runners.overall(version.job, of=of, caller=caller)
