"""How the model did on a table's rows, where the table says what happened."""

import numpy as np

from ..core.answers import ClassSetting
from ..core.answers.deciding import threshold_of
from ..core.documents import DemoDocument
from ..core.report.answers import KnownAnswers
from ..jobs.folder import JobFolder
from ..store.records import Job
from .full_report import report_of_rows
from .problems import ApiProblem
from .types.report import FullReport

__all__ = ["MOST_REPORTED", "table_report"]

# Rows that are counted; more tell nothing more, and memory stays flat.
MOST_REPORTED = 200_000


def table_report(job: Job, folder: JobFolder) -> FullReport:
    """The report on the rows of a job that have an answer and an outcome; of very many on the first of them.

    Parameters
    ----------
    job : Job
    folder : JobFolder
        Its own.

    Raises
    ------
    ApiProblem
        422 if there are none.
    """
    setting = DemoDocument.model_validate_json(job.document).answer
    n_outputs = len(setting.classes) if isinstance(setting, ClassSetting) else 1
    outputs, truths = [], []
    n_rows = 0
    for content in folder.known(job.chunks):
        values = np.frombuffer(content, dtype="float64")
        n_own = values.size // (n_outputs + 1)
        outputs.append(values[: n_own * n_outputs].reshape(n_own, n_outputs))
        truths.append(values[n_own * n_outputs :])
        n_rows += n_own
        if n_rows >= MOST_REPORTED:
            break
    said = np.concatenate(outputs)[:MOST_REPORTED] if outputs else np.zeros((0, n_outputs))
    happened = np.concatenate(truths)[:MOST_REPORTED] if truths else np.zeros(0)
    is_known = np.isfinite(happened) & np.isfinite(said).all(axis=1)
    if not is_known.any():
        detail = "The table has no column with what happened, or nothing in it that could be an answer."
        raise ApiProblem(422, "No outcomes", detail)
    places = np.flatnonzero(is_known)
    threshold = threshold_of(setting) if isinstance(setting, ClassSetting) else None
    answers = KnownAnswers(places, places, said[places], happened[places, None], threshold)
    return report_of_rows(setting, answers)
