"""What weighs how much of a demo that goes to browsers, before it is made."""

import functools
import json
from pathlib import Path

from ..core.contract.kept_rows import read_kept_rows
from ..core.takeaway.page import compressed
from .built_pages import engine_bytes
from .take_away_wish import Wish, model_file

__all__ = ["weights_of"]

# About what is neither page, model nor rows: wording, and of each field its curve's places and reference values.
REST_BYTES, REST_OF_FIELD = 3_000, 2_700
# Of what looks at pictures: the made-up ones.
REST_OF_PICTURES = 70_000
REMEMBERED = 128


def weights_of(wish: Wish) -> dict[str, int]:
    """The bytes of each part, compressed, but for the page.

    Parameters
    ----------
    wish : Wish
    """
    job, document = wish.version.job, wish.version.document
    samples = [value for sample in document.samples for value in sample.inputs.values() if isinstance(value, dict)]
    pictures = REST_OF_PICTURES + sum(len(json.dumps(value)) for value in samples) * 3 // 4 if wish.looks else 0
    has_rows = wish.kept_rows.n_rows > 0
    return {
        "engine": engine_bytes() if wish.runs_graph else 0,
        "model": _of_file(str(model_file(wish.version))),
        "rows": _of_rows(job.kept_rows, wish.n_sample, has_rows=wish.has_rows) if has_rows and job.kept_rows else 0,
        "rest": REST_BYTES + REST_OF_FIELD * len(document.fields) + pictures,
    }


# Files never change under their names.
@functools.lru_cache(maxsize=REMEMBERED)
def _of_file(path: str) -> int:
    return len(compressed(Path(path).read_bytes()))


@functools.lru_cache(maxsize=REMEMBERED)
def _of_rows(path: str, n_sample: int, *, has_rows: bool) -> int:
    rows = read_kept_rows(Path(path).read_bytes())
    return len(compressed(json.dumps([rows.columns if has_rows else {}, rows.first(n_sample)]).encode()))
