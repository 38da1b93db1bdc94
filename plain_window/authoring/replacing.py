"""Another model, table, outcome or list of names for a demo that is there: compared first, then taken over."""

import json
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from typing import Any

from ..core.answers import AnyAnswerSetting
from ..core.contract.inspection import Inspection
from ..core.contract.kept_rows import KeptRows, read_kept_rows
from ..core.documents import DemoChanges, DemoDocument, apply_changes
from ..core.documents.model_differences import (
    AnswerDifferences,
    Differences,
    NotCompared,
    Said,
    compare_answers,
    differences,
    old_class_names,
)
from ..core.documents.replacing import carried_over
from ..core.errors import ModelNotOpened
from ..core.fields import AnyField, DrawingField, PictureField
from ..core.pictures.settings import Preparation
from ..runners.client import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..store.database import advisory_lock
from ..store.demos import draft_of, find_demo, model_inspection, replace_draft
from ..store.records import Demo, Model
from .model_intake import (
    START_SECONDS,
    ModelSubmission,
    all_or_nothing,
    model_of,
    runner_job,
    take_back,
)
from .services import Services

__all__ = ["Replacement", "replace_model"]

# Cases that both models are asked about.
COMPARED_CASES = 200


@dataclass(frozen=True)
class Replacement:
    """What is sent in place of what a demo has. What is not named stays; None takes it away."""

    files: Mapping[str, str | None] = field(default_factory=dict)
    words: Mapping[str, Any] = field(default_factory=dict)
    # How pictures are prepared, where that is said rather than kept or guessed; and what is set of the draft with it.
    preparations: Mapping[str, dict[str, Any]] | None = None
    changes: DemoChanges | None = None
    # Of features that only have another name now: the one each had, by the one it has.
    renames: Mapping[str, str] = field(default_factory=dict)


def replace_model(services: Services, demo: Demo, sent: Replacement, *, try_only: bool) -> tuple[Differences, Demo]:
    """Compare a demo's model with what would replace it, and make that the draft's unless it is only tried.

    Visitors keep the live release. Nothing sent at all measures again, as the draft stands.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record.
    sent : Replacement
        What was sent in the old one's place.
    try_only : bool
        Compare, and change nothing.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        With the reason; the demo is then as before.
    RunnerUnavailable
        If no runner can be had now.
    """
    before = model_inspection(demo.model)
    submission = _merged(demo, before, sent)
    new_files = [hash_ for hash_ in sent.files.values() if hash_]
    services.files.hold([hash_ for hash_ in submission.files if hash_ not in new_files])
    seconds = services.settings.limits.open_seconds + 2 * START_SECONDS
    with (
        advisory_lock(f"plain_window_{submission.key}", seconds=seconds),
        all_or_nothing(services, submission, submission.key, keep=not try_only),
    ):
        model = model_of(services, submission)
        after = model_inspection(model)
        found = differences(before, after)
        found.answers = _compared(services, demo, model, sent)
        if not try_only:
            carry = partial(_carried, sent=sent, old=before, new=after)
            replace_draft(demo, carry, model, submission.known_file, services.stamp)
    if not try_only:
        _clear_away(services, demo.model, seconds)
    return found, find_demo(demo.slug) or demo


def _carried(draft: DemoDocument, *, sent: Replacement, old: Inspection, new: Inspection) -> DemoDocument:
    """The draft about the new model, with what was set along with it."""
    carried = carried_over(draft, old=old, new=new, renames=sent.renames)
    return apply_changes(carried, sent.changes) if sent.changes else carried


def _clear_away(services: Services, former: Model, seconds: float) -> None:
    """Leave nothing of a model that was replaced, unless a draft or a release is about it."""
    with advisory_lock(f"plain_window_{former.runner_key}", seconds=seconds):
        take_back(services, former.runner_key)
    services.files.sweep()


def _merged(demo: Demo, before: Inspection, sent: Replacement) -> ModelSubmission:
    """All that the demo would be made of."""
    model, document = demo.model, draft_of(demo)
    files = {
        "model": model.model_file_id,
        "reference": model.reference_file_id,
        "preprocessor": model.preprocessor_file_id,
        "known": demo.known_file_id,
        **sent.files,
    }
    if not files["model"]:
        raise ModelNotOpened("A demo needs a model. Send another in its place, or delete the demo.")
    words: dict[str, Any] = {
        "target": before.told.target,
        "labels": json.loads(model.labels) if model.labels else None,
        "answer_kind": before.told.answer_kind,
        "numbers": before.told.numbers,
        "dates": before.told.dates,
        **sent.words,
    }
    inferred = {one.name: one for one in before.fields}
    # What the author set is measured as it is set; another model is guessed anew.
    preparations = {
        one.name: one.preparation.model_dump(mode="json")
        for one in document.fields
        if isinstance(one, PictureField | DrawingField)
        and "model" not in sent.files
        and (one.name in before.told.preparations or one.preparation != _preparation_of(inferred[one.name]))
    }
    return ModelSubmission(
        model_file=files["model"],
        reference_file=files["reference"],
        preprocessor_file=files["preprocessor"],
        known_file=files["known"],
        preparations=preparations if sent.preparations is None else dict(sent.preparations),
        **words,
    )


