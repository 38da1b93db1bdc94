"""Making a model of a table from the command line: by the server that runs, or by hand where none does."""

import socket
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ..authoring.services import Services
from ..core.errors import TableNotRead
from ..core.starters.choices import Choices
from ..core.starters.doing import what_is_done
from ..runners.protocol import with_address
from ..store.jobs import ENDED, add_job
from ..store.records import Author, Job
from .carrier import wake
from .insisting import insisted
from .starter_found import StarterFound, StarterOptions, new_starter
from .starter_job import StarterJob

__all__ = ["start_from_table"]

LOOK_SECONDS = 0.3
PATIENCE_SECONDS = 2.0


def start_from_table(
    services: Services, author: Author, path: Path, options: StarterOptions, say: Callable[[str], object]
) -> StarterFound:
    """What came of it; what goes on meanwhile is said line by line.

    Parameters
    ----------
    services : Services
    author : Author
        Whose demo it will be.
    path : Path
        The table.
    options : StarterOptions
    say : callable
        Takes a line.

    Raises
    ------
    TableNotRead
        If it cannot be made, with all reasons.
    """
    try:
        with open(path, "rb") as file:
            size = path.stat().st_size
            limit = services.settings.limits.reference_bytes
            too_large = TableNotRead(f"{path.name} is larger than the limit of {limit >> 20} MB.")
            stored = services.files.take_file(file, limit=limit, too_large=lambda: too_large)
    except OSError as error:
        raise TableNotRead(f"{path} cannot be read: {error.strerror}.") from error
    new = new_starter(
        options, file=stored, file_bytes=size, file_name=path.name, author_id=author.id, caller="command line"
    )
    job = add_job(new)
    if _has_carrier(services):
        wake(services.settings)
    else:
        threading.Thread(target=_carry_out, args=(services, job.id), name="starter", daemon=True).start()
    return _followed(job, options.choices, say)


def _has_carrier(services: Services) -> bool:
    """Whether the server runs that would pick it up."""
    with socket.socket(socket.AF_UNIX, socket.SOCK_DGRAM) as line:
        try:
            with_address(services.settings.carrier_socket, line.connect)
        except OSError:
            return False
    return True


def _carry_out(services: Services, job_id: int) -> None:
    stopping = threading.Event()
    StarterJob(services, insisted(lambda: Job.get_by_id(job_id)), stopping).look()
    job = insisted(lambda: Job.get_by_id(job_id))
    if job.state not in ENDED:
        StarterJob(services, job, stopping).carry_out()


def _followed(job: Job, choices: Choices, say: Callable[[str], Any]) -> StarterFound:
    has_looked, has_compared, said = False, False, time.monotonic()
    while True:
        now: Job = insisted(lambda: Job.get_by_id(job.id))
        found = StarterFound.model_validate_json(now.found or "{}")
        if found.sheet is not None and not has_looked and not found.errors:
            has_looked = True
            say(f"{found.sheet.n_rows:,} rows; `{found.sheet.target}` is to be predicted.")
            for note in found.sheet.notes:
                say(f"- {note}")
            for one, done in zip(found.sheet.findings, what_is_done(found.sheet, choices), strict=True):
                say(f"- {one.sentence} {done}")
        if found.compared is not None and not has_compared:
            has_compared = True
            for tried in found.compared.tried:
                say(f"  {tried.name:<20} {tried.text}")
            say(found.compared.verdict)
        if now.state == "running" and now.total and time.monotonic() - said > PATIENCE_SECONDS and not has_compared:
            said = time.monotonic()
            say(f"  {now.done} of {now.total} fits")
        if now.state in ENDED:
            if now.state != "done":
                raise TableNotRead(" ".join([now.detail or "It was cancelled.", *_ways_on(found)]))
            if found.kept_error is not None:
                say(found.kept_error.sentence)
            _say_checks(found, say)
            return found
        time.sleep(LOOK_SECONDS)


def _ways_on(found: StarterFound) -> list[str]:
    """What may be said to the command where something can be read in two ways."""
    asked = {one["asks"]: one["choices"] for one in found.errors if one.get("asks") and one.get("choices")}
    return [f"({' or '.join(f'`--{option} {way}`' for way in ways)})" for option, ways in asked.items()]


def _say_checks(found: StarterFound, say: Callable[[str], Any]) -> None:
    made = [one for one in found.checks if one.status != "skip"]
    others = [one for one in made if one.status != "pass"]
    if made:
        say(f"{len(made) - len(others)} of {len(made)} checks pass.")
    for one in others:
        say(f"- {one.name}: {one.finding}")
