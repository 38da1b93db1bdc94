"""Everything an operator can set, read from the environment once.

Sizes are in bytes, times in seconds. `docs/operating.md` lists the variables; this is where their defaults stand.
"""

import hashlib
import os
import re
from dataclasses import dataclass, field
from pathlib import Path

__all__ = ["ROOT", "Limits", "Settings", "SettingsError", "read_settings"]

# Where this program lies.
ROOT = Path(__file__).resolve().parents[1]
MB = 1 << 20


class SettingsError(Exception):
    """A setting that cannot be used; the message names the variable and what is allowed."""


def _physical_memory() -> int:
    return os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")


@dataclass(frozen=True)
class Limits:
    """What is refused before it is read."""

    json_bytes: int = MB
    labels_bytes: int = MB
    source_bytes: int = 4 * MB
    reference_bytes: int = 500 * MB
    model_bytes: int = 1024 * MB
    picture_bytes: int = 20 * MB
    # One demo's own libraries, unpacked, and all demos' together before those that none needs go.
    environment_bytes: int = 8192 * MB
    all_environments_bytes: int = 40960 * MB
    environment_seconds: float = 1800.0
    table_bytes: int = 2048 * MB
    visitor_table_bytes: int = 50 * MB
    film_bytes: int = 2048 * MB
    visitor_film_bytes: int = 100 * MB
    # How long a film may be, and how large its frames: up to those of 4K in every shape.
    film_seconds: float = 3600.0
    visitor_film_seconds: float = 300.0
    film_pixels: int = 4096 * 2304
    # Somebody who watches asks several times in this time, and once a minute from a page in the background; a visitor's
    # film that nobody asks about is cancelled, and forgotten once it is over.
    film_left_seconds: float = 100.0
    film_kept_seconds: float = 600.0
    # Jobs a visitor may have at a time, all visitors of one demo, and how long one of theirs may take.
    visitor_jobs: int = 2
    demo_jobs: int = 20
    visitor_job_seconds: float = 1800.0
    # One model call, and opening one model file.
    call_seconds: float = 10.0
    open_seconds: float = 60.0
    runner_memory_bytes: int = 4096 * MB
    # What all runners together may take before those used longest ago are put to sleep.
    all_runners_bytes: int = field(default_factory=lambda: _physical_memory() // 2)
    # Predictions a second from one address without a key; 0 switches the limit off.
    rate: float = 50.0


@dataclass(frozen=True)
class Settings:
    """One running Plain Window: where it keeps things and how it is reached."""

    home: Path
    port: int
    workers: int
    host: str = "127.0.0.1"
    # Hidden in reprs: it may carry a password.
    database_url: str | None = field(default=None, repr=False)
    # Formats that may be opened although confinement does not work on this machine.
    unconfined: frozenset[str] = frozenset()
    trusted_proxies: int = 0
    # Where links to pictures may go although it is not public, or not an ordinary port: `address`, `address:port`.
    links_allowed: frozenset[str] = frozenset()
    # Names the server goes by beside this machine's own.
    hosts: frozenset[str] = frozenset()
    limits: Limits = Limits()
    # Processes that ask models about whole tables; none of them where a cluster that exists is named.
    job_workers: int = field(default_factory=lambda: os.cpu_count() or 1)
    dask_scheduler: str | None = None
    # Packages that may be built from their sources: that runs their code, behind walls.
    source_packages: frozenset[str] = frozenset()

    @property
    def run(self) -> Path:
        """Sockets, process ids, addresses: gone when nothing runs."""
        return self.home / "run"

    @property
    def files(self) -> Path:
        """Files by content hash."""
        return self.home / "files"

    @property
    def jobs(self) -> Path:
        """What jobs have made, a folder each."""
        return self.home / "jobs"

    @property
    def bridges(self) -> Path:
        """Where runners reach models that stay in their author's own process, while those are connected."""
        return self.run / "bridges"

    @property
    def environments(self) -> Path:
        """Libraries that demos ask for, by content."""
        return self.home / "environments"

    @property
    def carrier_socket(self) -> Path:
        """Where whoever carries jobs out is told that there is something to do."""
        return self.run / "carrier.sock"

    @property
    def logs(self) -> Path:
        """One log a process."""
        return self.home / "logs"

    @property
    def kernels(self) -> Path:
        """The kernels' machine code."""
        return self.home / "kernels"

    @property
    def runner_sockets(self) -> Path:
        """One socket a ready runner."""
        return self.run / "runners"

    @property
    def spawner_socket(self) -> Path:
        """Where the keeper has runners started."""
        return self.run / "spawner.sock"

    @property
    def name(self) -> str:
        """A short name for this state directory, for lock files and process titles."""
        return hashlib.sha256(str(self.home).encode()).hexdigest()[:8]

    def make_folders(self) -> None:
        """Create the state directory, readable by its owner only."""
        for folder in (self.home, self.run, self.files, self.jobs, self.logs, self.runner_sockets, self.bridges):
            folder.mkdir(parents=True, exist_ok=True)
            folder.chmod(0o700)


def read_settings(*, port: int | None = None, home: Path | None = None) -> Settings:
    """Settings from the environment; arguments win over it.

    Parameters
    ----------
    port : int or None, optional
        Where it listens.
    home : Path or None, optional
        The state directory.

    Raises
    ------
    SettingsError
        If a variable is not what it should be.
    """
    chosen_home = home or Path(os.environ.get("PLAINWINDOW_HOME") or Path.home() / ".local/share/plainwindow")
    defaults = Limits()
    limits = Limits(
        json_bytes=_megabytes("PLAINWINDOW_JSON_MB", defaults.json_bytes),
        labels_bytes=_megabytes("PLAINWINDOW_LABELS_MB", defaults.labels_bytes),
        reference_bytes=_megabytes("PLAINWINDOW_REFERENCE_MB", defaults.reference_bytes),
        model_bytes=_megabytes("PLAINWINDOW_MODEL_MB", defaults.model_bytes),
        picture_bytes=_megabytes("PLAINWINDOW_PICTURE_MB", defaults.picture_bytes),
        environment_bytes=_megabytes("PLAINWINDOW_ENVIRONMENT_MB", defaults.environment_bytes),
        all_environments_bytes=_megabytes("PLAINWINDOW_ALL_ENVIRONMENTS_MB", defaults.all_environments_bytes),
        environment_seconds=_number("PLAINWINDOW_ENVIRONMENT_MINUTES", defaults.environment_seconds / 60, least=0.01)
        * 60,
        table_bytes=_megabytes("PLAINWINDOW_TABLE_MB", defaults.table_bytes),
        visitor_table_bytes=_megabytes("PLAINWINDOW_VISITOR_TABLE_MB", defaults.visitor_table_bytes),
        film_bytes=_megabytes("PLAINWINDOW_FILM_MB", defaults.film_bytes),
        visitor_film_bytes=_megabytes("PLAINWINDOW_VISITOR_FILM_MB", defaults.visitor_film_bytes),
        film_seconds=_number("PLAINWINDOW_FILM_MINUTES", defaults.film_seconds / 60, least=0.01) * 60,
        visitor_film_seconds=_number("PLAINWINDOW_VISITOR_FILM_MINUTES", defaults.visitor_film_seconds / 60, least=0.01)
        * 60,
        film_left_seconds=_number("PLAINWINDOW_FILM_LEFT_SECONDS", defaults.film_left_seconds, least=1),
        film_kept_seconds=_number("PLAINWINDOW_FILM_KEPT_SECONDS", defaults.film_kept_seconds, least=1),
        visitor_jobs=int(_number("PLAINWINDOW_VISITOR_JOBS", defaults.visitor_jobs, least=1)),
        demo_jobs=int(_number("PLAINWINDOW_DEMO_JOBS", defaults.demo_jobs, least=1)),
        visitor_job_seconds=_number("PLAINWINDOW_VISITOR_JOB_MINUTES", defaults.visitor_job_seconds / 60, least=0.01)
        * 60,
        call_seconds=_number("PLAINWINDOW_CALL_SECONDS", defaults.call_seconds, least=0.1),
        open_seconds=_number("PLAINWINDOW_OPEN_SECONDS", defaults.open_seconds, least=1),
        runner_memory_bytes=_megabytes("PLAINWINDOW_RUNNER_MEMORY_MB", defaults.runner_memory_bytes),
        all_runners_bytes=_megabytes("PLAINWINDOW_ALL_RUNNERS_MB", defaults.all_runners_bytes),
        rate=_number("PLAINWINDOW_RATE", defaults.rate, least=0),
    )
    return Settings(
        home=chosen_home.expanduser().resolve(),
        port=port if port is not None else int(_number("PLAINWINDOW_PORT", 8700, least=1)),
        workers=int(_number("PLAINWINDOW_WORKERS", os.cpu_count() or 1, least=1)),
        host=os.environ.get("PLAINWINDOW_HOST") or "127.0.0.1",
        database_url=os.environ.get("PLAINWINDOW_DATABASE_URL") or None,
        unconfined=_list("PLAINWINDOW_UNCONFINED"),
        links_allowed=_list("PLAINWINDOW_LINKS_ALLOWED"),
        hosts=_list("PLAINWINDOW_HOSTS"),
        trusted_proxies=int(_number("PLAINWINDOW_TRUSTED_PROXIES", 0, least=0)),
        limits=limits,
        job_workers=int(_number("PLAINWINDOW_JOB_WORKERS", os.cpu_count() or 1, least=1)),
        dask_scheduler=_scheduler(),
        source_packages=frozenset(
            re.sub(r"[-_.]+", "-", name).lower() for name in _list("PLAINWINDOW_SOURCE_PACKAGES")
        ),
    )


def _list(name: str) -> frozenset[str]:
    return frozenset(filter(None, os.environ.get(name, "").replace(" ", "").split(",")))


def _scheduler() -> str | None:
    address = os.environ.get("PLAINWINDOW_DASK_SCHEDULER") or None
    if address and not re.fullmatch(r"tcp://[^/\s]+:\d+", address):
        raise SettingsError(f'PLAINWINDOW_DASK_SCHEDULER must be like tcp://HOST:PORT. Got "{address}".')
    return address


def _number(name: str, default: float, *, least: float) -> float:
    text = os.environ.get(name)
    if not text:
        return default
    try:
        value = float(text)
    except ValueError:
        value = float("nan")
    if not value >= least:
        raise SettingsError(f'{name} must be a number of at least {least:g}. Got "{text}".')
    return value


def _megabytes(name: str, default: int) -> int:
    return int(_number(name, default / MB, least=0.001) * MB)
