"""What a function answers, learnt by trying it: on its table, on cases in its stated ranges, on pictures."""

import contextlib
from collections.abc import Sequence
from statistics import median
from time import perf_counter
from typing import TYPE_CHECKING, Any

import numpy as np

from ..contract.jobs import OpenFile
from ..errors import Fault, MismatchFaults, ModelFailed, ModelNotOpened
from ..fields.inference import match_columns
from ..formats.python.adapter import FunctionModel, rows_of
from ..formats.python.answers import plain
from ..formats.python.pictures import FunctionPictureModel
from ..guest.calling import COULD_NOT
from ..pictures.labelled import read_labelled
from ..pictures.preparation import as_input
from ..pictures.reading import read_picture
from ..pictures.settings import Preparation
from ..tables.reading import TableRead
from .outcomes import named_targets
from .trial_pictures import trial_pictures

if TYPE_CHECKING:
    from typing import BinaryIO

    import pandas as pd
    from PIL import Image

__all__ = ["few_enough", "learn_from_pictures", "learn_from_table"]

# Cases that a function is tried on to find out what it answers.
EXAMPLES = 20
# Cases it must not fail for, and how long they are tried; of one that it fails for so many values are named.
MOST_CASES, CASES_SECONDS, CASE_FIELDS = 2000, 8.0, 6
# How long known cases are asked about.
KNOWN_SECONDS, DRAW_SEED = 15.0, 20261127
# Rows from which it is found out which columns of a table a function makes use of.
COLUMN_ROWS = 12


def learn_from_table(
    model: FunctionModel, table: "pd.DataFrame", *, told: OpenFile, is_own: bool
) -> tuple["pd.DataFrame", list[str]]:
    """Find out what a function answers, and of one that takes a whole table which columns it makes use of.

    Parameters
    ----------
    model : FunctionModel
    table : pandas.DataFrame
        The reference table, or cases in its place.
    told : OpenFile
        What its author knows better.
    is_own : bool
        Whether the cases were made up.

    Returns
    -------
    DataFrame, list of str
        The cases that it answers, and what the author should know of the others.

    Raises
    ------
    ModelNotOpened
        If it answers none of them, with the line it failed at.
    MismatchFaults
        If it answers with what cannot be shown.
    """
    targets = named_targets(told.target, [table])
    if model.takes_table:
        names = _used_columns(model, table, targets)
        if model.signature.form == "table":
            model.set_features(names)
    else:
        names = match_columns(table, model.found.features, n_features=model.found.n_features, targets=targets)
    complete = table[names].dropna() if len(table[names].dropna()) else table[names]
    begun = perf_counter()
    examples, at = _first_example(model, complete.head(1 if is_own else EXAMPLES), is_own=is_own)
    model.seconds_a_row = (perf_counter() - begun) / (at + 1)
    rest = complete.iloc[at + 1 : at + max(2, min(EXAMPLES, model.most_rows))]
    taken = []
    for at in range(len(rest)):
        begun = perf_counter()
        try:
            examples += model.examples_of(rest.iloc[at : at + 1])
        except ModelFailed:
            # Of a table's rows, or of values that do not go together, some may be refused.
            continue
        taken.append(perf_counter() - begun)
    if taken:
        # The first call may have loaded what the others find there.
        model.seconds_a_row = min(model.seconds_a_row, median(taken))
    model.learn(examples, wanted=told.answer_kind, labels=told.labels)
    if model.written is not None:
        return table, []
    kept, notes = _answered(model, table, names, is_own=is_own)
    _compare_with_batch(model, kept[names].dropna().head(min(EXAMPLES, model.most_rows)))
    return kept, notes


def _first_example(model: FunctionModel, rows: "pd.DataFrame", *, is_own: bool) -> tuple[list[Any], int]:
    """What it answers to the first of some cases that it answers at all, and which that is."""
    for at in range(1, len(rows)):
        with contextlib.suppress(ModelFailed):
            return model.examples_of(rows.iloc[at - 1 : at]), at - 1
    return _tried(model, rows.tail(1), is_own=is_own), len(rows) - 1


def _answered(
    model: FunctionModel, table: "pd.DataFrame", names: list[str], *, is_own: bool
) -> tuple["pd.DataFrame", list[str]]:
    """The cases that it does not fail for. Values that are each allowed need not go together."""
    n_tried = max(EXAMPLES, min(MOST_CASES, int(CASES_SECONDS / max(model.seconds_a_row, 1e-6))))
    rows = table.loc[table[names].notna().all(axis=1), names].head(n_tried)
    with contextlib.suppress(ModelFailed):
        model.predict(rows)
        return table, []
    failed, first = [], ""
    for at in range(len(rows)):
        case = rows.iloc[at : at + 1]
        try:
            model.predict(case)
        except ModelFailed as error:
            failed.append(rows.index[at])
            first = first or f"{_case_words(case)}: {str(error).removeprefix(COULD_NOT).removeprefix(': ')}"
    if not failed:
        return table, []
    what = "cases in the ranges that its signature states" if is_own else "rows of the table"
    note = f"Of {len(rows):,} {what} the function failed for {len(failed):,}, first for {first}"
    # Of rows that were not tried it is not known.
    untried = table.index[table[names].notna().all(axis=1) & ~table.index.isin(rows.index)]
    return table.drop(index=[*failed, *untried]), [note if is_own else f"{note} They are left out."]


