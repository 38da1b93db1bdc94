"""How far answers can be trusted: against closed forms, and against what fresh cases then do."""

import math
from statistics import NormalDist

import numpy as np
import pandas as pd
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.answers import ClassSetting, ClassWording, NumberSetting, make_answer
from plain_window.core.formats.sklearn.adapter import SklearnModel
from plain_window.core.formats.sklearn.pickled import Unpickled, open_pickled
from plain_window.core.intake.evaluation import evaluate_model
from plain_window.core.intake.inspection import inspect_model
from plain_window.core.intake.known_cases import KnownCases, weigh
from plain_window.core.plan.parity import columns_of_table
from plain_window.core.trust.calibration import borne_out
from plain_window.core.trust.conformal import conformal_margin
from plain_window.core.trust.evidence import Evidence, bears_out, margin_at, still_possible
from plain_window.core.trust.likeness import Likeness, describe_picture, describe_text, false_alarm_share
from plain_window.core.trust.similarity import Similarity
from plain_window.core.trust.together import wilson_interval
from plain_window.core.trust.weighing import weigh_classes, weigh_numbers
from plain_window.samples.what_will_this_firing_use.firings import make_firings
from plain_window.samples.will_it_crack.pieces import make_pieces

from ..made_models import classifier_pipeline, firings
from ..studio import ROOT

COVERAGES = [0.5, 0.8, 0.9, 0.95]


def sample_model(name: str) -> SklearnModel:
    with open(ROOT / "plain_window/samples" / name / "demo/model.joblib", "rb") as file:
        return SklearnModel(open_pickled(file))


@given(st.integers(1, 200), st.sampled_from(COVERAGES))
def test_the_margin_is_the_score_of_the_stated_rank(n_rows, coverage):
    rank = math.ceil(round((n_rows + 1) * coverage, 9))
    scores = np.random.default_rng(n_rows).permutation(np.arange(1, n_rows + 1))
    assert conformal_margin(scores, coverage=coverage) == (rank if rank <= n_rows else None)


@pytest.mark.parametrize(("scores", "coverage"), [([1.0], 0.0), ([1.0], 1.0), ([float("nan")], 0.5)])
def test_what_has_no_margin_is_refused(scores, coverage):
    with pytest.raises(ValueError, match=r"coverage|finite"):
        conformal_margin(scores, coverage=coverage)


@pytest.mark.parametrize("coverage", COVERAGES)
def test_intervals_hold_fresh_firings_as_often_as_asked(coverage):
    model = sample_model("what_will_this_firing_use")
    known, fresh = make_firings(1000, seed=501), make_firings(4000, seed=502)
    evidence = weigh_numbers(said(model, known)[:, 0], known["kwh"].to_numpy())
    off = np.abs(said(model, fresh)[:, 0] - fresh["kwh"].to_numpy())
    assert_covers(np.mean(off <= margin_at(evidence, coverage)), coverage, n_known=1000, n_fresh=4000)


@pytest.mark.parametrize("coverage", COVERAGES)
def test_sets_of_classes_hold_fresh_pieces_as_often_as_asked(coverage):
    model = sample_model("will_it_crack")
    known, fresh = make_pieces(1000, seed=503), make_pieces(4000, seed=504)
    classes = list(model.found.classes)
    evidence = weigh_classes(said(model, known), np.array([classes.index(name) for name in known["outcome"]]))
    probabilities = said(model, fresh)
    margin = margin_at(evidence, coverage)
    scores = 1 - probabilities[np.arange(len(fresh)), [classes.index(name) for name in fresh["outcome"]]]
    assert_covers(np.mean(scores <= margin), coverage, n_known=1000, n_fresh=4000)
    # What visitors are shown holds it at least as often: the likeliest is never left out.
    held = [
        classes.index(name) in still_possible(evidence, own, coverage)
        for name, own in zip(fresh["outcome"], probabilities.tolist(), strict=True)
    ]
    assert np.mean(held) >= np.mean(scores <= margin)


def said(model: SklearnModel, table: pd.DataFrame) -> np.ndarray:
    return model.predict(table[list(model.found.features)])


def assert_covers(share: float, coverage: float, *, n_known: int, n_fresh: int) -> None:
    """Within two standard errors, those of the margin itself among them (it is a quantile of known cases)."""
    error = math.sqrt(coverage * (1 - coverage) * (1 / n_known + 1 / n_fresh))
    assert abs(share - coverage) <= 2 * error


