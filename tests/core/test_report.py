"""The figures of a report are those that scikit-learn has for the same rows."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats
from sklearn import metrics
from sklearn.calibration import calibration_curve

from plain_window.core.report.answers import KnownAnswers
from plain_window.core.report.classes import class_figures
from plain_window.core.report.groups import group_figures
from plain_window.core.report.intervals import mean_interval, share_of
from plain_window.core.report.labels import label_figures
from plain_window.core.report.numbers import number_figures
from plain_window.core.report.thresholds import threshold_points
from plain_window.core.trust.student import student_quantile
from plain_window.core.trust.weighing import weigh_classes

RNG = np.random.default_rng(7)


def probabilities(n_rows: int, n_classes: int, seed: int) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    outputs = rng.dirichlet(np.full(n_classes, 0.7), n_rows)
    truths = np.array([rng.choice(n_classes, p=row) for row in outputs])
    return outputs, truths


@settings(deadline=None)
@given(st.integers(2, 5), st.integers(20, 300), st.integers(0, 2**32 - 1))
def test_classes(n_classes, n_rows, seed):
    outputs, truths = probabilities(n_rows, n_classes, seed)
    names, answered = [f"class {at}" for at in range(n_classes)], outputs.argmax(axis=1)
    found = class_figures(outputs, truths, names, gives_probabilities=True)
    places = list(range(n_classes))
    assert found.share_right.value == pytest.approx(metrics.accuracy_score(truths, answered))
    assert found.share_right.low <= found.share_right.value <= found.share_right.high
    assert found.confusion.counts == metrics.confusion_matrix(truths, answered, labels=places).tolist()
    precision, recall, _, support = metrics.precision_recall_fscore_support(
        truths, answered, labels=places, zero_division=np.nan
    )
    for at, row in enumerate(found.by_class):
        assert row.cases == support[at]
        assert row.precision == (None if np.isnan(precision[at]) else pytest.approx(precision[at]))
        assert row.recall == (None if np.isnan(recall[at]) else pytest.approx(recall[at]))
    assert found.log_loss == pytest.approx(metrics.log_loss(truths, outputs, labels=places))
    as_asked = outputs[:, 1] if n_classes == 2 else outputs
    assert found.brier == pytest.approx(metrics.brier_score_loss(truths, as_asked, labels=places))


def test_probabilities_that_come_true():
    outputs, truths = probabilities(500, 2, 3)
    found = class_figures(outputs, truths, ["sound", "cracks"], gives_probabilities=True)
    happened, predicted = calibration_curve(truths, outputs[:, 1], n_bins=10)
    assert found.calibration_of == "cracks"
    assert [one.happened for one in found.calibration] == pytest.approx(happened)
    assert [one.predicted for one in found.calibration] == pytest.approx(predicted)
    assert sum(one.cases for one in found.calibration) == 500
    many = class_figures(*probabilities(300, 4, 4), list("abcd"), gives_probabilities=True)
    assert many.calibration_of is None


def test_a_model_without_probabilities_has_no_losses():
    outputs, truths = probabilities(50, 3, 5)
    votes = np.eye(3)[outputs.argmax(axis=1)]
    found = class_figures(votes, truths, list("abc"), gives_probabilities=False)
    assert (found.log_loss, found.brier, found.calibration) == (None, None, [])


@settings(deadline=None)
@given(st.integers(3, 400), st.integers(0, 2**32 - 1))
def test_numbers(n_rows, seed):
    rng = np.random.default_rng(seed)
    truths = rng.normal(400, 80, n_rows)
    values = truths + rng.normal(5, 20, n_rows)
    found = number_figures(values, truths, coverage=0.9)
    assert found.mean_absolute_error == pytest.approx(metrics.mean_absolute_error(truths, values))
    assert found.root_mean_square_error == pytest.approx(metrics.root_mean_squared_error(truths, values))
    assert found.median_absolute_error == pytest.approx(metrics.median_absolute_error(truths, values))
    assert found.r2 == pytest.approx(metrics.r2_score(truths, values))
    assert sum(one.cases for one in found.errors) == n_rows


def test_intervals_are_tried_on_cases_that_had_no_part_in_making_them():
    truths = RNG.normal(size=2000)
    found = number_figures(truths + RNG.normal(size=2000), truths, coverage=0.8)
    assert found.coverage_interval.low < 0.8 < found.coverage_interval.high
    # Few cases make no interval, and none is claimed; one tells nothing of the mean.
    assert number_figures(truths[:1], truths[1:2], coverage=0.9).mean_absolute_error_interval is None
    assert number_figures(truths[:3], truths[1:4], coverage=0.9).coverage is None


def test_errors_against_answers_hold_every_case_once():
    truths = RNG.uniform(0, 100, 500)
    # Twice as far off where answers are high.
    values = truths + RNG.normal(size=500) * np.where(truths > 50, 8, 2)
    found = number_figures(values, truths, coverage=0.9).by_prediction
    assert sum(one.cases for one in found) == 500
    assert all(one.low_error <= one.median <= one.high_error for one in found)
    assert found[-1].high_error - found[-1].low_error > 2 * (found[0].high_error - found[0].low_error)
    assert number_figures(truths[:30], truths[:30], coverage=None).by_prediction == []


@settings(deadline=None, max_examples=30)
@given(st.integers(0, 1), st.integers(1, 99), st.integers(0, 2**32 - 1))
def test_of_two_classes_one_is_said_from_its_threshold_on(place, percent, seed):
    rng = np.random.default_rng(seed)
    chances = rng.random(300)
    outputs, truths = np.column_stack([chances, 1 - chances]), (rng.random(300) > chances).astype(int)
    said = np.where(outputs[:, place] >= percent / 100, place, 1 - place)
    found = class_figures(outputs, truths, "ab", gives_probabilities=True, threshold=(place, percent / 100))
    assert found.share_right.value == pytest.approx(metrics.accuracy_score(truths, said))
    assert found.confusion.counts == metrics.confusion_matrix(truths, said, labels=[0, 1]).tolist()
    point = threshold_points(outputs[:, place], truths == place)[percent - 1]
    assert (point.hits, point.misses) == (
        found.confusion.counts[place][place],
        found.confusion.counts[place][1 - place],
    )
    assert point.false_alarms == found.confusion.counts[1 - place][place]
    evidence = weigh_classes(outputs, truths)
    assert evidence.n_right_from[place][percent - 1] == (said == truths).sum()


def test_a_label_at_its_threshold():
    chances = RNG.random(400)
    applied = RNG.random(400) < chances
    found = label_figures(chances, applied, threshold=0.3)
    said = chances >= 0.3
    assert found.share_right.value == pytest.approx(metrics.accuracy_score(applied, said))
    assert found.precision == pytest.approx(metrics.precision_score(applied, said))
    assert found.recall == pytest.approx(metrics.recall_score(applied, said))


def test_groups_hold_every_case_once_and_say_when_they_are_small():
    bodies = ["stoneware"] * 100 + ["porcelain"] * 60 + [None] * 5
    right = RNG.random(165) < 0.7
    groups = group_figures(bodies, right=right, errors=None, is_number=False, label_of=str)
    assert [(group.label, group.cases, group.is_small) for group in groups] == [
        ("stoneware", 100, False),
        ("porcelain", 60, False),
        ("not known", 5, True),
    ]
    assert groups[1].share_right.value == pytest.approx(right[100:160].mean())
    many = group_figures(
        [f"kiln {at}" for at in range(40)] * 3, right=right[:120], errors=None, is_number=False, label_of=str
    )
    assert sum(group.cases for group in many) == 120
    assert many[-1].label == "all others"
    walls = [*RNG.normal(7, 2, 160), None, None, None, None, None]
    quarters = group_figures(walls, right=None, errors=np.ones(165), is_number=True, label_of="{:.1f}".format)
    assert [group.cases for group in quarters] == [40, 40, 40, 40, 5]
    assert all(group.mean_absolute_error == 1 for group in quarters)


def test_cases_of_one_thing_count_as_one():
    """Five of each of forty batches that go wrong together are no more evidence than the forty."""
    batches, of_batch = np.repeat(np.arange(40), 5), np.repeat(RNG.normal(10, 3, 40), 5)
    apart = number_figures(np.zeros(200), of_batch, coverage=0.8)
    found = number_figures(np.zeros(200), of_batch, coverage=0.8, together=batches)
    once = number_figures(np.zeros(40), of_batch[::5], coverage=None).mean_absolute_error_interval
    assert found.mean_absolute_error_interval.low == pytest.approx(once.low)
    assert found.mean_absolute_error_interval.high == pytest.approx(once.high)
    assert found.coverage_interval.high - found.coverage_interval.low > 1.5 * (
        apart.coverage_interval.high - apart.coverage_interval.low
    )
    # Where each goes wrong by itself, that they are of one batch makes no great difference.
    alone = RNG.random(200) < 0.8
    plain, of_batches = share_of(alone), share_of(alone, batches)
    assert of_batches.high - of_batches.low == pytest.approx(plain.high - plain.low, rel=0.3)
    assert share_of(alone, np.arange(200)).low == pytest.approx(plain.low, abs=1e-4)
    # Of one batch alone nothing follows for others.
    assert (share_of(alone, np.zeros(200)).low, share_of(alone, np.zeros(200)).high) == (0, 1)
    assert mean_interval(of_batch, np.zeros(200)) is None


@pytest.mark.parametrize("n", [1, 2, 3, 4, 5, 9, 30, 400])
def test_students_quantiles_are_the_librarys(n):
    for tail in (0.025, 0.025 / 4, 0.25):
        assert student_quantile(tail, n) == pytest.approx(stats.t.isf(tail, n), rel=1e-5)


def test_the_worst_case_is_the_surest_mistake():
    outputs = np.array([[0.9, 0.1], [0.4, 0.6], [0.55, 0.45], [0.99, 0.01]])
    places = np.arange(4)
    answers = KnownAnswers(places, places, outputs, np.array([[0.0], [0.0], [0.0], [1.0]]))
    assert np.argsort(-answers.losses("class")).tolist() == [3, 1, 2, 0]
    assert answers.is_right("class").tolist() == [True, False, True, False]
