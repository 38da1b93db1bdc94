"""Looking at a table: what its columns are, what may be predicted, and what lies in wait."""

from typing import BinaryIO, Literal

import pandas as pd

from ..errors import Fault, MismatchFaults
from ..tables.number_words import Convention
from .by_hand import numbers, words
from .columns import MOST_CLASSES, first_by_unit, of_table
from .findings import find_all
from .leaks import find_leaks
from .reading import as_written
from .shapes import HowRead
from .sheet import ColumnLook, Finding, Sheet, ValueCount

__all__ = ["FEWEST_OF_CLASS", "FEWEST_ROWS", "look_at_table", "outcome_of"]

FEWEST_ROWS = 40
# Classes that fewer rows have are left out: nothing could be learned of them, or said of how well.
FEWEST_OF_CLASS = 8
# What outcomes are often called; found as a word of the column's name.
OUTCOME_WORDS = ("outcome", "target", "result", "label", "class", "y")
MOST_TARGETS = 8
# Whole numbers with no more values than this are taken for classes.
FEW_NUMBERS = 2


def look_at_table(
    file: BinaryIO,
    *,
    name: str = "The table",
    target: str = "",
    answer: Literal["", "class", "number"] = "",
    convention: Convention | None = None,
    day_first: bool | None = None,
) -> tuple[Sheet, HowRead]:
    """What is seen in a table, and how it is read.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str, optional
        What to call the table at the start of a sentence.
    target : str, optional
        The column that is to be predicted; suggested if left out.
    answer : "class" or "number", optional
        What is to be said of it; concluded if left out.
    convention : "point" or "comma", optional
        How numbers are written, where it can be read in two ways.
    day_first : bool, optional
        What comes first in dates whose year is last, likewise.

    Raises
    ------
    TableNotRead
        If it is no table.
    MismatchFaults
        If there is no such column, it cannot be predicted, or there are too few rows.
    """
    table, how, notes = as_written(file, name=name)
    looks, questions = of_table(table, convention=convention, day_first=day_first)
    targets = _targets(looks)
    target = _named(target, looks, name) or (targets[0] if targets else "")
    if not target:
        raise MismatchFaults([Fault("target", f"{name} has no column that could be predicted.")])
    look = next(one for one in looks if one.name == target)
    sheet = Sheet(
        n_rows=len(table),
        columns=looks,
        target=target,
        targets=[one for one in targets if one != target][:MOST_TARGETS],
        answer=answer or _answer(look),
        findings=[],
        questions=questions,
        notes=notes,
        dates=[one.name for one in looks if one.kind == "date"],
    )
    outcome = outcome_of(table[target], look, sheet.answer)
    outcome = _with_outcome(sheet, look, outcome)
    leaks = find_leaks(table, sheet, outcome)
    sheet.findings = [*leaks, *_without_given(find_all(table, sheet, outcome), leaks)]
    return sheet, how


def outcome_of(column: pd.Series, look: ColumnLook, answer: Literal["class", "number"]) -> pd.Series:
    """What happened, as numbers or as words.

    Parameters
    ----------
    column : Series
    look : ColumnLook
    answer : "class" or "number"
    """
    if answer == "number":
        return numbers(column, look.decimal, look.stand_ins, look.unit)
    return words(column, look.spelled)


def _without_given(found: list[Finding], leaks: list[Finding]) -> list[Finding]:
    """What is said of columns that give the outcome away is said once."""
    given = {name for leak in leaks if leak.leaves_out for name in leak.columns}
    return [
        one for one in found if one.kind in ("duplicates", "group", "time") or not given.issuperset(one.columns or [""])
    ]


