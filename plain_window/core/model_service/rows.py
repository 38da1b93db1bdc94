"""What is said beside a model's answers: why, what would change them, and what the reference rows are like."""

import math
import time
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ..answers.deciding import said_place
from ..contract import AmongReply, ExplainReply, Missing, ModelFacts, OverallReply, Reason
from ..contract.kept_rows import KeptRows
from ..contract.replies import (
    ChangesFound,
    ExplanationFound,
    SimilarFound,
    WayFound,
    WordFound,
    WordsFound,
)
from ..contract.requests import (
    AmongRequest,
    ChangesWanted,
    ExplainRequest,
    FieldMayChange,
    OverallRequest,
    RegionsRequest,
)
from ..contract.values import Row
from ..errors import ModelFailed
from ..explain.changes import Changeable, class_goal, find_changes, number_goal, threshold_goal
from ..explain.explainer import MOST_SECONDS, Explainer, ReferenceSample, TooSlow
from ..explain.pace import timed
from ..explain.terms import ask_terms
from ..explain.text import ask_texts, explain_text, words_of
from ..trust.similarity import Similarity
from .backends import Backend
from .likeness_of_rows import LikenessOfRows
from .overall_of_rows import OverallOfRows
from .reply_parts import curve_found

__all__ = ["RowExplainer"]

# Reference rows a visitor's case is drawn among: more dots than this hide each other.
ROWS_AMONG, FEWEST_AMONG = 400, 10
# For the sample once; a model slower than this is not explained.
SLOWEST_SAMPLE_SECONDS = 10.0
SIMILAR_ROWS = 5


