"""What a runner tells its keeper. None of it is about how much it takes: the keeper looks for itself."""

import msgspec

__all__ = ["COMPILED_BYTES", "EVENT_BYTES", "OPENED_BYTES", "Event", "Failed", "Finished", "Opened", "Ready", "Used"]

# What came of opening carries a compiled model and the rows kept beside it; everything else is a few words.
OPENED_BYTES = 256 << 20
# A compiled model larger than this is not handed over: the rows beside it need room too.
COMPILED_BYTES = 200 << 20
EVENT_BYTES = 1 << 20


class _Event(msgspec.Struct, forbid_unknown_fields=True, tag_field="event"):
    """Something that happened to a runner."""


class FaultFound(msgspec.Struct, forbid_unknown_fields=True):
    """A column that does not fit, or what only the author knows."""

    field: str | None
    message: str
    asks: str = ""
    choices: tuple[str, ...] = ()


class Opened(_Event, tag="opened"):
    """The model is open. `inspection` is JSON; left out where it was known before."""

    inspection: bytes | None = None
    compiled: bytes | None = None
    kept_rows: bytes | None = None
    # A network as ONNX, where that says the same: what is served from then on.
    converted: bytes | None = None


class Ready(_Event, tag="ready"):
    """It answers calls from now on."""


class Used(_Event, tag="used"):
    """It has answered calls since it last said so."""


class Finished(_Event, tag="finished"):
    """What came of opening is all that was wanted of it."""


class Failed(_Event, tag="failed"):
    """The model cannot be held, and why."""

    reason: str
    faults: list[FaultFound] = []
    # For the log, and of a file of code for its author.
    traceback: str = ""
    is_for_author: bool = False
    # With what it might open, as lines of a `requirements.txt`.
    requirements: list[str] = []


Event = Opened | Ready | Used | Finished | Failed
