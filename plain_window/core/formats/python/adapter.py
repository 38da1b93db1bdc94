"""The adapter for functions: one case by its values, or many at once where the file has a function for that."""

import math
import platform
from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, Any, BinaryIO, cast

import numpy as np

from ...answers.written import TableSetting, TextSetting
from ...contract.inspection import Found
from ...contract.model_facts import OutputKind
from ...contract.replies import WrittenReply
from ...contract.values import Cell
from ...errors import ModelFailed
from ...fields.columns import Column, ColumnUse
from .answers import AnswerForm, learn_form
from .batches import answers_of, outputs_at_once
from .fractions import without_fractions
from .functions import Functions, functions_of
from .returned import Returned
from .signature import Batch, Parameter, Signature, read_signature
from .written import WrittenForm, learn_written

if TYPE_CHECKING:  # one case needs no tables
    import pandas as pd

    from ...plan.plan import Plan
    from ..own_libraries import GuestLine

__all__ = ["FunctionModel", "Rows", "rows_of"]

Rows = Sequence[Mapping[str, Any]]
# Cases it is tried on while its author waits, and for how long.
# Of a function elsewhere so many are asked about in one message.
ASKED_TOGETHER = 64
MOST_TRIED, FEWEST_TRIED, TRY_SECONDS = 200, 5, 5.0
# Kinds whose values are options or words.
WANTS = {"number": "number", "date": "number", "choice": "category", "text": "text"}


def _nobody_waits() -> None:
    """Between two cases."""


