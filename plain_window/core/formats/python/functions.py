"""An author's functions, called in this process, or in one that has the libraries they ask for."""

import dataclasses
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any, BinaryIO, Protocol

import numpy as np

from ...guest.arguments import Taken
from ...guest.calling import AuthorsFunctions
from ..own_libraries import GuestLine, asked_of, columns_of
from .signature import Parameter, Signature

if TYPE_CHECKING:
    import pandas as pd

__all__ = ["Functions", "functions_of"]


class Functions(Protocol):
    """The functions of a file that was run. Each of the three raises `ModelFailed` with the line it failed at."""

    warnings: list[str]

    def answer(self, row: Mapping[str, Any]) -> Any:
        """What it answers to one case.

        Parameters
        ----------
        row : mapping
            Value by parameter.
        """

    def answer_each(self, rows: Sequence[Mapping[str, Any]]) -> list[Any] | None:
        """What it answers to some cases, asked in one go; None where that gains nothing.

        Parameters
        ----------
        rows : sequence of mapping
            Value by parameter, a case each.
        """

    def answers(
        self, columns: Mapping[str, Sequence[Any]], form: str, containers: Mapping[str, str], *, which: int = 0
    ) -> Any:
        """What it answers to many cases at once, as it came.

        Parameters
        ----------
        columns : mapping
            Values by parameter, one a case.
        form : str
            `columns`, one `table`, or one `array`.
        containers : mapping
            By parameter of a function of columns, what its column comes in.
        which : int, optional
            1 for the function of many cases.
        """

    def answers_to(self, table: "pd.DataFrame | np.ndarray") -> Any:
        """What it answers to a table or an array as it is.

        Parameters
        ----------
        table : pandas.DataFrame or ndarray
            Shape (n_rows, n_columns).
        """


def functions_of(
    content: bytes, beside: BinaryIO | None, signature: Signature, line: GuestLine | None = None
) -> Functions:
    """Run a file, here or where its libraries are.

    Parameters
    ----------
    content : bytes
    beside : binary file or None
        A zip archive of what lies beside it.
    signature : Signature
        What is asked of it.
    line : GuestLine, optional
        To a process with libraries of its own.

    Raises
    ------
    ModelNotOpened
        If it raises, with the line.
    MismatchFaults
        If what lies beside it cannot be unpacked.
    """
    names = [signature.function, *([signature.batch.function] if signature.batch is not None else [])]
    parameters = [_taken(one) for one in signature.parameters]
    if line is None:
        return AuthorsFunctions(content, beside, names, parameters, signature.record)
    return _FunctionsElsewhere(line, names, parameters, signature.record)


def _taken(parameter: Parameter) -> Taken:
    takes = parameter.takes
    if takes is None:
        return Taken(parameter.name, by_place=parameter.by_place)
    return Taken(
        parameter.name,
        takes.kind,
        whole=takes.whole,
        options=takes.options,
        enum=takes.enum,
        as_image=takes.as_image,
        with_time=takes.with_time,
        container=takes.container,
        by_place=parameter.by_place,
    )


class _FunctionsElsewhere:
    """As `Functions`, over the line."""

    def __init__(
        self, line: GuestLine, names: Sequence[str], parameters: Sequence[Taken], record: tuple[str, str] | None
    ) -> None:
        self._line = line
        opened = asked_of(
            line,
            "open_functions",
            model=line.descriptor("model"),
            beside=line.descriptor("beside"),
            names=list(names),
            parameters=[{**dataclasses.asdict(one), "options": list(one.options)} for one in parameters],
            record=list(record) if record is not None else None,
        )
        self.warnings = [str(one) for one in opened["warnings"]]

    def answer(self, row: Mapping[str, Any]) -> Any:
        return asked_of(self._line, "answer", row=dict(row))

    def answer_each(self, rows: Sequence[Mapping[str, Any]]) -> list[Any] | None:
        return list(asked_of(self._line, "answer_each", rows=[dict(row) for row in rows]))

    def answers(
        self, columns: Mapping[str, Sequence[Any]], form: str, containers: Mapping[str, str], *, which: int = 0
    ) -> Any:
        given = {name: list(values) for name, values in columns.items()}
        return asked_of(self._line, "answers", columns=given, form=form, containers=dict(containers), which=which)

    def answers_to(self, table: "pd.DataFrame | np.ndarray") -> Any:
        if isinstance(table, np.ndarray):
            columns = {str(at): table[:, at] for at in range(table.shape[1])}
            return asked_of(self._line, "answers_to", form="array", columns=columns)
        return asked_of(self._line, "answers_to", form="table", columns=columns_of(table))
