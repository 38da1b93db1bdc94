"""Rows of the reference table, for their author to make ready cases of."""

import functools

from ...core.contract.kept_rows import KeptRows, read_kept_rows
from ...store.demos import draft_of
from ..access import require_owner
from ..explanation_answers import entered_row
from ..numbers_asked import number_asked
from ..state import state
from ..types.reference import ReferenceRow, ReferenceRows
from .api import api
from .demos import own_record

__all__: list[str] = []

MOST_ROWS, USUAL_ROWS = 100, 10
# One may hold a million values.
REMEMBERED_FILES = 1


@api.operation(
    "GET",
    "/demos/<slug>/rows",
    guard=require_owner,
    answer=ReferenceRows,
    query={"offset": "How many rows to pass over.", "limit": "How many to give, up to 100."},
    described={
        "offset": {"type": "integer", "minimum": 0},
        "limit": {"type": "integer", "minimum": 1, "maximum": MOST_ROWS},
    },
    errors=(401, 404, 422, 503),
)
def get_rows(slug: str) -> ReferenceRows:
    """Rows of the reference table as a visitor would enter them, in an order drawn once, with their outcomes."""
    demo = own_record(slug)
    kept_rows = _kept_rows(demo.model.study_file_id) if demo.model.study_file_id else KeptRows(columns={})
    fields = draft_of(demo).fields
    known = [field for field in fields if field.name in kept_rows.columns]
    n_rows = kept_rows.n_rows if len(known) == len(fields) else 0
    offset, limit = number_asked("offset", 0), max(1, min(MOST_ROWS, number_asked("limit", USUAL_ROWS)))
    places = range(min(offset, n_rows), min(offset + limit, n_rows))
    outcomes = kept_rows.outcomes or [None] * n_rows
    return ReferenceRows(
        total=n_rows,
        rows=[
            ReferenceRow(row=at, inputs=entered_row(fields, kept_rows.row(at)), outcome=outcomes[at]) for at in places
        ],
    )


@functools.lru_cache(maxsize=REMEMBERED_FILES)
def _kept_rows(file: str) -> KeptRows:
    """Files never change under their names."""
    return read_kept_rows(state().services.files.path(file).read_bytes())
