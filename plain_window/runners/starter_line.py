"""Asking the process that makes a model of a table."""

from collections.abc import Callable
from typing import BinaryIO, Literal, TypeVar

from ..core.contract.jobs import MakeModels, RunnerJob, job_key
from ..core.contract.starters import (
    Compared,
    CompareModels,
    FitAgain,
    HowFar,
    LookAtStart,
    MadeModel,
    MakeModel,
    NextOfMade,
    StartDoubtful,
    StartLooked,
    StartReply,
    StillAt,
    TakeMade,
)
from ..core.errors import Fault, MismatchFaults, TableNotRead
from ..settings import Settings
from .client import RunnerClient
from .file_line import FileLine, WorkLost

__all__ = ["StarterLine"]

Reply = TypeVar("Reply")


class StarterLine(FileLine):
    """A line to the process that makes a model of one table, for as long as it is open.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings
    file : binary file
        The table. It is closed with the line.
    key : str
        What the process is for: a job's token.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If no such process can be had.
    """

    replies = StartReply
    not_read = TableNotRead

    def __init__(self, runners: RunnerClient, settings: Settings, file: BinaryIO, key: str) -> None:
        super().__init__(runners, settings, file, RunnerJob(key=job_key("start", key), model="", work=MakeModels()))

    def look(self, choices: bytes) -> StartLooked:
        """What is seen in the table.

        Parameters
        ----------
        choices : bytes
            Its author's, as JSON.

        Raises
        ------
        TableNotRead
            If it is no table, or nothing can be learned from it.
        MismatchFaults
            If what is wanted of it cannot be.
        WorkLost
            If the process ended over it.
        """
        return self._of_kind(self._followed(LookAtStart(self.size, choices), lambda _done, _total: None), StartLooked)

    def compare(self, ask: CompareModels, progress: Callable[[int, int], None]) -> Compared:
        """Try models, and say meanwhile how far that is.

        Parameters
        ----------
        ask : CompareModels
        progress : callable
            Called with how many fits are done, and how many there are.

        Raises
        ------
        TableNotRead, MismatchFaults, WorkLost
            As `look` does.
        """
        return self._of_kind(self._followed(ask, progress), Compared)

    def make(self, ask: MakeModel | FitAgain, progress: Callable[[int, int], None]) -> MadeModel:
        """Make a model.

        Parameters
        ----------
        ask : MakeModel or FitAgain
        progress : callable
            As for `compare`.

        Raises
        ------
        TableNotRead, MismatchFaults, WorkLost
            As `look` does.
        """
        return self._of_kind(self._followed(ask, progress), MadeModel)

    def taken(self, name: Literal["model", "reference", "known"]) -> bytes:
        """A file that was made.

        Parameters
        ----------
        name : "model", "reference" or "known"

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does.
        """
        return b"".join(self._made(TakeMade(name), NextOfMade()))

    def _followed(
        self, ask: LookAtStart | CompareModels | MakeModel | FitAgain, progress: Callable[[int, int], None]
    ) -> object:
        said = self._said(ask)
        while isinstance(said, StillAt):
            progress(said.done, said.total)
            said = self._said(HowFar())
        return said

    def _of_kind(self, said: object, type_: type[Reply]) -> Reply:
        if isinstance(said, StartDoubtful):
            raise MismatchFaults([Fault(one.field, one.message, choices=tuple(one.choices)) for one in said.faults])
        if not isinstance(said, type_):
            raise WorkLost("what was said is no answer to what was asked")
        return said
