"""Whether what visitors ask about is like the reference table, from counts alone."""

import time
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...authoring.reference_answers import (
    USUAL_ANSWERS,
    AnswerCounts,
    answers_can_be_counted,
    count_answers,
    n_to_count,
    reference_columns,
)
from ...core.answers import AnyAnswerSetting
from ...core.answers.rounding import counted_of_100
from ...core.contract.values import Value
from ...core.drift.bins import (
    GAP,
    answer_bins,
    answer_parts,
    count_bins,
    field_bins,
    has_bins,
)
from ...core.drift.distance import FEWEST_CASES, LEVEL, drift_between
from ...core.fields import NumberField
from ...runners.failures import RunnerBusy, RunnerFailed, RunnerUnavailable
from ...store.summaries import bin_counts
from ...store.worked_out import find_worked_out, keep_worked_out
from ..access import require_owner, visible_version
from ..identity import caller_name
from ..lookups import Version
from ..numbers_asked import number_asked
from ..state import state
from ..types.drift import DriftBin, DriftEntry, DriftReport
from .api import api
from .demos import own_record

__all__: list[str] = []

USUAL_WEEKS, MOST_WEEKS = 8, 52
# How long a model is asked for how its answers usually lie, before that is left to a job.
MOST_SECONDS, REMEMBERED_MODELS = 2.0, 64


@api.operation(
    "GET",
    "/demos/<slug>/drift",
    guard=require_owner,
    answer=DriftReport,
    query={"weeks": f"How many weeks to look back; {USUAL_WEEKS} if left out."},
    described={"weeks": {"type": "integer", "minimum": 1, "maximum": MOST_WEEKS}},
    errors=(401, 404, 422, 503),
)
def get_drift(slug: str) -> DriftReport:
    """Whether visitors of the live release ask about cases like those of the reference table.

    For each field and for the answer: how far the shares of bins are apart (total variation distance), and whether that
    is more than chance (Pearson's chi-square test, at one in a hundred over all of them together). Before the first
    release there is nothing to compare. Of a model that is too slow to be asked meanwhile about its reference rows
    nothing is said of the answer (`answers_counted`), until a job of kind `drift` has counted that.
    """
    demo = own_record(slug)
    _, version = visible_version(slug, draft=False)
    weeks = max(1, number_asked("weeks", USUAL_WEEKS, most=MOST_WEEKS))
    used = bin_counts(demo.id, version.model_id, weeks=weeks) if version.number is not None else {}
    counted_usual = _usual_of(version)
    usual, answered = counted_usual.fields, counted_usual.answers or {}
    labels = {field.name: field.label for field in version.document.fields}
    calendars = {one.name: one.calendar for one in version.document.fields if isinstance(one, NumberField)}
    # What its author fixed is the same for all.
    shown = [field for field in version.document.fields if not field.hidden]
    names_shown = {field.name for field in shown}
    counted = [field for field in version.inspection.fields if field.name in usual and field.name in names_shown]
    parts = {name: part for name, part in answer_parts(version.inspection.answer).items() if name in answered}
    said = _said_names(version.inspection.answer, version.document.answer)
    n_tested = len(counted) + len(parts)
    entries = [
        _entry(
            field.name,
            labels.get(field.name, field.label),
            # Told as the page tells it; where the bins lie is what was inferred.
            field_bins(field.model_copy(update={"calendar": calendars.get(field.name, "")})),
            usual[field.name],
            used.get(field.name, {}),
            n_tested,
        )
        for field in counted
    ]
    answers = [
        _entry(None, said.get(name, "Answer"), answer_bins(part), answered[name], used.get(name, {}), n_tested)
        for name, part in parts.items()
    ]
    return DriftReport(
        weeks=weeks,
        level=LEVEL,
        fields=sorted(entries, key=lambda one: (not one.drifted, -one.value)),
        answers=answers,
        not_counted=[field.label for field in shown if field.name not in usual],
        answers_counted=counted_usual.answers is not None,
        can_be_counted=counted_usual.can_be_counted,
    )


