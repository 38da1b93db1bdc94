"""The things needed to work on demos, in one place."""

from dataclasses import dataclass

from ..runners.client import RunnerClient
from ..service.settings import Settings
from ..store.changes import ChangeStamp
from ..store.files import FileStore

__all__ = ["Workshop", "make_workshop"]


@dataclass(frozen=True)
class Workshop:
    """Settings, files, the change stamp and the way to runners."""

    settings: Settings
    files: FileStore
    stamp: ChangeStamp
    runners: RunnerClient


def make_workshop(settings: Settings) -> Workshop:
    """A workshop on this machine's state directory."""
    settings.make_folders()
    return Workshop(settings, FileStore(settings.files), ChangeStamp(settings.run), RunnerClient(settings))