def _named(target: str, looks: list[ColumnLook], name: str) -> str:
    """The column that is meant; empty for none.

    Raises
    ------
    MismatchFaults
        If there is no such column, or nothing in it could be predicted.
    """
    if not target:
        return ""
    look = next((one for one in looks if one.name == target), None)
    look = look or next((one for one in looks if one.name.casefold() == target.strip().casefold()), None)
    if look is None:
        named = ", ".join(f"`{one.name}`" for one in looks[:12]) + (" …" if len(looks) > 12 else "")
        raise MismatchFaults([Fault("target", f"{name} has no column `{target[:80]}`. It has {named}.")])
    why = {
        "empty": "is empty",
        "constant": f"is {look.examples[0] if look.examples else 'the same'} in all rows: there is nothing to predict",
        "date": "holds dates; a class or a number can be predicted",
        "text": "holds texts; a class or a number can be predicted",
        "identifier": "names rows: it has another value in nearly each",
    }.get(look.kind)
    if look.kind == "identifier" and "number" in look.may_be:
        return look.name
    if why:
        raise MismatchFaults([Fault("target", f"`{look.name}` {why}. Choose another column.")])
    return look.name


def _targets(looks: list[ColumnLook]) -> list[str]:
    """What may be predicted, the likeliest first: by its name, or because outcomes stand last."""
    able = [
        one
        for one in looks
        if one.kind in ("number", "yes_no") or (one.kind == "category" and one.n_distinct <= MOST_CLASSES)
    ]

    def rank(at: int) -> tuple[bool, bool, int]:
        parts = able[at].name.casefold().replace("_", " ").replace("-", " ").split()
        return not any(word in parts for word in OUTCOME_WORDS), able[at].n_gaps > 0, -at

    return [able[at].name for at in sorted(range(len(able)), key=rank)]


def _answer(look: ColumnLook) -> Literal["class", "number"]:
    is_number = look.kind in ("number", "identifier") and look.n_distinct > FEW_NUMBERS
    return "number" if is_number else "class"


def _too_many_words(look: ColumnLook, counts: pd.Series) -> str:
    """Why so many different values cannot be classes, and what else."""
    by_unit = first_by_unit(counts.index.astype("str"))
    if len(by_unit) > 1:
        one, other = list(by_unit.values())[:2]
        return (
            f'`{look.name}` has numbers with different units in its cells, as "{one[:40]}" and "{other[:40]}". '
            "Write all of them in one unit, or choose another column."
        )
    message = f"`{look.name}` has {len(counts):,} different values; at most {MOST_CLASSES} can be classes."
    is_number = "number" in (look.kind, *look.may_be)
    return f"{message} Choose another column{', or ask for a number' if is_number else ''}."


def _with_outcome(sheet: Sheet, look: ColumnLook, outcome: pd.Series) -> pd.Series:
    """The outcome without classes that are too rare, with what there is to say of it.

    Raises
    ------
    MismatchFaults
        If that cannot be learned.
    """
    if sheet.answer == "class":
        counts = outcome.value_counts()
        if len(counts) > MOST_CLASSES:
            raise MismatchFaults([Fault("target", _too_many_words(look, counts))])
        rare = counts[counts < FEWEST_OF_CLASS]
        for value, rows in rare.items():
            sheet.notes.append(
                f'`{sheet.target}` is "{str(value)[:40]}" in {rows} rows only: too few to learn. They are left out.'
            )
        kept = counts[counts >= FEWEST_OF_CLASS]
        if len(kept) < 2:
            least = f"each class needs at least {FEWEST_OF_CLASS} rows, and there must be two"
            raise MismatchFaults([Fault("target", f"`{sheet.target}` cannot be learned from these rows: {least}.")])
        sheet.classes = [ValueCount(value=str(value), rows=int(rows)) for value, rows in kept.items()]
        outcome = outcome.where(outcome.isin(kept.index), None)
    sheet.n_without_outcome = int(outcome.isna().sum())
    n_there = sheet.n_rows - sheet.n_without_outcome
    if n_there < FEWEST_ROWS:
        message = f"{n_there} rows have a `{sheet.target}`; at least {FEWEST_ROWS} are needed to learn, and to try it."
        raise MismatchFaults([Fault("table", message)])
    if sheet.answer == "number" and look.kind not in ("number", "identifier", "yes_no"):
        raise MismatchFaults([Fault("answer", f"`{sheet.target}` holds no numbers. Ask for a class.")])
    return outcome