class FunctionModel:
    """A function of a Python file.

    Parameters
    ----------
    content : bytes
        The file.
    beside : binary file, optional
        A zip archive of what lies beside it.
    function : str, optional
        The function's name, where the file has several.
    has_table : bool, optional
        Whether a table came with it: one array is then rows of numbers, not a picture.
    line : GuestLine, optional
        To a process with libraries of its own, that runs the file.

    Raises
    ------
    ModelNotOpened
        If the file cannot be read or run.
    MismatchFaults
        If it is not clear which function answers, or what lies beside it cannot be unpacked.
    """

    # How far another form of it might differ; there is none.
    tolerance = 0.0

    def __init__(
        self,
        content: bytes,
        beside: BinaryIO | None = None,
        function: str | None = None,
        *,
        has_table: bool = False,
        line: "GuestLine | None" = None,
    ) -> None:
        signature = read_signature(content, function)
        self.signature: Signature = signature.with_array_of_rows() if has_table else signature
        self._functions: Functions = functions_of(content, beside, self.signature, line)
        self.form = AnswerForm("number")
        # Of a text or a table, how it is written down, and how that is set at first.
        self.written: WrittenForm | None = None
        self.setting: TextSetting | TableSetting | None = None
        # How long it took for its first case.
        self.seconds_a_row = 0.0
        self.found = self._found(self._functions.warnings)

    def _found(self, said: list[str]) -> Found:
        is_named = self.signature.form in ("values", "columns")
        names = [one.name for one in self.signature.parameters] if is_named else None
        return Found(
            format="python",
            library="Python",
            saved_with=None,
            running=f"Python {platform.python_version()}",
            steps=[f"{self.signature.function}()"],
            task="number",
            features=names,
            n_features=len(names) if names else None,
            classes=None,
            gives_probabilities=False,
            warnings=said,
        )

    # --- what its answers are ---------------------------------------------------------------------------------------

    @property
    def most_rows(self) -> int:
        """About how many cases it can be asked about at once while its author waits."""
        if self.takes_table or self.signature.batch is not None or not self.seconds_a_row:
            return MOST_TRIED
        return max(FEWEST_TRIED, min(MOST_TRIED, int(TRY_SECONDS / self.seconds_a_row)))

    @property
    def takes_table(self) -> bool:
        """Whether it is asked with a whole table at once and nothing else."""
        return self.signature.form in ("table", "array")

    @property
    def returned(self) -> Returned:
        """What its annotation says of the answer to one case."""
        own = self.signature.returned
        return own.of_one_case if self.signature.form == "values" else own

    def learn(self, examples: Sequence[Any], *, wanted: str | None, labels: Sequence[str] | None) -> None:
        """Find out what its answers are.

        Parameters
        ----------
        examples : sequence of object
            What it answered.
        wanted : str or None
            The kind that its author says it is.
        labels : sequence of str or None

        Raises
        ------
        MismatchFaults
            If the answers are of no kind that can be shown, or not what the author says.
        """
        written = learn_written(self.returned, examples, wanted=wanted, labels=labels)
        if written is not None:
            self.written, self.setting = written
            self.found = self.found.model_copy(update={"task": self.written.task})
            return
        self.form = learn_form(self.returned, examples, wanted=wanted, labels=labels)
        is_named = self.form.kind in ("class", "labels")
        self.found = self.found.model_copy(
            update={
                "task": self.form.kind,
                "classes": list(self.form.names) if is_named else None,
                "output_names": list(self.form.names) if self.form.kind == "numbers" and self.form.names else None,
                "gives_probabilities": is_named and self.form.gives_probabilities,
                "task_is_guessed": self.form.is_guessed,
            }
        )

    def take_up(self, found: Found) -> None:
        """Read its answers as they were found to be when it was brought.

        Parameters
        ----------
        found : Found
        """
        if found.task == "text" or found.task == "table":
            self.written, self.found = WrittenForm(found.task), found
            return
        names = found.classes or found.output_names or []
        kind = cast("OutputKind", found.task)
        is_shares = found.gives_probabilities if kind in ("class", "labels") else True
        self.form = AnswerForm(kind, tuple(names), gives_probabilities=is_shares)
        self.found = found

    def set_features(self, names: Sequence[str]) -> None:
        """The columns of a table that it makes use of.

        Parameters
        ----------
        names : sequence of str
        """
        self.found = self.found.model_copy(update={"features": list(names), "n_features": len(names)})

    # --- asking -----------------------------------------------------------------------------------------------------

    def examples(self, rows: Rows) -> list[Any]:
        """What it answers for some cases, as it came.

        Parameters
        ----------
        rows : sequence of mapping

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        if self.signature.form == "values":
            return [self._functions.answer(row) for row in rows]
        return answers_of(self._answers(rows), len(rows))

    def write(self, row: Mapping[str, Any]) -> WrittenReply:
        """What it answers with a text or a table.

        Parameters
        ----------
        row : mapping
            Value by parameter.

        Raises
        ------
        ModelFailed
            With the line it failed at, or what it answered.
        """
        if self.written is None:
            raise ModelFailed("The function answers with numbers.", traceback="")
        return self.written.write(self.examples([row])[0])

    def _refuse_written(self) -> None:
        if self.written is not None:
            raise ModelFailed(f"The function answers with a {self.written.task}, which is no number.", traceback="")

    def ask(
        self,
        rows: Rows,
        *,
        refuse_fractions: bool = False,
        passes_over: bool = False,
        between: Callable[[], None] = _nobody_waits,
    ) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs).

        Parameters
        ----------
        rows : sequence of mapping
            Value by parameter.
        refuse_fractions : bool, optional
            Say where a whole number is needed, rather than taking the next one.
        passes_over : bool, optional
            Leave what it fails for without numbers: cases that nobody asked about may be none that there are.
        between : callable, optional
            Called between two cases: somebody may be waiting.

        Raises
        ------
        InputFaults
            If a whole number is needed.
        ModelFailed
            With the line it failed at, or what it answered.
        """
        self._refuse_written()
        cases = without_fractions(self.signature.parameters, rows, refuse=refuse_fractions)
        batch = self.signature.batch
        if self.signature.form != "values":
            return self._outputs_of(self._answers(cases), len(cases))
        if batch is not None and len(cases) > 1:
            try:
                return self._outputs_of(self._answers(cases, batch), len(cases))
            except ModelFailed:
                if not passes_over:
                    raise
        return self._one_by_one(cases, passes_over, between)

    def _one_by_one(self, cases: Rows, passes_over: bool, between: Callable[[], None]) -> np.ndarray:
        nothing = [math.nan] * max(1, len(self.form.names))
        outputs = []
        for start in range(0, len(cases), ASKED_TOGETHER):
            some = cases[start : start + ASKED_TOGETHER]
            together = self._together(some)
            for at, row in enumerate(some):
                if start or at:
                    between()
                try:
                    answer = self._functions.answer(row) if together is None else together[at]
                    outputs.append(self.form.row(answer))
                except ModelFailed:
                    if not passes_over:
                        raise
                    outputs.append(nothing)
        return np.array(outputs, dtype="float64").reshape(len(cases), -1)

    def _together(self, cases: Rows) -> list[Any] | None:
        """What it answers to several cases, in one go; None if they are to be asked one by one."""
        if len(cases) < 2:
            return None
        try:
            return self._functions.answer_each(cases)
        except ModelFailed:
            # Which of them it failed for shows when each is asked.
            return None

    def _answers(self, rows: Rows, batch: Batch | None = None) -> Any:
        """What comes back for many cases at once, of its own or of its batch form."""
        asked: Signature | Batch = batch or self.signature
        containers = {one.name: one.takes.container if one.takes else "" for one in asked.parameters}
        names = list(containers) if asked.form == "columns" else list(rows[0]) if rows else []
        columns = {name: [row[name] for row in rows] for name in names or [one.name for one in asked.parameters]}
        return self._functions.answers(columns, asked.form, containers, which=int(batch is not None))

    def _outputs_of(self, result: Any, n_rows: int) -> np.ndarray:
        outputs = outputs_at_once(result, n_rows, self.form)
        if outputs is not None:
            return outputs
        return np.array([self.form.row(one) for one in answers_of(result, n_rows)], dtype="float64").reshape(n_rows, -1)

    # --- as any model -----------------------------------------------------------------------------------------------

    def predict(self, table: "pd.DataFrame", *, passes_over: bool = False) -> np.ndarray:
        """As `ModelAdapter.predict`.

        Parameters
        ----------
        table : pandas.DataFrame
        passes_over : bool, optional
            As of `ask`.
        """
        self._refuse_written()
        if not self.takes_table:
            return self.ask(rows_of(table), passes_over=passes_over)
        given = table if self.signature.form == "table" else table.to_numpy()
        try:
            return self._outputs_of(self._functions.answers_to(given), len(table))
        except ModelFailed:
            if not passes_over:
                raise
        if len(table) == 1:
            return np.full((1, max(1, len(self.form.names))), math.nan)
        # Whichever rows it fails for, the others are answered.
        halves = (table.iloc[: len(table) // 2], table.iloc[len(table) // 2 :])
        return np.concatenate([self.predict(half, passes_over=True) for half in halves])

    def examples_of(self, table: "pd.DataFrame") -> list[Any]:
        """What it answers for the rows of a table, as it came.

        Parameters
        ----------
        table : pandas.DataFrame

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        if self.takes_table:
            given = table if self.signature.form == "table" else table.to_numpy()
            return answers_of(self._functions.answers_to(given), len(table))
        return self.examples(rows_of(table))

    def compile(self, columns: Sequence[Column]) -> "Plan":
        """As `ModelAdapter.compile`.

        Parameters
        ----------
        columns : sequence of Column

        Raises
        ------
        CannotCompile
            Always.
        """
        from ...plan.building import CannotCompile

        raise CannotCompile("A function is code, and has no compiled form.")

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        return {name: use for name in names if (use := _use(self.signature.parameter(name))) is not None}

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """As `ModelAdapter.dropped_columns`."""
        return set()

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """As `ModelAdapter.settle`."""
        return None


def rows_of(table: "pd.DataFrame") -> list[dict[str, Cell]]:
    """A table's rows, with None where nothing stands.

    Parameters
    ----------
    table : pandas.DataFrame
    """
    columns = {
        str(name): table[name].astype(object).where(table[name].notna(), None).tolist() for name in table.columns
    }
    return [dict(zip(columns, row, strict=True)) for row in zip(*columns.values(), strict=True)]


def _use(parameter: Parameter | None) -> ColumnUse | None:
    takes = parameter.takes if parameter is not None else None
    if takes is None or takes.kind not in WANTS:
        return None
    if takes.kind == "text":
        # Words of a few kinds are better chosen than typed: what the table has decides.
        return None
    options = list(takes.options) if takes.kind == "choice" else None
    return ColumnUse.model_validate({"wants": WANTS[takes.kind], "categories": options})
