"""What known cases say: whether the model is better than guessing, its probabilities come true, and nothing leaks."""

from collections import Counter
from collections.abc import Sequence
from typing import Any

import numpy as np

from ..answers.rounding import counted_of_100
from ..report.classes import class_figures
from ..report.intervals import share_of
from ..trust.together import measured
from .facts import Facts
from .result import Finding, Fix

__all__ = ["calibration", "leakage", "report"]

FEWEST_CASES = 20
# A tenth of probabilities with fewer cases says nothing of whether they come true.
FEWEST_IN_BIN = 20
# Off by more than this is no matter of small numbers any more.
GROSSLY_OFF = 0.25
# One field alone that is right this often gives the outcome away.
GIVES_AWAY, FEWEST_ROWS = 0.995, 50
# Reference rows stand in an order drawn once: so many are a fair draw, and tell as much.
MOST_ROWS = 2000
MOST_LEVELS = 20


def report(facts: Facts) -> Finding:
    """Whether the model does better than answering the same each time.

    Parameters
    ----------
    facts : Facts
    """
    bring = Fix(text="Bring known cases: rows with what happened that the model was not fitted on.", place="model")
    fixed = [field.label for field in facts.document.fields if field.hidden]
    if facts.known is None and fixed and facts.inspection.evidence is not None:
        finding = f"Known cases say nothing of this page: it fixes {fixed[0]}, which they have free."
        fix = Fix(text="Show the field, or say on the page that it was not measured as it stands.", place="inputs")
        return Finding(status="warn", finding=finding, fix=fix)
    if facts.known is None:
        finding = "Nobody knows yet how right it is: there are no known cases."
        return Finding(status="warn", finding=finding, fix=bring)
    known = facts.known
    if known.n_cases < FEWEST_CASES:
        finding = f"Known cases are too few to say how right it is: {known.n_cases:,}."
        return Finding(status="warn", finding=finding, fix=bring)
    if facts.task == "class":
        return _against_the_commonest(facts)
    if facts.task == "number":
        return _against_the_mean(facts)
    finding = f"{known.n_cases:,} known cases are reported on, each answer by itself."
    return Finding(status="pass", finding=finding, evidence={"cases": known.n_cases})


def _against_the_commonest(facts: Facts) -> Finding:
    assert facts.known is not None
    truths = facts.known.truths[:, 0]
    n_cases = facts.known.n_cases
    commonest = max(Counter(truths.tolist()).values())
    share = share_of(facts.known.is_right("class"), facts.known.together)
    evidence = {"cases": n_cases, "right": share.value, "commonest_class": commonest / n_cases}
    value, low, high = (counted_of_100(one) for one in (share.value, share.low, share.high))
    finding = (
        f"Right for {value} of 100 known cases ({low} to {high}); who "
        f"always said the commonest class would be right for {counted_of_100(commonest / n_cases)}."
    )
    see = Fix(text="Look at what was taken for what.", place="checks")
    if share.high < commonest / n_cases:
        return Finding(status="fail", finding=f"{finding} It is worse than that.", evidence=evidence, fix=see)
    if share.low <= commonest / n_cases:
        worse = f"{finding} It is not clearly better than that."
        return Finding(status="warn", finding=worse, evidence=evidence, fix=see)
    return Finding(status="pass", finding=finding, evidence=evidence, fix=see)


def _against_the_mean(facts: Facts) -> Finding:
    assert facts.known is not None
    values, truths = facts.known.outputs[:, 0], facts.known.truths[:, 0]
    of_mean, of_model = (truths - truths.mean()) ** 2, (values - truths) ** 2
    spread, left = float(of_mean.mean()), float(of_model.mean())
    evidence = {"cases": len(truths), "mean_square_error": left, "of_always_the_mean": spread}
    see = Fix(text="Look at how far off it is, and to which side.", place="checks")
    if left >= spread:
        finding = "Its answers to known cases are no nearer to what happened than always saying the mean would be."
        return Finding(status="fail", finding=finding, evidence=evidence, fix=see)
    share = counted_of_100(1 - left / spread)
    on_known = f"on {len(truths):,} known cases"
    finding = f"Against always saying the mean it takes away {share} of 100 of the square error {on_known}."
    together = np.arange(len(truths)) if facts.known.together is None else facts.known.together
    if not measured(of_mean - of_model, together).low > 0:
        finding += " It is not clearly better than that."
        return Finding(status="warn", finding=finding, evidence=evidence, fix=see)
    return Finding(status="pass", finding=finding, evidence=evidence, fix=see)


