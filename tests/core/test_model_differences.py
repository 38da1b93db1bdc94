"""What differs between two models: names, classes in another order, and answers told as the page says them."""

import pytest

from plain_window.core.answers import AnyAnswerSetting, ClassSetting, LabelsSetting, NumberSetting, NumbersSetting
from plain_window.core.answers.kinds import ClassWording, LabelWording
from plain_window.core.documents.model_differences import compare_answers


def classes(*names: str, **setting) -> ClassSetting:
    return ClassSetting(classes=[ClassWording(name=one, label=one.title(), headline=one) for one in names], **setting)


def labels(*names: str) -> LabelsSetting:
    return LabelsSetting(labels=[LabelWording(name=one, label=one, headline=one) for one in names])


def both(setting: AnyAnswerSetting) -> tuple[AnyAnswerSetting, AnyAnswerSetting]:
    return setting, setting


def test_classes_are_found_again_by_name_whatever_their_order():
    settings = classes("cracks", "sound"), classes("sound", "cracks")
    found = compare_answers([[0.9, 0.1], [0.2, 0.8]], [[0.1, 0.9], [0.3, 0.7]], None, settings=settings)
    assert (found.cases, found.same, found.changed) == (2, 1, 1)
    assert [(one.at, one.before, one.after) for one in found.examples] == [(1, "sound", "cracks")]


def test_classes_that_were_all_named_anew_are_found_by_their_place():
    settings = classes("0", "1"), classes("Sound", "Cracks")
    found = compare_answers(
        [[0.9, 0.1], [0.2, 0.8]], [[0.9, 0.1], [0.9, 0.1]], [["Sound"], ["Sound"]], settings=settings
    )
    assert (found.same, found.better, found.right) == (1, 1, (1, 2))
    assert (found.examples[0].before, found.examples[0].after) == ("Cracks", "Sound")


def test_each_answer_is_said_by_its_own_threshold():
    settings = classes("cracks", "sound"), classes("cracks", "sound", threshold=0.2, threshold_of="cracks")
    found = compare_answers([[0.3, 0.7]], [[0.3, 0.7]], [["sound"]], settings=settings)
    assert (found.same, found.worse, found.right) == (0, 1, (1, 0))


def test_numbers_tell_how_far_off_each_is_and_the_worse_come_first():
    old, new, truths = [[1.0], [2.0], [3.0]], [[1.5], [2.0], [5.0]], [[2.0], [2.0], [3.0]]
    found = compare_answers(old, new, truths, settings=both(NumberSetting()))
    assert (found.same, found.better, found.worse) == (1, 1, 1)
    assert found.mean_absolute_error == pytest.approx((1 / 3, 2.5 / 3))
    assert [(one.at, one.verdict) for one in found.examples] == [(2, "worse"), (0, "better")]


def test_of_several_numbers_a_gain_that_costs_elsewhere_is_a_change():
    setting = NumbersSetting(values=[NumberSetting(name="kwh"), NumberSetting(name="hours")])
    old, truths = [[1.0, 1.0]] * 3, [[2.0, 2.0]] * 3
    found = compare_answers(old, [[2.0, 1.0], [2.0, 0.0], [0.0, 1.0]], truths, settings=both(setting))
    assert [(one.at, one.verdict) for one in found.examples] == [(2, "worse"), (0, "better"), (1, "changed")]
    assert found.examples[0].before == "1 · 1"
    assert found.examples[0].truth == "2 · 2"


def test_labels_are_compared_as_they_apply_not_by_their_probabilities():
    truths = [[True, False], [True, True]]
    found = compare_answers(
        [[0.9, 0.1], [0.9, 0.1]], [[0.6, 0.4], [0.9, 0.7]], truths, settings=both(labels("crack", "pinhole"))
    )
    assert (found.same, found.better) == (1, 1)
    only = found.examples[0]
    assert (only.at, only.before, only.after, only.truth) == (1, "crack", "crack, pinhole", "crack, pinhole")


def test_differences_nobody_could_see_are_none():
    found = compare_answers([[1e6]], [[1e6 + 0.5]], None, settings=both(NumberSetting()))
    assert (found.same, found.changed, found.mean_absolute_error) == (1, 0, None)
