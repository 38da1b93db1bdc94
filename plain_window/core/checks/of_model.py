"""Whether the model is the one that is meant: its features, its classes, the versions it was made with, its size."""

import math
import re

import numpy as np

from ..answers.rounding import counted_of_100
from ..report.answers import KnownAnswers
from ..trust.together import measured
from .facts import Facts
from .result import Finding, Fix

__all__ = ["class_order", "every_field", "features", "same_as_original", "size", "versions"]

# A model file above this makes each start slow, and each copy of it heavy.
LARGE_BYTES = 200 << 20
# Another order of the classes must be right this much more often to be believed.
CLEARLY_BETTER = 0.1
FEWEST_CASES = 20
# For chance the orders of so many classes are counted, at the most.
MOST_ORDERED = 10
NAMED = 6


def features(facts: Facts) -> Finding:
    """Whether what the model takes is what the page asks, in an order that is known.

    Parameters
    ----------
    facts : Facts
    """
    question = next((one for one in facts.inspection.questions if one.name == "features"), None)
    names, fields = [column.name for column in facts.inspection.columns], [one.name for one in facts.document.fields]
    evidence = {"columns": names[:100], "ignored": facts.inspection.ignored[:100]}
    if question is not None and "features" not in facts.document.confirmed:
        fix = Fix(text="Confirm it on the Model page, or bring a model that names its features.", place="model")
        return Finding(status="fail", finding=question.text, evidence=evidence, fix=fix)
    missing = [name for name in names if name not in fields]
    if missing and not facts.has_pictures:
        finding = f"The page has no field for {_listed(missing)}, which the model takes."
        fix = Fix(text="Bring the reference table again.", place="model")
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    ignored = facts.inspection.ignored
    beside = f" Columns of the table it does not take: {_listed(ignored)}." if ignored else ""
    if facts.has_pictures or len(fields) == 1:
        return Finding(status="pass", finding=f"The page asks for what the model takes.{beside}", evidence=evidence)
    order = "by their names" if facts.inspection.found.features else _order_words(question is not None)
    finding = f"The page asks for the {len(fields)} columns that the model takes, {order}.{beside}"
    return Finding(status="pass", finding=finding, evidence=evidence)


def _order_words(is_confirmed: bool) -> str:
    """How columns without names in the model were told apart."""
    return "in the order you confirmed" if is_confirmed else "in the table's order, which outcomes bear out"


def same_as_original(facts: Facts) -> Finding:
    """Whether the compiled model says what its own library says.

    Parameters
    ----------
    facts : Facts
    """
    report = facts.inspection.compiled
    if not report.adopted:
        finding = f"The model is asked through its own library: there is nothing to compare. {report.obstacle or ''}"
        return Finding(status="skip", finding=finding.strip())
    largest = report.largest_difference or 0.0
    evidence = {"rows": report.n_rows_compared, "largest_difference": largest}
    apart = "not at all" if largest == 0 else f"by {largest:.2g} at most"
    finding = (
        f"On {report.n_rows_compared:,} rows, made to be awkward, the compiled model differs from its library {apart}."
    )
    return Finding(status="pass", finding=finding, evidence=evidence)


def class_order(facts: Facts) -> Finding:
    """Whether each class has its own name: with names swapped, known cases are right far more often.

    Parameters
    ----------
    facts : Facts
    """
    if facts.document.answer.kind != "class" or facts.task != "class":
        return Finding(status="skip", finding="The answer is no class.")
    question = next((one for one in facts.inspection.questions if one.name == "class-order"), None)
    if question is not None and "class-order" not in facts.document.confirmed:
        fix = Fix(text="Confirm it on the Model page, or bring known cases.", place="model")
        return Finding(status="fail", finding=question.text, fix=fix)
    names, own = [wording.name for wording in facts.document.answer.classes], facts.inspection.found.classes or []
    if own != names and sorted(own) == sorted(names):
        finding = f"The page calls the model's classes {_listed(own)} by each other's names: {_listed(names)}."
        fix = Fix(text="Put the labels into the model's own order.", place="model")
        return Finding(status="fail", finding=finding, evidence={"model": own, "page": names}, fix=fix)
    if facts.known is None or facts.known.n_cases < FEWEST_CASES:
        finding = "Too few known cases to tell whether each class has its own name."
        fix = Fix(text="Bring known cases.", place="model")
        return Finding(status="skip", finding=finding, fix=fix)
    truths, answered = facts.known.truths[:, 0].astype("int64"), facts.known.outputs.argmax(axis=1)
    counts = np.zeros((len(names), len(names)))
    np.add.at(counts, (truths, answered), 1)
    right = float(np.trace(counts)) / len(truths)
    columns = _best_order(counts)
    best = float(counts[np.arange(len(names)), columns].sum()) / len(truths)
    evidence = {"cases": len(truths), "right": right, "right_with_names_swapped": best}
    if best - right > CLEARLY_BETTER and _is_surely_better(facts.known, truths, answered, columns):
        swapped = [f"{names[at]} for {names[to]}" for at, to in enumerate(columns) if at != to]
        finding = (
            f"With classes named as they are {counted_of_100(right)} of 100 known cases are right; with their names "
            f"swapped ({'; '.join(swapped[:NAMED])}) it would be {counted_of_100(best)}. The names are very likely in "
            "the wrong order."
        )
        fix = Fix(text="Put the labels into the model's own order.", place="model")
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    finding = f"No swapping of the names makes {round(100 * CLEARLY_BETTER)} more of 100 known cases right."
    if best - right > CLEARLY_BETTER:
        finding = (
            f"With names swapped {counted_of_100(best)} of 100 known cases would be right instead of "
            f"{counted_of_100(right)}; of so few that is no more than chance makes of a model that knows little."
        )
    return Finding(status="pass", finding=finding, evidence=evidence)