def calibration(facts: Facts) -> Finding:
    """Whether probabilities come true.

    Parameters
    ----------
    facts : Facts
    """
    setting = facts.document.answer
    if facts.task != "class" or setting.kind != "class" or not setting.gives_probabilities:
        return Finding(status="skip", finding="The model gives no probabilities of classes.")
    if facts.known is None or facts.known.n_cases < FEWEST_CASES:
        finding = "Too few known cases to tell whether its probabilities come true."
        return Finding(status="skip", finding=finding)
    names = [wording.name for wording in setting.classes]
    figures = class_figures(
        facts.known.outputs,
        facts.known.truths[:, 0].astype("int64"),
        names,
        gives_probabilities=True,
        together=facts.known.together,
    )
    bins = [one for one in figures.calibration if one.cases >= FEWEST_IN_BIN]
    off = [one for one in bins if not one.low <= one.predicted <= one.high]
    evidence = {"bins": [one.model_dump() for one in figures.calibration], "of": figures.calibration_of}
    if not bins:
        return Finding(status="skip", finding="Too few known cases in every tenth of probabilities.")
    if not off:
        finding = "Where there are enough known cases, its probabilities come true about as often as they say."
        return Finding(status="pass", finding=finding, evidence=evidence)
    worst = max(off, key=lambda one: abs(one.predicted - one.happened))
    said, happened = counted_of_100(worst.predicted), counted_of_100(worst.happened)
    finding = (
        f"Where it says {said} of 100, it came true for {happened} of 100 "
        f"({worst.cases:,} known cases). The page calls a share a frequency only where known cases bear it out."
    )
    fix = Fix(text="Calibrate the model on cases it was not fitted on, and bring that one.", place="model")
    is_gross = abs(worst.predicted - worst.happened) > GROSSLY_OFF
    return Finding(status="fail" if is_gross else "warn", finding=finding, evidence=evidence, fix=fix)


def leakage(facts: Facts) -> Finding:
    """Whether one field alone gives the outcome away, or is a number that only names the row.

    Parameters
    ----------
    facts : Facts
    """
    outcomes = None if facts.outcomes is None else facts.outcomes[:MOST_ROWS]
    columns = {
        field.name: facts.columns[field.name][:MOST_ROWS]
        for field in facts.document.fields
        if field.name in facts.columns
    }
    named = [name for name, values in columns.items() if _names_the_row(values)]
    if outcomes is None or facts.task not in ("class", "number") or len(outcomes) < FEWEST_ROWS:
        if named:
            return _identifier(facts, named)
        finding = "The reference table has no outcomes to compare its columns with, or too few rows."
        return Finding(status="skip", finding=finding)
    strengths = {name: _alone(values, outcomes, facts.task) for name, values in columns.items()}
    evidence = {
        "right_alone": {name: round(share, 4) for name, share in sorted(strengths.items(), key=lambda i: -i[1])}
    }
    leaking = [name for name, share in strengths.items() if share >= GIVES_AWAY]
    if leaking and len(columns) > 1:
        finding = (
            f"`{facts.label(leaking[0])}` alone gives the outcome away in the reference table: is it known before the "
            "outcome is? If not, the model looks right here and will not be where it matters."
        )
        fix = Fix(
            text="Leave the column out and fit the model again, or say why it is known in time.",
            place="model",
            field=leaking[0],
        )
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    if named:
        return _identifier(facts, named)
    finding = f"In {len(outcomes):,} reference rows no field alone gives the outcome away, and none only names the row."
    return Finding(status="pass", finding=finding, evidence=evidence)


