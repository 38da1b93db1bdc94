"""What visitors entered goes when its time is over: as long as the release said under which they entered it."""

import datetime as dt
import json

from .database import database, now
from .queries import tuples_of
from .records import Demo, Prediction, Release

__all__ = ["forget_inputs", "forget_inputs_of"]


def forget_inputs() -> int:
    """Take inputs out of entries that have been kept long enough; how many. The entries stay.

    Releases of before there was a period said none; what was entered under them stays.
    """
    n_forgotten = 0
    kept = Prediction.select(Prediction.demo_id, Prediction.release_number).where(Prediction.inputs.is_null(False))
    for demo_id, number in tuples_of(kept.distinct(), tuple[int, int | None]):
        document = _document(demo_id, number)
        days = json.loads(document).get("record_days") if document else None
        if days:
            n_forgotten += _forget(demo_id, number, now() - dt.timedelta(days=days))
    return n_forgotten


def _document(demo_id: int, number: int | None) -> str | None:
    """What was said of the page when something was entered; of the author's own tries, what the draft says."""
    found = (
        Demo.select(Demo.draft).where(Demo.id == demo_id)
        if number is None
        else Release.select(Release.document).where(Release.demo == demo_id, Release.number == number)
    )
    text: str | None = found.scalar()
    return text


def forget_inputs_of(demo_id: int) -> int:
    """Take the inputs out of all entries of a demo; how many.

    Parameters
    ----------
    demo_id : int
        The record's number.
    """
    is_its = (Prediction.demo_id == demo_id) & Prediction.inputs.is_null(False)
    return int(Prediction.update(inputs=None).where(is_its).execute())


def _forget(demo_id: int, number: int | None, before: dt.datetime) -> int:
    release = "release_number IS NULL" if number is None else f"release_number = {int(number)}"
    cursor = database.execute_sql(
        f"UPDATE prediction SET inputs = NULL WHERE demo_id = %s AND {release} AND at < %s AND inputs IS NOT NULL",
        (demo_id, before),
    )
    return int(cursor.rowcount)