def _is_surely_better(known: KnownAnswers, truths: np.ndarray, answered: np.ndarray, columns: list[int]) -> bool:
    """Whether names swapped are right more often beyond chance, though the best of many orders was looked for."""
    named_as = np.argsort(columns)
    gains = (named_as[answered] == truths).astype("float64") - (answered == truths)
    together = np.arange(len(truths)) if known.together is None else known.together
    n_orders = math.factorial(min(len(columns), MOST_ORDERED))
    return measured(gains, together, n_intervals=n_orders).low > 0


def _best_order(counts: np.ndarray) -> list[int]:
    """Which answered class stands for which true one so that most cases are right: two are swapped while that helps."""
    order = list(range(len(counts)))
    while True:
        gains = [
            (counts[a, order[b]] + counts[b, order[a]] - counts[a, order[a]] - counts[b, order[b]], a, b)
            for a in range(len(order))
            for b in range(a)
        ]
        gain, a, b = max(gains, default=(0, 0, 0))
        # Each swap makes more cases right, of which there are only so many: it ends.
        if gain <= 0:
            return order
        order[a], order[b] = order[b], order[a]


def every_field(facts: Facts) -> Finding:
    """Whether each field can move the answer.

    Parameters
    ----------
    facts : Facts
    """
    strength, unused = facts.inspection.strength, facts.inspection.unused
    evidence = {"moved_on_average": strength, "unused": unused}
    if facts.has_pictures and not strength:
        return Finding(status="skip", finding="What in a picture matters is shown by where it looked.")
    if unused:
        fields = f"Nothing that is entered for {_listed([facts.label(name) for name in unused])} changes the answer"
        finding = f"{fields}: the model makes no use of {'it' if len(unused) == 1 else 'them'}."
        fix = Fix(text="Bring a model that uses it, or say why the page asks for it.", place="inputs", field=unused[0])
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    if not strength:
        finding = "The model is too slow, or has too few reference rows, for every field to be tried."
        return Finding(status="skip", finding=finding)
    still = [field.name for field in facts.document.fields if not strength.get(field.name)]
    if still:
        finding = (
            f"{_listed([facts.label(name) for name in still])} was not seen to change an answer: it moved none of the "
            "reference rows that were tried, or they were too many fields to try all."
        )
        fix = Fix(text="Move it on the page, and see whether an answer follows.", place="inputs", field=still[0])
        return Finding(status="warn", finding=finding, evidence=evidence, fix=fix)
    finding = "Each field changes the answer for some reference rows."
    return Finding(status="pass", finding=finding, evidence=evidence)


def versions(facts: Facts) -> Finding:
    """Whether the library is of the version the model was saved with.

    Parameters
    ----------
    facts : Facts
    """
    found = facts.inspection.found
    evidence = {"library": found.library, "saved_with": found.saved_with, "running": found.running}
    warnings = [line for line in found.warnings if re.search(r"version", line, re.IGNORECASE)]
    if found.saved_with is None:
        finding = f"The file does not say which version of {found.library} it was saved with."
        return Finding(status="skip", finding=finding, evidence=evidence)
    if warnings or _release(found.saved_with) != _release(found.running):
        finding = f"Saved with {found.saved_with}, opened with {found.running}: its answers may differ from those then."
        fix = Fix(
            text="Compare some answers with your notebook, or save it once more with this version.", place="model"
        )
        return Finding(status="warn", finding=finding, evidence=evidence, fix=fix)
    finding = f"Saved and opened with {found.running}."
    return Finding(status="pass", finding=finding, evidence=evidence)


def size(facts: Facts) -> Finding:
    """Whether the model's file is of a size that is served with ease.

    Parameters
    ----------
    facts : Facts
    """
    evidence = {"bytes": facts.model_bytes}
    own = facts.model_bytes
    megabytes = f"{own / 1e6:.1f} MB" if own >= 1e6 else f"{max(1, round(own / 1e3))} KB"
    if facts.model_bytes > LARGE_BYTES:
        finding = f"The model's file has {megabytes}: starting it takes time, and others wait for its memory."
        fix = Fix(text="Fewer or smaller trees often do as well; compare on known cases.", place="model")
        return Finding(status="warn", finding=finding, evidence=evidence, fix=fix)
    return Finding(status="pass", finding=f"The model's file has {megabytes}.", evidence=evidence)


def _release(version: str) -> tuple[str, ...]:
    """The first two numbers: what comes behind them changes no answers."""
    return tuple(re.findall(r"\d+", version)[:2])


def _listed(names: list[str]) -> str:
    shown = [f"`{name}`" for name in names[:NAMED]]
    more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
    return ", ".join(shown) + more
