"""Another model, table, outcome or list of names for a demo that is there."""

import contextlib

from flask import request

from ...authoring.housekeeping import retire_unneeded
from ...authoring.replacing import Replacement, replace_model
from ...core.errors import Fault, MismatchFaults
from ...runners.client import RunnerUnavailable
from ..access import require_owner
from ..state import state
from ..types import NewParts, Replaced
from ..uploads import receive_upload
from . import api
from .demos import brought_words, demo_state, own_record, upload_parts

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
    workshop = state().workshop
    demo = own_record(slug)
    upload = receive_upload(workshop.files, *upload_parts())
    try:
        words = brought_words(upload.texts)
        if "model" in upload.files and not upload.files["model"].size:
            raise MismatchFaults([Fault("model", "The model file is empty. Send another model, or leave `model` out.")])
        files = {
            name: workshop.files.take(incoming) if incoming.size else None for name, incoming in upload.files.items()
        }
    finally:
        upload.discard()
    is_try = request.args.get("try") in ("1", "true")
    found, demo = replace_model(workshop, demo, Replacement(files, words), try_only=is_try)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(workshop)
    return Replaced(differences=found, demo=demo_state(demo))
