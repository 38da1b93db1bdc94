"""The reference answers of a file that needs no server: what it is checked by wherever it is opened."""

import math
from collections.abc import Mapping
from typing import Any

from ..core.contract.replies import CurveFound
from ..core.contract.requests import ExplainRequest
from ..core.errors import Faults
from ..core.fields import check_inputs
from ..core.takeaway.reference_cases import reference_cases
from ..runners.client import RunnerClient
from ..runners.failures import RunnerRaised
from .take_away_wish import Wish

__all__ = ["reference_answers"]

N_REFERENCE, N_EXPLAINED = 200, 20
MOST_PLACES = 1500


def reference_answers(runners: RunnerClient, wish: Wish) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    """Cases with what the server says of them, and where curves of numbers jump or are asked: the same for every case.

    Parameters
    ----------
    runners : RunnerClient
    wish : Wish

    Returns
    -------
    proof : list of dict
        Without those that the model refuses.
    places : dict
        By field.

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
        As `RunnerClient.explain` does.
    """
    version = wish.version
    rows = [row for row in _rows_to_ask(wish) if row is not None]
    outputs = _answered(runners, wish, rows)
    places: dict[str, Any] = {}
    proof = []
    for at, (row, own) in enumerate(outputs):
        one = {"row": row, "outputs": own, "of": None, "method": None, "baseline": None, "contributions": None}
        if at < N_EXPLAINED:
            asked = ExplainRequest(row=row, explanation=wish.explains, curves=True, full=True)
            reply = runners.explain(version.job, asked)
            for name, curve in (reply.curves or {}).items():
                if curve.shape != "options":
                    places.setdefault(name, _places_of(curve))
            if reply.explanation is not None and not reply.explanation.errors:
                told = reply.explanation
                one |= {
                    "of": reply.of,
                    "method": told.method,
                    "baseline": told.baseline,
                    "contributions": told.contributions,
                }
        proof.append(one)
    return proof, places


def _places_of(curve: CurveFound) -> dict[str, Any]:
    """Where a curve jumps or is asked; of very many jumps some, as they are quicker found again than carried along."""
    x = list(curve.x)
    step = -(-len(x) // MOST_PLACES)
    return {"shape": curve.shape, "x": x[::step], "is_whole": step == 1}


def _answered(runners: RunnerClient, wish: Wish, rows: list[Mapping[str, Any]]) -> list[tuple[Any, list[float]]]:
    """Rows with what the model says of each; without those that it refuses."""
    try:
        found = runners.predict(wish.version.job, [dict(row) for row in rows])
        return [(row, own) for row, own in zip(rows, found.outputs, strict=True) if all(map(math.isfinite, own))]
    except (RunnerRaised, Faults):
        if len(rows) <= 1:
            return []
    half = len(rows) // 2
    return _answered(runners, wish, rows[:half]) + _answered(runners, wish, rows[half:])


def _rows_to_ask(wish: Wish) -> list[Mapping[str, Any] | None]:
    fields = wish.version.document.fields
    texts = {
        field.name: [
            text for sample in wish.version.document.samples if isinstance(text := sample.inputs.get(field.name), str)
        ]
        for field in fields
    }
    rows: list[Mapping[str, Any] | None] = []
    for case in reference_cases(fields, texts, N_REFERENCE):
        try:
            rows.append(check_inputs(fields, case).values)
        except Faults:
            # A document may say of a field what its own checks refuse.
            rows.append(None)
    return rows
