"""Fields from a table and from what the model says of its columns."""

import numpy as np
import pandas as pd
import pytest

from plain_window.core.errors import MismatchFaults
from plain_window.core.fields import ChoiceField, NumberField, TextField, YesNoField
from plain_window.core.fields.columns import ColumnUse
from plain_window.core.fields.inference import infer_fields, match_columns


def infer(values, use: ColumnUse | None = None):
    table = pd.DataFrame({"wall_mm": values})
    return infer_fields(table, ["wall_mm"], {"wall_mm": use} if use else {}, takes_gaps=True)[0]


@pytest.mark.parametrize(
    ("values", "kind"),
    [
        ([3.5, 4.5, 9.0], NumberField),
        ([1, 2, 3], NumberField),
        ([True, False, True], YesNoField),
        ([0, 1, 1], YesNoField),
        ([0.0, 1.0, np.nan], YesNoField),
        ([True, None, False], YesNoField),
        (["yes", "no", "yes"], YesNoField),
        (["gas", "wood", "gas"], ChoiceField),
        (pd.Categorical(["b", "a"], categories=["b", "a"]), ChoiceField),
        ([f"cone {n} went down late" for n in range(80)], TextField),
    ],
)
def test_the_kind_follows_from_the_values(values, kind):
    assert type(infer(values)) is kind


def test_what_the_model_does_with_a_column_wins_over_its_values():
    assert type(infer([1, 2, 3], ColumnUse(wants="category", categories=[1, 2, 3]))) is ChoiceField
    assert type(infer(["red", "red"], ColumnUse(wants="text"))) is TextField


@pytest.mark.parametrize(
    ("values", "minimum", "maximum", "step", "default"),
    [
        ([3, 18, 7], 3, 18, 1, 7),
        ([100, 105, 125], 100, 125, 5, 105),
        ([3.2, 7.61, 18.0], 3.2, 18.0, 0.05, 7.6),
        ([0.1, 0.2, 0.3], 0.1, 0.3, 0.1, 0.2),
        ([0.0, 1234.5678, 9999.9], 0, 10000, 20, 1240),
        ([5, 5, 5], 5, 5, 1, 5),
        ([-0.00012, 0.00034, 0.0009], -0.00012, 0.0009, 0.00002, 0.00034),
    ],
)
def test_range_step_and_default_come_from_the_data(values, minimum, maximum, step, default):
    field = infer(values)
    assert (field.minimum, field.maximum, field.step, field.default) == pytest.approx((minimum, maximum, step, default))
    assert field.minimum <= min(values)
    assert field.maximum >= max(values)


def test_options_keep_the_models_order_and_count_the_rows():
    field = infer(["wood", "gas", "wood"], ColumnUse(wants="category", categories=["wood", "gas", "raku"]))
    assert [(option.value, option.label, option.count) for option in field.options] == [
        ("wood", "Wood", 2),
        ("gas", "Gas", 1),
        ("raku", "Raku", 0),
    ]
    assert field.default == "wood"


@pytest.mark.parametrize(
    ("values", "use", "message"),
    [
        ([None, None], None, "Column `wall_mm` of the reference table is empty."),
        (["3.5", "4", "thick", "5", "6"], None, 'row 4 of the reference table has "thick"'),
        (["3.5", "4"], ColumnUse(wants="number"), "Column `wall_mm` should hold numbers"),
        (pd.to_datetime(["2026-01-01"]), None, "holds dates or times"),
        (
            ["gas", "wood"],
            ColumnUse(wants="category", categories=["gas"], refuses_others=True),
            'has the value "wood" (as text), which the model does not know. It knows "gas".',
        ),
        (
            ["1", "2"],
            ColumnUse(wants="category", categories=[1, 2], refuses_others=True),
            'has the value "1" (as text), which the model does not know. It knows 1, 2.',
        ),
    ],
)
def test_a_column_that_does_not_fit_is_named(values, use, message):
    with pytest.raises(MismatchFaults) as caught:
        infer(values, use)
    (fault,) = caught.value.faults
    assert fault.field == "wall_mm"
    assert message in fault.message


def test_every_missing_column_is_reported_with_the_nearest_name():
    table = pd.DataFrame({"Wall_MM": [1], "pots": [2], "outcome": ["red"]})
    with pytest.raises(MismatchFaults) as caught:
        match_columns(table, ["wall_mm", "pots", "peak"], n_features=3, targets=["outcome"])
    assert [fault.message for fault in caught.value.faults] == [
        "Column 1 of the model is `wall_mm`; the reference table has no such column. It has `Wall_MM`, which differs "
        "only in case or punctuation. Rename it to `wall_mm`.",
        "Column 3 of the model is `peak`; the reference table has no such column. Rename the column that holds it, or "
        "upload a table that has it.",
    ]


def test_a_model_without_names_takes_the_tables_if_the_count_fits():
    table = pd.DataFrame({"pots": [1], "peak": [2], "outcome": ["red"]})
    assert match_columns(table, None, n_features=2, targets=["outcome"]) == ["pots", "peak"]
    with pytest.raises(MismatchFaults, match="The model wants 3 columns"):
        match_columns(table, None, n_features=3, targets=["outcome"])
