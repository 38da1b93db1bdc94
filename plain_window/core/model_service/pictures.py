"""What is said beside the answer of a model that looks at pictures: where it looked, or which strokes it took."""

import hashlib
import json
import math
import time
import zlib
from collections import OrderedDict
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any, Literal

import msgspec
import numpy as np

from ..contract import ExplainReply, Missing, ModelFacts, RegionsReply
from ..contract.kept_rows import KeptRows
from ..contract.replies import ExplanationFound, FamiliarityFound, RegionFound
from ..contract.requests import AmongRequest, ExplainRequest, OverallRequest, RegionsRequest
from ..contract.values import PictureCell, Row, picture_in
from ..explain.explainer import TooSlow
from ..explain.groups import MOST_PAIRS, GroupContributions, GroupState
from ..explain.pace import timed
from ..explain.patches import MOST_PATCHES_ACROSS, PatchGrid, region_sums
from ..pictures.preparation import as_input, as_seen
from ..pictures.preparer import Prepared, image_of
from ..pictures.settings import Preparation
from ..pictures.writing import as_shown
from ..plan.engine import CompiledModel
from ..trust.likeness import Likeness, as_descriptions, describe_picture
from .backends import Columns, PictureBackend
from .rows import RowExplainer

__all__ = ["PictureExplainer"]

# How long one call may work before it says what is known so far.
STEP_SECONDS = 0.15
# What a first sketch may take, and all of it.
SKETCH_SECONDS, MOST_LOOK_SECONDS = 2.0, 20.0
FEWEST_PATCHES_ACROSS = 2
# A model as quick as this gets as many patches as there may be.
QUICK_SECONDS = SKETCH_SECONDS / (MOST_PATCHES_ACROSS**2 + 2)
GROUPS_AT_ONCE, PICTURES_AT_ONCE, DRAWINGS_AT_ONCE = 96, 24, 4
_pool = ThreadPoolExecutor(1)
# Pictures that are being looked into at the same time.
MOST_UNDER_WAY, MOST_ROW_EXPLAINERS = 8, 4
# What may be asked for that is about the fields beside the picture.
ABOUT_THE_REST = ("explanation", "curves", "similar", "changes")


@dataclass
class _Look:
    """One picture being looked into: its parts, how far that is, and whether anything was said of it yet."""

    parts: Literal["patches", "strokes"]
    n_rows: int
    n_columns: int
    of: int
    game: GroupContributions
    # How many groups are asked about before others have their turn.
    at_once: int
    was_told: bool = False


@dataclass(frozen=True)
class _Pace:
    """How fast the model is, and what follows for how much it is asked: slow ones get fewer and larger patches."""

    seconds: float

    @property
    def at_once(self) -> int:
        """Groups until others have their turn."""
        return min(GROUPS_AT_ONCE, max(2, int(STEP_SECONDS / self.seconds)))

    @property
    def most_pairs(self) -> int:
        """Pairs of groups in all."""
        return min(MOST_PAIRS, int(MOST_LOOK_SECONDS / 2 / self.seconds))


class _Beside:
    """A model of pictures as a model of the rest, with the pictures as they are."""

    compiled: CompiledModel | None = None

    def __init__(self, backend: PictureBackend, pictures: Mapping[str, PictureCell]) -> None:
        self._backend, self._pictures = backend, pictures
        self.pause = backend.pause

    def predict(self, rows: Sequence[Row]) -> np.ndarray:
        return self._backend.predict([{**row, **self._pictures} for row in rows])

    def predict_columns(self, columns: Columns) -> np.ndarray:
        n_rows = len(next(iter(columns.values())))
        return self._backend.predict_columns(
            {**columns, **{name: [one] * n_rows for name, one in self._pictures.items()}}
        )


