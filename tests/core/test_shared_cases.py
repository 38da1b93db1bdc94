"""Cases that two models can both be asked about: whose rows, by which names, with what happened."""

import pytest

from plain_window.core.answers import ClassSetting, LabelsSetting, NumberSetting
from plain_window.core.answers.kinds import ClassWording, LabelWording
from plain_window.core.contract.kept_rows import KeptRows
from plain_window.core.documents.shared_cases import MOST_CASES, compare_known_pictures, shared_cases

KWH = NumberSetting(name="kwh"), NumberSetting(name="kwh")


def classes(*names: str) -> ClassSetting:
    return ClassSetting(classes=[ClassWording(name=one, label=one, headline=one) for one in names])


def known(outcomes: list[float], **columns: list) -> KeptRows:
    return KeptRows(columns={}, known_columns=columns, known_outcomes=outcomes)


def test_known_cases_of_the_new_one_go_before_its_reference_rows():
    rows = KeptRows({"pots": [1, 2]}, known_columns={"pots": [7, 8]}, known_outcomes=[70.0, 80.0])
    found = shared_cases((None, rows), ({"pots"}, {"pots"}), KWH, {})
    assert (found.old_rows, found.truths) == ([{"pots": 7}, {"pots": 8}], [[70.0], [80.0]])
    without = shared_cases((None, KeptRows({"pots": [1, 2]})), ({"pots"}, {"pots"}), KWH, {})
    assert (without.new_rows, without.truths) == ([{"pots": 1}, {"pots": 2}], None)


def test_where_the_old_one_takes_more_its_own_rows_do():
    old, new = known([1.0], pots=[5], peak=[1200]), known([2.0], pots=[6])
    found = shared_cases((old, new), ({"pots", "peak"}, {"pots"}), KWH, {})
    assert (found.old_rows, found.new_rows) == ([{"pots": 5, "peak": 1200}], [{"pots": 5}])
    assert found.truths == [[1.0]]


@pytest.mark.parametrize("which", [0, 1])
def test_a_feature_with_another_name_is_given_to_each_by_the_name_it_knows(which):
    own = known([1.0], **({"peak": [1200]} if which == 0 else {"peak_celsius": [1200]}))
    kept = (own, None) if which == 0 else (None, own)
    found = shared_cases(kept, ({"peak"}, {"peak_celsius"}), KWH, {"peak_celsius": "peak"})
    assert (found.old_rows, found.new_rows) == ([{"peak": 1200}], [{"peak_celsius": 1200}])


def test_names_that_two_features_swapped_are_not_mixed_up():
    kept = None, known([1.0], inner=[4], outer=[9])
    names = {"inner", "outer"}
    found = shared_cases(kept, (names, names), KWH, {"inner": "outer", "outer": "inner"})
    assert (found.old_rows, found.new_rows) == ([{"inner": 9, "outer": 4}], [{"inner": 4, "outer": 9}])


def test_cases_come_from_all_of_a_table_that_may_be_sorted():
    n_rows = 10 * MOST_CASES
    kept = None, known([float(at) for at in range(n_rows)], pots=list(range(n_rows)))
    found = shared_cases(kept, ({"pots"}, {"pots"}), KWH, {})
    assert len(found.truths) == MOST_CASES
    assert (found.truths[0], found.truths[-1]) == ([0.0], [float(n_rows - 10)])


@pytest.mark.parametrize(
    ("kept", "why"),
    [
        ((None, None), "rows"),
        ((KeptRows({}), None), "rows"),
        ((known([1.0], pots=[5]), known([1.0], peak=[1200])), "features"),
    ],
)
def test_where_there_are_none_it_is_told_why(kept, why):
    assert shared_cases(kept, ({"pots"}, {"peak"}), KWH, {}) == why


def test_what_happened_is_told_as_answers_are_said():
    turned = classes("sound", "cracks"), classes("cracks", "sound")
    of_classes = shared_cases((None, known([1.0, 0.0], pots=[1, 2])), ({"pots"}, {"pots"}), turned, {})
    assert of_classes.truths == [["sound"], ["cracks"]]
    labels = LabelsSetting(labels=[LabelWording(name=one, label=one, headline=one) for one in ("crack", "pinhole")])
    several = KeptRows({}, known_columns={"pots": [1]}, known_outcomes=[0.0], known_truths=[[1.0, 0.0]])
    of_labels = shared_cases((None, several), ({"pots"}, {"pots"}), (labels, labels), {})
    assert of_labels.truths == [[True, False]]


def pictures(outputs: list[list[float]], truths: list[float], names: tuple[str, ...] = ("a", "b", "c")) -> KeptRows:
    return KeptRows(
        {},
        known_places=[0, 2, 5],
        known_names=list(names),
        known_outputs=outputs,
        known_truths=[[truth] for truth in truths],
    )


def test_known_pictures_are_compared_by_what_both_said_then():
    settings = classes("red", "blue"), classes("blue", "red")
    old = pictures([[0.9, 0.1], [0.2, 0.8], [0.3, 0.7]], [0.0, 1.0, float("nan")])
    new = pictures([[0.1, 0.9], [0.3, 0.7], [0.5, 0.5]], [1.0, 0.0, float("nan")])
    found = compare_known_pictures(old, new, settings)
    # What shows nobody knows what is not counted; places are those of the archive.
    assert (found.cases, found.same, found.worse, found.right) == (2, 1, 1, (2, 1))
    assert [(one.at, one.before, one.after, one.truth) for one in found.examples] == [(2, "blue", "red", "blue")]


def test_other_pictures_are_not_compared():
    settings = classes("red", "blue"), classes("red", "blue")
    old = pictures([[0.9, 0.1]] * 3, [0.0] * 3)
    for new in (None, pictures([[0.9, 0.1]] * 3, [0.0] * 3, names=("a", "b", "d")), pictures([], [0.0] * 3)):
        assert compare_known_pictures(old, new, settings).why_not == "pictures"
