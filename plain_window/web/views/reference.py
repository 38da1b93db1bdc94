"""What is said of all reference rows: what matters overall, and rows for a case to be drawn among."""

from typing import TypeVar

from flask import request

from ...core.contract import AmongReply, Missing, OverallReply
from ..access import visible_version
from ..explanation_answers import among_answer, output_of, overall_answer
from ..identity import caller_name
from ..limits import slow_down_visitor
from ..lookups import Version
from ..overall_known import known_overall
from ..parts import require_part
from ..problems import ApiProblem
from ..sentences import missing_sentence
from ..state import state
from ..types.explanations import AmongAnswer, OverallAnswer
from .api import api
from .asking import DRAFT_QUERY, asks_draft

Reply = TypeVar("Reply", OverallReply, AmongReply)


@api.operation(
    "GET",
    "/demos/<slug>/overall",
    answer=OverallAnswer,
    query={**DRAFT_QUERY, "of": "The class, or the number, that this is about; the first if left out."},
    errors=(401, 403, 404, 422, 429, 502, 503),
)
def get_overall(slug: str) -> OverallAnswer:
    """What matters overall: importance, direction and average curves, worked out while nobody asks for answers.

    By some of the reference rows; by all that are kept once a job of kind `importance` has worked that out.
    """
    version, of = _asked_version(slug, "overall")
    found = known_overall(state().services.runners, version, of, caller=caller_name())
    return overall_answer(version, _there(found), of)


@api.operation(
    "GET",
    "/demos/<slug>/among",
    answer=AmongAnswer,
    query={**DRAFT_QUERY, "field": "The field, by its name.", "of": "The class, or the number, of the answers."},
    required=("field",),
    errors=(401, 403, 404, 422, 429, 502, 503),
)
def get_among(slug: str) -> AmongAnswer:
    """Reference rows by one field and the model's answer, for a case to be drawn among."""
    version, of = _asked_version(slug, "among")
    name = request.args.get("field", "")
    field = next((field for field in version.document.fields if field.name == name), None)
    if field is None:
        known = ", ".join(f"`{field.name}`" for field in version.document.fields[:8])
        raise ApiProblem(422, "No such field", f"`field` must be one of {known}. Got `{name[:60]}`.")
    found = state().services.runners.among(version.job, field=name, of=of, caller=caller_name())
    return among_answer(version, _there(found), field, of)


def _asked_version(slug: str, part: str) -> tuple[Version, int]:
    """The version a part of the page is asked of, and the output it is about."""
    slow_down_visitor("explain", state().services.settings.limits.rate)
    _, version = visible_version(slug, draft=asks_draft())
    require_part(version.document, part)
    return version, output_of(version.document.answer, request.args.get("of")) or 0


def _there(found: Reply | Missing) -> Reply:
    """What was asked for, where it is there."""
    if isinstance(found, Missing):
        raise ApiProblem(422, "Nothing to compare with", missing_sentence(found.reason))
    return found
