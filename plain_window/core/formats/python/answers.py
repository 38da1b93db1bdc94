"""What a function gave back, as a row of outputs: what it is said to be, learnt from examples where nothing is said."""

import dataclasses
import enum
import math
import numbers
from collections.abc import Callable, Mapping, Sequence, Set
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from ...errors import Fault, MismatchFaults, ModelFailed
from .returned import Returned

__all__ = ["ROUNDED_BY", "AnswerForm", "learn_form", "plain"]

Kind = Literal["class", "labels", "number", "numbers"]

# Probabilities that a function has rounded may be off by so much; they are made to add up to 1 again.
ROUNDED_BY = 0.02
EXACTLY = 1e-9
BELOW_NONE, ABOVE_ALL = -1e-6, 1 + 1e-6
SHOWN_CHARACTERS = 80
MOST_NAMES = 10_000


@dataclass(frozen=True)
class AnswerForm:
    """How a function's answers are read.

    Attributes
    ----------
    names : tuple of str
        Of classes, labels or numbers, in the order of the outputs.
    gives_probabilities : bool
        Whether a class or label comes with a number from 0 to 1.
    is_guessed : bool
        Whether the kind was concluded from answers rather than said by the annotation.
    by_name : bool
        Whether answers are mappings.
    """

    kind: Kind
    names: tuple[str, ...] = ()
    gives_probabilities: bool = True
    is_guessed: bool = False
    by_name: bool = False

    def row(self, answer: Any) -> list[float]:
        """One answer as a row of outputs.

        Parameters
        ----------
        answer : object
            What came back for one case.

        Raises
        ------
        ModelFailed
            If it is no such answer, saying what came.
        """
        value = plain(answer)
        match self.kind:
            case "number":
                return [_number(value)]
            case "numbers":
                return self._by_name(value) if isinstance(value, Mapping) else self._by_place(value)
            case "labels":
                return self._labels(value)
        return self._classes(value)

    def _classes(self, value: Any) -> list[float]:
        if not self.gives_probabilities:
            return self._one_of(value)
        shares = self._by_name(value, missing=0.0) if isinstance(value, Mapping) else self._by_place(value)
        total = math.fsum(shares)
        if any(not BELOW_NONE <= one <= ABOVE_ALL for one in shares) or abs(total - 1) > ROUNDED_BY:
            raise _not_an_answer(
                f"its probabilities ({_listed(shares)}) "
                + ("are no numbers" if math.isnan(total) else f"add up to {total:.4g}, not to 1")
            )
        inside = [min(max(one, 0.0), 1.0) for one in shares]
        return inside if abs(total - 1) <= EXACTLY else [one / math.fsum(inside) for one in inside]

    def _one_of(self, value: Any) -> list[float]:
        if isinstance(value, bool | np.bool_) and self.names == ("no", "yes"):
            return [0.0, 1.0] if value else [1.0, 0.0]
        name = _name(value)
        if name not in self.names:
            raise _not_an_answer(f"it answered {_shown(value)}, which is none of the classes {_named(self.names)}")
        return [float(one == name) for one in self.names]

    def _labels(self, value: Any) -> list[float]:
        if isinstance(value, Mapping):
            shares = self._by_name(value, missing=0.0)
        elif (
            isinstance(value, Sequence | Set)
            and all(isinstance(one, str) for one in value)
            and not isinstance(value, str)
        ):
            chosen = {str(one) for one in value}
            self._refuse_strangers(chosen)
            shares = [float(name in chosen) for name in self.names]
        else:
            shares = self._by_place(value)
        if any(not BELOW_NONE <= one <= ABOVE_ALL for one in shares):
            raise _not_an_answer(f"of its labels ({_listed(shares)}) not all are numbers from 0 to 1")
        return [min(max(one, 0.0), 1.0) for one in shares]

    def _by_name(self, value: Mapping[str, Any], *, missing: float | None = None) -> list[float]:
        self._refuse_strangers(set(value))
        absent = [name for name in self.names if name not in value]
        if absent and missing is None:
            raise _not_an_answer(f"its answer has no {_named(absent)}")
        return [_number(value[name]) if name in value else float(missing or 0.0) for name in self.names]

    def _refuse_strangers(self, names: set[str]) -> None:
        strangers = sorted(names - set(self.names))
        if strangers:
            raise _not_an_answer(f"its answer has {_named(strangers)}, and the names known are {_named(self.names)}")

    def _by_place(self, value: Any) -> list[float]:
        if not isinstance(value, Sequence) or isinstance(value, str):
            raise _not_an_answer(f"it answered {_shown(value)}; {len(self.names)} numbers are needed")
        if len(value) != len(self.names):
            raise _not_an_answer(f"it answered with {len(value)} numbers; {len(self.names)} are needed")
        return [_number(one) for one in value]


