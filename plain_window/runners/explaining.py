"""What a runner says beside its model's answers: why, what would change them, and what the reference rows are like."""

import time
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ..core.contract import AmongReply, ExplainReply, Missing, OverallReply
from ..core.contract.replies import (
    ChangesFound,
    CurveFound,
    ExplanationFound,
    FamiliarityFound,
    FieldFound,
    PartFound,
    SimilarFound,
    WayFound,
    WordFound,
    WordsFound,
)
from ..core.errors import ModelFailed
from ..core.explain.changes import Changeable, class_goal, find_changes, number_goal
from ..core.explain.explainer import MOST_SECONDS, Background, Explainer, FieldFacts, TooSlow
from ..core.explain.overall import Overall, OverallState
from ..core.explain.terms import ask_terms
from ..core.explain.text import ask_texts, explain_text, words_of
from ..core.models.study import TEXTS_COMPARED, Study
from ..core.trust.likeness import FEWEST_KNOWN, Likeness, describe_text
from ..core.trust.similarity import Similarity

__all__ = ["RowExplainer"]

# Reference rows a visitor's case is drawn among: more dots than this hide each other.
ROWS_AMONG, FEWEST_AMONG = 400, 10
# For the background once; a model slower than this is not explained.
SLOWEST_BACKGROUND_SECONDS = 10.0
TOO_SLOW = "The model takes too long for the many questions an explanation asks of it."
SIMILAR_ROWS = 5


