"""Jobs about the rows that are kept beside a model: for its author, and only where something can come of them."""

from ..authoring.reference_answers import answers_can_be_counted, reference_columns
from ..core.answers import AnyAnswerSetting
from ..core.documents import DemoDocument
from ..jobs.reference_job import overall_name
from ..store.jobs import NewJob
from ..store.worked_out import names_worked_out
from .explanation_answers import output_names, output_of
from .identity import caller_name
from .lookups import ServedDemo, Version
from .new_jobs import without_ready_cases
from .problems import ApiProblem
from .sentences import missing_sentence

__all__ = ["is_overall_by_all", "reference_job"]

# Outputs that importance is worked out for by one job.
MOST_OUTPUTS = 20
STAYS_ELSEWHERE = (
    "This model stays in its author's process, where it may change: what is worked out now would not hold."
)
NOT_COUNTED = "The answers of this model are not counted: they have no classes, and no scale that known cases gave."


def reference_job(demo: ServedDemo, version: Version, kind: str, of: str | None) -> NewJob:
    """A job about the rows that are kept beside a model.

    Parameters
    ----------
    demo : ServedDemo
    version : Version
    kind : str
        "importance" or "drift".
    of : str or None
        The output that importance is about; all of them where there is none.

    Raises
    ------
    ApiProblem
        422 where nothing could come of it.
    """
    why = _why_nothing_comes_of_it(version, kind)
    if why:
        raise ApiProblem(422, "Nothing to work out", why)
    setting = version.document.answer
    place = output_of(setting, of) if of else None
    places = _outputs_of_importance(setting) if place is None else [place]
    return NewJob(
        kind=kind,
        demo_id=demo.id,
        model_id=version.model_id,
        release_number=version.number,
        document=without_ready_cases(version.document).model_dump_json(),
        by_author=True,
        caller=caller_name()[:120],
        options={"of": places} if kind == "importance" else {},
        file=None,
        file_name="",
        file_bytes=0,
        stage="ready",
    )


def is_overall_by_all(model_id: int, document: DemoDocument) -> bool:
    """Whether what matters overall has been worked out by all rows that are kept beside a model.

    Parameters
    ----------
    model_id : int
    document : DemoDocument
    """
    kept = names_worked_out(model_id)
    return all(overall_name(of, document.background_rows) in kept for of in _outputs_of_importance(document.answer))


def _outputs_of_importance(setting: AnyAnswerSetting) -> list[int]:
    return list(range(min(MOST_OUTPUTS, len(output_names(setting)))))


def _why_nothing_comes_of_it(version: Version, kind: str) -> str:
    if version.job.bridge is not None:
        return STAYS_ELSEWHERE
    if version.document.has_pictures:
        return missing_sentence("not-for-pictures") if kind == "importance" else NOT_COUNTED
    columns = reference_columns(version.job, version.inspection)
    if not columns:
        return missing_sentence("no-reference-rows")
    return NOT_COUNTED if kind == "drift" and not answers_can_be_counted(version.inspection, columns) else ""
