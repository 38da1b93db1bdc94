"""Another model, table, outcome or list of names for a demo that is there."""

import contextlib

import msgspec
from flask import request

from ...authoring.housekeeping import retire_unneeded
from ...authoring.replacing import Replacement, replace_model
from ...core.documents import TITLE_CHARACTERS, DemoDocument
from ...core.errors import Fault, MismatchFaults
from ...runners.client import RunnerUnavailable
from ...store.demos import draft_of
from ..access import require_owner
from ..operations import parse_body
from ..state import state
from ..types.demos import DraftChange, Replaced
from ..types.models import NewParts
from ..uploads import receive_upload
from .api import api
from .demos import WORD_BYTES, brought_words, change_demo, demo_state, own_record, require_address, upload_parts

__all__: list[str] = []

# The names of some thousand features, twice.
RENAMES_BYTES = 1 << 18


@api.operation(
    "PUT",
    "/demos/<slug>/model",
    multipart=NewParts,
    guard=require_owner,
    answer=Replaced,
    query={"try": "`1` compares only; the draft stays as it is."},
    errors=(400, 401, 403, 404, 408, 413, 422, 503),
)
def put_model(slug: str) -> Replaced:
    """Replace the model, or only some of what came with it.

    Parts that are not sent stay; a part that is sent empty is taken away. The draft changes, visitors keep the live
    release. With no parts at all, known cases are measured again as the draft is set. A feature that only has another
    name now keeps its settings where `renames` says so: a JSON object with the name each had, by the one it has.
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
        if "model" in upload.files and not upload.files["model"].size:
            raise MismatchFaults([Fault("model", "The model file is empty. Send another model, or leave `model` out.")])
        taken = {
            name: services.files.take(incoming) if incoming.size else None for name, incoming in upload.files.items()
        }
    finally:
        upload.discard()
    is_try = request.args.get("try") in ("1", "true")
    found, demo = replace_model(services, demo, Replacement(taken, words, renames=renames), try_only=is_try)
    if named and not is_try:
        demo = change_demo(demo, change)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(services)
    return Replaced(differences=found, demo=demo_state(demo))


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
