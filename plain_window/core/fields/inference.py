"""Fields from a reference table and from what the model says of its columns.

What can be read off is read off: names and order from the model, kinds, ranges, defaults, steps and choices from the
table. What does not fit is reported column by column, never guessed.
"""

import math
import re
from collections.abc import Callable, Mapping, Sequence

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..errors import Fault, MismatchFaults
from .calendars import SAY_HOW_COUNTED
from .columns import Column, ColumnUse
from .kinds import AnyField, ChoiceField, NumberField, Option, Scalar, Seen, TextField, YesNoField

__all__ = ["columns_of", "infer_fields", "match_columns"]

# A column of strings with more distinct values than this, most of them met once, is text rather than a choice.
MAX_OPTIONS = 60
# A slider's steps: fine enough to reach any value that matters, coarse enough that one arrow key is seen to move it.
STEPS_ACROSS = 200
STEPS_AT_MOST = 1000
# Values looked at to find how many decimals a column is written with.
DECIMALS_SAMPLE = 2000
# Bins of the small histogram an author sees beside a field.
BINS = 16
# From this share of readable numbers on, a column of strings was meant to hold numbers.
MOSTLY_NUMBERS = 0.8

# Missing columns that are named one by one.
MOST_MISSING = 20

YES_WORDS = {"yes", "y", "true", "t", "on"}
NO_WORDS = {"no", "n", "false", "f", "off"}


def match_columns(
    table: pd.DataFrame, names: Sequence[str] | None, *, n_features: int | None, targets: Sequence[str] = ()
) -> list[str]:
    """The columns of the table that the model asks for, in the model's order.

    Parameters
    ----------
    table : DataFrame of shape (n_rows, n_columns)
    names : sequence of str or None
        The model's feature names; None if it was fitted without.
    n_features : int or None
        How many the model wants, where it has no names.
    targets : sequence of str
        The outcome's columns, as far as they are known.

    Returns
    -------
    list of str

    Raises
    ------
    MismatchFaults
        With one fault for each column that is missing, offering the nearest name.
    """
    there = [column for column in table.columns if column not in targets]
    if names is not None:
        missing = [name for name in names if name not in table.columns]
        if missing:
            raise MismatchFaults(_missing_columns(list(names), missing, there))
        return list(names)
    if n_features is None or n_features == len(there):
        return there
    without = f" besides the outcome `{', '.join(targets)}`" if targets else ""
    name_it = "" if targets or len(there) < n_features else " Name the columns of the outcome as `target`, or upload"
    raise MismatchFaults(
        [
            Fault(
                None,
                f"The model wants {n_features} columns and does not say which; the reference table has "
                f"{len(there)}{without}: {_listed(there)}.{name_it or ' Upload'} "
                "a table with exactly the columns it was trained on, in that order.",
            )
        ]
    )


def _missing_columns(names: list[str], missing: list[str], there: list[str]) -> list[Fault]:
    """A fault a column; of very many the first, and how many more there are."""
    if len(missing) == len(names) > MOST_MISSING:
        message = (
            f"None of the model's {len(names)} columns ({_listed(names)}) is in the reference table, which has "
            f"{_listed(there)}. Bring the table that belongs to this model."
        )
        return [Fault(None, message)]
    faults = [_missing_column(names.index(name) + 1, name, there) for name in missing[:MOST_MISSING]]
    rest = missing[MOST_MISSING:]
    if rest:
        more = f"{len(rest)} more columns of the model are not in the table: {_listed(rest)}."
        faults.append(Fault(None, more))
    return faults


def _missing_column(position: int, name: str, there: list[str]) -> Fault:
    message = f"Column {position} of the model is `{name}`; the reference table has no such column."
    alike = next((column for column in there if _plain_name(column) == _plain_name(name)), None)
    if alike:
        message += f" It has `{alike}`, which differs only in case or punctuation. Rename it to `{name}`."
    else:
        message += " Rename the column that holds it, or upload a table that has it."
    return Fault(name, message)


def _listed(names: Sequence[str]) -> str:
    return ", ".join(f"`{name}`" for name in names[:12]) + (" …" if len(names) > 12 else "")


def _plain_name(name: str) -> str:
    return re.sub(r"[\W_]+", "", name).casefold()


def columns_of(table: pd.DataFrame, names: Sequence[str]) -> list[Column]:
    """Name and type of the named columns, enough to build such a table again.

    Parameters
    ----------
    table : pandas.DataFrame
    names : sequence of str
        The columns wanted.
    """
    columns = []
    for name in names:
        series = table[name]
        categories = [_scalar(value) for value in series.cat.categories] if series.dtype == "category" else None
        columns.append(Column(name=name, dtype=str(series.dtype), categories=categories))
    return columns


