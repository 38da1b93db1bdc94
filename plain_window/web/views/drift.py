"""Whether what visitors ask about is like the reference table, from counts alone."""

from collections import OrderedDict
from collections.abc import Mapping
from pathlib import Path

import msgspec

from ...core.answers import AnyAnswerSetting
from ...core.answers.rounding import counted_of_100
from ...core.contract.values import Row, Value
from ...core.drift.bins import (
    GAP,
    answer_bins,
    answer_parts,
    answered_values,
    binned_answer,
    count_bins,
    field_bins,
    has_bins,
)
from ...core.drift.distance import FEWEST_CASES, LEVEL, drift_between
from ...core.fields import NumberField
from ...runners.client import RunnerFailed, RunnerRaised, RunnerUnavailable
from ...store.summaries import bin_counts
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
# Reference rows that the model is asked about, to know how its answers usually lie.
ROWS_ASKED, ROWS_TOGETHER, REMEMBERED_MODELS = 2000, 1000, 64


class _Kept(msgspec.Struct):
    """Of a file of kept rows what is of reference rows."""

    columns: dict[str, list[Value]] = {}


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
    release there is nothing to compare.
    """
    demo = own_record(slug)
    _, version = visible_version(slug, draft=False)
    weeks = max(1, number_asked("weeks", USUAL_WEEKS, most=MOST_WEEKS))
    used = bin_counts(demo.id, version.model_id, weeks=weeks) if version.number is not None else {}
    usual = _usual_of(version)
    labels = {field.name: field.label for field in version.document.fields}
    calendars = {one.name: one.calendar for one in version.document.fields if isinstance(one, NumberField)}
    # What its author fixed is the same for all.
    shown = [field for field in version.document.fields if not field.hidden]
    names_shown = {field.name for field in shown}
    counted = [field for field in version.inspection.fields if field.name in usual and field.name in names_shown]
    parts = {name: part for name, part in answer_parts(version.inspection.answer).items() if name in usual}
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
        _entry(None, said.get(name, "Answer"), answer_bins(part), usual[name], used.get(name, {}), n_tested)
        for name, part in parts.items()
    ]
    return DriftReport(
        weeks=weeks,
        level=LEVEL,
        fields=sorted(entries, key=lambda one: (not one.drifted, -one.value)),
        answers=answers,
        not_counted=[field.label for field in shown if field.name not in usual],
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


_usual: OrderedDict[str, dict[str, dict[int, int]]] = OrderedDict()


def _usual_of(version: Version) -> dict[str, dict[int, int]]:
    """How reference rows and the model's answers to them lie: counted once for a model."""
    path, key = version.job.kept_rows, version.job.key
    # Of texts without a table there is nothing to lie otherwise than.
    if path is None or not version.inspection.n_reference_rows or key in _usual:
        return _usual.get(key, {})
    columns = msgspec.msgpack.decode(Path(path).read_bytes(), type=_Kept).columns
    fields = [one for one in version.inspection.fields if has_bins(one) and one.name in columns]
    counts = {field.name: count_bins(field, columns[field.name]) for field in fields}
    try:
        counts |= _answers(version, columns)
    except (RunnerFailed, RunnerRaised, RunnerUnavailable):
        # Asked again the next time; what the fields say needs no model.
        return counts
    _usual[key] = counts
    while len(_usual) > REMEMBERED_MODELS:
        _usual.popitem(last=False)
    return counts


def _answers(version: Version, columns: dict[str, list[Value]]) -> dict[str, dict[int, int]]:
    """How the model's answers to reference rows lie, by part."""
    names = [column.name for column in version.inspection.columns]
    setting = version.inspection.answer
    n_rows = min(ROWS_ASKED, len(next(iter(columns.values()), [])))
    if not all(name in columns for name in names) or not any(map(answer_bins, answer_parts(setting).values())):
        return {}
    rows: list[Row] = [{name: columns[name][at] for name in names} for at in range(n_rows)]
    counts: dict[str, dict[int, int]] = {}
    for start in range(0, n_rows, ROWS_TOGETHER):
        some = rows[start : start + ROWS_TOGETHER]
        for outputs in state().services.runners.predict(version.job, some, caller=caller_name()).outputs:
            for name, at in binned_answer(setting, answered_values(setting, outputs)).items():
                of_part = counts.setdefault(name, {})
                of_part[at] = of_part.get(at, 0) + 1
    return counts


def _said_names(inferred: AnyAnswerSetting, setting: AnyAnswerSetting) -> dict[str, str]:
    """What the page calls each of several numbers or labels; parts are found by place, names are the author's."""
    listed = getattr(setting, "values", None) or getattr(setting, "labels", [])
    words = [getattr(one, "label", one.name) for one in listed]
    return dict(zip(answer_parts(inferred), words, strict=True)) if listed else {}
