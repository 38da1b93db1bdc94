"""A demo's model and the one that would replace it, both asked about the same cases."""

from collections.abc import Mapping

from ..core.answers import AnyAnswerSetting
from ..core.contract.kept_rows import KeptRows, read_kept_rows
from ..core.documents.measured import is_measured_as_set
from ..core.documents.model_differences import AnswerDifferences, compare_answers
from ..core.documents.replacing import carried_over
from ..core.documents.shared_cases import compare_known_pictures, shared_cases
from ..runners.failures import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..store.demos import draft_of, model_inspection
from ..store.records import Demo, Model
from .model_intake import START_SECONDS, runner_job
from .services import Services

__all__ = ["compare_models"]


def compare_models(
    services: Services, demo: Demo, model: Model, renames: Mapping[str, str], *, has_same_known: bool
) -> AnswerDifferences:
    """How answers to the same cases differ, each said as its page would say it; or why they cannot be compared.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record, with the old model.
    model : Model
        The record of the new one.
    renames : mapping of str to str
        Of features that only have another name now: the one each had, by the one it has.
    has_same_known : bool
        Whether the new one was opened with the known cases of the old.
    """
    before, after, draft = model_inspection(demo.model), model_inspection(model), draft_of(demo)
    settings = draft.answer, carried_over(draft, before, after, renames).answer
    if _shape(settings[0]) != _shape(settings[1]):
        return AnswerDifferences(why_not="answer")
    kept = _kept_rows(services, demo.model), _kept_rows(services, model)
    if before.picture_inputs or after.picture_inputs:
        is_asked = has_same_known and is_measured_as_set(draft, before)
        return compare_known_pictures(*kept, settings) if is_asked else AnswerDifferences(why_not="pictures")
    features = {one.name for one in before.fields}, {one.name for one in after.fields}
    cases = shared_cases(kept, features, settings, renames)
    if isinstance(cases, str):
        return AnswerDifferences(why_not=cases)
    jobs = (runner_job(services, demo.model, draft), runner_job(services, model, draft))
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


def _shape(answer: AnyAnswerSetting) -> tuple[str, int]:
    """What two answers must have in common to be compared; classes are found by name."""
    return answer.kind, len(getattr(answer, "labels", getattr(answer, "values", [])))


def _kept_rows(services: Services, model: Model) -> KeptRows | None:
    return read_kept_rows(services.files.path(model.study_file_id).read_bytes()) if model.study_file_id else None