def infer_fields(
    table: pd.DataFrame, names: Sequence[str], uses: Mapping[str, ColumnUse], *, takes_gaps: bool
) -> list[AnyField]:
    """One field for each column the model asks for.

    Parameters
    ----------
    table : DataFrame of shape (n_rows, n_columns)
    names : sequence of str
        Columns the model asks for, in its order.
    uses : mapping of str to ColumnUse
        What the model does with them, where that is known.
    takes_gaps : bool
        Whether the model answers rows with missing values.

    Returns
    -------
    list of field, in the order of `names`

    Raises
    ------
    MismatchFaults
        With one fault for each column whose values are not what the model wants.
    """
    faults: list[Fault] = []
    fields: list[AnyField] = []
    for name in names:
        use = uses.get(name, ColumnUse())
        fault = _misfit(table[name], name, use)
        if fault:
            faults.append(Fault(name, fault))
            continue
        field = _infer_field(table[name], name, use)
        field.optional = takes_gaps and bool(table[name].isna().any())
        fields.append(field)
    if faults:
        raise MismatchFaults(faults)
    return fields


def _misfit(series: pd.Series, name: str, use: ColumnUse) -> str:
    """What keeps this column from being what the model wants, as a sentence; empty if nothing does."""
    known = series.dropna()
    if known.empty:
        return f"Column `{name}` of the reference table is empty. Upload a table with values in it."
    if dtypes.is_datetime64_any_dtype(series) or dtypes.is_timedelta64_dtype(series):
        return f"Column `{name}` holds dates or times, which the model takes as numbers. {SAY_HOW_COUNTED}"
    is_text = not dtypes.is_numeric_dtype(known) and known.map(lambda value: isinstance(value, str)).any()
    if is_text and use.wants != "text":
        readable = pd.to_numeric(known.astype(str), errors="coerce")
        wants_number = use.wants == "number"
        if wants_number or (use.wants is None and MOSTLY_NUMBERS <= readable.notna().mean() < 1):
            at = int(np.argmax(readable.isna().to_numpy()))
            odd = str(known.iloc[at]) if readable.isna().any() else str(known.iloc[0])
            return (
                f"Column `{name}` should hold numbers; row {int(known.index[at]) + 2 if _counted(known) else at + 2} "
                f'of the reference table has "{odd[:40]}". Mend the value or leave it empty.'
            )
    if use.wants == "category" and use.categories is not None and use.refuses_others:
        return _unknown_categories(known, name, use.categories)
    return ""


def _counted(series: pd.Series) -> bool:
    return bool(dtypes.is_integer_dtype(series.index))


def _unknown_categories(known: pd.Series, name: str, categories: list[Scalar]) -> str:
    there = [_scalar(value) for value in known.unique()]
    strangers = [value for value in there if value not in categories]
    if not strangers:
        return ""
    expected = ", ".join(f'"{value}"' if isinstance(value, str) else str(value) for value in categories[:8])
    shown = strangers[0]
    quoted = f'"{shown}" (as text)' if isinstance(shown, str) else f"{shown} (as a number)"
    return f"Column `{name}` has the value {quoted}, which the model does not know. It knows {expected}."


def _infer_field(series: pd.Series, name: str, use: ColumnUse) -> AnyField:
    known = series.dropna()
    label = _label(name)
    if use.wants == "text":
        return TextField(name=name, label=label, default=None)
    yes_no = _yes_no_values(known)
    if yes_no:
        usual = known.mode().iloc[0]
        return YesNoField(
            name=name, label=label, no=yes_no[0], yes=yes_no[1], default=bool(_scalar(usual) == yes_no[1])
        )
    if dtypes.is_numeric_dtype(known) and use.wants != "category" and series.dtype != "category":
        return _number_field(known, name, label)
    if use.wants is None and series.dtype != "category" and _looks_like_text(known):
        return TextField(name=name, label=label, default=None)
    return _choice_field(series, name, label, use)


def _yes_no_values(known: pd.Series) -> tuple[Scalar, Scalar] | None:
    """The two values that mean no and yes, if that is what the column holds."""
    values = [_scalar(value) for value in known.unique()[:3]]
    if dtypes.is_bool_dtype(known) or all(isinstance(value, bool) for value in values):
        return False, True
    if len(values) != 2:
        return None
    if all(isinstance(value, int) for value in values) and set(values) == {0, 1}:
        return 0, 1
    # A column of 0 and 1 with gaps is read as floats.
    if all(isinstance(value, float) for value in values) and set(values) == {0.0, 1.0}:
        return 0.0, 1.0
    if all(isinstance(value, str) for value in values):
        ordered = sorted(values, key=lambda value: str(value).casefold() in YES_WORDS)
        no, yes = (str(value).casefold() for value in ordered)
        if no in NO_WORDS and yes in YES_WORDS:
            return ordered[0], ordered[1]
    return None