def test_a_probability_that_comes_true_is_borne_out_and_one_that_does_not_is_not():
    rng = np.random.default_rng(4)
    probabilities = rng.random(4000)
    honest = rng.random(4000) < probabilities
    boastful = rng.random(4000) < probabilities / 2
    assert sum(high - low + 1 for low, high in borne_out(probabilities, honest)) > 90
    assert not any(low <= 70 <= high for low, high in borne_out(probabilities, boastful))


def test_too_few_cases_bear_nothing_out():
    assert borne_out(np.full(10, 0.7), np.ones(10, dtype=bool)) == []


def test_cases_of_one_thing_count_as_one_for_what_is_promised():
    rng = np.random.default_rng(11)
    errors, chances = rng.exponential(size=60), np.full(60, 0.7)
    happened, of_each = np.arange(60) % 10 < 7, np.arange(60)
    firing = np.repeat(of_each, 20)
    for coverage in (0.5, 0.8, 0.9, 0.98, 0.99):
        once = conformal_margin(errors, coverage=coverage)
        assert conformal_margin(errors, coverage=coverage, together=of_each) == once
        assert conformal_margin(np.repeat(errors, 20), coverage=coverage, together=firing) == once
        assert conformal_margin(np.repeat(errors, 20), coverage=coverage) is not None
    assert conformal_margin(errors, coverage=0.99) is None
    some = slice(0, 30)
    assert not borne_out(chances[some], happened[some])
    # So many rows would do, but they are of thirty firings.
    many, own = np.repeat(chances[some], 20), np.repeat(happened[some], 20)
    assert borne_out(many, own)
    assert not borne_out(many, own, firing[: len(own)])


def test_of_few_things_an_interval_holds_what_the_next_thing_brings():
    rng = np.random.default_rng(12)
    firing = np.repeat(np.arange(15), 20)
    held: dict[bool, list[float]] = {True: [], False: []}
    for _ in range(400):
        errors = np.abs(0.97 * rng.normal(size=15)[firing] + 0.22 * rng.normal(size=300))
        for knows in held:
            margin = conformal_margin(errors, coverage=0.8, together=firing if knows else None)
            # What another firing brings lies as a normal distribution does.
            held[knows].append(math.erf(margin / math.sqrt(2)))
    assert np.mean(held[True]) > 0.805
    assert np.mean(held[False]) < 0.795


def test_wilsons_interval_is_that_of_the_paper():
    # Every share whose own standard error reaches just to what was seen.
    for end in wilson_interval(7, 20):
        assert abs(end - 7 / 20) == pytest.approx(NormalDist().inv_cdf(0.975) * math.sqrt(end * (1 - end) / 20))


def test_an_answer_carries_its_interval_and_a_class_what_stays_possible():
    numbers = weigh_numbers(np.zeros(99), np.linspace(-1, 1, 99))
    answer, _ = make_answer(NumberSetting(decimals=2, unit="kWh", coverage=0.9), [5.0], numbers)
    assert (answer.interval.low, answer.interval.high) == pytest.approx((5 - 0.92, 5 + 0.92), abs=0.02)
    assert answer.interval.coverage == 0.9
    wordings = [ClassWording(name=name, label=name, headline=name) for name in ("sound", "warps", "cracks")]
    classes = weigh_classes(np.tile([0.6, 0.3, 0.1], (99, 1)), np.repeat([0, 1, 2], [80, 17, 2]))
    answer, _ = make_answer(ClassSetting(classes=wordings, coverage=0.9), [0.6, 0.3, 0.1], classes)
    assert answer.possible.classes == ["sound", "warps"]
    assert not answer.calibrated
    assert not bears_out(classes, 0, 0.6)


def test_with_a_threshold_calibrated_speaks_of_the_class_that_is_said():
    rng = np.random.default_rng(7)
    shares = np.full((400, 2), [0.34, 0.66])
    classes = weigh_classes(shares, (rng.random(400) < 0.66).astype(int))
    classes = classes.model_copy(update={"borne_out": [[], classes.borne_out[1]]})
    wordings = [ClassWording(name=name, label=name, headline=name) for name in ("cracks", "sound")]
    likeliest = ClassSetting(classes=wordings)
    answer, _ = make_answer(likeliest, [0.34, 0.66], classes)
    assert (answer.class_, answer.calibrated) == ("sound", True)
    early = ClassSetting(classes=wordings, threshold=0.25, threshold_of="cracks")
    answer, _ = make_answer(early, [0.34, 0.66], classes)
    assert (answer.class_, answer.calibrated) == ("cracks", False)


