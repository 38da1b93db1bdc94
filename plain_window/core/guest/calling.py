"""An author's functions, called: with one case, or with many at once."""

import warnings
from collections.abc import Callable, Mapping, Sequence
from typing import Any, BinaryIO, cast

from ..errors import ModelFailed, ModelNotOpened
from .arguments import Arguments, Taken
from .failing import failure
from .loading import load_file

__all__ = ["COULD_NOT", "AuthorsFunctions"]

COULD_NOT = "The function could not answer"


class AuthorsFunctions:
    """The functions of a file that was run.

    Parameters
    ----------
    content : bytes
        The file.
    beside : binary file or None
        A zip archive of what lies beside it.
    names : sequence of str
        The function that answers, and the one that answers many cases at once, if there is one.
    parameters : sequence of Taken
        What the first takes.
    record : (str, str) or None
        Its one parameter that takes them together, and that one's class.

    Raises
    ------
    ModelNotOpened
        If the file cannot be run.
    MismatchFaults
        If what lies beside it cannot be unpacked.
    """

    def __init__(
        self,
        content: bytes,
        beside: BinaryIO | None,
        names: Sequence[str],
        parameters: Sequence[Taken],
        record: tuple[str, str] | None,
    ) -> None:
        loaded = load_file(content, beside)
        self.warnings, self._folder = loaded.warnings, loaded.folder
        self._functions = [_callable(loaded.module, name) for name in names]
        self._arguments = Arguments(parameters, loaded.module, record)
        self._names = [one.name for one in parameters]

    def answer(self, row: Mapping[str, Any]) -> Any:
        """What it answers to one case.

        Parameters
        ----------
        row : mapping
            Value by parameter.

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        return self._called(0, *self._arguments.of_case(row))

    def answer_each(self, rows: Sequence[Mapping[str, Any]]) -> list[Any] | None:
        """None: one after another they are asked as quickly.

        Parameters
        ----------
        rows : sequence of mapping
        """
        return None

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

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        return self._called(which, *self._arguments.of_many(columns, form, containers))

    def answers_to(self, table: Any) -> Any:
        """What it answers to a table or an array as it is.

        Parameters
        ----------
        table : pandas.DataFrame or ndarray
            Shape (n_rows, n_columns).

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        return self._called(0, [table], {})

    def _called(self, which: int, by_place: list[Any], by_name: dict[str, Any]) -> Any:
        try:
            with warnings.catch_warnings():
                # What libraries have to say is said once, when the file is run.
                warnings.simplefilter("ignore")
                return self._functions[which](*by_place, **by_name)
        except ModelFailed:
            raise
        except (Exception, SystemExit) as error:
            named = dict(zip(self._names, by_place, strict=False))
            raise failure(error, self._folder, COULD_NOT, {**named, **by_name}) from None


def _callable(module: Any, name: str) -> Callable[..., Any]:
    found = getattr(module, name, None)
    if not callable(found):
        raise ModelNotOpened(
            f"Once the file is run, `{name}` is no function any more. Let its name stand for it alone."
        )
    return cast("Callable[..., Any]", found)