class PictureExplainer:
    """Explains the answers of a model that looks at pictures.

    Parameters
    ----------
    backend : PictureBackend
    facts : ModelFacts
    kept_rows : KeptRows, optional
        Reference rows of what the model takes beside pictures.
    background_rows : int
    """

    has_work = False

    def __init__(
        self, backend: PictureBackend, facts: ModelFacts, kept_rows: KeptRows | None, *, background_rows: int = 100
    ) -> None:
        self._backend, self._kept_rows, self._background_rows = backend, kept_rows, background_rows
        beside = tuple(one for one in facts.fields if one.name not in backend.picture_inputs)
        has_rows = bool(beside) and kept_rows is not None and kept_rows.n_rows > 0
        self._beside = msgspec.structs.replace(facts, fields=beside) if has_rows else None
        self._has_likeliest = facts.answer in ("class", "labels")
        self._described_as = kept_rows.described_as if kept_rows is not None else {}
        self._likeness = {
            field: Likeness(as_descriptions(kept))
            for field, kept in (kept_rows.descriptions if kept_rows else {}).items()
        }
        self._looks: OrderedDict[bytes, _Look] = OrderedDict()
        self._rows: OrderedDict[bytes, RowExplainer] = OrderedDict()

    def work(self) -> None:
        """Nothing is done while nobody asks."""

    def overall(self, request: OverallRequest) -> Missing:
        """Nothing: what matters overall is not worked out for pictures.

        Parameters
        ----------
        request : OverallRequest
        """
        return Missing("not-for-pictures")

    def among(self, request: AmongRequest) -> Missing:
        """Nothing: a picture has no place among rows of a table.

        Parameters
        ----------
        request : AmongRequest
        """
        return Missing("not-for-pictures")

    def explain(self, request: ExplainRequest) -> ExplainReply:
        """Outputs for `row`, what was asked for beside them, and the picture as the model sees it.

        Parameters
        ----------
        request : ExplainRequest
        """
        started = time.perf_counter()
        row = request.row
        outputs = self._backend.predict([row])[0]
        predicted = time.perf_counter()
        of = self._output(request, outputs)
        if self._beside is not None and any(getattr(request, part) for part in ABOUT_THE_REST):
            reply = self._row_explainer(row, self._beside).explain(
                msgspec.structs.replace(request, row=self._without_pictures(row))
            )
        else:
            reply = ExplainReply(outputs.tolist(), of, 0.0, 0.0)
        if request.explanation and reply.explanation is None:
            reply.explanation = self._by_picture(row, of, float(outputs[of]))
        if request.seen:
            reply.seen = {field: as_shown(self._prepared(row, field).seen) for field in self._backend.picture_inputs}
        reply.notes = [
            (field, note) for field in self._backend.picture_inputs for note in self._prepared(row, field).notes
        ]
        reply.familiarity = self._familiarity(row) or reply.familiarity
        reply.predict_ms = (predicted - started) * 1000
        reply.explain_ms = (time.perf_counter() - predicted) * 1000
        return reply

    def unlike(self, rows: Sequence[Row]) -> list[bool]:
        """Of each row whether its picture is unlike the known ones; empty where that cannot be told.

        Parameters
        ----------
        rows : sequence of Row
            Value by column, one mapping a row.
        """
        found = [self._familiarity(row) for row in rows]
        known = [one.is_unlike for one in found if one is not None]
        return known if len(known) == len(found) else []

    def _familiarity(self, row: Row) -> FamiliarityFound | None:
        """How like the known pictures this one is, prepared as they were."""
        for field, likeness in self._likeness.items():
            if picture_in(row, field)["preparation"] == self._described_as[field]:
                found = likeness.familiarity(describe_picture(self._prepared(row, field).seen))
                return FamiliarityFound(found.distance, found.share_as_far, found.is_unlike)
        return None

    def regions(self, request: RegionsRequest) -> RegionsReply | Missing:
        """Where the model looked in the picture of `field`, after some more work on it.

        Parameters
        ----------
        request : RegionsRequest
        """
        row, field = request.row, request.field
        outputs = None
        if request.of is None:
            outputs = self._backend.predict([row])[0]
        try:
            look = self._look(row, field, self._output(request, outputs))
        except TooSlow:
            return Missing("too-slow")
        # A sketch is there when the look begins; it is shown before anything else is done.
        seconds, look.was_told = STEP_SECONDS if look.was_told else 0.0, True
        return self._regions_reply(look, seconds)

    def _output(self, request: ExplainRequest | RegionsRequest, outputs: np.ndarray | None) -> int:
        if request.of is not None:
            return request.of
        return int(np.argmax(outputs)) if self._has_likeliest and outputs is not None else 0

    def _prepared(self, row: Row, field: str) -> Prepared:
        return self._backend.prepared(field, picture_in(row, field))

    # --- what stands beside the picture -------------------------------------------------------------------------------

    def _without_pictures(self, row: Row) -> Row:
        return {name: value for name, value in row.items() if name not in self._backend.picture_inputs}

    def _row_explainer(self, row: Row, beside: ModelFacts) -> RowExplainer:
        """Explains the other fields beside these very pictures; kept for who changes only those fields."""
        pictures = {name: picture_in(row, name) for name in self._backend.picture_inputs}
        key = b"".join(_digest(value) for value in pictures.values())
        if key not in self._rows:
            self._rows[key] = RowExplainer(
                _Beside(self._backend, pictures), beside, self._kept_rows, background_rows=self._background_rows
            )
            if len(self._rows) > MOST_ROW_EXPLAINERS:
                self._rows.popitem(last=False)
        return self._rows[key]

    # --- the picture itself -------------------------------------------------------------------------------------------

    def _look(self, row: Row, field: str, of: int) -> _Look:
        key = b"".join([_digest(row), field.encode(), of.to_bytes(4, "big")])
        found = self._looks.get(key)
        if found is None:
            found = self._looks[key] = self._begun(row, field, of)
            if len(self._looks) > MOST_UNDER_WAY:
                self._looks.popitem(last=False)
        self._looks.move_to_end(key)
        return found

    def _begun(self, row: Row, field: str, of: int) -> _Look:
        # Of what the model sees, so that whoever has the model and the picture draws the same lots.
        seed = zlib.crc32(f"{field} {of} ".encode() + self._prepared(row, field).seen.tobytes())
        pace = self._pace(row, field)
        picture = picture_in(row, field)
        strokes = picture.get("strokes")
        if strokes:
            if (len(strokes) + 2) * pace.seconds > SKETCH_SECONDS:
                raise TooSlow

            def ask(shown: np.ndarray) -> np.ndarray:
                # A few at a time: drawing takes longer than looking, and others' answers wait meanwhile.
                starts = range(0, len(shown), DRAWINGS_AT_ONCE)
                drawn = (_drawn(picture, shown[at : at + DRAWINGS_AT_ONCE]) for at in starts)
                return np.concatenate([self._backend.predict_inputs(row, field, few)[:, of] for few in drawn])

            # With the drawing, which may take longer than the model.
            _, seconds = timed(lambda: ask(np.ones((1, len(strokes)), bool)), quick_seconds=QUICK_SECONDS)
            with_drawing = _Pace(seconds)
            game = self._game(ask, len(strokes), seed, with_drawing)
            return _Look("strokes", 1, len(strokes), of, game, with_drawing.at_once)
        across = math.isqrt(max(0, int(SKETCH_SECONDS / pace.seconds) - 2))
        if across < FEWEST_PATCHES_ACROSS:
            raise TooSlow
        grid = self._grid(row, field, most_across=min(across, MOST_PATCHES_ACROSS))

        def answers(shown: np.ndarray) -> np.ndarray:
            return self._backend.predict_inputs(row, field, grid.pictures(shown), pauses=False)[:, of]

        def ask_patches(shown: np.ndarray) -> np.ndarray:
            # A few at a time, by two hands: one of them lets others' answers through in between.
            size = min(PICTURES_AT_ONCE, -(-len(shown) // 2))
            some = [shown[at : at + size] for at in range(0, len(shown), size)]
            by_other = [_pool.submit(answers, few) for few in some[1::2]]
            parts = []
            for few in some[::2]:
                self._backend.pause()
                parts.append(answers(few))
                parts += [by_other.pop(0).result()] if by_other else []
            return np.concatenate(parts)

        game = self._game(ask_patches, grid.n_patches, seed, pace)
        return _Look("patches", grid.n_rows, grid.n_columns, of, game, pace.at_once)

    def _pace(self, row: Row, field: str) -> "_Pace":
        """How long the model takes for a picture."""
        covered = self._grid(row, field).covered[None]
        _, seconds = timed(lambda: self._backend.predict_inputs(row, field, covered), quick_seconds=QUICK_SECONDS)
        return _Pace(seconds)

    def _game(
        self, ask: Callable[[np.ndarray], np.ndarray], n_parts: int, seed: int, pace: "_Pace"
    ) -> GroupContributions:
        return GroupContributions(ask, n_parts, seed=seed, most_pairs=pace.most_pairs)

    def _regions_reply(self, look: _Look, seconds: float) -> RegionsReply:
        """What is known after so much more work."""
        end = time.perf_counter() + seconds
        while time.perf_counter() < end and not look.game.is_done:
            look.game.advance(look.at_once)
        state = look.game.state
        return RegionsReply(
            look.parts,
            look.of,
            state.method,
            state.whole,
            state.covered,
            look.n_rows,
            look.n_columns,
            state.contributions.tolist(),
            [_known(error) for error in state.errors.tolist()],
            self._regions(look, state) if look.parts == "patches" else [],
            state.n_asked,
            state.is_done,
        )

    def _regions(self, look: _Look, state: GroupState) -> list[RegionFound]:
        sums = region_sums(state.contributions, state.covariance, look.n_rows, look.n_columns)
        return [RegionFound(one.words, one.contribution, _known(one.error)) for one in sums]

    def _by_picture(self, row: Row, of: int, answer: float) -> ExplanationFound | None:
        """Contributions of a demo with nothing but one picture: what it adds to the answer of a covered one."""
        if len(self._backend.picture_inputs) != 1 or len(row) != 1:
            return None
        (field,) = self._backend.picture_inputs
        picture = picture_in(row, field)
        strokes = picture.get("strokes")
        nothing = np.zeros((1, len(strokes or [])), dtype=bool)
        covered = _drawn(picture, nothing) if strokes else self._grid(row, field).covered[None]
        baseline = float(self._backend.predict_inputs(row, field, covered)[0, of])
        return ExplanationFound("exact-enumeration", baseline, {field: answer - baseline}, {}, 0)

    def _grid(self, row: Row, field: str, *, most_across: int = MOST_PATCHES_ACROSS) -> PatchGrid:
        preparation = Preparation.model_validate(picture_in(row, field)["preparation"])
        return PatchGrid.of(self._prepared(row, field).seen, preparation, most_across=most_across)


def _known(error: float) -> float | None:
    """None for an error that is not known."""
    return None if error != error else error


def _drawn(value: Mapping[str, Any], shown: np.ndarray) -> np.ndarray:
    """Inputs with only some strokes drawn."""
    preparation = Preparation.model_validate({**value["preparation"], "batch": False})
    pictures = []
    for keep in shown:
        image = image_of({**value, "keep": keep.tolist()})
        pictures.append(as_input(as_seen(image, preparation), preparation))
    return np.array(pictures)


def _digest(value: Mapping[str, Any]) -> bytes:
    """A name for a row or a picture in it."""
    own = hashlib.blake2b(digest_size=16)

    def rest(part: Any) -> Any:
        if isinstance(part, bytes):
            own.update(hashlib.blake2b(part, digest_size=16).digest())
            return None
        return part

    own.update(json.dumps(value, sort_keys=True, default=rest).encode())
    return own.digest()
