"""Another model, table, outcome or list of names for a demo that is there."""

import contextlib
from dataclasses import replace

import msgspec
from flask import Response, request

from ...authoring.housekeeping import retire_unneeded
from ...authoring.own_libraries import EnvironmentWanted
from ...authoring.replacing import Replacement, replace_model
from ...core.documents import TITLE_CHARACTERS, DemoChanges, DemoDocument
from ...core.errors import Fault, MismatchFaults
from ...jobs.wanted import WantedMaking
from ...runners.failures import RunnerUnavailable
from ...store.demos import draft_of
from ...store.records import Demo
from ..access import require_owner
from ..brought import WORD_BYTES, brought_words, model_of_upload, upload_parts
from ..demo_states import demo_state
from ..making_jobs import goes_on_as_job, is_not_waited_for
from ..operations import parse_body
from ..state import state
from ..types.demos import DraftChange, Replaced
from ..types.jobs import JobView
from ..types.models import NewParts
from ..uploads import receive_upload
from .api import api
from .demos import change_demo, own_record, require_address

__all__: list[str] = []

# The names of some thousand features, twice.
RENAMES_BYTES = 1 << 18


@api.operation(
    "PUT",
    "/demos/<slug>/model",
    multipart=NewParts,
    guard=require_owner,
    answer=Replaced,
    job=JobView,
    query={"try": "`1` compares only; the draft stays as it is."},
    errors=(400, 401, 403, 404, 408, 413, 422, 429, 503),
)
def put_model(slug: str) -> Replaced | Response:
    """Replace the model, or only some of what came with it.

    Parts that are not sent stay; a part that is sent empty is taken away. The draft changes, visitors keep the live
    release. With no parts at all, known cases are measured again as the draft is set. A feature that only has another
    name now keeps its settings where `renames` says so: a JSON object with the name each had, by the one it has. Where
    `requirements` must be built first, the answer is 202 and a job; with `try` nothing but that is done by it. So it is
    with `Prefer: respond-async` without `try`.
    """
    services = state().services
    demo = own_record(slug)
    files, texts = upload_parts()
    upload = receive_upload(
        services.files, files, {**texts, "title": 4 * TITLE_CHARACTERS, "slug": WORD_BYTES, "renames": RENAMES_BYTES}
    )
    try:
        words = brought_words(upload.texts)
        renames = _renames(upload.texts.get("renames", ""), draft_of(demo))
        named = {name: upload.texts[name].strip() for name in ("title", "slug") if upload.texts.get(name)}
        change = parse_body(DraftChange, named)
        require_address(demo, change.slug)
        part = model_of_upload(upload)
        if part is not None and not upload.files[part].size:
            raise MismatchFaults([Fault(part, f"The model file is empty. Send another model, or leave `{part}` out.")])
        taken = {
            "model" if name == "function" else name: services.files.take(incoming) if incoming.size else None
            for name, incoming in upload.files.items()
        }
    finally:
        upload.discard()
    is_try = request.args.get("try") in ("1", "true")
    # What lies beside a function stays with another version of it.
    is_function = part == "function" or upload.names.get("model", "").lower().endswith(".py")
    sent = Replacement(taken, words, renames=renames, is_function=is_function)
    later = replace(sent, changes=DemoChanges(title=change.title)) if change.title else sent
    if is_not_waited_for() and not is_try:
        needed = words.get("requirements", demo.model.requirements) or ""
        name = upload.names.get(part or "", "") or ", ".join(taken)
        return _as_job(demo, later, needed, moved_to=change.slug, file_name=name)
    try:
        found, demo = replace_model(services, demo, sent, try_only=is_try)
    except EnvironmentWanted as wanted:
        if not is_try:
            return _as_job(demo, later, wanted.requirements, moved_to=change.slug)
        return _built_only(demo, sent, wanted.requirements)
    if named and not is_try:
        demo = change_demo(demo, change)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(services)
    return Replaced(differences=found, demo=demo_state(demo))


def _as_job(demo: Demo, sent: Replacement, requirements: str, *, moved_to: str | None, file_name: str = "") -> Response:
    job = WantedMaking("replace", requirements, replacement=sent, slug=demo.slug, moved_to=moved_to)
    return goes_on_as_job(demo.author_id, job, demo_id=demo.id, file_name=file_name)


def _built_only(demo: Demo, sent: Replacement, requirements: str) -> Response:
    state().services.files.let_go([hash_ for hash_ in sent.files.values() if hash_])
    return goes_on_as_job(demo.author_id, WantedMaking("build", requirements, slug=demo.slug), demo_id=demo.id)


def _renames(text: str, document: DemoDocument) -> dict[str, str]:
    """Features that only have another name now.

    Raises
    ------
    MismatchFaults
        If it is no such object, or names a feature that the demo does not have, or one twice.
    """
    if not text.strip():
        return {}
    try:
        renames = msgspec.json.decode(text, type=dict[str, str])
    except msgspec.MsgspecError as error:
        detail = 'Send `renames` as a JSON object: {"wall": "wall_mm"} says that `wall_mm` is called `wall` now.'
        raise MismatchFaults([Fault("renames", detail)]) from error
    known = {field.name for field in document.fields}
    strangers = [before for before in renames.values() if before not in known]
    if strangers or len(set(renames.values())) < len(renames):
        wrong = strangers[0] if strangers else next(iter(renames.values()))
        why = "is no feature of this demo" if strangers else "is named twice"
        raise MismatchFaults([Fault("renames", f"`{wrong[:60]}` {why}. Name what each feature was called before.")])
    return renames
