"""A model's output as an answer."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.answers import (
    ClassSetting,
    ClassWording,
    LabelsSetting,
    LabelWording,
    NumberSetting,
    NumbersSetting,
    make_answer,
)
from plain_window.core.answers.rounding import decimals_for_spread, number_words, share_100
from plain_window.core.answers.wording import one_of
from plain_window.core.errors import ModelFailed

CLASSES = ClassSetting(
    noun="pieces",
    classes=[ClassWording(name=name, label=name, headline=f"Likely: {name}") for name in ("cracks", "sound", "warps")],
)


@given(st.lists(st.floats(0, 1), min_size=1, max_size=30).filter(lambda shares: sum(shares) > 1e-6))
def test_marks_add_up_to_100_and_are_off_by_less_than_one(shares):
    marks = share_100(shares)
    assert sum(marks) == 100
    total = math.fsum(shares)
    assert all(abs(mark - 100 * share / total) < 1 for mark, share in zip(marks, shares, strict=True))


def test_classes_come_likeliest_first_each_with_its_own_probability():
    answer, notes = make_answer(CLASSES, [0.2, 0.1, 0.7])
    assert [(item.class_, item.probability, item.of_100) for item in answer.probabilities] == [
        ("warps", 0.7, 70),
        ("cracks", 0.2, 20),
        ("sound", 0.1, 10),
    ]
    assert (answer.class_, answer.headline, notes) == ("warps", "Likely: warps", [])


def test_a_model_without_probabilities_gives_only_its_class():
    answer, _ = make_answer(CLASSES.model_copy(update={"gives_probabilities": False}), [0, 1, 0])
    assert (answer.class_, answer.probabilities) == ("sound", [])


@pytest.mark.parametrize("output", [[math.nan, 0.5, 0.5], [math.inf, 0, 0], [0.5, 0.1, 0.1], [1.5, -0.5, 0.0]])
def test_what_is_no_probability_is_no_answer(output):
    with pytest.raises(ModelFailed):
        make_answer(CLASSES, output)


@pytest.mark.parametrize(("value", "n_notes"), [(300.0, 1), (412.3, 0), (900.0, 1)])
def test_a_number_outside_what_the_table_has_seen_carries_a_note(value, n_notes):
    setting = NumberSetting(name="Energy", unit="kWh", decimals=0, low=380, high=447)
    answer, notes = make_answer(setting, [value])
    assert (answer.value, answer.unit, answer.text) == (value, "kWh", f"{value:.0f}")
    assert len(notes) == n_notes
    assert all(note.field is None and "380 to 447 kWh" in note.message for note in notes)


def test_several_numbers_and_several_labels():
    several = NumbersSetting(values=[NumberSetting(name="Gas", unit="m³", decimals=1), NumberSetting(name="Hours")])
    answer, _ = make_answer(several, [12.34, 9])
    assert [(item.name, item.text, item.unit) for item in answer.values] == [
        ("Gas", "12.3", "m³"),
        ("Hours", "9.00", ""),
    ]
    wordings = [LabelWording(name=name, label=f"has {name}", headline=name) for name in ("cracks", "sound", "warps")]
    wordings[2].threshold = 0.3
    answer, _ = make_answer(LabelsSetting(labels=wordings), [0.1, 0.905, 0.4])
    assert [(item.name, item.label, item.of_100, item.applies) for item in answer.labels] == [
        ("sound", "has sound", 91, True),
        ("warps", "has warps", 40, True),
        ("cracks", "has cracks", 10, False),
    ]


def test_words_agree_in_number_by_the_authors_forms_or_a_guess():
    classes = [
        ClassWording(name="crazed", label="are crazed", headline="Crazed"),
        ClassWording(name="even", label="come out even", label_one="is as it should be", headline="Even"),
    ]
    setting = ClassSetting(noun="tiles", classes=classes)
    one_of_each = [make_answer(setting, outputs)[0].probabilities for outputs in ([0.01, 0.99], [0.99, 0.01])]
    assert [(item.of_100, item.label) for item in one_of_each[0]] == [(99, "come out even"), (1, "is crazed")]
    assert [(item.of_100, item.label) for item in one_of_each[1]] == [(99, "are crazed"), (1, "is as it should be")]
    assert [one_of(noun) for noun in ("tiles", "dishes", "pieces of ware", "berries", "glass")] == [
        "tile",
        "dish",
        "piece of ware",
        "berry",
        "glass",
    ]
    assert one_of("tiles", "square") == "square"


@pytest.mark.parametrize(("spread", "decimals"), [(350, 0), (90, 1), (0.8, 3), (0, 2), (math.nan, 2), (1e-30, 10)])
def test_no_more_digits_than_a_hundredth_of_the_spread(spread, decimals):
    assert decimals_for_spread(spread) == decimals


@pytest.mark.parametrize(
    ("value", "decimals", "text"), [(1234567.89, 1, "1\u202f234\u202f567.9"), (-0.001, 1, "0.0"), (-3.26, 1, "−3.3")]
)
def test_numbers_are_written_for_reading(value, decimals, text):
    assert number_words(value, decimals) == text