def learn_form(
    returned: Returned, examples: Sequence[Any], *, wanted: str | None, labels: Sequence[str] | None
) -> AnswerForm:
    """What a function's answers are: by its annotation, by what it answered, and by what its author says.

    Parameters
    ----------
    returned : Returned
    examples : sequence of object
        What came back for some cases, one each.
    wanted : str or None
        The kind that the author says it is.
    labels : sequence of str or None
        Names for its classes.

    Raises
    ------
    MismatchFaults
        If the answers are of no kind that can be shown, or cannot be what the author says.
    """
    values = [plain(one) for one in examples]
    if any(value is None for value in values):
        raise _no_form("it returned nothing (`None`). Let it return its answer")
    if any(isinstance(value, Sequence | Mapping) and len(value) > MOST_NAMES for value in values[:1]):
        raise _no_form(f"it answers with {len(values[0])} values; nobody reads so many")
    form = _form_of(returned, values, wanted, labels)
    rows = [form.row(value) for value in values] if form.kind in ("number", "numbers") else []
    if rows and not any(math.isfinite(one) for row in rows for one in row):
        raise _no_form(f"it answered {_shown(values[0])} to all it was tried with, which is no number")
    if wanted is not None and form.kind != wanted:
        raise MismatchFaults(
            [Fault("answer", f"The function's answers cannot be taken for {wanted}: it answers {_shown(values[0])}.")]
        )
    return form


def _form_of(returned: Returned, values: Sequence[Any], wanted: str | None, labels: Sequence[str] | None) -> AnswerForm:
    first = values[0]
    if all(isinstance(value, bool | np.bool_) for value in values):
        return AnswerForm("class", returned.names or ("no", "yes"), gives_probabilities=False)
    if returned.shape == "class" or (all(isinstance(value, str | enum.Enum) for value in values) and labels):
        names = returned.names or tuple(labels or ())
        return AnswerForm("class", names, gives_probabilities=False)
    if all(_is_number(value) for value in values):
        return AnswerForm("number")
    if all(isinstance(value, Mapping) for value in values):
        return _of_mappings(returned, values, wanted)
    if isinstance(first, str):
        raise _no_form(
            f"it answers with a text ({_shown(first)}). If it is one of several classes, say which: "
            '`-> Literal["sound", "cracks"]`, or bring their names as `labels`'
        )
    if all(isinstance(value, Sequence | Set) for value in values):
        return _of_lists(returned, values, wanted, labels)
    raise _no_form(f"it answers with an object of the type `{type(first).__name__}`")


def _of_mappings(returned: Returned, values: Sequence[Mapping[str, Any]], wanted: str | None) -> AnswerForm:
    names = returned.names or tuple(dict.fromkeys(name for value in values for name in value))
    if not names:
        raise _no_form("it answers with an empty mapping")
    flat = [one for value in values for one in value.values()]
    if returned.shape == "flags" or all(isinstance(one, bool | np.bool_) for one in flat):
        return AnswerForm("labels", names, gives_probabilities=False, by_name=True)
    if not all(_is_number(one) for one in flat):
        odd = next(one for one in flat if not _is_number(one))
        raise _no_form(f"its answer has {_shown(odd)} where a number is needed")
    rows = [[_number(one) for one in value.values()] for value in values]
    kind = wanted or ("numbers" if returned.shape == "record" else _kind_of_shares(rows))
    is_guessed = wanted is None and returned.shape != "record" and not (returned.names and kind == "class")
    return AnswerForm(_as_kind(kind), names, is_guessed=is_guessed, by_name=True)


