"""Whether a reply is one to what was asked: as many rows, these outputs, these fields, and nothing else."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from .decoding import ContractBroken
from .model_facts import ModelFacts
from .replies import (
    AmongReply,
    BoxesReply,
    ExplainReply,
    OverallReply,
    PictureReply,
    PredictReply,
    RegionsReply,
    WrittenReply,
)

__all__ = ["ReplyMatcher"]

# By how many pixels the sum of a place and a length may miss an edge.
ROUNDED = 1e-6
MOST_SIMILAR, MOST_WAYS, MOST_ROWS = 50, 50, 100_000


@dataclass(frozen=True)
class ReplyMatcher:
    """Holds replies against the model that a call is about.

    Parameters
    ----------
    n_outputs : int
        Numbers the model gives for a row.
    fields : frozenset of str
        Names of its fields.
    """

    n_outputs: int
    fields: frozenset[str]

    @classmethod
    def of(cls, facts: ModelFacts) -> "ReplyMatcher":
        """For one opened model.

        Parameters
        ----------
        facts : ModelFacts
            What the model's inspection settled.
        """
        return cls(facts.n_outputs, facts.names)

    def check_predicted(self, reply: PredictReply, *, n_rows: int) -> None:
        """Refuse outputs of another shape.

        Parameters
        ----------
        reply : PredictReply
        n_rows : int
            How many rows were asked about.

        Raises
        ------
        ContractBroken
        """
        found = reply.outputs
        _need((found.n_rows, found.n_columns) == (n_rows, self.n_outputs), "outputs of another shape than asked for")
        _need(len(reply.unlike) in (0, n_rows), "likeness of other rows than asked for")
        _need(len(found.data) == 8 * n_rows * self.n_outputs, "an array's bytes do not fit its shape")

    def check_explained(self, reply: ExplainReply, *, of: int | None) -> None:
        """Refuse what is about another output, other fields, or does not add up in length.

        Parameters
        ----------
        reply : ExplainReply
        of : int or None
            Index of the output that was asked about; None if it was left open.

        Raises
        ------
        ContractBroken
        """
        self._check_outputs([reply.outputs])
        self._check_of(reply.of, of)
        if reply.explanation:
            self._check_fields(reply.explanation.contributions, reply.explanation.errors)
            _need(_finite([reply.explanation.baseline, *reply.explanation.contributions.values()]), "no number")
        self._check_fields(reply.words, reply.curves or {}, reply.seen or {}, (field for field, _ in reply.notes))
        for curve in (reply.curves or {}).values():
            _need(len(curve.x) == len(curve.y), "a curve whose ends do not meet")
        similar = reply.similar or []
        _need(len(similar) <= MOST_SIMILAR, "more similar cases than were asked for")
        self._check_fields(*(one.values for one in similar))
        self._check_outputs(one.outputs for one in similar)
        ways = reply.changes.ways if reply.changes else []
        _need(len(ways) <= MOST_WAYS, "more ways than were asked for")
        self._check_fields(*(way.values for way in ways))
        self._check_outputs(way.outputs for way in ways)

    def check_regions(self, reply: RegionsReply, *, of: int | None) -> None:
        """Refuse parts that are not as many as are said.

        Parameters
        ----------
        reply : RegionsReply
        of : int or None
            Index of the output that was asked about; None if it was left open.

        Raises
        ------
        ContractBroken
        """
        self._check_of(reply.of, of)
        n_parts = reply.n_rows * reply.n_columns
        _need(min(reply.n_rows, reply.n_columns) > 0, "a picture of no parts")
        _need(len(reply.contributions) == len(reply.errors) == n_parts, "other parts than there are")
        _need(_finite([reply.whole, reply.covered, *reply.contributions]), "no number")

    def check_boxes(self, reply: BoxesReply, *, least_score: float, most: int) -> None:
        """Refuse boxes that are none, lie outside the picture, or that nobody asked for.

        Parameters
        ----------
        reply : BoxesReply
        least_score : float
            The lowest score that was asked for.
        most : int
            How many there may be.

        Raises
        ------
        ContractBroken
        """
        _need(len(reply.boxes) <= most, "more boxes than an answer may hold")
        _need(min(reply.width, reply.height) >= 1, "a picture without a size")
        for box in reply.boxes:
            _need(_finite([box.score, box.x, box.y, box.width, box.height]), "no number")
            _need(least_score <= box.score <= 1, "a score that was not asked for")
            _need(min(box.x, box.y, box.width, box.height) >= 0, "a box outside the picture")
            is_inside = box.x + box.width <= reply.width + ROUNDED and box.y + box.height <= reply.height + ROUNDED
            _need(is_inside, "a box outside the picture")
        self._check_fields((field for field, _ in reply.notes), reply.seen or {})

    def check_picture(self, reply: PictureReply, *, n_classes: int) -> None:
        """Refuse what is about no part of the picture, or has shares of other classes.

        Parameters
        ----------
        reply : PictureReply
        n_classes : int

        Raises
        ------
        ContractBroken
        """
        _need(min(reply.width, reply.height) >= 1 and len(reply.content) > 0, "a picture without a size")
        left, top, width, height = reply.part
        _need(_finite(reply.part) and min(left, top) >= -ROUNDED and min(width, height) > 0, "no part of a picture")
        _need(left + width <= 1 + ROUNDED and top + height <= 1 + ROUNDED, "no part of a picture")
        _need(len(reply.shares) == n_classes, "shares of other classes than there are")
        _need(all(0 <= share <= 1 for share in reply.shares), "a share that is none")
        self._check_fields((field for field, _ in reply.notes), reply.seen or {})

    def check_written(
        self, reply: WrittenReply, *, kind: str, most_text: int, most_rows: int, most_columns: int
    ) -> None:
        """Refuse a text where a table was asked for, and rows of other lengths than there are columns.

        Parameters
        ----------
        reply : WrittenReply
        kind : str
            Which of both.
        most_text, most_rows, most_columns : int
            What an answer may hold.

        Raises
        ------
        ContractBroken
        """
        _need((reply.text is not None) == (kind == "text"), "another kind of answer")
        _need(len(reply.text or "") <= most_text, "a longer text than an answer may hold")
        _need(len(reply.columns) <= most_columns and len(reply.rows) <= most_rows, "a larger table than it may be")
        _need(all(len(row) == len(reply.columns) for row in reply.rows), "rows that are not as wide as the table")
        numbers = [value for row in reply.rows for value in row if isinstance(value, float)]
        _need(_finite(numbers), "no number")
        self._check_fields((field for field, _ in reply.notes), reply.seen or {})

    def check_overall(self, reply: OverallReply) -> None:
        """Refuse other fields, and curves whose ends do not meet.

        Parameters
        ----------
        reply : OverallReply

        Raises
        ------
        ContractBroken
        """
        self._check_fields(one.field for one in reply.fields)
        _need(all(len(one.x) == len(one.y) for one in reply.fields), "a curve whose ends do not meet")
        _need(0 <= reply.share_done <= 1, "a share that is none")

    def check_among(self, reply: AmongReply) -> None:
        """Refuse rows that are not as many as they are.

        Parameters
        ----------
        reply : AmongReply

        Raises
        ------
        ContractBroken
        """
        counts = {len(reply.x), len(reply.y), len(reply.x if reply.outcomes is None else reply.outcomes)}
        _need(len(counts) == 1 and max(counts) <= MOST_ROWS, "rows that do not fit together")

    def _check_of(self, answered: int, asked: int | None) -> None:
        _need(0 <= answered < self.n_outputs and asked in (None, answered), "another output than was asked for")

    def _check_outputs(self, many: Iterable[list[float]]) -> None:
        _need(all(len(outputs) == self.n_outputs for outputs in many), "outputs of another number than the model has")

    def _check_fields(self, *named: Iterable[str]) -> None:
        _need(all(name in self.fields for names in named for name in names), "a field that the model does not have")


def _finite(values: Iterable[float]) -> bool:
    return all(map(math.isfinite, values))


def _need(holds: bool, otherwise: str) -> None:
    if not holds:
        raise ContractBroken(otherwise)
