"""What matters overall, against what it is by definition."""

import itertools

import numpy as np
import pytest
from sklearn.linear_model import LinearRegression

from plain_window.core.contract import Missing
from plain_window.core.contract.kept_rows import KeptRows
from plain_window.core.contract.requests import OverallRequest
from plain_window.core.explain.explainer import Explainer
from plain_window.core.explain.overall import MOST_ROWS, Overall
from plain_window.core.model_service.overall_of_rows import OverallOfRows

from .plans import TABLE
from .test_explain import explainer_of, facts_of

NUMBERS = TABLE[["pots", "peak"]]
WEIGHTS = {"pots": 2.0, "peak": 0.5}
KWH = sum(weight * TABLE[name] for name, weight in WEIGHTS.items())


def overall_of(*, known=None, clock=lambda: 0.0, thorough=False, asked=None) -> Overall:
    explainer = explainer_of(LinearRegression().fit(NUMBERS, KWH), NUMBERS)
    columns = {name: NUMBERS[name].tolist() for name in NUMBERS}

    def predict(rows):
        if asked is not None:
            asked.append(len(rows["pots"]))
        return sum(weight * np.array(rows[name], dtype=float) for name, weight in WEIGHTS.items())[:, None]

    outcomes = predict(known or columns)[:, 0]
    if asked is not None:
        asked.clear()
    return Overall(
        explainer,
        predict,
        columns,
        facts_of(NUMBERS),
        of=0,
        known=known or {},
        errors=lambda outputs: np.abs(outputs[:, 0] - outcomes[: len(outputs)]),
        clock=clock,
        thorough=thorough,
    )


def done(overall: Overall) -> dict:
    while not overall.is_done:
        overall.work()
    return {one.name: one for one in overall.state().fields}


def test_importance_is_the_mean_absolute_contribution_and_the_strongest_comes_first():
    fields = done(overall_of())
    for name, one in fields.items():
        sample = NUMBERS[name].head(40).mean()
        sizes = np.abs(WEIGHTS[name] * (NUMBERS[name].head(MOST_ROWS) - sample))
        assert one.importance == pytest.approx(sizes.mean())
        half = 1.96 * sizes.std(ddof=1) / np.sqrt(len(sizes))
        assert (one.importance_low, one.importance_high) == pytest.approx((sizes.mean() - half, sizes.mean() + half))
    importances = [one.importance for one in fields.values()]
    assert importances == sorted(importances, reverse=True)


def test_direction_says_that_low_values_lower_and_high_ones_raise():
    for name, one in done(overall_of()).items():
        assert [part.words for part in one.parts] == ["low", "middle", "high"]
        middles = [part.contributions.middle for part in one.parts]
        assert middles == sorted(middles)
        assert sum(part.n_rows for part in one.parts) == len(NUMBERS)
        assert one.parts[0].low == NUMBERS[name].min()
        assert one.parts[2].high == NUMBERS[name].max()


def test_the_average_curve_of_a_line_is_a_line_and_its_band_has_the_width_of_the_rest():
    for name, one in done(overall_of()).items():
        slopes = [
            (b[1].middle - a[1].middle) / (b[0] - a[0])
            for a, b in itertools.pairwise(zip(one.curve_x, one.curve, strict=True))
        ]
        assert slopes == pytest.approx([WEIGHTS[name]] * len(slopes))
        widths = [spread.high - spread.low for spread in one.curve]
        assert widths == pytest.approx([widths[0]] * len(widths))
        assert widths[0] > 0


def test_shuffling_what_matters_makes_the_model_wrong():
    known = {name: NUMBERS[name].tail(100).tolist() for name in NUMBERS}
    for name, one in done(overall_of(known=known)).items():
        rise, low, high = one.shuffled
        # Two independent draws of a value are on average so far apart.
        values = np.array(known[name])
        apart = WEIGHTS[name] * np.abs(values[:, None] - values).mean()
        assert rise == pytest.approx(apart, rel=0.25)
        assert 0 < low < rise < high


def test_what_is_known_so_far_can_be_read_at_any_time():
    overall = overall_of()
    assert overall.state().n_rows == 0
    for _ in range(10):
        overall.work()
    early = {one.name: one for one in overall.state().fields}
    assert overall.state().n_rows == 10
    assert 0 < overall.state().share_done < 1
    late = done(overall)
    for name in late:
        assert early[name].importance_high - early[name].importance_low > (
            late[name].importance_high - late[name].importance_low
        )


def test_time_that_runs_out_leaves_fewer_rows_and_says_so():
    ticking = itertools.count()
    overall = overall_of(clock=lambda: float(next(ticking)))
    done(overall)
    assert 1 < overall.state().n_rows < 20
    assert overall.state().share_done == 1.0


def test_thoroughly_all_rows_count_and_a_slow_model_is_asked_a_few_at_a_time(monkeypatch):
    monkeypatch.setattr(Explainer, "affordable_rows", lambda self, seconds: 7)
    known = {name: NUMBERS[name].tail(50).tolist() for name in NUMBERS}
    ticking, asked = itertools.count(), []
    overall = overall_of(known=known, clock=lambda: float(next(ticking)), thorough=True, asked=asked)
    fields = done(overall)
    assert (overall.state().n_rows, overall.state().n_known, overall.state().share_done) == (len(NUMBERS), 50, 1.0)
    assert max(asked) == 7
    assert all(one.shuffled and one.curve for one in fields.values())


def test_that_all_rows_cannot_be_asked_about_takes_nothing_from_what_some_said(monkeypatch):
    monkeypatch.setattr(Explainer, "affordable_rows", lambda self, seconds: 30)
    columns = {name: NUMBERS[name].tolist() for name in NUMBERS}

    def predict(rows):
        # Of one known case, behind those that a glance takes, the model has no number.
        return np.array([[np.nan if peak == -1.0 else pots] for pots, peak in zip(*rows.values(), strict=True)])

    known = {name: values[:60] for name, values in columns.items()} | {"peak": [*columns["peak"][:59], -1.0]}
    kept = KeptRows(columns=columns, known_columns=known, known_outcomes=known["pots"])
    explainer = explainer_of(LinearRegression().fit(NUMBERS, KWH), NUMBERS)
    overall = OverallOfRows(explainer, predict, kept, facts_of(NUMBERS), is_class=False)
    for thorough in (False, True):
        overall.answer(OverallRequest(of=0, thorough=thorough))
    while overall.has_work:
        overall.work()
    assert overall.answer(OverallRequest(of=0, thorough=True)) == Missing("reference-not-answered")
    found = overall.answer(OverallRequest(of=0))
    assert (found.share_done, found.n_known) == (1.0, 30)
