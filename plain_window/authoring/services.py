"""The things needed to work on demos, in one place."""

from dataclasses import dataclass

from ..environments.folders import EnvironmentFolders
from ..runners.client import RunnerClient
from ..settings import Settings
from ..store.changes import ChangeStamp
from ..store.files import FileStore

__all__ = ["Services", "make_services"]


@dataclass(frozen=True)
class Services:
    """Settings, files, the change stamp, the way to runners, and models' own libraries."""

    settings: Settings
    files: FileStore
    stamp: ChangeStamp
    runners: RunnerClient
    environments: EnvironmentFolders


def make_services(settings: Settings) -> Services:
    """The services on this machine's state directory.

    Parameters
    ----------
    settings : Settings
    """
    settings.make_folders()
    return Services(
        settings,
        FileStore(settings.files),
        ChangeStamp(settings.run),
        RunnerClient(settings),
        EnvironmentFolders(settings),
    )
