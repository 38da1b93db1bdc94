"""Tables that a model is to be made of, as they come in and as they are begun."""

import json
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from ..core.documents import faults_of
from ..core.errors import DocumentFaults, Fault, InputFaults, MismatchFaults
from ..core.starters.choices import Choices
from ..jobs.carrier import wake
from ..jobs.starter_found import MADE_OF_TABLE, MadeOfTable, StarterFound, StarterOptions
from ..jobs.starter_job import faults_of_choices
from ..store.addresses import SlugTaken, slug_fault
from ..store.demos import find_demo
from ..store.jobs import change_job
from ..store.records import Demo, Job
from ..store.worked_out import find_worked_out
from .problems import ApiProblem, not_found
from .state import state
from .types.starters import StarterChanges

__all__ = [
    "STARTER_TEXTS",
    "begin_starter",
    "change_starter",
    "made_of_table",
    "starter_options",
    "take_back_refused",
]

OPTION_BYTES = 1 << 18
# Choices that may come as parts of their own; lists and objects as JSON.
WORDS = (
    "target",
    "answer",
    "group",
    "time",
    "numbers",
    "dates",
    "duplicates",
    "weights",
    "model",
    "title",
    "slug",
    "hold",
)
AS_JSON = ("drop", "keep", "kinds")
STARTER_TEXTS = dict.fromkeys(("options", "again", "name", *WORDS, *AS_JSON), OPTION_BYTES)
# What a table has to be looked at anew for, and what models need not be compared anew for.
LOOKED_AT_ANEW = {"target", "answer", "numbers", "dates"}
ONLY_MAKING = {"model", "title", "slug"}


def starter_options(texts: Mapping[str, str], author_id: int) -> StarterOptions:
    """What is wanted of a table, as it was sent.

    Parameters
    ----------
    texts : mapping of str to str
        The parts that are text.
    author_id : int
        Who sent it.

    Raises
    ------
    InputFaults
        Naming each choice that is none.
    SlugTaken
        If another demo has the wanted address.
    """
    wanted: dict[str, Any] = {}
    try:
        together = json.loads(texts.get("options") or "{}")
        wanted = {**together} if isinstance(together, dict) else {"options": together}
        wanted |= {name: _listed(texts[name]) for name in ("drop", "keep") if name in texts}
        wanted |= {"kinds": json.loads(texts["kinds"] or "{}")} if "kinds" in texts else {}
    except (ValueError, RecursionError):
        told = '`options` and `kinds` are JSON objects, `drop` and `keep` lists of columns: {"drop": ["shelf"]}.'
        raise InputFaults([Fault("options", told)]) from None
    wanted |= {name: texts[name].strip() for name in WORDS if name in texts}
    try:
        choices = Choices.model_validate(wanted)
    except ValidationError as error:
        raise InputFaults(faults_of(error)) from None
    _refuse_address(choices)
    again = texts.get("again", "").strip()
    if again:
        made_of_table(_own(again, author_id))
    return StarterOptions(choices=choices, again=again)


def _listed(text: str) -> Any:
    """Names of columns: as JSON, or parted by commas."""
    if text.lstrip().startswith("["):
        return json.loads(text)
    return [name.strip() for name in text.split(",") if name.strip()]


def _own(slug: str, author_id: int) -> Demo:
    demo = find_demo(slug)
    if demo is None or demo.author_id != author_id:
        raise InputFaults([Fault("again", f"You have no demo `{slug[:60]}`.")])
    return demo


def _refuse_address(choices: Choices) -> None:
    if not choices.slug:
        return
    if fault := slug_fault(choices.slug):
        raise DocumentFaults([Fault("slug", fault)])
    if find_demo(choices.slug) is not None:
        raise SlugTaken(choices.slug)


def made_of_table(demo: Demo) -> MadeOfTable:
    """How a demo's model was made of a table.

    Parameters
    ----------
    demo : Demo
        Its record.

    Raises
    ------
    ApiProblem
        409 if it was not.
    """
    kept = find_worked_out(demo.model_id, MADE_OF_TABLE)
    if kept is None:
        detail = f"The model of `{demo.slug}` was brought; it was not made of a table here."
        raise ApiProblem(409, "Not made here", detail)
    return MadeOfTable.model_validate_json(kept)


def change_starter(job: Job, changes: StarterChanges) -> bool:
    """Take other choices for a job that is held; whether its table is looked at anew for them.

    Parameters
    ----------
    job : Job
    changes : StarterChanges

    Raises
    ------
    ApiProblem
        409 once it has begun.
    MismatchFaults, InputFaults
        If something is wanted that cannot be.
    """
    options = StarterOptions.model_validate_json(job.options)
    found = StarterFound.model_validate_json(job.found or "{}")
    wanted = options.model_copy(update={"choices": changes.applied(options.choices)})
    changed = {
        name for name in changes.model_fields_set if getattr(wanted.choices, name) != getattr(options.choices, name)
    }
    _refuse_address(wanted.choices)
    if found.sheet is not None and wanted.choices.target == found.sheet.target:
        # What was suggested is what was looked at.
        changed -= {"target"}
    is_anew = bool(changed & LOOKED_AT_ANEW)
    if not is_anew:
        faults = [one for one in faults_of_choices(found.sheet, wanted) if one.field in changed]
        if faults:
            raise MismatchFaults(faults)
    if changed - ONLY_MAKING:
        # What was compared was compared otherwise.
        found.compared = None
    values = {"options": wanted.model_dump_json(), "found": found.model_dump_json()}
    if is_anew:
        values |= {"stage": "look"}
    if job.stage != "held" or not change_job(job, **values):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over. Begin another with the table.")
    if is_anew:
        wake(state().services.settings)
    return is_anew


def take_back_refused(job: Job, before: str) -> bool:
    """Whether a table could be looked at as was wanted; if not, what was wanted before is wanted again.

    Parameters
    ----------
    job : Job
        As it is since.
    before : str
        Its options before the change.
    """
    found = StarterFound.model_validate_json(job.found or "{}")
    if not found.is_refused:
        return True
    found.is_refused, found.errors = False, []
    change_job(job, options=before, found=found.model_dump_json())
    return False


def begin_starter(job: Job) -> None:
    """Begin what a job is held for: comparing models, or making the one that is wanted.

    Parameters
    ----------
    job : Job

    Raises
    ------
    ApiProblem
        409 once it has begun.
    MismatchFaults
        If it cannot be begun as it is wanted.
    """
    if job.author_id is None:
        raise not_found()
    options = StarterOptions.model_validate_json(job.options)
    found = StarterFound.model_validate_json(job.found or "{}")
    faults = [] if options.again else faults_of_choices(found.sheet, options)
    if job.stage == "held" and faults:
        raise MismatchFaults(faults)
    if found.compared is not None and not options.choices.model:
        # A word to go on is a word for the one that is offered.
        chosen = options.choices.model_copy(update={"model": found.compared.offered})
        options = options.model_copy(update={"choices": chosen})
    values = {"stage": "ready", "started": None, "options": options.model_dump_json()}
    if job.stage != "held" or not change_job(job, **values):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over.")
    wake(state().services.settings)
