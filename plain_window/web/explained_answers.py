"""Answers with what explains them: what may be asked for beside an answer, and the answer that comes of it."""

import math
import time
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from msgspec import to_builtins

from ..core.answers import ClassSetting, make_answer
from ..core.answers.deciding import threshold_of
from ..core.contract import ExplainReply, Missing, RegionsReply
from ..core.contract.requests import ChangesWanted, ExplainRequest
from ..core.documents import DemoDocument
from ..core.fields import CheckedInputs, Note
from ..runners.client import RunnerClient
from .explanation_answers import (
    changeable_fields,
    changes_answer,
    curves_written,
    explanation_answer,
    output_of,
    seen_answer,
    similar_answer,
    where_answer,
)
from .lookups import Version
from .parts import require_part
from .plain_answers import WrittenAnswer
from .problems import ApiProblem
from .sentences import missing_sentence
from .types.explanations import WhereAnswer
from .types.predictions import PredictionAnswer, Timing

__all__ = ["Wanted", "explained_answer", "read_wanted"]

# What `with` may name, and the part of the page that is.
PART_OF_WITH = {
    "explanation": "contributions",
    "curves": "curves",
    "similar": "similar",
    "changes": "changes",
    "where": "contributions",
    "seen": None,
}

# A reason comes out of a model's process; a sentence or two is all it may be.
REASON_CHARACTERS = 500

# How long one answer may look into its pictures.
LOOK_SECONDS = 4.0


@dataclass(frozen=True)
class Wanted:
    """What is to come along with an answer: parts by name, about which output, and what changes are to reach."""

    parts: frozenset[str]
    of: int | None
    at_score: bool
    full: bool
    changes: ChangesWanted | None


def read_wanted(document: DemoDocument, query: Mapping[str, str]) -> Wanted:
    """What a request's query asks for.

    Parameters
    ----------
    document : DemoDocument
    query : mapping of str to str

    Raises
    ------
    ApiProblem
        422 for anything that is not known, 403 for what the author has switched off.
    """
    parts = frozenset(part.strip() for part in query.get("with", "").split(",")) - {""}
    unknown = parts - PART_OF_WITH.keys()
    if unknown:
        detail = (
            f"`with` may be `explanation`, `curves`, `similar`, `changes`, `where` or `seen`, parted by commas. "
            f"Got `{sorted(unknown)[0][:60]}`."
        )
        raise ApiProblem(422, "Unknown part", detail)
    for name in sorted(parts):
        part = PART_OF_WITH[name]
        if part is not None:
            require_part(document, part)
    if query.get("scale", "") not in ("", "probability", "score"):
        raise ApiProblem(422, "Unknown scale", "`scale` may be `probability` or `score`.")
    return Wanted(
        parts,
        of=_explained_output(document, query.get("of")),
        at_score=query.get("scale") == "score",
        full=query.get("curves") == "full",
        changes=_wanted_changes(document, query) if "changes" in parts else None,
    )


