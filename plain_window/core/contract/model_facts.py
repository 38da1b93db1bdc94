"""What answering needs to know of a model once it is open: the few facts of its inspection that every call hangs on."""

from collections.abc import Mapping
from typing import Any, Literal

import msgspec

from .values import Cell, Value

__all__ = ["AnswerKind", "FieldFacts", "FieldKind", "ModelFacts", "OutputKind"]

# Answers that are a row of outputs, and those that lie in a picture or are written.
OutputKind = Literal["class", "labels", "number", "numbers"]
AnswerKind = OutputKind | Literal["boxes", "picture", "mask", "text", "table"]
FieldKind = Literal["number", "choice", "yes_no", "text", "picture", "drawing"]
OUTPUTS_IN = {"class": "classes", "labels": "labels", "numbers": "values"}


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
    def of_inspection(cls, inspection: Mapping[str, Any]) -> "ModelFacts":
        """Read them off an inspection as it is kept.

        Parameters
        ----------
        inspection : mapping
            Parsed from JSON; one that an older version wrote may lack what came later.
        """
        answer = inspection["answer"]
        several = answer.get(OUTPUTS_IN.get(answer["kind"], ""))
        return cls(
            answer["kind"],
            len(several) if several is not None else 1,
            tuple(map(_field_facts, inspection["fields"])),
            inspection.get("warm_up_row") or {},
            inspection.get("picture_inputs") or {},
            frozenset(inspection.get("unused") or []),
            bool(inspection.get("evidence")),
        )


def _field_facts(field: Mapping[str, Any]) -> FieldFacts:
    kind, optional = field["kind"], bool(field.get("optional"))
    if kind == "number":
        low = min(field["minimum"], field["seen"]["low"])
        high, whole = max(field["maximum"], field["seen"]["high"]), bool(field.get("whole"))
        return FieldFacts(field["name"], kind, low, high, optional=optional, whole=whole)
    options: list[Value] = []
    if kind == "choice":
        options = [option["value"] for option in field["options"]]
    elif kind == "yes_no":
        options = [field["no"], field["yes"]]
    return FieldFacts(field["name"], kind, options=tuple(options), optional=optional)
