"""The reference answers of a file that needs no server: what it is checked by wherever it is opened."""

import math
import time
from typing import Any

from ..core.contract.replies import CurveFound
from ..core.contract.requests import ExplainRequest
from ..core.contract.values import Row
from ..core.errors import Faults
from ..core.fields import check_inputs
from ..core.takeaway.reference_cases import reference_cases
from ..runners.client import RunnerClient
from ..runners.failures import RunnerRaised
from .take_away_wish import Wish

__all__ = ["reference_answers"]

N_REFERENCE, N_EXPLAINED = 200, 20
MOST_PLACES = 1500
# What looks at pictures takes its time: so many are asked about at once, until so long has passed.
PICTURES_AT_ONCE, MOST_PICTURE_SECONDS = 10, 10.0


# As it is entered, and as the model is asked about it.
_Case = tuple[dict[str, Any], Row]


def reference_answers(runners: RunnerClient, wish: Wish) -> tuple[list[dict[str, object]], dict[str, object]]:
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
    cases = [case for case in _cases_to_ask(wish) if case is not None]
    outputs = _answered_in_time(runners, wish, cases) if wish.looks else _answered(runners, wish, cases)
    places: dict[str, Any] = {}
    proof = []
    until = time.monotonic() + (MOST_PICTURE_SECONDS / 2 if wish.looks else math.inf)
    for at, ((entered, row), own) in enumerate(outputs):
        # Of a picture its content goes along as it came, not what was made of it.
        one: dict[str, Any] = {"row": entered if wish.looks else row, "outputs": own}
        one |= dict.fromkeys(("of", "method", "baseline", "contributions"))
        if at < N_EXPLAINED and time.monotonic() < until:
            asked = ExplainRequest(row=row, explanation=wish.explains, curves=not wish.looks, full=True)
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


def _answered_in_time(runners: RunnerClient, wish: Wish, cases: list[_Case]) -> list[tuple[_Case, list[float]]]:
    """As many cases as a model that takes its time says something of within some seconds."""
    found: list[tuple[_Case, list[float]]] = []
    deadline = time.monotonic() + MOST_PICTURE_SECONDS
    for at in range(0, len(cases), PICTURES_AT_ONCE):
        found += _answered(runners, wish, cases[at : at + PICTURES_AT_ONCE])
        if time.monotonic() > deadline:
            break
    return found


def _answered(runners: RunnerClient, wish: Wish, cases: list[_Case]) -> list[tuple[_Case, list[float]]]:
    """Cases with what the model says of each; without those that it refuses."""
    try:
        found = runners.predict(wish.version.job, [row for _, row in cases])
        return [(case, own) for case, own in zip(cases, found.outputs, strict=True) if all(map(math.isfinite, own))]
    except (RunnerRaised, Faults):
        if len(cases) <= 1:
            return []
    half = len(cases) // 2
    return _answered(runners, wish, cases[:half]) + _answered(runners, wish, cases[half:])


def _cases_to_ask(wish: Wish) -> list[_Case | None]:
    fields = wish.version.document.fields
    texts = {
        field.name: [
            text for sample in wish.version.document.samples if isinstance(text := sample.inputs.get(field.name), str)
        ]
        for field in fields
    }
    cases: list[_Case | None] = []
    for case in reference_cases(fields, texts, N_REFERENCE):
        try:
            cases.append((case, check_inputs(fields, case).values))
        except Faults:
            # A document may say of a field what its own checks refuse.
            cases.append(None)
    return cases