def explained_answer(
    runners: RunnerClient,
    version: Version,
    inputs: Mapping[str, object],
    checked: CheckedInputs,
    wanted: Wanted,
    *,
    caller: str,
    started: float,
) -> WrittenAnswer:
    """Ask for one case's answer with what explains it.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
    inputs : mapping of str to value
        As they came.
    checked : CheckedInputs
    wanted : Wanted
    caller : str
        Who asks, by which calls have their turns.
    started : float
        When the request came (`time.perf_counter`).

    Raises
    ------
    ModelFailed
        If the outputs are none that the answer could be.
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.explain` does.
    """
    document, parts = version.document, wanted.parts
    asked = ExplainRequest(
        row=checked.values,
        of=wanted.of,
        explanation="explanation" in parts,
        curves="curves" in parts,
        at_score=wanted.at_score,
        full=wanted.full,
        similar="similar" in parts,
        seen="seen" in parts,
        changes=wanted.changes,
    )
    reply = runners.explain(version.job, asked, caller=caller)
    is_unlike = bool(checked.notes) or (reply.familiarity is not None and reply.familiarity.is_unlike)
    answer, notes = make_answer(document.answer, reply.outputs, version.evidence, is_unlike=is_unlike)
    where, where_notes = _looked(runners, version, checked, reply.of, caller) if "where" in parts else (None, [])
    notes = [*notes, *where_notes, *_unexplained(reply, parts)]
    notes += [Note(field=field, level="info", message=message[:REASON_CHARACTERS]) for field, message in reply.notes]
    made = PredictionAnswer(
        answer=answer,
        notes=checked.notes + notes,
        explanation=reply.explanation
        and explanation_answer(
            document.answer,
            reply.explanation,
            reply.of,
            _with_fixed(document, inputs),
            at_score=wanted.at_score,
            words=reply.words,
        ),
        familiarity=None if reply.familiarity is None else to_builtins(reply.familiarity),
        similar=None if reply.similar is None else similar_answer(version, reply.similar),
        changes=None if reply.changes is None else changes_answer(version, reply.changes, inputs),
        where=where,
        seen=None if reply.seen is None else seen_answer(reply.seen),
        release=version.number,
        timing_ms=Timing(
            predict=round(reply.predict_ms, 3),
            explain=round(reply.explain_ms, 3),
            total=round((time.perf_counter() - started) * 1000, 3),
        ),
    )
    curves = reply.curves
    return WrittenAnswer(
        made, None if curves is None else curves_written(document.answer, curves, reply.of, document.fields)
    )


def _with_fixed(document: DemoDocument, inputs: Mapping[str, Any]) -> Mapping[str, Any]:
    """What was entered, with what every case has in fields that visitors do not see."""
    fixed = {field.name: field.default for field in document.fields if field.hidden}
    return {**inputs, **fixed} if fixed else inputs


def _unexplained(reply: ExplainReply, wanted: frozenset[str]) -> list[Note]:
    """That something was asked for and is not there, and why."""
    missing = missing_sentence(reply.missing) if reply.missing else ""
    if "explanation" in wanted and reply.explanation is None:
        why = missing or missing_sentence("no-score")
        message = f"The answer is not explained. {why}"
        return [Note(field=None, level="warn", message=message, code="not-explained")]
    if "curves" in wanted and reply.curves is None and missing:
        return [Note(field=None, level="warn", message=f"There are no curves. {missing}", code="no-curves")]
    return []


def _looked(
    runners: RunnerClient, version: Version, checked: CheckedInputs, of: int, caller: str
) -> tuple[list[WhereAnswer] | None, list[Note]]:
    """Where the model looked in each picture, as sharp as it gets within the time; asked for in small steps, so that
    others have their turn in between."""
    found, deadline = [], time.monotonic() + LOOK_SECONDS
    for field in version.job.needed_facts.picture_inputs:
        reply: RegionsReply | None = None
        while reply is None or (not reply.is_done and time.monotonic() < deadline):
            known = runners.regions(version.job, checked.values, field=field, of=of, caller=caller)
            if isinstance(known, Missing):
                message = f"Where the model looked is not shown. {missing_sentence(known.reason)}"
                return None, [Note(field=None, level="warn", message=message, code="not-looked")]
            reply = known
        found.append(where_answer(version.document.answer, field, reply))
    return found or None, []


def _explained_output(document: DemoDocument, asked: str | None) -> int | None:
    """The output that is explained; where a class has a threshold that one, whichever is said."""
    setting = document.answer
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    return threshold[0] if asked is None and threshold is not None else output_of(setting, asked)


def _wanted_changes(document: DemoDocument, query: Mapping[str, str]) -> ChangesWanted:
    """What is to be reached by changes, and which fields may change."""
    setting, to, reach = document.answer, query.get("to"), query.get("reach")
    if setting.kind not in ("class", "number"):
        detail = "What would change it is found only for answers of one class or one number."
        raise ApiProblem(422, "Nothing to change", detail)
    try:
        number = None if reach is None else float(reach)
    except ValueError:
        number = math.nan
    if number is not None and not math.isfinite(number):
        raise ApiProblem(422, "No number", f"`reach` must be a number. Got `{(reach or '')[:60]}`.")
    wanted = None if to is None or setting.kind == "number" else output_of(setting, to, asked="to")
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    return ChangesWanted(fields=changeable_fields(document.fields), to=wanted, reach=number, threshold=threshold)