class RowExplainer:
    """Answers all calls but `predict` for the model that a runner holds.

    Parameters
    ----------
    held : object
        Has `predict_columns`, and `compiled` where there is a compiled model.
    inspection : mapping
        With the fields and how strong they are.
    study : Study, optional
        Reference rows and known cases; without them nothing is explained.
    background_rows : int
        How many reference rows contributions are counted against, at the most.
    """

    def __init__(
        self, held: Any, inspection: Mapping[str, Any], study: Study | None, *, background_rows: int = 100
    ) -> None:
        self._predict, self._compiled = held.predict_columns, held.compiled
        self._study, self._fields = study, inspection["fields"]
        self._is_class = inspection["answer"]["kind"] == "class"
        self._facts = [_facts(one) for one in self._fields]
        self._explainer: Explainer | None = None
        self._similarity: Similarity | None = None
        self._missing = "There are no reference rows to compare with."
        self._overall: dict[int, Overall] = {}
        # Outputs for which that cannot be worked out, and why.
        self._not_overall: dict[int, str] = {}
        self._among: np.ndarray | None = None
        self._texts: dict[str, Likeness] = {}
        # What is said of certainty is known cases' word, and holds only for what is like them.
        self._needs_familiarity = bool(inspection.get("evidence"))
        if study is not None and study.n_rows:
            self._similarity = _similarity(study, inspection)
            self._texts = _likeness_of_texts(study, inspection)
            self._explainer = self._made_explainer(study, held.compiled, background_rows)

    def _made_explainer(self, study: Study, compiled: Any, n_rows: int) -> Explainer | None:
        """The explainer, if the model answers the background."""
        background = study.first(n_rows)
        try:
            # A first call may be slow for other reasons.
            self._predict(study.first(1))
            begun = time.perf_counter()
            self._predict(study.first(1))
            if (time.perf_counter() - begun) * min(n_rows, study.n_rows) > SLOWEST_BACKGROUND_SECONDS:
                self._missing = TOO_SLOW
                return None
            answers = np.isfinite(self._predict(background)).all(axis=1)
            if not answers.all():
                self._missing = "The model gives no number for some of the reference rows it would be compared with."
                return None
            return Explainer(self._predict, Background(background), self._facts, compiled)
        except ModelFailed:
            self._missing = "The model does not answer the reference rows it would be compared with."
            return None

    @property
    def has_work(self) -> bool:
        """Whether there is something to do when nobody asks."""
        return any(not one.is_done for one in self._overall.values())

    def work(self) -> None:
        """Do a small piece of it."""
        of, unfinished = next((of, one) for of, one in self._overall.items() if not one.is_done)
        try:
            unfinished.work()
        except (ModelFailed, TooSlow) as error:
            del self._overall[of]
            self._not_overall[of] = TOO_SLOW if isinstance(error, TooSlow) else str(error)

    def answer(self, do: str, message: Mapping[str, Any]) -> ExplainReply | OverallReply | AmongReply | Missing:
        """The reply to a call."""
        calls = {"explain": self.explain, "overall": self.overall, "among": self.among}
        return calls[do](message) if do in calls else Missing("This model looks at no picture.")

    # --- one case -----------------------------------------------------------------------------------------------------

    def explain(self, message: Mapping[str, Any]) -> ExplainReply:
        """Outputs for `row`, and what was asked for beside them.

        `of` is the output that is explained; None for the likeliest class, or the only number.
        """
        started = time.perf_counter()
        row = message["row"]
        outputs = self._predict({name: [value] for name, value in row.items()})[0]
        predicted = time.perf_counter()
        of = int(np.argmax(outputs)) if message.get("of") is None else int(message["of"])
        reply = ExplainReply(outputs.tolist(), of, (predicted - started) * 1000, 0.0)
        if self._explainer is None:
            reply.missing = self._missing
        else:
            try:
                self._add_explanation(reply, message, of)
            except TooSlow:
                reply.missing = TOO_SLOW
        reply.familiarity = self._familiarity(row)
        if self._similarity is not None and message.get("similar"):
            reply.similar = self._similar(row)
        if self._study is not None and self._study.n_rows and message.get("changes"):
            reply.changes = self._changes(row, outputs, message["changes"])
        reply.explain_ms = (time.perf_counter() - predicted) * 1000
        return reply

    def _add_explanation(self, reply: ExplainReply, message: Mapping[str, Any], of: int) -> None:
        row = message["row"]
        if message.get("explanation"):
            reply.explanation = self._explanation(row, of, at_score=bool(message.get("at_score")))
        if message.get("explanation") and not message.get("at_score"):
            reply.words = self._words(row, of)
        if message.get("curves"):
            curves = self._explainer.curves(row, of=of, full=bool(message.get("full")))
            reply.curves = {name: _curve(curve) for name, curve in curves.items()}

    def _explanation(self, row: Mapping[str, Any], of: int, *, at_score: bool) -> ExplanationFound | None:
        if at_score and not self._explainer.has_score:
            return None
        try:
            found = self._explainer.explain(row, of=of, at_score=at_score)
        except ValueError:
            # A scale this model does not have.
            return None
        return ExplanationFound(
            found.method, found.baseline, found.contributions, found.errors, self._explainer.n_background
        )

    def _words(self, row: Mapping[str, Any], of: int) -> dict[str, WordsFound]:
        """For each field of text what its words did."""
        said = {}
        for one in self._facts:
            if one.kind != "text" or not isinstance(row[one.name], str):
                continue
            # Each word is left out once and stands alone once, before anything is sampled.
            if 4 * (len(words_of(row[one.name])) + 1) > self._explainer.affordable_rows(MOST_SECONDS):
                continue
            ask = ask_terms(self._compiled, one.name, row, of) if self._compiled is not None else None
            found = explain_text(ask or self._ask_texts(row, one.name, of), row[one.name])
            words = [WordFound(w.word, list(w.places), w.contribution, w.error, w.left_out) for w in found.words]
            said[one.name] = WordsFound(found.method, found.baseline, words)
        return said

    def _ask_texts(self, row: Mapping[str, Any], name: str, of: int) -> Callable[[np.ndarray], np.ndarray]:
        """Asks about the row with words of one field left out, by writing the texts out."""

        def said(texts: Sequence[str]) -> np.ndarray:
            return self._predict({**{other: [value] * len(texts) for other, value in row.items()}, name: texts})[:, of]

        return ask_texts(said, str(row[name]))

    def unlike(self, rows: Sequence[Mapping[str, Any]]) -> list[bool]:
        """Of each row whether it is unlike anything seen; empty where nothing hangs on it, or it cannot be told."""
        if not self._needs_familiarity:
            return []
        found = [self._familiarity(row) for row in rows]
        return [] if None in found else [one.is_unlike for one in found]

    def _familiarity(self, row: Mapping[str, Any]) -> FamiliarityFound | None:
        """How like the reference rows a case is: by its numbers and options, and by each of its texts."""
        found = [self._similarity.familiarity(row)] if self._similarity is not None else []
        found += [
            likeness.familiarity(describe_text(row[name]))
            for name, likeness in self._texts.items()
            if isinstance(row[name], str)
        ]
        if not found:
            return None
        strangest = min(found, key=lambda one: (not one.is_unlike, one.share_as_far))
        return FamiliarityFound(strangest.distance, strangest.share_as_far, strangest.is_unlike)

    def _similar(self, row: Mapping[str, Any]) -> list[SimilarFound]:
        places, away = self._similarity.nearest(row, most=SIMILAR_ROWS)
        rows = [self._study.row(int(at)) for at in places]
        said = self._predict({name: [one[name] for one in rows] for name in row})
        outcomes = self._study.outcomes or [None] * self._study.n_rows
        return [
            SimilarFound(values, outcomes[int(at)], outputs.tolist(), float(distance))
            for values, at, outputs, distance in zip(rows, places, said, away, strict=True)
            if np.isfinite(outputs).all()
        ]

    def _changes(self, row: Mapping[str, Any], outputs: np.ndarray, wanted: Mapping[str, Any]) -> ChangesFound:
        """Ways to another class (`to`, or any), or to the number `reach`."""
        reach = wanted.get("reach")
        if self._is_class:
            now, to = int(np.argmax(outputs)), wanted.get("to")
            if to == now:
                return ChangesFound([], is_complete=True, reach=None, is_there=True)
            goal = class_goal(now, to=to)
        else:
            if reach is None:
                # The usual answer: what most cases that are out of the ordinary want to get back to.
                reach = self._explainer.usual(0) if self._explainer else float(np.nanmean(self._among_outputs()[:, 0]))
            goal = number_goal(float(outputs[0]), float(reach))
        fields = [
            changeable
            for name, setting in wanted["fields"].items()
            if (changeable := self._changeable(name, row[name], setting)) is not None
        ]
        similarity = self._similarity
        # A stranger's changes are strangers too; they are not held against it.
        may_be_strange = similarity is None or similarity.familiarity(row).is_unlike
        is_unlike = None if may_be_strange else lambda other: similarity.familiarity(other).is_unlike
        row_seconds = self._explainer.row_seconds if self._explainer else 0.0
        found = find_changes(self._predict, row, fields, goal, is_unlike=is_unlike, row_seconds=row_seconds)
        ways = [WayFound(dict(way.values), way.outputs.tolist()) for way in found.ways]
        return ChangesFound(ways, found.is_complete, reach, is_there=False)

    def _changeable(self, name: str, now: Any, setting: Mapping[str, Any]) -> Changeable | None:
        """A field's believable values, or None if there are none to try."""
        facts = next(one for one in self._facts if one.name == name)
        seen = [value for value in self._study.columns[name] if value is not None]
        if not seen or facts.kind == "text":
            return None
        if facts.kind == "number":
            if now is None:
                return None
            return Changeable.number(name, float(now), seen, step=setting["step"], direction=setting["direction"])
        met = set(seen)
        return Changeable(name, tuple(option for option in facts.options if option in met and option != now))

    # --- all reference rows -------------------------------------------------------------------------------------------

    def overall(self, message: Mapping[str, Any]) -> OverallReply | Missing:
        """What matters overall for output `of`, as far as it is known; more is worked out while nobody asks."""
        if self._explainer is None:
            return Missing(self._missing)
        of = int(message["of"])
        if of in self._not_overall:
            return Missing(self._not_overall[of])
        if of not in self._overall:
            self._overall[of] = Overall(
                self._explainer,
                self._predict,
                self._study.columns,
                self._facts,
                of=of,
                known=self._study.known_columns,
                errors=self._errors,
                clock=time.process_time,
            )
        return _overall(self._overall[of].state())

    def _errors(self, outputs: np.ndarray) -> np.ndarray:
        """Of each known case how wrong the model is: 1 for another class, or how far off the number is."""
        outcomes = np.array(self._study.known_outcomes[: len(outputs)])
        if self._is_class:
            return (outputs.argmax(axis=1) != outcomes).astype("float64")
        return np.abs(outputs[:, 0] - outcomes)

    def among(self, message: Mapping[str, Any]) -> AmongReply | Missing:
        """Some reference rows: their values of one field, what the model says of them, and what happened."""
        if self._study is None or not self._study.n_rows:
            return Missing(self._missing)
        said = self._among_outputs()[:, int(message["of"])]
        places = np.flatnonzero(np.isfinite(said)).tolist()
        values, outcomes = self._study.columns[message["field"]], self._study.outcomes
        return AmongReply(
            [values[at] for at in places], said[places].tolist(), [outcomes[at] for at in places] if outcomes else None
        )

    def _among_outputs(self) -> np.ndarray:
        if self._among is None:
            affordable = self._explainer.affordable_rows(MOST_SECONDS) if self._explainer else FEWEST_AMONG
            self._among = self._predict(self._study.first(min(ROWS_AMONG, max(FEWEST_AMONG, affordable))))
        return self._among


