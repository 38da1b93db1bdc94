"""Another model, table, outcome or list of names for a demo that is there."""

import contextlib

from flask import request

from ...authoring.housekeeping import retire_unneeded
from ...authoring.replacing import Replacement, replace_model
from ...core.documents import TITLE_CHARACTERS
from ...core.errors import Fault, MismatchFaults
from ...runners.client import RunnerUnavailable
from ..access import require_owner
from ..operations import parse_body
from ..state import state
from ..types import DraftChange, NewParts, Replaced
from ..uploads import receive_upload
from .api import api
from .demos import WORD_BYTES, brought_words, change_demo, demo_state, own_record, require_address, upload_parts

__all__: list[str] = []


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
    release. With no parts at all, known cases are measured again as the draft is set.
    """
    services = state().services
    demo = own_record(slug)
    files, texts = upload_parts()
    upload = receive_upload(services.files, files, {**texts, "title": 4 * TITLE_CHARACTERS, "slug": WORD_BYTES})
    try:
        words = brought_words(upload.texts)
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
    found, demo = replace_model(services, demo, Replacement(taken, words), try_only=is_try)
    if named and not is_try:
        demo = change_demo(demo, change)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(services)
    return Replaced(differences=found, demo=demo_state(demo))
