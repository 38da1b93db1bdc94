"""Another model, table, outcome or list of names for a demo that is there: compared first, then taken over."""

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Any

from ..core.errors import ModelNotOpened
from ..core.models.found import Inspection
from ..core.models.study import Study, read_study
from ..core.replacing import AnswerDifferences, Differences, carried_over, compare_answers, differences
from ..runners.client import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..store.database import advisory_lock
from ..store.demos import draft_of, find_demo, replace_draft
from ..store.records import Demo, Model
from .bringing import START_SECONDS, Brought, all_or_nothing, model_of, runner_job, take_back
from .workshop import Workshop

__all__ = ["Replacement", "replace_model"]

# Cases that both models are asked about.
COMPARED_CASES = 200


@dataclass(frozen=True)
class Replacement:
    """What is sent in place of what a demo has. What is not named stays; None takes it away."""

    files: Mapping[str, str | None] = field(default_factory=dict)
    words: Mapping[str, Any] = field(default_factory=dict)


def replace_model(workshop: Workshop, demo: Demo, sent: Replacement, *, try_only: bool) -> tuple[Differences, Demo]:
    """Compare a demo's model with what would replace it, and make that the draft's unless it is only tried.

    Visitors keep the live release. Nothing sent at all measures again, as the draft stands.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        With the reason; the demo is then as before.
    RunnerUnavailable
        If no runner can be had now.
    """
    before = Inspection.model_validate_json(demo.model.inspection)
    brought = _merged(demo, before, sent)
    new_files = [hash_ for hash_ in sent.files.values() if hash_]
    workshop.files.hold([hash_ for hash_ in brought.files if hash_ not in new_files])
    seconds = workshop.settings.limits.open_seconds + 2 * START_SECONDS
    with (
        advisory_lock(f"plain_window_{brought.key}", seconds=seconds),
        all_or_nothing(workshop, brought, brought.key, keep=not try_only),
    ):
        model = model_of(workshop, brought)
        after = Inspection.model_validate_json(model.inspection)
        found = differences(before, after)
        found.answers = _compared(workshop, demo, model, before, after)
        if not try_only:
            carry = partial(carried_over, old=before, new=after)
            replace_draft(demo, carry, model, brought.known_file, workshop.stamp)
    if not try_only:
        _clear_away(workshop, demo.model, seconds)
    return found, find_demo(demo.slug) or demo


def _clear_away(workshop: Workshop, former: Model, seconds: float) -> None:
    """Leave nothing of a model that was replaced, unless a draft or a release is about it."""
    with advisory_lock(f"plain_window_{former.runner_key}", seconds=seconds):
        take_back(workshop, former.runner_key)
    workshop.files.sweep()


def _merged(demo: Demo, before: Inspection, sent: Replacement) -> Brought:
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
        **sent.words,
    }
    inferred = {one.name: one for one in before.fields}
    # What the author set is measured as it is set; another model is guessed anew.
    preparations = {
        one.name: one.preparation.model_dump(mode="json")
        for one in document.fields
        if one.kind in ("picture", "drawing")
        and "model" not in sent.files
        and (one.name in before.told.preparations or one.preparation != inferred[one.name].preparation)
    }
    return Brought(
        model_file=files["model"],
        reference_file=files["reference"],
        preprocessor_file=files["preprocessor"],
        known_file=files["known"],
        preparations=preparations,
        **words,
    )


def _compared(workshop: Workshop, demo: Demo, model: Model, before: Inspection, after: Inspection) -> AnswerDifferences:
    """Both models' answers to the same cases: known ones, or reference rows."""
    study = _study(workshop, model)
    if study is None or before.answer.kind != after.answer.kind or before.picture_inputs or after.picture_inputs:
        return AnswerDifferences()
    rows, truths = _cases(study)
    wanted = [{field.name for field in one.fields} for one in (before, after)]
    if not rows or not all(names <= set(rows[0]) for names in wanted):
        return AnswerDifferences()
    jobs = (runner_job(workshop.files, demo.model, draft_of(demo)), runner_job(workshop.files, model, draft_of(demo)))
    try:
        for job in jobs:
            # One that has only just been opened, or that slept, is waited for.
            workshop.runners.ensure(job, until="ready", timeout=START_SECONDS)
        old, new = (
            workshop.runners.predict(job, [{name: row[name] for name in names} for row in rows]).outputs
            for job, names in zip(jobs, wanted, strict=True)
        )
    except (RunnerRaised, RunnerUnavailable, RunnerFailed):
        return AnswerDifferences()
    return compare_answers(old, new, truths, is_class=after.answer.kind == "class")


def _study(workshop: Workshop, model: Model) -> Study | None:
    return read_study(workshop.files.path(model.study_file_id).read_bytes()) if model.study_file_id else None


def _cases(study: Study) -> tuple[list[dict[str, Any]], list[float] | None]:
    columns = study.known_columns if study.n_known else study.columns
    truths = study.known_outcomes[:COMPARED_CASES] if study.n_known else None
    n_rows = min(COMPARED_CASES, study.n_known or study.n_rows)
    return [{name: values[at] for name, values in columns.items()} for at in range(n_rows)], truths
