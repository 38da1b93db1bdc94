"""The checks of a draft: what they are made on, and what they came to."""

import hashlib
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import msgspec

from ..core.answers import BoxesSetting, MaskSetting, PictureSetting, TableSetting, TextSetting
from ..core.answers.in_picture import MOST_BOXES
from ..core.checks.result import CheckResult
from ..core.contract.requests import BoxesRequest, WriteRequest
from ..core.contract.values import Row
from ..core.errors import ModelFailed
from ..core.fields.checking import CheckedInputs
from ..runners.failures import RunnerRaised
from ..store.records import Demo
from .beside import beside
from .lookups import Version
from .made_pictures import made_file
from .state import state

if TYPE_CHECKING:  # what computes is imported by those who ask for checks, not at each start
    import numpy as np

    from ..core.checks.facts import Facts

__all__ = ["checks_of"]

# Its class, its score and where it is.
NUMBERS_A_BOX = 6
# Pictures are compared no larger than this.
COMPARED_SIDE, DIGEST_BYTES = 256, 16


def checks_of(version: Version, demo: Demo, *, caller: str) -> Iterator[CheckResult]:
    """Each check of a draft as it ends.

    Parameters
    ----------
    version : Version
        The draft.
    demo : Demo
        Its record.
    caller : str
        Who asks the model.

    Raises
    ------
    RunnerUnavailable
        If the model is not there to be asked.
    """
    from ..core.checks.running import run_checks

    yield from run_checks(_facts(version, demo, caller))


def _facts(version: Version, demo: Demo, caller: str) -> "Facts":
    import numpy as np

    from ..authoring.draft_checks import kept_reference, rows_to_ask
    from ..authoring.expected import kept_expected
    from ..core.checks.facts import Facts
    from .known_cases import known_of
    from .problems import ApiProblem

    def predict(rows: list[Row]) -> "tuple[np.ndarray, float]":
        setting = version.document.answer
        if isinstance(setting, BoxesSetting):
            return _found_in(rows, setting, version, caller)
        if isinstance(setting, PictureSetting | MaskSetting):
            return _made_of(rows, version, caller)
        if isinstance(setting, TextSetting | TableSetting):
            return _written_for(rows, version, caller)
        try:
            found = state().services.runners.predict(version.job, rows, caller=caller)
        except RunnerRaised as error:
            raise ModelFailed(str(error), traceback="") from error
        return np.array(found.outputs, dtype="float64"), found.predict_ms

    # Read before it is handed to another thread, which has no connection to the database.
    files, _ = state().services.files, demo.model.model_file_id
    expected = beside(lambda: kept_expected(files, demo, version.document))
    kept = kept_reference(version.job.kept_rows)
    try:
        known = known_of(version).answers
    except ApiProblem:
        known = None
    return Facts(
        document=version.document,
        inspection=version.inspection,
        evidence=version.evidence,
        known=known if known is not None and known.n_cases else None,
        columns=kept.columns,
        outcomes=kept.outcomes,
        rows=rows_to_ask(version.document, version.inspection, kept),
        predict=predict,
        expected=expected,
        model_bytes=Path(version.job.model).stat().st_size,
    )


def _found_in(rows: list[Row], setting: BoxesSetting, version: Version, caller: str) -> "tuple[np.ndarray, float]":
    """Boxes as rows of numbers, as long as the most of them; what is missing is no number."""
    import numpy as np

    replies = []
    for row in rows:
        asked = BoxesRequest(row=row, reading=setting.reading.model_dump(), least_score=setting.least_score)
        try:
            replies.append(state().services.runners.boxes(version.job, asked, most=MOST_BOXES, caller=caller))
        except RunnerRaised as error:
            raise ModelFailed(str(error), traceback="") from error
    found = np.full((len(rows), NUMBERS_A_BOX * MOST_BOXES), np.nan)
    for at, reply in enumerate(replies):
        flat = [
            number for box in reply.boxes for number in (box.class_, box.score, box.x, box.y, box.width, box.height)
        ]
        found[at, : len(flat)] = flat
    return found, sum(reply.predict_ms for reply in replies)


def _made_of(rows: list[Row], version: Version, caller: str) -> "tuple[np.ndarray, float]":
    """Pictures as rows of numbers that are the same for the same picture, and for hardly any other."""
    replies = []
    for row in rows:
        try:
            replies.append(
                made_file(
                    state().services.runners,
                    version,
                    CheckedInputs(row, []),
                    most_side=COMPARED_SIDE,
                    laid_over=False,
                    caller=caller,
                )
            )
        except RunnerRaised as error:
            raise ModelFailed(str(error), traceback="") from error
    return _digests([reply.content for reply in replies]), sum(reply.predict_ms for reply in replies)


def _written_for(rows: list[Row], version: Version, caller: str) -> "tuple[np.ndarray, float]":
    """Texts and tables as rows of numbers that are the same for the same one, and for hardly any other."""
    replies = []
    for row in rows:
        try:
            replies.append(state().services.runners.written(version.job, WriteRequest(row=row), caller=caller))
        except RunnerRaised as error:
            raise ModelFailed(str(error), traceback="") from error
    contents = [msgspec.msgpack.encode([reply.text, reply.columns, reply.rows]) for reply in replies]
    return _digests(contents), sum(reply.predict_ms for reply in replies)


def _digests(contents: list[bytes]) -> "np.ndarray":
    import numpy as np

    digests = [hashlib.blake2b(content, digest_size=DIGEST_BYTES).digest() for content in contents]
    return np.array([np.frombuffer(digest, dtype="uint8") / 255 for digest in digests])
