"""A generator of made-up kiln-log lines and what turned out to be wrong.

Lines are put together from what potters write: a time, what they saw, what they did, moods and short cuts. What is seen
belongs to a fault more or less: slow heating may be worn elements, damp pots or low voltage, and some lines say next to
nothing. Names of studios, people and kilns are made up.
"""

import numpy as np
import pandas as pd

__all__ = ["FAULTS", "TARGET", "make_lines"]

TARGET = "fault"
FAULTS = ("worn elements", "thermocouple", "controller", "damp pots", "overloaded", "nothing")
SHARES = (0.22, 0.17, 0.15, 0.16, 0.12, 0.18)

SEEN = {
    "worn elements": [
        "stuck at {temp} for {hours} hours",
        "climbing slower every firing",
        "elements look pale and sagging",
        "one element not glowing",
        "bottom row stays dark",
        "took {hours} hours longer than in spring",
        "never got past {temp}",
        "top hot bottom cold",
        "relay clicks but no heat below",
    ],
    "thermocouple": [
        "display jumps between {temp} and {temp2}",
        "reads {temp} but cone {cone} is flat",
        "temperature reading jumped",
        "shows {temp} in a cold kiln",
        "probe tip is cracked",
        "reading drops to zero for a second",
        "cones say hotter than the display",
        "display says {temp}, pots are underfired",
    ],
    "controller": [
        "error {code} on the display",
        "program ended in segment {segment}",
        "screen went blank",
        "skipped the hold",
        "relay clicking all the time",
        "did not start at the delay",
        "clock was wrong after the power cut",
        "went straight to segment {segment}",
        "buttons do nothing",
    ],
    "damp pots": [
        "bang at {low}",
        "shards all over the shelf",
        "steam from the spy hole",
        "thick bases not dry",
        "two mugs blew up",
        "popping before {low}",
        "condensation on the lid",
        "walls were cold to the cheek",
    ],
    "overloaded": [
        "shelves packed to the walls",
        "no gap between the plates",
        "glaze touched the next bowl",
        "four layers this time",
        "bottom shelf underfired",
        "could not fit the cones",
        "middle of the stack is matt",
        "top hot bottom cold",
    ],
    "nothing": [
        "cone {cone} down nicely",
        "all good",
        "opened at {low}, everything fine",
        "reached {temp} on time",
        "nice even firing",
        "glaze came out as planned",
        "usual firing",
        "no complaints",
    ],
}
ANYWAY = [
    "bisque for the evening class",
    "glaze firing",
    "test tiles",
    "big vases on top",
    "started at {clock}",
    "left it overnight",
    "Mira loaded",
    "Tomas checked at {clock}",
    "rain all day",
    "kiln {kiln}",
    "opened the lid at {low}",
    "second try",
    "stuck at {temp} for {hours} hours",
    "took longer than usual",
    "program {segment}",
]
PUT_BEFORE = ["", "", "", "hm, ", "again: ", "note: ", "help! ", "ok so "]
JOINS = [", ", ". ", "; ", " and ", " - "]


def make_lines(n_rows: int, *, seed: int) -> pd.DataFrame:
    """Made-up lines with what was wrong.

    Parameters
    ----------
    n_rows : int
    seed : int

    Returns
    -------
    DataFrame of shape (n_rows, 2)
        Columns `line` and `fault`.
    """
    rng = np.random.default_rng(seed)
    faults = rng.choice(FAULTS, n_rows, p=SHARES)
    return pd.DataFrame({"line": [_line(fault, rng) for fault in faults], TARGET: faults})


def _line(fault: str, rng: np.random.Generator) -> str:
    n_seen = rng.choice([0, 1, 2, 3], p=[0.06, 0.44, 0.38, 0.12])
    # What is seen is now and then put down to the wrong thing.
    observed = [_one(SEEN[fault if rng.random() < 0.93 else str(rng.choice(FAULTS))], rng) for _ in range(n_seen)]
    parts = [*observed, *(_one(ANYWAY, rng) for _ in range(max(rng.integers(0, 3), 1 - n_seen)))]
    rng.shuffle(parts)
    line = str(rng.choice(PUT_BEFORE)) + parts[0]
    for part in parts[1:]:
        line += str(rng.choice(JOINS)) + part
    return _mistyped(line, rng) if rng.random() < 0.15 else line


def _one(fragments: list[str], rng: np.random.Generator) -> str:
    return str(rng.choice(fragments)).format(
        temp=int(rng.integers(160, 250)) * 5,
        temp2=int(rng.integers(20, 120)) * 5,
        low=int(rng.integers(16, 60)) * 5,
        hours=int(rng.integers(2, 7)),
        cone=int(rng.integers(4, 10)),
        code=f"E{rng.integers(1, 9)}",
        segment=int(rng.integers(2, 7)),
        clock=f"{rng.integers(6, 22)}:{rng.integers(0, 6)}0",
        kiln=int(rng.integers(1, 4)),
    )


def _mistyped(line: str, rng: np.random.Generator) -> str:
    """Two letters the wrong way round."""
    at = int(rng.integers(0, max(1, len(line) - 2)))
    return line[:at] + line[at + 1 : at + 2] + line[at : at + 1] + line[at + 2 :]
