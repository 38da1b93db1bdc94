"""The checks of a draft that answers rows: what they are made on, for whoever has no request to answer."""

from pathlib import Path
from typing import TYPE_CHECKING

import msgspec
import numpy as np

from ..core.checks.facts import Facts
from ..core.checks.running import run_checks
from ..core.contract.inspection import Inspection
from ..core.contract.values import Row, Value
from ..core.documents import DemoDocument
from ..core.documents.measured import is_measured_as_set
from ..core.errors import InputFaults, ModelFailed
from ..core.fields.checking import check_inputs
from ..runners.failures import RunnerRaised
from ..store.demos import draft_of, model_inspection
from ..store.records import Demo
from .kept_answers import in_order, kept_known
from .model_intake import START_SECONDS, runner_job
from .services import Services

if TYPE_CHECKING:
    from ..core.checks.result import CheckResult

__all__ = ["KeptReference", "checks_of_rows", "kept_reference", "rows_to_ask"]

ROWS_ASKED, MOST_SAMPLES = 40, 3


class KeptReference(msgspec.Struct):
    """Of a file of kept rows what is of reference rows; the rest is passed over."""

    columns: dict[str, list[Value]] = {}
    outcomes: list[Value] | None = None


def kept_reference(path: str | None) -> KeptReference:
    """The reference rows that are kept beside a model.

    Parameters
    ----------
    path : str or None
        Of the file of kept rows; None where there is none.
    """
    return msgspec.msgpack.decode(Path(path).read_bytes(), type=KeptReference) if path else KeptReference()


def rows_to_ask(document: DemoDocument, inspection: Inspection, kept: KeptReference) -> list[Row]:
    """Reference rows, or the draft's own samples, as the model is given them.

    Parameters
    ----------
    document : DemoDocument
        The draft.
    inspection : Inspection
        Of its model.
    kept : KeptReference
    """
    fields, columns = document.fields, kept.columns
    n_rows = min(ROWS_ASKED, len(next(iter(columns.values()), [])))
    if n_rows and all(field.name in columns for field in fields):
        return [{field.name: columns[field.name][at] for field in fields} for at in range(n_rows)]
    rows = []
    for sample in document.samples[:MOST_SAMPLES]:
        try:
            rows.append(check_inputs(fields, sample.inputs).values)
        except InputFaults:
            continue
    # A function that came without a table was tried on what its page starts with.
    usual = inspection.warm_up_row
    return rows or ([usual] if usual and not inspection.picture_inputs else [])


def checks_of_rows(services: Services, demo: Demo, *, caller: str) -> "list[CheckResult]":
    """All checks of a draft that answers rows with a class or numbers.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record.
    caller : str
        Who asks the model.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If the model is not there to be asked.
    """
    document, inspection = draft_of(demo), model_inspection(demo.model)
    job = runner_job(services, demo.model, document)
    services.runners.ensure(job, until="ready", timeout=START_SECONDS)

    def predict(rows: list[Row]) -> tuple[np.ndarray, float]:
        try:
            found = services.runners.predict(job, rows, caller=caller)
        except RunnerRaised as error:
            raise ModelFailed(str(error), traceback="") from error
        return np.array(found.outputs, dtype="float64"), found.predict_ms

    evidence = inspection.evidence if is_measured_as_set(document, inspection) else None
    known = in_order(kept_known(job.kept_rows), document.answer).answers if evidence and job.kept_rows else None
    kept = kept_reference(job.kept_rows)
    facts = Facts(
        document=document,
        inspection=inspection,
        evidence=evidence,
        known=known if known is not None and known.n_cases else None,
        columns=kept.columns,
        outcomes=kept.outcomes,
        rows=rows_to_ask(document, inspection, kept),
        predict=predict,
        model_bytes=Path(job.model).stat().st_size,
    )
    return list(run_checks(facts))
