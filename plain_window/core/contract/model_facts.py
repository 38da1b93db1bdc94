"""What answering needs to know of a model once it is open: the few facts of its inspection that every call hangs on."""

from typing import Literal, cast

import msgspec

from .values import Cell, Value

__all__ = ["AnswerKind", "FieldFacts", "FieldKind", "ModelFacts", "OutputKind"]

# Answers that are a row of outputs, and those that lie in a picture or are written.
OutputKind = Literal["class", "labels", "number", "numbers"]
AnswerKind = OutputKind | Literal["boxes", "picture", "mask", "text", "table"]
FieldKind = Literal["number", "choice", "yes_no", "text", "picture", "drawing"]


class FieldFacts(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What explanations need to know of a field: its kind, its range and its options."""

    name: str
    kind: FieldKind
    low: float = 0.0
    high: float = 0.0
    options: tuple[Value, ...] = ()
    optional: bool = False
    # Only whole numbers are asked about.
    whole: bool = False


class ModelFacts(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One opened model, as far as calls and replies must fit it.

    `picture_inputs` is the model's input by field. With evidence, what is unlike anything seen must be told.
    """

    answer: AnswerKind
    n_outputs: int
    fields: tuple[FieldFacts, ...]
    warm_up_row: dict[str, Cell] = {}
    picture_inputs: dict[str, str] = {}
    unused: frozenset[str] = frozenset()
    has_evidence: bool = False

    @property
    def names(self) -> frozenset[str]:
        """Names of its fields."""
        return frozenset(field.name for field in self.fields)

    @classmethod
    def of_inspection(cls, inspection: bytes) -> "ModelFacts":
        """Read them off an inspection as it is kept.

        Parameters
        ----------
        inspection : bytes
            As JSON; one that an older version wrote may lack what came later.

        Raises
        ------
        msgspec.MsgspecError
            If it is no inspection.
        """
        kept = _KEPT.decode(inspection)
        return cls(
            kept.answer.kind,
            kept.answer.n_outputs,
            tuple(field.facts() for field in kept.fields),
            kept.warm_up_row or {},
            kept.picture_inputs or {},
            frozenset(kept.unused or []),
            bool(kept.evidence),
        )


class _Kept(msgspec.Struct, tag_field="kind"):
    """A field as it is kept. What it does not say here nobody asks for."""

    name: str
    optional: bool = False

    def facts(self) -> FieldFacts:
        kind = cast("FieldKind", self.__struct_config__.tag)
        return FieldFacts(self.name, kind, options=self.values(), optional=self.optional)

    def values(self) -> tuple[Value, ...]:
        return ()


class _Range(msgspec.Struct):
    low: float
    high: float


class _KeptNumber(_Kept, tag="number", kw_only=True):
    minimum: float
    maximum: float
    seen: _Range
    whole: bool = False

    def facts(self) -> FieldFacts:
        low, high = min(self.minimum, self.seen.low), max(self.maximum, self.seen.high)
        return FieldFacts(self.name, "number", low, high, optional=self.optional, whole=self.whole)


class _Option(msgspec.Struct):
    value: Value


class _KeptChoice(_Kept, tag="choice", kw_only=True):
    options: list[_Option]

    def values(self) -> tuple[Value, ...]:
        return tuple(option.value for option in self.options)


class _KeptYesNo(_Kept, tag="yes_no", kw_only=True):
    no: Value
    yes: Value

    def values(self) -> tuple[Value, ...]:
        return self.no, self.yes


class _KeptText(_Kept, tag="text"):
    pass


class _KeptPicture(_Kept, tag="picture"):
    pass


class _KeptDrawing(_Kept, tag="drawing"):
    pass


class _KeptAnswer(msgspec.Struct):
    kind: AnswerKind
    classes: list[msgspec.Raw] | None = None
    labels: list[msgspec.Raw] | None = None
    # Of several numbers.
    values: list[msgspec.Raw] | None = None

    @property
    def n_outputs(self) -> int:
        several = {"class": self.classes, "labels": self.labels, "numbers": self.values}.get(self.kind)
        return 1 if several is None else len(several)


class _KeptInspection(msgspec.Struct):
    answer: _KeptAnswer
    fields: list[_KeptNumber | _KeptChoice | _KeptYesNo | _KeptText | _KeptPicture | _KeptDrawing]
    warm_up_row: dict[str, Cell] | None = None
    picture_inputs: dict[str, str] | None = None
    unused: list[str] | None = None
    evidence: dict[str, msgspec.Raw] | None = None


_KEPT = msgspec.json.Decoder(_KeptInspection)
