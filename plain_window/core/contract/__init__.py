"""What crosses a runner's door, as types. Needs neither NumPy nor Flask.

A runner holds a file that somebody else made, so nothing it says is believed as it stands: it is decoded into these
types and no others, within the bytes that such a thing may take, and then held against what was asked.

- `replies`   what a runner answers to a call of the web tier
- `events`    what a runner tells its keeper
- `decoding`  bytes to one of these types, or `ContractBroken`
- `asked`     whether a reply is one to what was asked
"""

from .asked import Asked
from .decoding import ContractBroken, decoded, encoded
from .events import Event, Failed, Finished, Opened, Ready, Used
from .replies import (
    AmongReply,
    ExplainReply,
    Missing,
    OverallReply,
    PredictReply,
    Raised,
    Refused,
    WhereReply,
)

__all__ = [
    "AmongReply",
    "Asked",
    "ContractBroken",
    "Event",
    "ExplainReply",
    "Failed",
    "Finished",
    "Missing",
    "Opened",
    "OverallReply",
    "PredictReply",
    "Raised",
    "Ready",
    "Refused",
    "Used",
    "WhereReply",
    "decoded",
    "encoded",
]