def test_without_known_cases_nothing_is_claimed():
    answer, _ = make_answer(NumberSetting(), [5.0])
    assert answer.interval is None
    few = weigh_numbers(np.zeros(5), np.ones(5))
    assert make_answer(NumberSetting(coverage=0.9), [5.0], few)[0].interval is None


# --- known cases as they come -----------------------------------------------------------------------------------------


def known_cases(table: pd.DataFrame):
    model = SklearnModel(Unpickled(classifier_pipeline(firings()), None, []))
    inspection, _ = inspect_model(model, firings().drop(columns="kwh"), target="outcome", labels=["Celadon", "Oxblood"])
    return evaluate_model(model, firings().drop(columns="kwh"), inspection, table)


def test_known_cases_with_gaps_or_strange_outcomes_do_not_count_and_are_counted():
    known = firings(60, seed=9).drop(columns="kwh").astype({"pots": "float64"})
    known.loc[:4, "pots"] = np.nan
    known.loc[10:12, "outcome"] = "blue"
    inspection, kept_rows = known_cases(known)
    assert inspection.evidence.n_known == kept_rows.n_known == 52
    assert [note for note in inspection.notes if note.startswith("8 of the known cases have gaps")]


def test_what_happened_to_reference_rows_has_the_pages_names():
    _, kept_rows = known_cases(firings(20, seed=9))
    assert set(kept_rows.outcomes) == {"Celadon", "Oxblood"}


def test_known_cases_without_a_number_from_the_model_do_not_count():
    rows = firings(80)
    outcomes = rows[["pots"]].to_numpy(dtype="float64")
    answers = np.where(outcomes > 30, np.nan, outcomes)
    counted = int((rows["pots"] <= 30).sum())
    assert weigh(answers, KnownCases(rows, outcomes, []), "number").n_known == counted > 0
    assert weigh(np.full_like(outcomes, np.nan), KnownCases(rows, outcomes, []), "number") is None


# --- similarity -------------------------------------------------------------------------------------------------------

PIECES = {"wall": [4.0, 5.0, 6.0, 7.0, None], "clay": ["grogged", "porcelain", "grogged", "grogged", "porcelain"]}


def test_the_nearest_rows_are_those_of_the_formula():
    wall = np.array([4.0, 5.0, 6.0, 7.0])
    spread = (np.quantile(wall, 0.75) - np.quantile(wall, 0.25)) / 1.349
    away = [math.sqrt(((6.2 - value) / spread) ** 2 / 2) for value in (4.0, 6.0, 7.0)]
    similarity = Similarity(PIECES, ["wall"], ["clay"])
    places, distances = similarity.nearest({"wall": 6.2, "clay": "grogged"}, most=3)
    assert places[:2].tolist() == [2, 3]
    assert distances[:2] == pytest.approx(away[1:])
    # A gap is like a gap, and like no number; another clay is one step away.
    assert similarity.nearest({"wall": None, "clay": "porcelain"}, most=1)[1][0] == 0.0


def is_unlike(similarity, row) -> bool:
    _, away = similarity.nearest(row, most=similarity.n_rows)
    return similarity.familiarity(away).is_unlike


def test_only_what_is_far_from_everything_is_unlike_anything_seen():
    table = make_pieces(600, seed=7)
    columns = {name: list(values) for name, values in columns_of_table(table.drop(columns="outcome")).items()}
    numbers = [name for name in columns if pd.api.types.is_float_dtype(table[name]) or table[name].dtype == "int64"]
    similarity = Similarity(columns, numbers, [name for name in columns if name not in numbers])
    fresh = columns_of_table(make_pieces(500, seed=8).drop(columns="outcome"))
    rows = [{name: values[at] for name, values in fresh.items()} for at in range(500)]
    assert np.mean([is_unlike(similarity, row) for row in rows]) < 0.03
    stranger = {**rows[0], "wall_mm": 90.0, "peak_temp": 300.0}
    assert is_unlike(similarity, stranger)


def test_one_reference_row_and_identical_ones_make_nobody_a_stranger_to_himself():
    for n_rows in (1, 40):
        similarity = Similarity({"wall": [5.0] * n_rows}, ["wall"], [])
        assert not is_unlike(similarity, {"wall": 5.0})
        assert similarity.nearest({"wall": 5.0}, most=5)[0].size == min(5, n_rows)


