"""What crosses a door, as types. Needs neither NumPy nor Flask.

A runner holds a file that somebody else made, so nothing it says is believed as it stands: it is decoded into these
types and no others, within the bytes that such a thing may take, and then held against what was asked.

- `values`       what stands in a row
- `jobs`         what a runner is to hold, and what it is handed at its start
- `events`       what a runner tells its keeper
- `keeping`      what is asked of the keeper, and what it says; `spawning`, the same of what starts runners for it
- `requests`     what the web tier asks of a runner
- `replies`      what a runner answers
- `chunks`       rows of a table on their way to a model, and what came of them
- `table_cases`  what a job says to the process that reads its table, and what that says
- `films`        the same of a film; `elsewhere`, what both have in common
- `model_facts`  what calls and replies about a model must fit
- `matching`     whether a reply is one to what was asked
- `decoding`     bytes to one of these types, or `ContractBroken`
- `inspection`   what is found in a model, and in a model with its table; `compilation`, what came of compiling it
- `kept_rows`    the rows kept beside a model

The last three are documents that are kept, in pydantic's types or a format of their own; everything else is msgspec's
(decision 12), and only that is imported here: a runner must be up quickly.
"""

from .decoding import ContractBroken, decoded, encoded
from .events import Event, Failed, FaultFound, Finished, Opened, Ready, Used
from .matching import ReplyMatcher
from .model_facts import FieldFacts, ModelFacts
from .replies import (
    AmongReply,
    BoxesReply,
    ExplainReply,
    Missing,
    OverallReply,
    PictureReply,
    PredictReply,
    Raised,
    Reason,
    Refused,
    RegionsReply,
    WrittenReply,
)

__all__ = [
    "AmongReply",
    "BoxesReply",
    "ContractBroken",
    "Event",
    "ExplainReply",
    "Failed",
    "FaultFound",
    "FieldFacts",
    "Finished",
    "Missing",
    "ModelFacts",
    "Opened",
    "OverallReply",
    "PictureReply",
    "PredictReply",
    "Raised",
    "Ready",
    "Reason",
    "Refused",
    "RegionsReply",
    "ReplyMatcher",
    "Used",
    "WrittenReply",
    "decoded",
    "encoded",
]
