"""A plan while it is being made.

What flows between an estimator's steps is either a *block* (numbers of some width) or still *raw*: named columns that
no step has touched yet, perhaps with a value to stand in where one is missing.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..fields.kinds import Scalar
from .checking import check_plan
from .operations.registry import Settings
from .plan import Input, Plan, Step

__all__ = ["Block", "Builder", "CannotCompile", "Raw", "RawColumn", "plain_scalar"]


class CannotCompile(Exception):
    """A step that has no compiled form; the message names it and says why."""


@dataclass(frozen=True)
class Block:
    """Numbers of shape (n_rows, width) under a name."""

    name: str
    width: int


@dataclass(frozen=True)
class RawColumn:
    """A column as it comes in; `fill` stands in where its value is missing."""

    name: str
    fill: Scalar | None = None


@dataclass(frozen=True)
class Raw:
    """Columns that no step has turned into numbers yet."""

    columns: tuple[RawColumn, ...]


class Builder:
    """Collects steps and arrays.

    Parameters
    ----------
    columns : sequence of str
        The raw columns, in the model's order.
    """

    def __init__(self, columns: Sequence[str]) -> None:
        self.raw = Raw(tuple(RawColumn(name) for name in columns))
        self._kinds: dict[str, str] = {}
        self._steps: list[Step] = []
        self._arrays: dict[str, np.ndarray] = {}
        self._done: dict[str, Block] = {}

    def step(
        self,
        op: str,
        width: int,
        *,
        inputs: Sequence[Block] = (),
        arrays: dict[str, np.ndarray] | None = None,
        settings: Mapping[str, object] | None = None,
    ) -> Block:
        """Add a step; its result is the block returned.

        Parameters
        ----------
        op : str
            The operation's name.
        width : int
            Columns that come out.
        inputs : sequence of Block, optional
            What goes in.
        arrays : mapping or None, optional
            By name.
        settings : mapping or None, optional
            By name.
        """
        name = f"b{len(self._steps)}"
        named = {part: self._keep(array) for part, array in (arrays or {}).items()}
        step = Step(
            op=op, out=name, width=width, inputs=[block.name for block in inputs], arrays=named, settings=settings or {}
        )
        # Two steps that do the same are one: several encoders may look at the same column.
        key = step.model_copy(update={"out": ""}).model_dump_json()
        if key not in self._done:
            self._steps.append(step)
            self._done[key] = Block(name, width)
        return self._done[key]

    def vector(self, op: str, block: Block, vector: object) -> Block:
        """Add an elementwise step with one number a column.

        Parameters
        ----------
        op : str
            The operation's name.
        block : Block
        vector : object
            One number a column, or one for all.
        """
        values = np.broadcast_to(np.asarray(vector, dtype="float64"), (block.width,)).copy()
        return self.step(op, block.width, inputs=[block], arrays={"vector": values})

    def each(self, op: str, block: Block, *, width: int | None = None) -> Block:
        """Add a step that needs nothing but the block.

        Parameters
        ----------
        op : str
            The operation's name.
        block : Block
        width : int or None, optional
            Columns that come out; as many as go in if None.
        """
        return self.step(op, width or block.width, inputs=[block])

    def numbers(self, value: Raw | Block) -> Block:
        """The value as numbers.

        Parameters
        ----------
        value : Raw or Block
            What comes before the step.

        Raises
        ------
        CannotCompile
            If there are none.
        """
        if isinstance(value, Block):
            return value
        if not value.columns:
            raise CannotCompile("A step is given no columns.")
        names = [column.name for column in value.columns]
        for name in names:
            self._kinds.setdefault(name, "number")
        block = self.step("numbers", len(names), settings={"columns": names})
        fills = [column.fill for column in value.columns]
        if any(fill is not None for fill in fills):
            vector = [np.nan if fill is None else self._number(fill) for fill in fills]
            block = self.vector("fill", block, vector)
        return block

    def codes(self, column: RawColumn, categories: Sequence[Scalar | None], *, refuse_unknown: bool = False) -> Block:
        """Each value's place among `categories`, NaN for none of them.

        Parameters
        ----------
        column : RawColumn
        categories : sequence of Scalar or None
            In the order of their codes.
        refuse_unknown : bool, optional
            Whether other values are refused; they become missing if not.
        """
        # A column that any step looks up is a category; one that is only ever counted with stays a number.
        self._kinds[column.name] = "category"
        listed = list(categories)
        settings = {"columns": [column.name], "categories": listed, "refuse_unknown": refuse_unknown}
        if column.fill is None:
            return self.step("codes", 1, settings=settings)
        # The stand-in is looked up in place of a missing value; an unknown value must stay unknown.
        with_missing = self.step("codes", 1, settings={**settings, "categories": [*listed, None]})
        places = [*range(len(listed)), listed.index(column.fill) if column.fill in listed else -1]
        table = np.array([[float(place) if place >= 0 else np.nan] for place in places] + [[np.nan]])
        return self.step("lookup", 1, inputs=[with_missing], arrays={"table": table})

    def codes_or_missing(self, column: RawColumn, categories: Sequence[Scalar], *, refuse_unknown: bool) -> Block:
        """As `codes`, where a missing value is no unknown one: NaN for both, but only the unknown may be refused."""
        codes = self.codes(column, [*categories, None], refuse_unknown=refuse_unknown)
        table = np.array([*range(len(categories)), np.nan, np.nan], dtype="float64").reshape(-1, 1)
        return self.step("lookup", 1, inputs=[codes], arrays={"table": table})

    def column(self, block: Block, at: int) -> Block:
        """One of a block's columns.

        Parameters
        ----------
        block : Block
        at : int
            Its place.
        """
        return self.take(block, [at])

    def take(self, block: Block, places: Sequence[int]) -> Block:
        """Some of a block's columns, in this order.

        Parameters
        ----------
        block : Block
        places : sequence of int
            Which columns, in this order.
        """
        places = [int(at) for at in places]
        if places == list(range(block.width)):
            return block
        return self.step("take", len(places), inputs=[block], settings={"places": places})

    def linear(self, block: Block, weights: np.ndarray, offset: np.ndarray | float = 0.0) -> Block:
        """The block times `weights` of shape (block.width, n_outputs), plus an offset an output.

        Parameters
        ----------
        block : Block
        weights : ndarray
            Shape (n_columns, n_outputs).
        offset : ndarray or float, optional
            Shape (n_outputs,).
        """
        weights = np.ascontiguousarray(weights, dtype="float64")
        shift = np.broadcast_to(np.asarray(offset, dtype="float64"), (weights.shape[1],)).copy()
        return self.step("linear", weights.shape[1], inputs=[block], arrays={"weights": weights, "offset": shift})

    def sum(self, blocks: Sequence[Block], weights: Sequence[float] | None = None) -> Block:
        """Blocks of one width added up, each times its weight.

        Parameters
        ----------
        blocks : sequence of Block
            Of one width.
        weights : sequence of float or None, optional
            One a block; 1 each if None.
        """
        weighed = np.ones(len(blocks)) if weights is None else np.asarray(weights, dtype="float64")
        return self.step("sum", blocks[0].width, inputs=blocks, arrays={"weights": weighed})

    def mean(self, blocks: Sequence[Block], weights: Sequence[float] | None = None) -> Block:
        """The weighted mean of blocks of one width.

        Parameters
        ----------
        blocks : sequence of Block
            Of one width.
        weights : sequence of float or None, optional
            One a block; 1 each if None.
        """
        total = len(blocks) if weights is None else float(np.sum(weights))
        return self.vector("divide", self.sum(blocks, weights), total)

    def text(self, column: RawColumn, settings: Settings) -> Block:
        """How often each term occurs in a column of text.

        Parameters
        ----------
        column : RawColumn
        settings : mapping
            By name.
        """
        self._kinds[column.name] = "text"
        settings = {**settings, "columns": [column.name]}
        return self.step("count_terms", len(settings["terms"]), settings=settings)

    def join(self, values: Sequence[Raw | Block]) -> Block:
        """Side by side.

        Parameters
        ----------
        values : sequence of Raw or Block
            In this order.
        """
        blocks = [self.numbers(value) for value in values]
        if len(blocks) == 1:
            return blocks[0]
        return self.step("join", sum(block.width for block in blocks), inputs=blocks)

    def finish(self, out: Block) -> Plan:
        """The plan whose output is `out`.

        Parameters
        ----------
        out : Block
            What the plan answers with.
        """
        if self._steps[-1].out != out.name:
            out = self.step("take", out.width, inputs=[out], settings={"places": list(range(out.width))})
        used = [
            Input(name=column.name, kind=self._kinds[column.name])
            for column in self.raw.columns
            if column.name in self._kinds
        ]
        plan = Plan(inputs=used, steps=self._steps, arrays=self._arrays)
        check_plan(plan)
        return plan

    def _keep(self, array: np.ndarray) -> str:
        array = np.ascontiguousarray(array)
        for name, kept in self._arrays.items():
            same = kept.dtype == array.dtype and kept.shape == array.shape
            if same and np.array_equal(kept, array, equal_nan=array.dtype.kind == "f"):
                return name
        name = f"a{len(self._arrays)}"
        self._arrays[name] = array
        return name

    @staticmethod
    def _number(value: Scalar) -> float:
        if isinstance(value, str):
            raise CannotCompile(f'Text ("{value}") stands in for a missing number.')
        return float(value)


def plain_scalar(value: object) -> Scalar | None:
    """A category as a value that JSON carries; None for what stands for a missing one.

    Parameters
    ----------
    value : object

    Raises
    ------
    CannotCompile
        If JSON has nothing like it.
    """
    plain = value.item() if isinstance(value, np.generic) else value
    if plain is None or (isinstance(plain, float) and np.isnan(plain)):
        return None
    if not isinstance(plain, bool | int | float | str):
        raise CannotCompile(f"A category is a {type(plain).__name__}, which has no compiled form.")
    return plain
