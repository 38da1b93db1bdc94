"""Drift: counts of bins against counts of bins, and the mathematics behind it."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import chi2, chi2_contingency

from plain_window.core.answers import ClassSetting, LabelsSetting, NumberSetting, NumbersSetting
from plain_window.core.answers.kinds import ClassWording, LabelWording
from plain_window.core.drift.bins import (
    GAP,
    CaseBins,
    answered_values,
    count_bins,
    field_bins,
)
from plain_window.core.drift.distance import FEWEST_CASES, chi_square_above, drift_between
from plain_window.core.fields import ChoiceField, NumberField, Option, TextField, YesNoField
from plain_window.core.fields.kinds import Seen

SEEN = Seen(low=10, high=30, usual_low=15, usual_high=25, counts=[5, 10, 10, 5])
WALL = NumberField(name="wall", label="Wall", minimum=10, maximum=30, step=1, default=20, seen=SEEN)
KILN = ChoiceField(
    name="kiln", label="Kiln", default="gas", options=[Option(value=one, label=one) for one in ("gas", "wood")]
)
HANDLE = YesNoField(name="handle", label="Handle", no=0, yes=1, default=False)


def bin_of(field, value):
    return CaseBins([field], NumberSetting()).of({field.name: value}, [0.0])[field.name]


@given(st.floats(0, 400), st.integers(1, 200))
def test_the_tail_of_chi_square_is_scipys(statistic, degrees):
    assert chi_square_above(statistic, degrees) == pytest.approx(chi2.sf(statistic, degrees), rel=1e-9, abs=1e-14)


@given(st.lists(st.tuples(st.integers(40, 400), st.integers(40, 400)), min_size=2, max_size=12))
def test_where_every_bin_is_full_the_test_is_scipys(counts):
    own, other = (dict(enumerate(column)) for column in zip(*counts, strict=True))
    expected = chi2_contingency(np.array(counts).T, correction=False).pvalue
    assert drift_between(own, other).p == pytest.approx(expected, rel=1e-9, abs=1e-14)


def test_use_like_the_table_is_no_drift_and_use_from_elsewhere_is():
    rng = np.random.default_rng(3)
    table = count_bins(WALL, rng.uniform(10, 30, 2000))
    alike = [drift_between(table, count_bins(WALL, rng.uniform(10, 30, 200)), n_tested=10) for _ in range(300)]
    # One in a hundred over ten fields: of 300 tries hardly one.
    assert sum(one.drifted for one in alike) <= 2
    thick = drift_between(table, count_bins(WALL, rng.uniform(24, 40, 200)), n_tested=10)
    assert thick.drifted
    assert thick.distance > 0.6


def test_of_few_cases_nothing_is_said_and_a_small_difference_is_no_matter():
    few = drift_between({0: 500, 1: 500}, {0: FEWEST_CASES - 1})
    assert (few.p, few.drifted) == (None, False)
    small = drift_between({0: 50_000, 1: 50_000}, {0: 52_000, 1: 48_000})
    assert small.p < 1e-6
    assert not small.drifted


def test_every_value_has_a_bin_with_a_name():
    names = field_bins(WALL)
    assert [bin_of(WALL, value) for value in (9, 10, 14.9, 15, 30, 31, math.inf, None)] == [0, 1, 1, 2, 4, 5, GAP, GAP]
    assert (names[0], names[1], names[-1]) == ("below 10", "10 to 15", "above 30")
    twice = KILN.model_copy(update={"options": [*KILN.options, KILN.options[0]]})
    assert [bin_of(KILN, value) for value in ("gas", "wood", "electric", None)] == [0, 1, 2, GAP]
    assert [bin_of(twice, value) for value in ("gas", "electric")] == [0, 3]
    assert [field_bins(HANDLE)[bin_of(HANDLE, value)] for value in (0, 1)] == ["no", "yes"]


def test_a_case_is_counted_by_its_fields_that_have_bins_and_by_its_answer():
    note = TextField(name="note", label="Note", default="")
    bins = CaseBins([WALL, note, KILN], NumberSetting(low=0, high=20))
    kept = bins.kept({"wall": 12, "note": "thin at the foot", "kiln": "wood"})
    # What visitors write is not held, not even until the case stands.
    assert kept == {"wall": 12, "kiln": "wood"}
    assert bins.of(kept, [10.0]) == {"wall": 1, "kiln": 1, "": 11}
    assert bins.of(bins.kept({}), [10.0]) == {"wall": GAP, "kiln": GAP, "": 11}


def test_bins_of_dates_are_named_by_dates_and_neighbours_differ():
    seen = Seen(low=20454, high=20754, usual_low=20500, usual_high=20700, counts=[1, 1, 1])
    dated = WALL.model_copy(update={"seen": seen, "calendar": "days"})
    assert field_bins(dated)[1] == "2026-01-01 to 2026-04-11"
    plain = dated.model_copy(update={"calendar": ""})
    assert field_bins(plain)[1:4] == ["20454 to 20554", "20554 to 20654", "20654 to 20754"]
    narrow = seen.model_copy(update={"low": 0.001, "high": 0.004})
    assert field_bins(plain.model_copy(update={"seen": narrow}))[2] == "0.002 to 0.003"


def words(kind, *names):
    return [kind(name=one, label=one, headline=one) for one in names]


@pytest.mark.parametrize(
    ("setting", "outputs", "bins"),
    [
        (ClassSetting(classes=words(ClassWording, "cracks", "sound")), [0.3, 0.7], {"": 1}),
        (NumberSetting(low=0, high=20), [10.0], {"": 11}),
        (NumberSetting(), [10.0], {}),
        (
            NumbersSetting(values=[NumberSetting(name="kwh", low=0, high=20), NumberSetting(name="hours")]),
            [-1.0, 5.0],
            {"\x1fkwh": 0},
        ),
        (LabelsSetting(labels=words(LabelWording, "crack", "pinhole")), [0.5, 0.4], {"\x1fcrack": 1, "\x1fpinhole": 0}),
    ],
)
def test_each_part_of_an_answer_falls_into_a_bin_of_its_own(setting, outputs, bins):
    assert CaseBins([], setting).of({}, answered_values(setting, outputs)) == bins


def test_a_feature_cannot_pass_for_an_answer():
    named = [WALL.model_copy(update={"name": name}) for name in ("", "\x1fkwh", "wall")]
    bins = CaseBins(named, NumberSetting())
    assert bins.of(bins.kept(dict.fromkeys(("", "\x1fkwh", "wall"), 12)), [10.0]) == {"wall": 1}
