"""What covered parts tell: patches of a picture, strokes of a drawing."""

import numpy as np
import pytest

from plain_window.core.explain.coalitions import enumerate_coalitions
from plain_window.core.explain.groups import GroupContributions
from plain_window.core.explain.patches import PatchGrid, region_sums
from plain_window.core.pictures.preparation import as_input
from plain_window.core.pictures.settings import Preparation


def game(n_parts, seed=0):
    """A model whose parts work together, squashed like a probability."""
    weights = np.random.default_rng(seed).normal(size=(n_parts, n_parts)) * 0.4

    def ask(shown):
        given = shown.astype("float64")
        return 1 / (1 + np.exp(1 - given @ weights.sum(axis=1) - np.einsum("bi,ij,bj->b", given, weights, given)))

    return ask


def exact(ask, n_parts):
    return enumerate_coalitions(lambda takes, _: ask(takes.astype(bool))[:, None], n_fields=n_parts, n_sample_rows=1)[
        :, 0
    ]


def finished(ask, n_parts, seed=0):
    contributions = GroupContributions(ask, n_parts, seed=seed)
    states = [contributions.state]
    while not states[-1].is_done:
        contributions.advance(64)
        states.append(contributions.state)
    return states


def test_few_parts_are_exact():
    ask = game(6)
    *_, last = finished(ask, 6)
    assert last.method == "exact-enumeration"
    np.testing.assert_allclose(last.contributions, exact(ask, 6), rtol=0, atol=1e-12)


def test_few_parts_too_are_asked_about_a_batch_at_a_time_and_no_more_often_than_there_is_time_for():
    asked = []

    def ask(shown):
        asked.append(len(shown))
        return game(9)(shown)

    all_groups, some = (GroupContributions(ask, 9, seed=0, most_pairs=most) for most in (256, 100))
    asked.clear()
    while not all_groups.is_done:
        all_groups.advance(64)
        assert all_groups.state.method == ("exact-enumeration" if all_groups.is_done else "sketch")
    assert asked == [64] * 8
    while not some.is_done:
        some.advance(64)
    assert (some.state.method, some.state.n_asked) == ("sampled", 11 + 200)
    assert np.abs(some.state.contributions - exact(game(9), 9)).max() < 3 * some.state.errors.max()


def test_the_stated_error_holds_and_every_state_adds_up():
    ask, true = game(12), exact(game(12), 12)
    inside = []
    for seed in range(100):
        states = finished(ask, 12, seed)
        for state in states:
            assert state.contributions.sum() == pytest.approx(state.whole - state.covered)
        inside.append(np.abs(states[-1].contributions - true) <= 1.96 * states[-1].errors)
    assert np.mean(inside) >= 0.93


def test_it_begins_with_a_sketch_and_gets_sharper():
    first, *_, last = finished(game(20), 20)
    assert (first.method, first.n_asked, first.is_done) == ("sketch", 22, False)
    assert np.isnan(first.errors).all()
    assert last.method == "sampled"
    true = exact(game(20), 20)
    assert np.abs(last.contributions - true).max() < np.abs(first.contributions - true).max()


@pytest.mark.parametrize("at_once", [2, 30, 96, 500])
def test_same_case_same_numbers_however_many_are_asked_about_at_a_time(at_once):
    one, other = (GroupContributions(game(15), 15, seed=3) for _ in range(2))
    while not one.is_done:
        one.advance(96)
    while not other.is_done:
        other.advance(at_once)
    assert one.state.n_asked == other.state.n_asked
    np.testing.assert_allclose(one.state.contributions, other.state.contributions, rtol=0, atol=1e-12)


def test_it_ends_after_so_many_pairs_at_the_most():
    few = GroupContributions(game(20), 20, seed=0, most_pairs=7)
    while not few.is_done:
        few.advance(4)
    # Fewer pairs than parts are no fit: the sketch is what there is.
    assert (few.state.method, few.state.is_done, few.state.n_asked) == ("sketch", True, 22 + 14)


def test_one_part_is_all_there_is():
    (only,) = finished(lambda shown: np.where(shown[:, 0], 0.9, 0.2), 1)
    assert only.is_done
    assert only.contributions == pytest.approx([0.7])


@pytest.mark.parametrize("layout", ["channels first", "channels last", "flat"])
def test_a_covered_patch_shows_the_average_colour_and_the_rest_stays(layout):
    seen = np.random.default_rng(0).integers(0, 256, (28, 21, 3)).astype("uint8")
    preparation = Preparation(width=21, height=28, layout=layout, batch=False)
    grid = PatchGrid.of(seen, preparation)
    assert (grid.n_rows, grid.n_columns) == (7, 5)
    shown = np.ones((2, 35), bool)
    # Row 1, column 2.
    shown[1, 7] = False
    whole, partly = grid.pictures(shown)
    np.testing.assert_array_equal(whole, as_input(seen, preparation))
    expected = seen.copy()
    # Columns of 21 pixels in five: 21 · 2 / 5 to 21 · 3 / 5.
    expected[4:8, 9:13] = np.rint(seen.reshape(-1, 3).mean(axis=0))
    np.testing.assert_array_equal(partly, as_input(expected, preparation))


def test_regions_are_told_by_their_place():
    contributions = np.zeros((7, 7))
    contributions[0, 0], contributions[3, 3], contributions[6, 5] = 0.1, -0.5, 0.2
    said = region_sums(contributions.ravel(), np.eye(49) * 0.01, 7, 7)
    strongest = [(one.words, round(one.contribution, 9)) for one in said[:3]]
    assert strongest == [("centre", -0.5), ("lower right", 0.2), ("upper left", 0.1)]
    # The centre is nine patches whose errors have nothing to do with each other; a corner is four.
    assert [one.error for one in said[:3]] == pytest.approx([0.3, 0.2, 0.2])
    assert len(said) == 9
    assert {one.words for one in region_sums(np.ones(2), np.zeros((2, 2)), 1, 2)} == {"middle left", "middle right"}
