"""What the words of a text did: against every coalition, and against writing the texts out."""

import itertools
import math

import numpy as np
import pandas as pd
import pytest
from sklearn.compose import ColumnTransformer
from sklearn.feature_extraction.text import CountVectorizer, TfidfVectorizer
from sklearn.linear_model import LogisticRegression
from sklearn.pipeline import Pipeline

from plain_window.core.explain import text as text_explanations
from plain_window.core.explain.terms import ask_terms
from plain_window.core.explain.text import ask_texts, explain_text, words_of
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.plan.engine import CompiledModel
from plain_window.samples.what_went_wrong.lines import TARGET, make_lines

LINES = make_lines(300, seed=11)


def compiled_of(vectorizer) -> CompiledModel:
    prepare = ColumnTransformer([("line", vectorizer, "line")])
    model = Pipeline([("prepare", prepare), ("weigh", LogisticRegression())]).fit(LINES[["line"]], LINES[TARGET])
    return CompiledModel(compile_sklearn(model, ["line"], wanted="probabilities"))


def written(compiled: CompiledModel, text: str, of: int = 0):
    return ask_texts(lambda texts: compiled.predict({"line": list(texts)})[:, of], text)


def test_contributions_of_a_short_line_are_shapleys():
    text = "bang at 200, shards! Bang"
    compiled = compiled_of(TfidfVectorizer())
    ask = written(compiled, text)
    names = list(words_of(text))
    value = {
        taken: ask(np.array([[name in taken for name in names]]))[0]
        for size in range(len(names) + 1)
        for taken in map(frozenset, itertools.combinations(names, size))
    }
    found = explain_text(ask, text)
    assert found.method == "exact-enumeration"
    assert len(found.words) == len(names) == 4
    for share in found.words:
        expected = sum(
            (value[taken | {share.word}] - value[taken])
            * math.factorial(len(taken))
            * math.factorial(len(names) - len(taken) - 1)
            / math.factorial(len(names))
            for taken in value
            if share.word not in taken
        )
        assert share.contribution == pytest.approx(expected, abs=1e-12)
        assert share.left_out == pytest.approx(value[frozenset(names)] - value[frozenset(names) - {share.word}])
    assert found.baseline == value[frozenset()]


@pytest.mark.parametrize(
    "vectorizer",
    [
        TfidfVectorizer(ngram_range=(1, 2), sublinear_tf=True),
        TfidfVectorizer(ngram_range=(2, 2)),
        CountVectorizer(binary=True, stop_words=["the", "at"], strip_accents="unicode"),
    ],
    ids=["words and pairs", "pairs", "counted once"],
)
def test_looking_terms_up_says_what_writing_the_texts_out_says(vectorizer):
    compiled, rng = compiled_of(vectorizer), np.random.default_rng(3)
    for line in LINES["line"].head(12):
        text = f"{line}. {line.upper()} the Ofen heiß"
        ask = ask_terms(compiled, "line", {"line": text}, 1)
        takes = rng.random((30, len(words_of(text)))) < 0.6
        np.testing.assert_allclose(ask(takes), written(compiled, text, 1)(takes), rtol=1e-12)


def test_few_words_of_a_slow_model_are_sampled_too():
    text = "bang at 200, shards fell, kiln stayed hot overnight"
    ask = written(compiled_of(TfidfVectorizer()), text)
    n_asked = []

    def slow_ask(takes):
        n_asked.append(len(takes))
        return ask(takes)

    exact = {share.word: share.contribution for share in explain_text(ask, text).words}
    found = explain_text(slow_ask, text, most_rows=16, seconds=0)
    assert (len(exact), found.method) == (9, "sampled")
    # Each word left out and alone; then two pairs of orders.
    assert sum(n_asked) <= 2 * (9 + 1) + 4 * (9 + 1)
    assert sum(share.contribution for share in found.words) == pytest.approx(sum(exact.values()))


def test_texts_cut_into_letters_are_written_out():
    compiled = compiled_of(TfidfVectorizer(analyzer="char_wb", ngram_range=(2, 3)))
    assert ask_terms(compiled, "line", {"line": "bang at 200"}, 0) is None


def test_long_texts_are_sampled_with_an_honest_error(monkeypatch):
    compiled = compiled_of(TfidfVectorizer(ngram_range=(1, 2)))
    text = ". ".join(LINES["line"].head(6))
    ask = ask_terms(compiled, "line", {"line": text}, 0)
    quick = explain_text(ask, text, seconds=60, small_error=0)
    monkeypatch.setattr(text_explanations, "MOST_ROWS", 40_000)
    patient = explain_text(ask, text, seconds=60, small_error=0)
    assert quick.method == "sampled"
    whole = ask(np.ones((1, len(words_of(text))), dtype=bool))[0]
    for found in (quick, patient):
        assert sum(share.contribution for share in found.words) == pytest.approx(whole - found.baseline, abs=1e-9)
    sure = {share.word: share for share in patient.words}
    held = [
        abs(share.contribution - sure[share.word].contribution) <= 3 * math.hypot(share.error, sure[share.word].error)
        for share in quick.words
        if share.contribution
    ]
    assert len(held) > 20
    assert np.mean(held) > 0.95


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", []),
        ("  …!? ", []),
        ("Don't don’t DON'T", ["don't", "don’t"]),
        ("窯が割れた", ["窯", "が", "割", "れ", "た"]),
        ("🔥🔥 heiß", ["🔥", "heiss"]),
        ("печь холодная", ["печь", "холодная"]),
    ],
)
def test_words_of_any_script_are_found(text, words):
    assert list(words_of(text)) == words


def test_a_text_of_nothing_and_one_of_strangers_explain_as_nothing():
    compiled = compiled_of(TfidfVectorizer())
    for text in ("", "🔥", "qwxz zzyx"):
        found = explain_text(written(compiled, text), text)
        assert all(share.contribution == 0 for share in found.words)


def test_very_many_words_are_explained_in_groups_that_leave_none_out():
    text = " ".join(f"word{at}" for at in range(3000))
    words = words_of(text)
    assert len(words) <= 250
    assert sum(map(len, words.values())) == 3000


def test_the_committed_sample_is_what_its_generator_makes():
    from plain_window.samples.what_went_wrong.train import FOLDER, N_KNOWN, SEED

    made = make_lines(N_KNOWN, seed=SEED + 1)
    pd.testing.assert_frame_equal(made, pd.read_csv(FOLDER / "known.csv"))
