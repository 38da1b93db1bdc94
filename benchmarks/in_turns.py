"""Ratios to other servers, measured in turns of a second: a machine that swings swings for both."""

import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from .load import Load, keep_busy

__all__ = ["InTurns", "measure_in_turns"]

TURNS, SECONDS = 6, 1.2


@dataclass(frozen=True)
class InTurns:
    """Medians over the turns, of ours to the other's; the difference in milliseconds."""

    connections: int
    per_second_ratio: float
    p50_ratio: float
    p50_above_ms: float
    spread: tuple[float, float]
    ours: Load
    other: Load

    def words(self) -> dict[str, str]:
        """For a table."""
        low, high = self.spread
        return {
            f"requests/s at {self.connections}": (
                f"{self.per_second_ratio:.2f} ({low:.2f} to {high:.2f}); {self.ours.per_second:.0f} "
                f"to {self.other.per_second:.0f}"
            ),
            f"p50 at {self.connections}": (
                f"{self.p50_ratio:.2f}; {self.ours.p50_ms:.2f} to {self.other.p50_ms:.2f} ms, "
                f"{self.p50_above_ms:.2f} ms above"
            ),
        }


def measure_in_turns(
    ours: tuple[int, str, Sequence[bytes]], other: tuple[int, str, Sequence[bytes]], *, connections: int
) -> InTurns:
    """Keep one server busy and then the other, over and over.

    Parameters
    ----------
    ours, other : tuple of int, str and sequence of bytes
        Port, path and bodies.
    connections : int
    """
    turns = []
    for _ in range(TURNS):
        loads = [
            keep_busy(port, path, bodies, connections=connections, seconds=SECONDS)
            for port, path, bodies in (other, ours)
        ]
        turns.append(loads)
    ratios = [mine.per_second / theirs.per_second for theirs, mine in turns]
    theirs, mine = sorted(turns, key=lambda pair: pair[1].p50_ms)[len(turns) // 2]
    return InTurns(
        connections,
        statistics.median(ratios),
        statistics.median(mine.p50_ms / theirs.p50_ms for theirs, mine in turns),
        statistics.median(mine.p50_ms - theirs.p50_ms for theirs, mine in turns),
        (min(ratios), max(ratios)),
        mine,
        theirs,
    )