def _compared(services: Services, demo: Demo, model: Model, sent: Replacement) -> AnswerDifferences:
    """Both models' answers to the same cases: known ones, or reference rows."""
    before, after, draft = model_inspection(demo.model), model_inspection(model), draft_of(demo)
    settings = draft.answer, carried_over(draft, before, after, sent.renames).answer
    if _shape(settings[0]) != _shape(settings[1]):
        return AnswerDifferences(why_not="answer")
    if before.picture_inputs or after.picture_inputs:
        is_asked = "known" not in sent.files and _is_as_measured(draft, before)
        return (
            _compared_pictures(services, (demo.model, model), settings)
            if is_asked
            else AnswerDifferences(why_not="pictures")
        )
    renames = sent.renames or _likely_renames(before, after)
    cases = _shared_cases(services, (demo.model, model), settings, renames)
    if isinstance(cases, str):
        return AnswerDifferences(why_not=cases)
    jobs = (runner_job(services.files, demo.model, draft), runner_job(services.files, model, draft))
    try:
        for job in jobs:
            # One that has only just been opened, or that slept, is waited for.
            services.runners.ensure(job, until="ready", timeout=START_SECONDS)
        old, new = (
            services.runners.predict(job, rows).outputs
            for job, rows in zip(jobs, (cases.old_rows, cases.new_rows), strict=True)
        )
    except (RunnerRaised, RunnerUnavailable, RunnerFailed):
        return AnswerDifferences(why_not="runner")
    found = compare_answers(old, new, cases.truths, settings=settings)
    for example in found.examples:
        # Shown on the page as it is now.
        example.inputs = dict(cases.old_rows[example.at])
    return found


def _is_as_measured(draft: DemoDocument, inspection: Inspection) -> bool:
    """Whether the draft prepares pictures as they were prepared when the known ones were asked about."""
    inferred = {one.name: _preparation_of(one) for one in inspection.fields}
    return all(_preparation_of(one) == inferred.get(one.name) for one in draft.fields)


def _compared_pictures(
    services: Services, models: tuple[Model, Model], settings: tuple[AnyAnswerSetting, AnyAnswerSetting]
) -> AnswerDifferences:
    """What both said of the same known pictures when they were opened; cases by their places in the archive."""
    old, new = (_kept_rows(services, model) for model in models)
    if old is None or new is None or old.known_names != new.known_names or not new.known_outputs:
        return AnswerDifferences(why_not="pictures")
    class_names = old_class_names(settings[1], settings[1])
    counted = [at for at, one in enumerate(new.known_truths) if math.isfinite(one[0])]
    found = compare_answers(
        [old.known_outputs[at] for at in counted],
        [new.known_outputs[at] for at in counted],
        [[class_names[int(value)] if class_names else value] for value in (new.known_truths[at][0] for at in counted)],
        settings=settings,
    )
    for example in found.examples:
        example.at = new.known_places[counted[example.at]]
    return found


def _shape(answer: AnyAnswerSetting) -> tuple[str, int]:
    """What two answers must have in common to be compared; classes are found by name."""
    return answer.kind, len(getattr(answer, "labels", getattr(answer, "values", [])))


def _likely_renames(before: Inspection, after: Inspection) -> dict[str, str]:
    return {now: was for was, now in differences(before, after).features.renamed}


@dataclass(frozen=True)
class _Cases:
    """The same cases as each of the two takes them, and what happened."""

    old_rows: list[dict[str, Any]]
    new_rows: list[dict[str, Any]]
    truths: list[Said] | None


def _shared_cases(
    services: Services,
    models: tuple[Model, Model],
    settings: tuple[AnyAnswerSetting, AnyAnswerSetting],
    renames: Mapping[str, str],
) -> _Cases | NotCompared:
    """Cases that both can answer: of the new one's rows, or where the old one takes more, of its rows."""
    features = [{one.name for one in model_inspection(model).fields} for model in models]
    names = [old_class_names(*settings), old_class_names(settings[1], settings[1])]
    all_rows = [_kept_rows(services, model) for model in models]
    for which in (1, 0):
        kept = all_rows[which]
        if kept is None or not (kept.n_known or kept.n_rows):
            continue
        rows, places = _cases(kept)
        old = [_named(row, renames if which == 1 else {}) for row in rows]
        new = [_named(row, {was: now for now, was in renames.items()} if which == 0 else {}) for row in rows]
        if features[0] <= set(old[0]) and features[1] <= set(new[0]):
            return _Cases(
                [{name: row[name] for name in features[0]} for row in old],
                [{name: row[name] for name in features[1]} for row in new],
                _truths(kept, places, settings[which], names[which]) if kept.n_known else None,
            )
    return "features" if any(all_rows) else "rows"


def _named(row: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """A row with features by other names, also by those they have: a name may be another feature's by now."""
    return {**row, **{names[name]: value for name, value in row.items() if name in names}}


def _kept_rows(services: Services, model: Model) -> KeptRows | None:
    return read_kept_rows(services.files.path(model.study_file_id).read_bytes()) if model.study_file_id else None


def _cases(kept_rows: KeptRows) -> tuple[list[dict[str, Any]], list[int]]:
    """Cases from all over the table, which may be sorted, and where each stands."""
    columns = kept_rows.known_columns if kept_rows.n_known else kept_rows.columns
    n_rows = kept_rows.n_known or kept_rows.n_rows
    n_cases = min(COMPARED_CASES, n_rows)
    places = [at * n_rows // n_cases for at in range(n_cases)]
    return [{name: values[at] for name, values in columns.items()} for at in places], places


def _truths(
    kept: KeptRows, places: Sequence[int], setting: AnyAnswerSetting, class_names: Sequence[str]
) -> list[Said] | None:
    """What happened in known cases, as answers say it."""
    if setting.kind == "class":
        return [[class_names[int(kept.known_outcomes[at])]] for at in places]
    if setting.kind == "number":
        return [[kept.known_outcomes[at]] for at in places]
    if not kept.known_truths:
        return None
    return [[bool(one) if setting.kind == "labels" else one for one in kept.known_truths[at]] for at in places]


def _preparation_of(field: AnyField) -> Preparation | None:
    """How its pictures are prepared; None for a field of another kind."""
    return field.preparation if isinstance(field, PictureField | DrawingField) else None
