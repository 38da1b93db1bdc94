"""Outputs of the author's notebook, brought to be compared with."""

from ...authoring.expected import bring_expected
from ...core.errors import Fault, MismatchFaults
from ...store.demos import set_expected
from ..access import require_owner
from ..state import state
from ..types.expected import ExpectedPart, ExpectedState
from ..uploads import receive_upload
from .api import api
from .demos import own_record

__all__: list[str] = []


@api.operation(
    "PUT",
    "/demos/<slug>/expected",
    multipart=ExpectedPart,
    guard=require_owner,
    answer=ExpectedState,
    errors=(400, 401, 403, 404, 408, 413, 422, 503),
)
def put_expected(slug: str) -> ExpectedState:
    """Bring what your notebook says of some cases: inputs, and a column `prediction` or one a class.

    The check `same-as-expected` compares each value with what the demo answers. Rows may be in any order and as few as
    you like; of very many the first 10,000 are compared. Numbers are compared to as many digits as the table has.
    """
    services, demo = state().services, own_record(slug)
    upload = receive_upload(services.files, {"expected": services.settings.limits.reference_bytes}, {})
    try:
        if "expected" not in upload.files or not upload.files["expected"].size:
            raise MismatchFaults([Fault("expected", "`expected` is missing. Send a table with inputs and outputs.")])
        file = services.files.take(upload.files["expected"])
    finally:
        upload.discard()
    expected, table, _ = bring_expected(services, demo, file)
    return ExpectedState(
        total=table.total,
        compared=len(expected.rows),
        columns=expected.columns,
        not_asked=len(expected.unasked),
        notes=table.notes,
    )


@api.operation("DELETE", "/demos/<slug>/expected", guard=require_owner, errors=(401, 403, 404, 503), status=204)
def delete_expected(slug: str) -> None:
    """Take away what was brought to compare with."""
    demo = own_record(slug)
    set_expected(demo, None, None, state().services.stamp)
    state().services.files.sweep()
