"""How the model did on known cases: the report, and the cases themselves."""

from typing import Literal, TypeVar

from flask import Response, request

from ...core.fields import AnyField, DrawingField, PictureField, TextField
from ..access import require_owner, visible_version
from ..beside import beside
from ..limits import slow_down_visitor
from ..lookups import ServedDemo, Version
from ..numbers_asked import amount_asked, number_asked
from ..parts import require_part
from ..picture_kinds import picture_kind
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.report import CasesWanted, FullReport, KnownCases, Thresholds
from .api import api
from .asking import DRAFT_QUERY, asks_draft, is_author
from .demos import own_record

__all__: list[str] = []

MOST_CASES, USUAL_CASES = 100, 20
ORDERS: tuple[Literal["table", "worst"], ...] = ("table", "worst")
FILTERS: tuple[Literal["all", "right", "wrong", "high", "low"], ...] = ("all", "right", "wrong", "high", "low")
Word = TypeVar("Word", bound=str)


@api.operation(
    "GET",
    "/demos/<slug>/report",
    answer=FullReport,
    query={**DRAFT_QUERY, "by": "A field: the same by its values."},
    errors=(401, 403, 404, 422, 429, 503),
)
def get_report(slug: str) -> FullReport:
    """How the model did on known cases: for visitors where the author shows it."""
    # Here and below: what needs NumPy is imported by those who ask for it, not at each start.
    from ..full_report import full_report
    from ..known_cases import known_of

    _, version = _asked_version(slug)
    by = _field(version, request.args.get("by"))
    known = known_of(version)
    return beside(lambda: full_report(version, known, by))


@api.operation(
    "GET",
    "/demos/<slug>/known",
    answer=KnownCases,
    query={
        **DRAFT_QUERY,
        "order": "As they stand in the `table`, or the `worst` first.",
        "show": "`all`; of classes those that were `right` or `wrong`, of a number those too `high` or too `low`.",
        "over": "Of a number, only cases that are further off than this.",
        "truth": "Only cases of this class.",
        "answered": "Only cases that were answered with this class.",
        "offset": "How many cases to pass over.",
        "limit": "How many to give, up to 100.",
    },
    described={
        "order": {"type": "string", "enum": list(ORDERS)},
        "show": {"type": "string", "enum": list(FILTERS)},
        "over": {"type": "number", "minimum": 0},
        "offset": {"type": "integer", "minimum": 0},
        "limit": {"type": "integer", "minimum": 1, "maximum": MOST_CASES},
    },
    errors=(401, 403, 404, 422, 429, 503),
)
def get_known(slug: str) -> KnownCases:
    """Known cases with what the model says of them, and what happened."""
    from ..full_report import chosen_cases, known_case
    from ..known_cases import known_of

    _, version = _asked_version(slug)
    wanted = CasesWanted(
        order=_word("order", ORDERS),
        show=_word("show", FILTERS),
        truth=_class(version, "truth"),
        answered=_class(version, "answered"),
        over=amount_asked("over"),
    )
    offset, limit = number_asked("offset", 0), max(1, min(MOST_CASES, number_asked("limit", USUAL_CASES)))
    known = known_of(version)
    places = chosen_cases(version, known, wanted)
    shown = places[offset : offset + limit]
    return KnownCases(total=len(places), cases=[known_case(version, known, at) for at in shown])


@api.operation(
    "GET",
    "/demos/<slug>/known/<int:row>/picture",
    guard=lambda slug, row: require_owner(slug),
    content_type="image/*",
    described={"row": {"type": "integer", "minimum": 0, "description": "The known case's `row`."}},
    errors=(401, 404),
)
def get_known_picture(slug: str, row: int) -> Response:
    """The picture of a known case of the draft, as it was brought."""
    from ...core.pictures.labelled import is_zip, labelled_at

    demo = own_record(slug)
    if not demo.known_file_id:
        raise not_found()
    with state().services.files.path(demo.known_file_id).open("rb") as file:
        found = labelled_at(file, row) if is_zip(file) else None
    kind = picture_kind(found.content) if found else None
    if found is None or kind is None:
        raise not_found()
    return Response(found.content, content_type=kind, headers={"Cache-Control": "private, max-age=3600"})


@api.operation(
    "GET",
    "/demos/<slug>/thresholds",
    guard=require_owner,
    answer=Thresholds,
    query={"class": "The class that is said from the threshold on."},
    required=("class",),
    errors=(401, 404, 422, 503),
)
def get_thresholds(slug: str) -> Thresholds:
    """What each threshold would do on the draft's known cases: for two classes with probabilities."""
    from ...core.report.thresholds import threshold_points
    from ..known_cases import known_of

    _, version = visible_version(slug, draft=True)
    setting = version.document.answer
    if setting.kind != "class" or len(setting.classes) != 2 or not setting.gives_probabilities:
        raise ApiProblem(422, "No threshold", "A threshold is for an answer of two classes with probabilities.")
    place = _class(version, "class")
    if place is None:
        raise ApiProblem(422, "No class", "Say as `class` which of the two is said from the threshold on.")
    answers = known_of(version).answers
    points = threshold_points(answers.outputs[:, place], answers.truths[:, 0] == place)
    return Thresholds(of=setting.classes[place].name, cases=answers.n_cases, points=points)


def _asked_version(slug: str) -> tuple[ServedDemo, Version]:
    slow_down_visitor("explain", state().services.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    if not is_author(demo):
        require_part(version.document, "report")
    return demo, version


def _field(version: Version, name: str | None) -> AnyField | None:
    if name is None:
        return None
    apart = [
        field for field in version.document.fields if not isinstance(field, PictureField | DrawingField | TextField)
    ]
    found = next((field for field in apart if field.name == name), None)
    if found is None:
        known = ", ".join(f"`{field.name}`" for field in apart[:8]) or "none: it has only pictures and texts"
        raise ApiProblem(422, "No such field", f"`by` must be one of {known}. Got `{name[:60]}`.")
    return found


def _word(name: str, words: tuple[Word, ...]) -> Word:
    asked = request.args.get(name, words[0])
    word = next((one for one in words if one == asked), None)
    if word is None:
        raise ApiProblem(
            422, "No such word", f"`{name}` must be {' or '.join(f'`{one}`' for one in words)}. Got `{asked[:60]}`."
        )
    return word


def _class(version: Version, name: str) -> int | None:
    """The place of a class that cases are chosen by."""
    wanted, setting = request.args.get(name), version.document.answer
    if wanted is None:
        return None
    classes = [wording.name for wording in setting.classes] if setting.kind == "class" else []
    if wanted not in classes:
        known = ", ".join(f"`{one}`" for one in classes[:8]) or "none: the answer is no class"
        raise ApiProblem(422, "No such class", f"`{name}` must be one of {known}. Got `{wanted[:60]}`.")
    return classes.index(wanted)
