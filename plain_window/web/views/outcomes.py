"""What became of a case: visitors say whether an answer was right."""

import math

from flask import Response

from ...core.answers import ClassSetting, NumberSetting
from ...core.answers.kinds import AnyAnswerSetting
from ...core.errors import Fault
from ...store.outcomes import save_outcome
from ..access import require_visible, visible_version
from ..limits import slow_down_visitor
from ..parts import require_part
from ..problems import ApiProblem
from ..state import state
from ..types.log import GivenOutcome
from .api import api

__all__: list[str] = []


def _may_say(slug: str, answer: str) -> None:
    """Before anything is read: not too often, and only of a demo that the caller may see."""
    slow_down_visitor("outcome", state().services.settings.limits.rate)
    require_visible(slug)


@api.operation(
    "POST",
    "/demos/<slug>/predictions/<answer>/outcome",
    body=GivenOutcome,
    guard=_may_say,
    errors=(400, 401, 403, 404, 413, 415, 422, 429, 503),
    status=204,
)
def give_outcome(slug: str, answer: str, body: GivenOutcome) -> Response:
    """Say whether an answer was right, and what it really was where the author asks for that.

    Kept is what is said, with the answer and the time; nothing of what was entered. Saying it again replaces it.
    """
    demo, version = visible_version(slug, draft=False)
    document = version.document
    require_part(document, "outcomes")
    truth = None
    if body.truth is not None:
        require_part(document, "truth")
        truth = _truth(document.answer, body.truth)
    answered = state().answer_ids.read(
        answer, is_right=body.right, truth=truth, comment=(body.comment or "").strip() or None
    )
    if answered is None or answered.demo_id != demo.id:
        raise ApiProblem(
            404, "No such answer", "No answer of this demo has that id. Ask for an answer; it carries one."
        )
    save_outcome(answered)
    return Response(status=204)


def _truth(setting: AnyAnswerSetting, truth: str | float) -> str:
    """What it really was, as the answer's kind has it.

    Raises
    ------
    ApiProblem
        422 for what the answer cannot be.
    """
    if isinstance(setting, ClassSetting):
        names = [wording.name for wording in setting.classes]
        if truth in names:
            return str(truth)
        detail = f"`truth` must be one of {', '.join(f'`{name}`' for name in names[:8])}. Got `{str(truth)[:60]}`."
        raise ApiProblem(422, "Not a class", detail, faults=[Fault("truth", detail)])
    if isinstance(setting, NumberSetting):
        if isinstance(truth, float) and math.isfinite(truth):
            return repr(truth)
        detail = f"`truth` must be a number. Got `{str(truth)[:60]}`."
        raise ApiProblem(422, "No number", detail, faults=[Fault("truth", detail)])
    detail = "`truth` can be given where the answer is one class or one number. Leave it out."
    raise ApiProblem(422, "Several answers", detail, faults=[Fault("truth", detail)])
