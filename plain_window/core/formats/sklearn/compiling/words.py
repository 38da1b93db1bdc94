"""Texts into counts of terms, and counts into weights."""

from typing import Any

import numpy as np
from sklearn.feature_extraction.text import CountVectorizer, TfidfTransformer, TfidfVectorizer

from ....plan.building import Block, Builder, CannotCompile, Raw
from .registry import Value, transformer

__all__: list[str] = []


@transformer(CountVectorizer)
def _counts(builder: Builder, vectorizer: CountVectorizer, value: Value) -> Block:
    if not isinstance(value, Raw) or len(value.columns) != 1:
        raise CannotCompile(f"`{type(vectorizer).__name__}` reads one column of text.")
    vocabulary = vectorizer.vocabulary_
    terms = sorted(vocabulary, key=vocabulary.__getitem__)
    if [vocabulary[term] for term in terms] != list(range(len(terms))):
        raise CannotCompile(f"`{type(vectorizer).__name__}` has a vocabulary with gaps.")
    return builder.text(value.columns[0], {**_reading(vectorizer), "terms": [str(term) for term in terms]})


def _reading(vectorizer: CountVectorizer) -> dict[str, Any]:
    """How a vectorizer takes a text apart."""
    own = [name for name in ("preprocessor", "tokenizer") if getattr(vectorizer, name) is not None]
    if own or callable(vectorizer.analyzer) or callable(vectorizer.strip_accents):
        what = own[0] if own else "analyzer"
        raise CannotCompile(f"`{type(vectorizer).__name__}` with a function of its own as `{what}` is not compiled.")
    return {
        "analyzer": vectorizer.analyzer,
        "pattern": vectorizer.token_pattern or "",
        "lowercase": bool(vectorizer.lowercase),
        "accents": vectorizer.strip_accents,
        "lengths": [int(length) for length in vectorizer.ngram_range],
        "left_out": sorted(vectorizer.get_stop_words() or []) if vectorizer.analyzer == "word" else [],
        "once": bool(vectorizer.binary),
    }


@transformer(TfidfTransformer)
def _weights(builder: Builder, tfidf: TfidfTransformer, value: Value) -> Block:
    block = builder.numbers(value)
    if tfidf.sublinear_tf:
        block = builder.each("log_counts", block)
    if tfidf.use_idf:
        block = builder.vector("multiply", block, np.asarray(tfidf.idf_))
    return builder.each(f"share_{tfidf.norm}", block) if tfidf.norm else block


@transformer(TfidfVectorizer)
def _weighted_counts(builder: Builder, vectorizer: TfidfVectorizer, value: Value) -> Block:
    return _weights(builder, vectorizer._tfidf, _counts(builder, vectorizer, value))
