"""Jobs as they come in: who may begin one, what is wanted of it, and its file."""

import json
import time
from collections.abc import Mapping
from pathlib import PurePath
from typing import Any, Literal, TypeVar

from pydantic import BaseModel, ValidationError

from ..core.answers.written import WRITTEN
from ..core.documents import DemoDocument, faults_of
from ..core.documents.films import check_frame, why_no_films
from ..core.errors import Fault, InputFaults
from ..jobs.film_options import FilmOptions
from ..jobs.interest import note_interest
from ..jobs.options import TableOptions
from ..store.jobs import ENDED, OF_REFERENCE, NewJob
from ..store.records import Job
from .identity import caller_name
from .lookups import ServedDemo, Version
from .problems import ApiProblem
from .state import state
from .uploads import Upload

__all__ = [
    "kind_of_jobs",
    "looked_at",
    "most_bytes",
    "new_job",
    "options_of",
    "refuse_strangers",
    "text_limits",
    "without_ready_cases",
]

# How long a call waits for a file to be looked at, so that whoever sent it hears at once what does not fit.
LOOK_SECONDS, LOOK_AGAIN_SECONDS = 25.0, 0.05
# And how often it is noted meanwhile that somebody does.
NOTE_SECONDS = 0.5
OPTION_BYTES = 1 << 18
TABLE_WORDS = ("columns", "numbers", "dates", "outcome", "contributions", "hold")
FILM_WORDS = ("inputs", "rate", "least_score")
AS_JSON = ("columns", "inputs")

Options = TypeVar("Options", bound=BaseModel)


def kind_of_jobs(document: DemoDocument) -> Literal["table", "video"]:
    """What a demo can be asked about at length: tables, or films where it looks at a picture.

    Parameters
    ----------
    document : DemoDocument

    Raises
    ------
    ApiProblem
        422 where it is neither.
    """
    if document.answer.kind in WRITTEN:
        detail = "This demo answers with a text or a table of its own; no column of a table could hold it."
        raise ApiProblem(422, "Neither tables nor films", detail)
    if not document.has_pictures:
        return "table"
    why = why_no_films(document)
    if why:
        detail = f"{why} Pictures do not fit into a table either."
        raise ApiProblem(422, "Neither tables nor films", detail)
    return "video"


def most_bytes(kind: str, *, by_author: bool) -> int:
    """How large the file of a job may be.

    Parameters
    ----------
    kind : str
        "table" or "video".
    by_author : bool
    """
    limits = state().services.settings.limits
    if kind == "table":
        return limits.table_bytes if by_author else limits.visitor_table_bytes
    return limits.film_bytes if by_author else limits.visitor_film_bytes


def text_limits(kind: str) -> dict[str, int]:
    """The text parts beside a job's file, and how many bytes each may be.

    Parameters
    ----------
    kind : str
        "table" or "video".
    """
    words = TABLE_WORDS if kind == "table" else FILM_WORDS
    return dict.fromkeys(("kind", "options", "name", "of", *words), OPTION_BYTES)


def options_of(upload: Upload, document: DemoDocument, kind: str) -> TableOptions | FilmOptions:
    """What is wanted of a job, as it was sent; checked against the demo.

    Parameters
    ----------
    upload : Upload
    document : DemoDocument
    kind : str
        "table" or "video".

    Raises
    ------
    InputFaults
        Naming each option that is none.
    """
    sent = upload.texts.get("kind", kind).strip()
    if sent != kind:
        known = " or ".join(f"`{one}`" for one in (kind, *OF_REFERENCE))
        raise InputFaults([Fault("kind", f'`kind` may be {known} for this demo. Got "{sent[:40]}".')])
    if kind == "table":
        options = _parsed(upload.texts, TABLE_WORDS, TableOptions)
        refuse_strangers(options, document)
        return options
    film = _parsed(upload.texts, FILM_WORDS, FilmOptions)
    # A frame will stand where the picture does; the rest is the same for all of them, and is told now.
    check_frame(document, film.inputs, b"a frame")
    return film


def _parsed(texts: Mapping[str, str], words: tuple[str, ...], type_: type[Options]) -> Options:
    """Options, together as JSON or one by one."""
    wanted: dict[str, Any] = {}
    try:
        together = json.loads(texts.get("options") or "{}")
        wanted = {**together} if isinstance(together, dict) else {"options": together}
        wanted |= {name: json.loads(texts[name] or "{}") for name in AS_JSON if name in texts}
    except (ValueError, RecursionError):
        raise InputFaults([Fault("options", f"`options` and `{words[0]}` are JSON objects.")]) from None
    wanted |= {name: texts[name].strip() for name in words if name in texts and name not in AS_JSON}
    try:
        return type_.model_validate(wanted)
    except ValidationError as error:
        raise InputFaults(faults_of(error)) from None


def refuse_strangers(options: TableOptions, document: DemoDocument) -> None:
    """Refuse columns for fields that there are not.

    Parameters
    ----------
    options : TableOptions
    document : DemoDocument

    Raises
    ------
    InputFaults
    """
    names = [field.name for field in document.fields]
    strangers = [name for name in options.columns if name not in names]
    if strangers:
        known = ", ".join(f"`{name}`" for name in names[:8])
        faults = [Fault("columns", f"There is no field `{name[:60]}`. There are {known}.") for name in strangers[:8]]
        raise InputFaults(faults)


def new_job(
    demo: ServedDemo,
    version: Version,
    options: TableOptions | FilmOptions,
    upload: Upload,
    file: str,
    size: int,
    *,
    kind: str,
    by_author: bool,
) -> NewJob:
    """A job as it is taken in.

    Parameters
    ----------
    demo : ServedDemo
    version : Version
    options : TableOptions or FilmOptions
    upload : Upload
        What it came with.
    file : str
        Its file in the store.
    size : int
        Of that, in bytes.
    kind : str
    by_author : bool
    """
    name = PurePath(upload.texts.get("name") or upload.names.get(kind) or kind).name[:200]
    return NewJob(
        kind=kind,
        demo_id=demo.id,
        model_id=version.model_id,
        release_number=version.number,
        document=without_ready_cases(version.document).model_dump_json(),
        by_author=by_author,
        caller=caller_name()[:120],
        options=options.model_dump(),
        file=file,
        file_name=name,
        file_bytes=size,
    )


def without_ready_cases(document: DemoDocument) -> DemoDocument:
    """What of a demo a job needs: what it has ready for visitors may be megabytes.

    Parameters
    ----------
    document : DemoDocument
    """
    return document.model_copy(update={"samples": [], "sample_films": []})


def looked_at(job: Job) -> Job:
    """The job once its file has been looked at, or as it is after a while. Who waits for that has not left.

    Parameters
    ----------
    job : Job
    """
    until, noted = time.monotonic() + LOOK_SECONDS, time.monotonic()
    while True:
        now: Job = Job.get_by_id(job.id)
        if now.stage != "look" or now.state in ENDED or time.monotonic() > until:
            return now
        if time.monotonic() > noted + NOTE_SECONDS:
            note_interest(state().services.settings, now)
            noted = time.monotonic()
        time.sleep(LOOK_AGAIN_SECONDS)