class RowExplainer:
    """Explains the answers of one model that takes rows of a table.

    Parameters
    ----------
    backend : Backend
    facts : ModelFacts
    kept_rows : KeptRows, optional
        Reference rows and known cases; without them nothing is explained.
    background_rows : int
        How many reference rows contributions are counted against, at the most.
    """

    def __init__(
        self, backend: Backend, facts: ModelFacts, kept_rows: KeptRows | None, *, background_rows: int = 100
    ) -> None:
        self._predict, self._compiled = backend.predict_columns, backend.compiled
        self._kept_rows, self._fields = kept_rows, facts.fields
        self._is_class = facts.answer == "class"
        self._explainer: Explainer | None = None
        self._likeness: LikenessOfRows | None = None
        self._missing: Reason = "no-reference-rows"
        self._overall: OverallOfRows | None = None
        self._among: np.ndarray | None = None
        # What a compiled model says of reference rows, once it was asked: it is data, and says the same for ever.
        self._outputs_by_place: dict[int, np.ndarray] = {}
        # What is said of certainty is known cases' word, and holds only for what is like them.
        self._needs_familiarity = facts.has_evidence
        if kept_rows is not None and kept_rows.n_rows:
            self._likeness = LikenessOfRows(kept_rows, facts)
            self._explainer = self._made_explainer(kept_rows, backend.compiled, background_rows)
            if self._explainer is not None:
                self._overall = OverallOfRows(
                    self._explainer, self._predict, kept_rows, facts.fields, is_class=self._is_class
                )
        # What curves need of reference rows is only where to look closely; without any they go over the whole range.
        self._curves = self._explainer or self._only_curves(facts, kept_rows)

    def _only_curves(self, facts: ModelFacts, kept_rows: KeptRows | None) -> Explainer | None:
        """What draws curves of a model that came without reference rows."""
        row = facts.warm_up_row
        if (kept_rows is not None and kept_rows.n_rows) or not facts.fields or not facts.names <= set(row):
            return None
        try:
            return Explainer(self._predict, ReferenceSample({name: [row[name]] for name in facts.names}), facts.fields)
        except ModelFailed:
            return None

    def _made_explainer(self, kept_rows: KeptRows, compiled: Any, n_rows: int) -> Explainer | None:
        """The explainer, if the model answers the sample."""
        sample = kept_rows.first(n_rows)
        try:
            quick_seconds = SLOWEST_SAMPLE_SECONDS / max(1, min(n_rows, kept_rows.n_rows))
            _, seconds = timed(lambda: self._predict(kept_rows.first(1)), quick_seconds=quick_seconds)
            if seconds > quick_seconds:
                self._missing = "too-slow"
                return None
            answers = np.isfinite(self._predict(sample)).all(axis=1)
            if not answers.all():
                self._missing = "reference-without-numbers"
                return None
            return Explainer(self._predict, ReferenceSample(sample), self._fields, compiled)
        except ModelFailed:
            self._missing = "reference-not-answered"
            return None

    @property
    def has_work(self) -> bool:
        """Whether what matters overall is still being worked out."""
        return self._overall is not None and self._overall.has_work

    def work(self) -> None:
        """Do a small piece of it."""
        if self._overall is not None:
            self._overall.work()

    def regions(self, request: RegionsRequest) -> Missing:
        """Nothing: this model looks at no picture.

        Parameters
        ----------
        request : RegionsRequest
        """
        return Missing("no-picture")

    # --- one case -----------------------------------------------------------------------------------------------------

    def explain(self, request: ExplainRequest) -> ExplainReply:
        """Outputs for `row`, and what was asked for beside them.

        `of` is the output that is explained; None for the likeliest class, or the only number.

        Parameters
        ----------
        request : ExplainRequest
        """
        started = time.perf_counter()
        row = request.row
        together = self._explainer.ask_together(row) if self._explainer and request.curves else None
        outputs = self._predict({name: [value] for name, value in row.items()})[0] if together is None else together[0]
        predicted = time.perf_counter()
        of = int(np.argmax(outputs)) if request.of is None else request.of
        reply = ExplainReply(outputs.tolist(), of, (predicted - started) * 1000, 0.0)
        try:
            if self._explainer is None:
                reply.missing = self._missing
            else:
                self._add_explanation(reply, request, self._explainer)
            if request.curves and self._curves is not None:
                curves = self._curves.curves(row, of=of, full=request.full, outputs=together)
                reply.curves = {name: curve_found(curve) for name, curve in curves.items()}
        except TooSlow:
            reply.missing = "too-slow"
        reply.familiarity = None if self._likeness is None else self._likeness.familiarity(row)
        similarity = None if self._likeness is None else self._likeness.similarity
        if similarity is not None and self._kept_rows is not None and request.similar:
            reply.similar = self._similar(row, similarity, self._kept_rows)
        if self._kept_rows is not None and self._kept_rows.n_rows and request.changes:
            reply.changes = self._changes(row, outputs, request.changes, self._kept_rows)
        reply.explain_ms = (time.perf_counter() - predicted) * 1000
        return reply

    def _add_explanation(self, reply: ExplainReply, request: ExplainRequest, explainer: Explainer) -> None:
        row, of = request.row, reply.of
        if request.explanation:
            reply.explanation = _explanation(explainer, row, of, at_score=request.at_score)
            if reply.explanation is not None and not all(map(math.isfinite, reply.explanation.contributions.values())):
                reply.explanation, reply.missing = None, "mixtures-not-answered"
        if request.explanation and not request.at_score:
            reply.words = self._words(explainer, row, of)

    def _words(self, explainer: Explainer, row: Row, of: int) -> dict[str, WordsFound]:
        """For each field of text what its words did."""
        by_field = {}
        for one in self._fields:
            text = row[one.name]
            if one.kind != "text" or not isinstance(text, str):
                continue
            # Each word is left out once and stands alone once, before anything is sampled.
            affordable = explainer.affordable_rows(MOST_SECONDS)
            if 4 * (len(words_of(text)) + 1) > affordable:
                continue
            ask = ask_terms(self._compiled, one.name, row, of) if self._compiled is not None else None
            found = explain_text(ask or self._ask_texts(row, one.name, of), text, most_rows=affordable)
            if not all(math.isfinite(one.contribution) for one in found.words):
                continue
            words = [WordFound(w.word, list(w.places), w.contribution, w.error, w.left_out) for w in found.words]
            by_field[one.name] = WordsFound(found.method, found.baseline, words)
        return by_field

    def _ask_texts(self, row: Row, name: str, of: int) -> Callable[[np.ndarray], np.ndarray]:
        """Asks about the row with words of one field left out, by writing the texts out."""

        def ask_outputs(texts: Sequence[str]) -> np.ndarray:
            return self._predict({**{other: [value] * len(texts) for other, value in row.items()}, name: texts})[:, of]

        return ask_texts(ask_outputs, str(row[name]))

    def unlike(self, rows: Sequence[Row]) -> list[bool]:
        """Of each row whether it is unlike anything seen; empty where nothing hangs on it, or it cannot be told.

        Parameters
        ----------
        rows : sequence of Row
            Value by column, one mapping a row.
        """
        if not self._needs_familiarity or self._likeness is None:
            return []
        found = [self._likeness.is_unlike(row) for row in rows]
        known = [one for one in found if one is not None]
        return known if len(known) == len(found) else []

    def _similar(self, row: Row, similarity: Similarity, kept_rows: KeptRows) -> list[SimilarFound]:
        places, away = similarity.nearest(row, most=SIMILAR_ROWS)
        rows = [kept_rows.row(int(at)) for at in places]
        answers = self._outputs_of(places.tolist(), [{name: one[name] for name in row} for one in rows])
        outcomes = kept_rows.outcomes or [None] * kept_rows.n_rows
        return [
            SimilarFound(values, outcomes[int(at)], outputs.tolist(), float(distance))
            for values, at, outputs, distance in zip(rows, places, answers, away, strict=True)
            if np.isfinite(outputs).all()
        ]

    def _outputs_of(self, places: Sequence[int], rows: Sequence[Row]) -> Sequence[np.ndarray]:
        """What the model says of reference rows."""
        known = self._outputs_by_place
        asked = [(at, row) for at, row in zip(places, rows, strict=True) if at not in known]
        if asked:
            outputs = self._predict({name: [row[name] for _, row in asked] for name in rows[0]})
            if self._compiled is None:
                return list(outputs)
            known.update(zip((at for at, _ in asked), outputs, strict=True))
        return [known[at] for at in places]

    def _changes(self, row: Row, outputs: np.ndarray, wanted: ChangesWanted, kept_rows: KeptRows) -> ChangesFound:
        """Ways to another class (`to`, or any), or to the number `reach`."""
        reach = wanted.reach
        if self._is_class:
            now, to = said_place(outputs.tolist(), wanted.threshold), wanted.to
            if to == now:
                return ChangesFound([], is_complete=True, reach=None, is_there=True)
            goal = class_goal(now, to=to) if wanted.threshold is None else threshold_goal(now, *wanted.threshold)
        else:
            if reach is None:
                # The usual answer: what most cases that are out of the ordinary want to get back to.
                reach = (
                    self._explainer.usual(0)
                    if self._explainer
                    else float(np.nanmean(self._among_outputs(kept_rows)[:, 0]))
                )
            goal = number_goal(float(outputs[0]), float(reach))
        fields = [
            changeable
            for name, setting in wanted.fields.items()
            if (changeable := self._changeable(kept_rows, name, row[name], setting)) is not None
        ]
        strangers = None if self._likeness is None else self._likeness.strangers
        # A stranger's changes are strangers too; they are not held against it.
        is_unlike: Callable[[Mapping[str, Any]], bool] | None = None
        if strangers is not None and not strangers.is_unlike(row):
            is_unlike = strangers.is_unlike
        row_seconds = self._explainer.row_seconds if self._explainer else 0.0
        found = find_changes(self._predict, row, fields, goal, is_unlike=is_unlike, row_seconds=row_seconds)
        ways = [WayFound(dict(way.values), way.outputs.tolist()) for way in found.ways]
        return ChangesFound(ways, found.is_complete, reach, is_there=False)

    def _changeable(self, kept_rows: KeptRows, name: str, now: Any, setting: FieldMayChange) -> Changeable | None:
        """A field's believable values, or None if there are none to try."""
        facts = next(one for one in self._fields if one.name == name)
        met = [value for value in kept_rows.columns[name] if value is not None]
        if not met or facts.kind == "text":
            return None
        if facts.kind == "number":
            if now is None:
                return None
            return Changeable.number(
                name, float(now), [float(value) for value in met], step=setting.step, direction=setting.direction
            )
        known = set(met)
        return Changeable(name, tuple(option for option in facts.options if option in known and option != now))

    # --- all reference rows -------------------------------------------------------------------------------------------

    def overall(self, request: OverallRequest) -> OverallReply | Missing:
        """What matters overall for output `of`, as far as it is known; more is worked out while nobody asks.

        Parameters
        ----------
        request : OverallRequest
        """
        return Missing(self._missing) if self._overall is None else self._overall.answer(request)

    def among(self, request: AmongRequest) -> AmongReply | Missing:
        """Some reference rows: their values of one field, what the model says of them, and what happened.

        Parameters
        ----------
        request : AmongRequest
        """
        kept_rows = self._kept_rows
        if kept_rows is None or not kept_rows.n_rows:
            return Missing(self._missing)
        outputs = self._among_outputs(kept_rows)[:, request.of]
        places = np.flatnonzero(np.isfinite(outputs)).tolist()
        values, outcomes = kept_rows.columns[request.field], kept_rows.outcomes
        return AmongReply(
            [values[at] for at in places],
            outputs[places].tolist(),
            [outcomes[at] for at in places] if outcomes else None,
        )

    def _among_outputs(self, kept_rows: KeptRows) -> np.ndarray:
        if self._among is None:
            affordable = self._explainer.affordable_rows(MOST_SECONDS) if self._explainer else FEWEST_AMONG
            self._among = self._predict(kept_rows.first(min(ROWS_AMONG, max(FEWEST_AMONG, affordable))))
        return self._among


def _explanation(explainer: Explainer, row: Row, of: int, *, at_score: bool) -> ExplanationFound | None:
    if at_score and not explainer.has_score:
        return None
    try:
        found = explainer.explain(row, of=of, at_score=at_score)
    except ValueError:
        # A scale this model does not have.
        return None
    return ExplanationFound(found.method, found.baseline, found.contributions, found.errors, explainer.n_sample_rows)