def _looks_like_text(known: pd.Series) -> bool:
    n_distinct = known.nunique()
    return bool(n_distinct > MAX_OPTIONS and n_distinct > len(known) / 2)


def _choice_field(series: pd.Series, name: str, label: str, use: ColumnUse) -> ChoiceField:
    known = series.dropna()
    if series.dtype == "category":
        values = [_scalar(value) for value in series.cat.categories]
    else:
        in_table = sorted({_scalar(value) for value in known.unique()}, key=_option_order)
        listed = use.categories or []
        values = [*listed, *(value for value in in_table if value not in listed)]
    usual = _scalar(known.mode().iloc[0])
    rows_of = known.map(_scalar).value_counts()
    options = [Option(value=value, label=_label(str(value)), count=int(rows_of.get(value, 0))) for value in values]
    return ChoiceField(name=name, label=label, options=options, default=usual)


def _option_order(value: Scalar) -> tuple[int, float, str]:
    return (1, 0.0, value.casefold()) if isinstance(value, str) else (0, float(value), "")


def _number_field(known: pd.Series, name: str, label: str) -> NumberField:
    values = known.to_numpy(dtype="float64")
    values = values[np.isfinite(values)]
    if values.size == 0:
        raise MismatchFaults([Fault(name, f"Column `{name}` has no finite value. Upload a table with numbers in it.")])
    low, high = float(values.min()), float(values.max())
    whole = bool(dtypes.is_integer_dtype(known))
    step = _step(values, low, high, whole=whole)
    usual_low, middle, usual_high = (float(value) for value in np.quantile(values, [0.25, 0.5, 0.75]))
    minimum, maximum = _snap(low, step, math.floor), _snap(high, step, math.ceil)
    return NumberField(
        name=name,
        label=label,
        minimum=minimum,
        maximum=maximum,
        step=step,
        default=min(max(_snap(middle, step, round), minimum), maximum),
        seen=Seen(low=low, high=high, usual_low=usual_low, usual_high=usual_high, counts=_bins(values)),
    )


def _bins(values: np.ndarray) -> list[int]:
    counts: list[int] = np.histogram(values, bins=BINS)[0].tolist()
    return counts


def _step(values: np.ndarray, low: float, high: float, *, whole: bool) -> float:
    """The step a person would choose: what the column is written in, unless that is too fine to drag."""
    span = high - low
    if span == 0:
        return 1.0 if whole else 10.0 ** math.floor(math.log10(abs(low) or 1) - 2)
    written = _written_in(values[:DECIMALS_SAMPLE])
    return written if span / written <= STEPS_AT_MOST else max(written, _nice(span / STEPS_ACROSS))


def _written_in(values: np.ndarray) -> float:
    """What all values are multiples of: 5 for 105, 110, 125; 0.1 for 3.2, 4.7."""
    decimals = _decimals(values)
    scaled = np.abs(values) * 10.0**decimals
    if scaled.max() >= 2**53:
        return 1.0
    return float(f"{max(1, int(np.gcd.reduce(np.rint(scaled).astype('int64')))) * 10.0**-decimals:.12g}")


def _decimals(values: np.ndarray) -> int:
    for decimals in range(7):
        if np.allclose(values, np.round(values, decimals), rtol=0, atol=1e-9 * max(1.0, float(np.abs(values).max()))):
            return decimals
    return 7


def _nice(size: float) -> float:
    """The largest of 1, 2 and 5 times a power of ten that is at most `size`."""
    power = 10.0 ** math.floor(math.log10(size))
    return max(factor * power for factor in (1, 2, 5) if factor * power <= size * (1 + 1e-9))


def _snap(value: float, step: float, to_whole: Callable[[float], int]) -> float:
    # Rounding to 12 digits takes back what multiplying by 0.1 adds; a value that stands on a step stays on it.
    steps = round(value / step, 6)
    return float(f"{to_whole(steps) * step:.12g}")


def _label(name: str) -> str:
    """`peak_temp` as a person would write it: "Peak temp"."""
    words = re.sub(r"[_\s]+", " ", re.sub(r"(?<=[a-z0-9])(?=[A-Z])", " ", name)).strip() or name
    return (words[:1].upper() + words[1:])[:200]


def _scalar(value: object) -> Scalar:
    """A NumPy or pandas value as the plain Python one that JSON can carry."""
    plain = value.item() if isinstance(value, np.generic) else value
    return plain if isinstance(plain, bool | int | float | str) else str(plain)