def _identifier(facts: Facts, named: list[str]) -> Finding:
    finding = f"`{facts.label(named[0])}` has another value in every row, as a number that only names it has."
    fix = Fix(text="Leave the column out and fit the model again.", place="model", field=named[0])
    return Finding(status="warn", finding=finding, evidence={"identifiers": named}, fix=fix)


def _names_the_row(values: Sequence[Any]) -> bool:
    """Whole numbers one after another, or words, of which no two are the same."""
    known = [value for value in values if value is not None]
    if len(known) < FEWEST_ROWS or len(set(known)) < len(known):
        return False
    if all(isinstance(value, str) for value in known):
        # Texts differ too; what names a row is short and without blanks.
        return all(len(value) <= 40 and " " not in value for value in known)
    whole = all(isinstance(value, int | float) and float(value).is_integer() for value in known)
    # One after another: as many numbers as there are rows, with few left out.
    return whole and float(max(known)) - float(min(known)) < 3 * len(known)


def _alone(values: Sequence[Any], outcomes: Sequence[Any], task: str) -> float:
    """How much of the outcome one column tells by itself, from 0 (no more than guessing) to 1 (all of it)."""
    pairs = [
        (value, outcome)
        for value, outcome in zip(values, outcomes, strict=True)
        if value is not None and outcome is not None
    ]
    if len(pairs) < FEWEST_ROWS:
        return 0.0
    own, truths = zip(*pairs, strict=True)
    return _class_alone(own, truths) if task == "class" else _number_alone(own, truths)


def _class_alone(values: Sequence[Any], truths: Sequence[Any]) -> float:
    """How far the share right rises from the commonest class's towards 1, with the commonest class of each level."""
    guessing = max(Counter(truths).values()) / len(truths)
    if guessing == 1:
        return 0.0
    levels = _levels(values)
    if levels is None:
        return 0.0
    truth_of = np.array([str(truth) for truth in truths])
    right = sum(np.unique(truth_of[levels == level], return_counts=True)[1].max() for level in np.unique(levels))
    return (float(right) / len(truths) - guessing) / (1 - guessing)


def _number_alone(values: Sequence[Any], truths: Sequence[Any]) -> float:
    """How near the ranks of both go together; for few levels, how much of the spread lies between them."""
    outcome = np.array(truths, dtype="float64")
    if outcome.std() == 0:
        return 0.0
    if all(isinstance(value, int | float) for value in values) and len(set(values)) > MOST_LEVELS:
        ranks, others = _ranks(np.array(values, dtype="float64")), _ranks(outcome)
        return float(abs(np.corrcoef(ranks, others)[0, 1])) if ranks.std() > 0 else 0.0
    levels = _levels(values)
    if levels is None:
        return 0.0
    within = sum(((outcome[levels == one] - outcome[levels == one].mean()) ** 2).sum() for one in np.unique(levels))
    return float(1 - within / ((outcome - outcome.mean()) ** 2).sum())


def _ranks(values: np.ndarray) -> np.ndarray:
    """Equal values share the middle of their places."""
    _, places, counts = np.unique(values, return_inverse=True, return_counts=True)
    ends = np.cumsum(counts)
    return (ends - (counts - 1) / 2)[places]


def _levels(values: Sequence[Any]) -> np.ndarray | None:
    """A column in few levels: its options, or a number in equally full stretches; None for words that hardly repeat."""
    kinds = sorted({repr(value) for value in values})
    if len(kinds) <= MOST_LEVELS:
        place = {kind: at for at, kind in enumerate(kinds)}
        return np.array([place[repr(value)] for value in values])
    if not all(isinstance(value, int | float) for value in values):
        return None
    numbers = np.array(values, dtype="float64")
    edges = np.unique(np.quantile(numbers, np.linspace(0, 1, MOST_LEVELS + 1)))
    return np.searchsorted(edges[1:-1], numbers)