def _case_words(case: "pd.DataFrame") -> str:
    """A case as it is named in a sentence."""
    values = list(rows_of(case)[0].items())[:CASE_FIELDS]
    return ", ".join(f"{name} {value:g}" if isinstance(value, float) else f"{name} {value}" for name, value in values)


def _compare_with_batch(model: FunctionModel, rows: "pd.DataFrame") -> None:
    """See that the function of many cases says what the one of a single case says.

    Raises
    ------
    ModelNotOpened
        If it fails.
    MismatchFaults
        If it says something else.
    """
    batch = model.signature.batch
    if batch is None:
        return
    try:
        alone = np.concatenate([model.predict(rows.iloc[at : at + 1]) for at in range(len(rows))])
    except ModelFailed:
        # It refuses some of these; then there is nothing to compare with.
        return
    try:
        together = model.predict(rows)
    except ModelFailed as error:
        raise _not_opened(error, f"It was `{batch.function}`, asked about {len(rows):,} cases at once.") from None
    apart = ~np.isclose(alone, together, rtol=1e-6, atol=1e-9, equal_nan=True).all(axis=1)
    if apart.any():
        at = int(np.argmax(apart))
        shown = [", ".join(f"{value:.4g}" for value in outputs[at][:5]) for outputs in (alone, together)]
        message = (
            f"`{batch.function}` answers otherwise than `{model.signature.function}`: of one case {shown[1]} rather "
            f"than {shown[0]}. Many cases at once must get what each gets alone."
        )
        raise MismatchFaults([Fault("function", message)])


def _not_opened(error: ModelFailed, when: str) -> ModelNotOpened:
    """What is said of a function that fails while it is tried, with the lines it failed at."""
    return ModelNotOpened(f"{error} {when}", traceback=error.traceback)


def _tried(model: FunctionModel, rows: "pd.DataFrame", *, is_own: bool) -> list[Any]:
    try:
        return model.examples_of(rows)
    except ModelFailed as error:
        what = "values that its signature allows" if is_own else "the first row of the reference table"
        raise _not_opened(error, f"It was tried with {what}.") from None


def _used_columns(model: FunctionModel, table: "pd.DataFrame", targets: Sequence[str]) -> list[str]:
    """Of a function that takes a whole table the columns that it asks for."""
    there = [str(name) for name in table.columns if name not in targets]
    rows = table[there].dropna().head(COLUMN_ROWS)
    rows = rows if len(rows) else table[there].head(COLUMN_ROWS)

    def is_answered(at: int) -> bool:
        with contextlib.suppress(ModelFailed):
            return bool(model.examples_of(rows.iloc[at : at + 1]))
        return False

    # One row that it refuses must not hide what it makes use of in the others.
    answered = [at for at in range(len(rows)) if is_answered(at)]
    rows = rows.iloc[answered] if answered else rows

    def answers(names: Sequence[str]) -> str | None:
        try:
            return repr([plain(one) for one in model.examples_of(rows[list(names)])])
        except ModelFailed:
            return None

    usual = answers(there)
    if usual is None:
        # The outcome may stand among them, which the function does not expect.
        without = [name for name in there if answers([other for other in there if other != name]) is not None]
        if len(without) != 1:
            _tried(model, rows[there].head(1), is_own=False)
            _tried(model, rows[there], is_own=False)
        return [name for name in there if name not in without]
    if model.signature.form == "array":
        return there
    used = [name for name in there if answers([other for other in there if other != name]) != usual]
    return used or there


def learn_from_pictures(
    model: FunctionPictureModel, table: "pd.DataFrame | None", known: "BinaryIO | None", told: OpenFile
) -> None:
    """Find out what a function answers to pictures.

    Parameters
    ----------
    model : FunctionPictureModel
    table : pandas.DataFrame or None
        Cases of what it takes beside them.
    known : binary file or None
        A zip archive of pictures.
    told : OpenFile
        What its author knows better.

    Raises
    ------
    ModelNotOpened
        If it fails on one, with the line.
    MismatchFaults
        If it answers with what cannot be shown.
    """
    images: list[Image.Image] = []
    if known is not None:
        images = [read_picture(one.content).image for one in read_labelled(known, loose=True)[:EXAMPLES]]
        known.seek(0)
    (first, *others) = model.pictures
    stated = told.preparations.get("picture" if not others else first.name)
    preparation = Preparation.model_validate(stated) if stated else first.preparation
    beside = table[model.beside].head(1) if table is not None and model.beside else None
    answers = []
    for seen in trial_pictures(images, preparation):
        shown = [as_input(seen, preparation)]
        try:
            answers += model.answers({one.name: shown for one in model.pictures}, beside)
        except ModelFailed as error:
            raise _not_opened(error, "It was tried with a picture.") from None
    model.learn(answers, wanted=told.answer_kind, labels=told.labels)


def few_enough(model: FunctionModel, known: TableRead) -> list[str]:
    """Of more known cases than a slow function can be asked about while its author waits, some drawn by chance.

    Parameters
    ----------
    model : FunctionModel
        One that has been tried.
    known : TableRead
        Its table is replaced.
    """
    most = int(KNOWN_SECONDS / max(model.seconds_a_row, 1e-9))
    n_rows = len(known.table)
    if n_rows <= most or model.signature.form != "values" or model.signature.batch is not None:
        return []
    known.table = known.table.sample(n=max(1, most), random_state=DRAW_SEED).sort_index()
    return [
        f"The function takes {model.seconds_a_row * 1000:.0f} ms for a case, so {len(known.table):,} of {n_rows:,} "
        "known cases, drawn by chance, were asked about. With a second function for many cases all are."
    ]