def _of_lists(
    returned: Returned, values: Sequence[Any], wanted: str | None, labels: Sequence[str] | None
) -> AnswerForm:
    if returned.shape == "chosen" or all(isinstance(one, str) for value in values for one in value):
        names = returned.names or tuple(labels or ()) or tuple(sorted({str(one) for value in values for one in value}))
        if not names:
            raise _no_form(
                "it answers with a list of names, and not one came. Say which there are: `-> list[Literal[…]]`"
            )
        is_guessed = not (returned.names or labels)
        return AnswerForm("labels", names, gives_probabilities=False, is_guessed=is_guessed)
    lengths = {len(value) for value in values}
    if len(lengths) > 1 or not all(_is_number(one) for value in values for one in value):
        raise _no_form(f"it answers with {_shown(values[0])}, which is no list of as many numbers each time")
    (length,) = lengths
    rows = [[_number(one) for one in value] for value in values]
    kind = wanted or ("numbers" if any(returned.names) else _kind_of_shares(rows))
    if kind == "number" or (wanted is None and length == 1):
        return AnswerForm("number")
    known = list(labels or ()) if len(labels or ()) == length else [name for name in returned.names if name]
    names = tuple(known) if len(known) == length else tuple(str(at) for at in range(length))
    return AnswerForm(_as_kind(kind), names, is_guessed=wanted is None)


def _kind_of_shares(rows: Sequence[Sequence[float]]) -> Kind:
    """What numbers by name are: probabilities, of which one comes true; shares that stand alone; just numbers."""
    are_shares = all(BELOW_NONE <= one <= ABOVE_ALL for row in rows for one in row)
    add_up = all(abs(math.fsum(row) - 1) <= ROUNDED_BY for row in rows)
    if are_shares and add_up and all(len(row) > 1 for row in rows):
        return "class"
    return "labels" if are_shares and len(rows[0]) > 1 else "numbers"


def _as_kind(kind: str) -> Kind:
    kinds: dict[str, Kind] = {"class": "class", "labels": "labels", "number": "number", "numbers": "numbers"}
    if kind not in kinds:
        raise MismatchFaults([Fault("answer", f"The function's answers are numbers by name; they cannot be a {kind}.")])
    return kinds[kind]


def plain(answer: Any) -> Any:
    """What came back without the type it came in: mappings, lists and numbers as Python has them.

    Parameters
    ----------
    answer : object
    """
    if isinstance(answer, enum.Enum):
        return answer.value if isinstance(answer.value, str) else answer.name
    if isinstance(answer, str | bool | int | float | np.bool_ | type(None)):
        return answer
    if isinstance(answer, np.ndarray):
        return answer.item() if answer.size == 1 and answer.ndim < 2 else [*map(plain, answer.tolist())]
    if dataclasses.is_dataclass(answer) and not isinstance(answer, type):
        return {one.name: getattr(answer, one.name) for one in dataclasses.fields(answer)}
    for method in ("_asdict", "model_dump", "to_dict"):
        make: Callable[[], Any] | None = getattr(answer, method, None)
        if callable(make):
            return plain(make())
    if isinstance(answer, Mapping):
        return {_name(name): value for name, value in answer.items()}
    if isinstance(answer, np.generic):
        return answer.item()
    if isinstance(answer, Set):
        return frozenset(map(_name, answer))
    if isinstance(answer, Sequence):
        return [one.value if isinstance(one, enum.Enum) and isinstance(one.value, str) else one for one in answer]
    to_list: Callable[[], Any] | None = getattr(answer, "tolist", None)
    return plain(np.asarray(to_list())) if callable(to_list) else answer


def _name(value: Any) -> str:
    known = plain(value) if isinstance(value, enum.Enum) else value
    if isinstance(known, bool | np.bool_):
        return "yes" if known else "no"
    return str(known)


def _is_number(value: Any) -> bool:
    one = plain(value)
    return isinstance(one, numbers.Number) and not isinstance(one, complex)


def _number(value: Any) -> float:
    one = plain(value)
    if isinstance(one, str | list | Mapping) or one is None:
        raise _not_an_answer(f"it answered {_shown(one)} where a number is needed")
    try:
        return float(one)
    except (TypeError, ValueError, OverflowError):
        raise _not_an_answer(f"it answered {_shown(one)} where a number is needed") from None


def _shown(value: Any) -> str:
    words = repr(value)
    return words if len(words) <= SHOWN_CHARACTERS else words[: SHOWN_CHARACTERS - 1] + "…"


def _listed(values: Sequence[float]) -> str:
    return ", ".join(f"{value:.4g}" for value in values[:5]) + (", …" if len(values) > 5 else "")


def _named(names: Sequence[str]) -> str:
    return ", ".join(f"`{name[:40]}`" for name in names[:5]) + (" …" if len(names) > 5 else "")


def _not_an_answer(why: str) -> ModelFailed:
    return ModelFailed(f"The function gave no answer that can be shown: {why}.", traceback="")


def _no_form(why: str) -> MismatchFaults:
    return MismatchFaults([Fault("function", f"What the function answers cannot be shown: {why}.")])