def _overall(state: OverallState) -> OverallReply:
    fields = [
        FieldFound(
            one.name,
            (one.importance, one.importance_low, one.importance_high),
            tuple(one.shuffled) if one.shuffled else None,
            [
                PartFound(part.words, part.low, part.high, part.n_rows, _spread(part.contributions))
                for part in one.parts
            ],
            list(one.curve_x),
            [_spread(spread) for spread in one.curve],
        )
        for one in state.fields
    ]
    return OverallReply(fields, state.n_rows, state.n_known, state.share_done)


def _spread(spread: Any) -> tuple[float, float, float]:
    return spread.middle, spread.low, spread.high


def _curve(curve: Any) -> CurveFound:
    return CurveFound(curve.shape, list(curve.x), list(curve.y), curve.thinned, curve.unknown)


def _similarity(study: Study, inspection: Mapping[str, Any]) -> Similarity | None:
    """Over the fields that can move the answer; over all of them if none is known to. None for nothing but texts."""
    unused = inspection.get("unused") or []
    fields = [one for one in inspection["fields"] if one["name"] not in unused] or inspection["fields"]
    numbers = [one["name"] for one in fields if one["kind"] == "number"]
    options = [one["name"] for one in fields if one["kind"] in ("choice", "yes_no")]
    return Similarity(study.columns, numbers, options) if numbers or options else None


def _likeness_of_texts(study: Study, inspection: Mapping[str, Any]) -> dict[str, Likeness]:
    """By field of text, where the rows are enough to tell."""
    made = {}
    for field in inspection["fields"]:
        if field["kind"] != "text":
            continue
        texts = [text for text in study.columns[field["name"]][:TEXTS_COMPARED] if isinstance(text, str)]
        if len(texts) >= FEWEST_KNOWN:
            made[field["name"]] = Likeness(np.array([describe_text(text) for text in texts]), is_text=True)
    return made


def _facts(field: Mapping[str, Any]) -> FieldFacts:
    kind, optional = field["kind"], bool(field.get("optional"))
    if kind == "number":
        low = min(field["minimum"], field["seen"]["low"])
        return FieldFacts(field["name"], kind, low, max(field["maximum"], field["seen"]["high"]), optional=optional)
    options: Sequence[Any] = ()
    if kind == "choice":
        options = [option["value"] for option in field["options"]]
    elif kind == "yes_no":
        options = [field["no"], field["yes"]]
    return FieldFacts(field["name"], kind, options=tuple(options), optional=optional)
