"""Rows of a table on their way to a model, and what came of them: what workers are sent, and what they say."""

import msgspec

from .messages import Ask, Said
from .model_facts import ModelFacts
from .replies import ExplainReply, Numbers
from .values import Value

__all__ = [
    "AskChunk",
    "ChunkColumns",
    "ChunkDone",
    "ChunkLost",
    "ChunkNotDone",
    "ChunkReply",
    "CodedColumn",
    "ModelParts",
    "ModelWanted",
    "Strongest",
    "strongest_of",
]

# Field and contribution of each of the strongest, for each row.
Strongest = list[list[tuple[str, float]]]


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Part of a message."""


class CodedColumn(_Part, frozen=True):
    """A column of few values: 32-bit places in `values`, one a row."""

    codes: bytes
    values: list[Value]


class ChunkColumns(_Part, frozen=True):
    """Rows by field, as the model knows their values: 64-bit numbers (NaN for a gap), few values by code, texts."""

    n_rows: int
    numbers: dict[str, bytes] = {}
    coded: dict[str, CodedColumn] = {}
    texts: dict[str, list[str | None]] = {}


class ModelParts(_Part, frozen=True):
    """All that a worker needs of a compiled model; `kept_rows` for likeness and contributions."""

    plan: bytes
    facts: ModelFacts
    kept_rows: bytes | None
    background_rows: int


class AskChunk(Ask, tag="chunk", frozen=True):
    """Outputs for some rows. `model` names the model; its parts come along once a worker has said that it wants them.

    `n_strongest` is how many of the strongest contributions are wanted of each row, to the output that is said;
    `threshold` says which that is, where one of two classes has one.
    """

    model: str
    columns: ChunkColumns
    parts: ModelParts | None = None
    n_strongest: int = 0
    threshold: tuple[int, float] | None = None


class ChunkDone(Said, tag="chunk_done", frozen=True):
    """Outputs of shape (n_rows, n_outputs); of each row 1 if it is unlike anything seen, else 0; none if unknown."""

    outputs: Numbers
    unlike: bytes = b""
    strongest: Strongest = []
    seconds: float = 0.0


class ModelWanted(Said, tag="model_wanted", frozen=True):
    """The worker does not have the model."""


class ChunkNotDone(Said, tag="chunk_not_done", frozen=True):
    """The model raised over these rows, or workers died of them."""

    message: str


class ChunkLost(Said, tag="chunk_lost", frozen=True):
    """Whoever was to ask the model could not: nothing is known of these rows. `message` is for the author."""

    message: str


ChunkReply = ChunkDone | ModelWanted | ChunkNotDone | ChunkLost


def strongest_of(reply: ExplainReply, most: int) -> list[tuple[str, float]]:
    """A row's strongest contributions, the strongest first; fields that add nothing are none.

    Parameters
    ----------
    reply : ExplainReply
    most : int
    """
    parts = reply.explanation.contributions if reply.explanation else {}
    order = sorted((name for name in parts if parts[name]), key=lambda name: -abs(parts[name]))
    return [(name, parts[name]) for name in order[:most]]