def _entry(
    field: str | None,
    label: str,
    names: list[str],
    reference: Mapping[int, int],
    used: Mapping[int, int],
    n_tested: int,
) -> DriftEntry:
    found = drift_between(reference, used, n_tested=n_tested)
    places = [*range(len(names)), GAP]
    bins = [
        DriftBin(
            name=names[at] if at != GAP else "not known",
            reference=round(100 * reference.get(at, 0) / max(1, found.reference_cases), 1),
            use=round(100 * used.get(at, 0) / max(1, found.cases), 1),
        )
        for at in places
        if reference.get(at) or used.get(at)
    ]
    return DriftEntry(
        field=field,
        label=label,
        value=found.distance,
        p=found.p,
        cases=found.cases,
        drifted=found.drifted,
        finding=_finding(found.distance, found.p, found.cases, drifted=found.drifted),
        bins=bins,
    )


def _finding(distance: float, p: float | None, cases: int, *, drifted: bool) -> str:
    if not cases:
        return "No visitor has asked yet."
    if p is None:
        return f"{cases} case{'' if cases == 1 else 's'}: too few to tell; it takes {FEWEST_CASES}."
    apart = f"{counted_of_100(distance)} of 100 cases lie elsewhere than in the reference table"
    if drifted:
        return f"{apart}: more than chance would do."
    return f"{apart}: no more than chance would do." if p >= LEVEL else f"{apart}: a small or an unsure difference."


@dataclass(frozen=True)
class _Usual:
    """How reference rows and the model's answers to them lie, by field or part of the answer."""

    fields: dict[str, dict[int, int]]
    # None where the model could not be asked.
    answers: dict[str, dict[int, int]] | None
    # Whether it could be, with more time.
    can_be_counted: bool = False


# Reading them again at each look takes longer than all the rest.
_fields_of: OrderedDict[str, dict[str, dict[int, int]]] = OrderedDict()


def _usual_of(version: Version) -> _Usual:
    inspection = version.inspection
    columns = reference_columns(version.job, inspection)
    fields = _fields_of.get(version.job.key)
    if fields is None:
        kept = [one for one in inspection.fields if has_bins(one) and one.name in columns]
        fields = _fields_of[version.job.key] = {one.name: count_bins(one, columns[one.name]) for one in kept}
        while len(_fields_of) > REMEMBERED_MODELS:
            _fields_of.popitem(last=False)
    # Of texts without a table, and of pictures, there is nothing to lie otherwise than.
    if not answers_can_be_counted(inspection, columns):
        return _Usual(fields, {})
    return _Usual(fields, _usual_answers(version, columns), can_be_counted=version.job.bridge is None)


def _usual_answers(version: Version, columns: Mapping[str, Sequence[Value]]) -> dict[str, dict[int, int]] | None:
    """How the model's answers to reference rows lie; None if it is too slow to be asked about them now."""
    # What stays in its author's process may be another function by now.
    keeps = version.job.bridge is None
    kept = find_worked_out(version.model_id, USUAL_ANSWERS) if keeps else None
    if kept is not None:
        return AnswerCounts.from_json(kept).parts
    counts, until = AnswerCounts(), time.monotonic() + MOST_SECONDS
    services, runner = state().services, version.job
    try:
        for _ in count_answers(services, runner, version.inspection, columns, counts, caller=caller_name()):
            if time.monotonic() > until and counts.n_asked < n_to_count(columns):
                return None
    except (RunnerBusy, RunnerFailed, RunnerUnavailable):
        # Asked again the next time; what the fields say needs no model.
        return None
    if not counts.n_answered:
        return None
    if keeps:
        keep_worked_out(version.model_id, USUAL_ANSWERS, counts.to_json())
    return counts.parts


def _said_names(inferred: AnyAnswerSetting, setting: AnyAnswerSetting) -> dict[str, str]:
    """What the page calls each of several numbers or labels; parts are found by place, names are the author's."""
    listed = getattr(setting, "values", None) or getattr(setting, "labels", [])
    words = [getattr(one, "label", one.name) for one in listed]
    return dict(zip(answer_parts(inferred), words, strict=True)) if listed else {}
