"""A coverage-guided attack on what decodes a runner's messages: minutes, not part of the tests.

    pip install atheris==3.0.0
    PYTHONPATH=. python -P -m benchmarks.fuzz_contract CORPUS -max_total_time=300

CORPUS is a folder; whole replies are put into it to begin with.

Bytes go in as a runner's replies and events would: through the frame reader in pieces, decoded as each type of the
contract, held against a model. Anything but a reply or a clean refusal is a crash.
"""

import contextlib
import sys
from pathlib import Path

import atheris

with atheris.instrument_imports(include=["plain_window"]):
    from plain_window.core.contract import (
        AmongReply,
        ContractBroken,
        Event,
        ExplainReply,
        Failed,
        Missing,
        OverallReply,
        PredictReply,
        Raised,
        Ready,
        Refused,
        RegionsReply,
        ReplyMatcher,
        decoded,
        encoded,
    )
    from plain_window.core.contract.keeping import KeeperRequest
    from plain_window.core.contract.replies import (
        ChangesFound,
        CurveFound,
        ExplanationFound,
        Numbers,
        SimilarFound,
        WayFound,
    )
    from plain_window.core.contract.requests import Request
    from plain_window.runners.protocol import FrameReader, ProtocolError, frame

LIMIT = 1 << 16
MODEL = ReplyMatcher(n_outputs=2, fields=frozenset({"a", "wall_mm"}))
CHECKS = {
    PredictReply: lambda reply: (MODEL.check_predicted(reply, n_rows=1), reply.outputs.rows()),
    ExplainReply: lambda reply: MODEL.check_explained(reply, of=None),
    RegionsReply: lambda reply: MODEL.check_regions(reply, of=None),
    OverallReply: lambda reply: MODEL.check_overall(reply),
    AmongReply: lambda reply: MODEL.check_among(reply),
}


def try_one(data: bytes) -> None:
    """One stream of bytes, cut where its first byte says."""
    if not data:
        return
    frames, cut = FrameReader(limit=LIMIT), 1 + data[0]
    bodies = [data[1:]]
    with contextlib.suppress(ProtocolError):
        for at in range(1, len(data), cut):
            frames.feed(data[at : at + cut])
            while (body := frames.next()) is not None:
                bodies.append(body)
    for body in bodies:
        _decode(body)


def _decode(body: bytes) -> None:
    for type_ in (*(kind | Missing | Raised | Refused for kind in CHECKS), Event, Request, KeeperRequest):
        with contextlib.suppress(ContractBroken):
            reply = decoded(body, type_)
            check = CHECKS.get(type(reply))
            if check:
                check(reply)


def _seed(folder: Path) -> None:
    """Replies as an honest runner gives them: what is near them gets furthest."""
    folder.mkdir(exist_ok=True)
    values = {"a": 1.0, "wall_mm": "x"}
    explained = ExplainReply(
        [0.1, 0.9],
        1,
        0.1,
        0.2,
        explanation=ExplanationFound("sampled", 0.5, {"a": 0.4}, {"a": 0.01}, 10),
        curves={"a": CurveFound("steps", [1.0, 2.0], [0.1, 0.2])},
        similar=[SimilarFound(values, "cracks", [0.1, 0.9], 0.5)],
        changes=ChangesFound([WayFound(values, [0.9, 0.1])], True, None, False),
    )
    where = RegionsReply("patches", 0, "sketch", 0.5, 0.1, 1, 2, [0.1, 0.3], [None, 0.2], [], 1, False)
    honest = [
        PredictReply(Numbers(1, 2, bytes(16)), 0.2),
        explained,
        where,
        AmongReply([1], [0.1], ["a"]),
        Missing("why"),
        Ready(),
        Failed("why", [], "where"),
    ]
    for number, reply in enumerate(honest):
        (folder / f"honest-{number}").write_bytes(b"\xff" + frame(encoded(reply)))
        (folder / f"bare-{number}").write_bytes(b"\xff" + encoded(reply))


if __name__ == "__main__":
    for argument in sys.argv[1:]:
        if not argument.startswith("-"):
            _seed(Path(argument))
    atheris.Setup(sys.argv, try_one)
    atheris.Fuzz()