# --- likeness of pictures and texts -----------------------------------------------------------------------------------


def textured(seed: int) -> np.ndarray:
    """A made-up surface: soft patches with a grain, in one of many colours."""
    rng = np.random.default_rng(seed)
    patches = np.kron(rng.uniform(-0.15, 0.15, (6, 6)), np.ones((8, 8)))
    colour = rng.uniform(0.3, 0.7, 3)
    grain = rng.normal(0, 0.02, (48, 48, 3))
    return (np.clip(colour + patches[:, :, None] + grain, 0, 1) * 255).astype("uint8")


STRANGERS = {
    "noise": np.random.default_rng(0).integers(0, 256, (48, 48, 3)).astype("uint8"),
    "black": np.zeros((48, 48, 3), "uint8"),
    "plain green": np.full((48, 48, 3), (20, 160, 40), "uint8"),
    "a ramp": np.tile(np.linspace(0, 255, 48).astype("uint8")[:, None, None], (1, 48, 3)),
}


@pytest.mark.parametrize("name", STRANGERS)
@pytest.mark.parametrize("n_known", [40, 400])
def test_a_picture_of_nothing_known_is_told_from_the_known_ones(name, n_known):
    likeness = Likeness(np.array([describe_picture(textured(seed)) for seed in range(n_known)]))
    assert likeness.familiarity(describe_picture(STRANGERS[name])).is_unlike
    fresh = [likeness.familiarity(describe_picture(textured(seed))) for seed in range(1000, 1200)]
    assert np.mean([one.is_unlike for one in fresh]) <= 0.05


def test_how_often_that_is_a_false_alarm_is_counted_on_known_ones():
    known = np.array([describe_picture(textured(seed)) for seed in range(400)])
    said = false_alarm_share(known)
    likeness = Likeness(known)
    met = np.mean([likeness.familiarity(describe_picture(textured(seed))).is_unlike for seed in range(1000, 2000)])
    assert 0 <= said <= 0.05
    assert abs(met - said) < 0.03


def test_a_text_of_other_letters_is_unlike_the_reference_texts():
    rng = np.random.default_rng(1)
    words = [
        "kiln",
        "glaze",
        "crack",
        "cold",
        "slow",
        "shelf",
        "pot",
        "door",
        "fired",
        "wet",
        "thin",
        "bowl",
        "cone",
        "hot",
    ]
    lines = [" ".join(rng.choice(words, 8)) for _ in range(300)]
    likeness = Likeness(np.array([describe_text(line) for line in lines[:200]]), is_text=True)
    assert np.mean([likeness.familiarity(describe_text(line)).is_unlike for line in lines[200:]]) <= 0.05
    for stranger in ("qwrt zxcvb plmk", "12345 67890", "Die Wahl gewann ein anderer"):
        assert likeness.familiarity(describe_text(stranger)).is_unlike


def test_of_a_case_unlike_anything_nothing_is_claimed_to_be_ruled_out():
    rng = np.random.default_rng(2)
    probabilities = rng.dirichlet([1, 1, 1], 500)
    classes = np.array([rng.choice(3, p=row) for row in probabilities])
    evidence = weigh_classes(probabilities, classes)
    setting = ClassSetting(classes=[ClassWording(name=name, label=name, headline=name) for name in "abc"])
    known, _ = make_answer(setting, [0.8, 0.17, 0.03], evidence)
    assert known.possible.classes[0] == "a"
    strange, _ = make_answer(setting, [0.8, 0.17, 0.03], evidence, is_unlike=True)
    assert (strange.possible, strange.calibrated, strange.unlike) == (None, False, True)


def test_the_words_for_what_is_possible_follow_the_shares():
    setting = ClassSetting(classes=[ClassWording(name=name, label=name, headline=name) for name in "abc"])
    evidence = Evidence(n_known=500, margins=[0.99] * 50)
    said = make_answer(setting, [0.8, 0.17, 0.03], evidence)[0].possible
    assert list(zip(said.classes, said.words, strict=True)) == [
        ("a", "likely"),
        ("b", "possible"),
        ("c", "not ruled out"),
    ]
    level = make_answer(setting, [0.4, 0.35, 0.25], evidence)[0].possible
    assert level.words == ["possible"] * 3
