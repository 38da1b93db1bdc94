"""How like the known pictures, or the reference texts, one is: by a fixed description of it.

A picture is described by what a model sees of it: its colour, how varied it is, how steep at several scales (by which
noise, a plain surface and a photograph differ), and how bright and varied each of a few cells is. A text is described
by which runs of three letters it has.

A picture is the further from the known ones the further any number of its description lies outside theirs, or its
nearest neighbours are away; a text, the further its nearest neighbours are. It is unlike them if it is further than 99
in 100 of them are. How often that is a false alarm is counted on known ones that were held back [1]_.

References
----------
.. [1] R. Laxhammar, G. Falkman, "Conformal prediction for distribution-independent anomaly detection in streaming
       vessel data", StreamKDD 2010, section 3.
"""

import re
import zlib
from collections.abc import Sequence

import numpy as np

from .similarity import STRANGE_SHARE, Familiarity

__all__ = [
    "FEWEST_KNOWN",
    "MOST_KNOWN",
    "Likeness",
    "as_descriptions",
    "describe_picture",
    "describe_text",
    "false_alarm_share",
]

# From fewer nothing is concluded; more tell nothing more.
FEWEST_KNOWN, MOST_KNOWN = 20, 2000
NEIGHBOURS = 3
CELLS_ACROSS, STEPS = 4, (1, 2, 4, 8)
# Of brightness from 0 to 1: half of what eight bits can tell.
LEAST_TOLD = 0.5 / 255
# Known pictures that never differ by more must not make a trifle strange.
LEAST_SPREAD = 0.05
LETTERS, BUCKETS, MOST_CHARACTERS = 3, 512, 1000
# With too few known ones for one in a hundred, what is strange is further than all of them by this much.
BEYOND_ALL = 1.15


def describe_picture(seen: np.ndarray) -> np.ndarray:
    """A picture as a model sees it, in numbers.

    Parameters
    ----------
    seen : ndarray of uint8, shape (height, width, n_channels)

    Returns
    -------
    ndarray of float32, shape (n_numbers,)
        Mean of every channel and how colourful it is; in logarithms how varied, how steep between neighbouring pixels,
        and how that grows with their distance; and for each cell how bright it is beside the whole and how varied.
    """
    values = seen.astype("float32") / 255
    grey = values.mean(axis=2)
    steep = [_logarithm(_steepness(grey, step)) for step in STEPS]
    varied = _logarithm(grey.std())
    colourful = (values.max(axis=2) - values.min(axis=2)).mean()
    numbers = [*values.mean(axis=(0, 1)), colourful, varied, steep[0], *-np.diff(steep), varied - steep[-1]]
    numbers.append(_logarithm(np.median(np.abs(grey - np.median(grey)))) - varied)
    for rows in np.array_split(np.arange(len(grey)), min(CELLS_ACROSS, len(grey))):
        for columns in np.array_split(np.arange(grey.shape[1]), min(CELLS_ACROSS, grey.shape[1])):
            cell = grey[np.ix_(rows, columns)]
            numbers += [cell.mean() - grey.mean(), _logarithm(cell.std())]
    return np.array(numbers, dtype="float32")


def _steepness(grey: np.ndarray, step: int) -> float:
    """How much brightness differs on average between pixels so far apart, across and down."""
    apart = [np.abs(grey[:, step:] - grey[:, :-step]), np.abs(grey[step:] - grey[:-step])]
    return float(np.mean([part.mean() for part in apart if part.size] or [0.0]))


def _logarithm(spread: float) -> float:
    """Of a spread: twice as varied is as far as half as varied."""
    return float(np.log2(spread + LEAST_TOLD))


def describe_text(text: str) -> np.ndarray:
    """A text's runs of three letters, counted in hashed places, of length one: float32 of shape (n_places,).

    Parameters
    ----------
    text : str
    """
    words = re.sub(r"\s+", " ", text[:MOST_CHARACTERS].casefold())
    plain = f"  {words} "
    counts = np.zeros(BUCKETS, dtype="float32")
    for at in range(len(plain) - LETTERS + 1):
        counts[zlib.crc32(plain[at : at + LETTERS].encode()) % BUCKETS] += 1.0
    length = float(np.linalg.norm(counts))
    return counts / length if length else counts


class Likeness:
    """Known descriptions, ready to be compared with.

    Parameters
    ----------
    known : ndarray of shape (n_known, n_numbers)
        At least two.
    is_text : bool
        Whether they are of texts, whose numbers mean nothing one by one.
    """

    def __init__(self, known: np.ndarray, *, is_text: bool = False) -> None:
        kept = np.asarray(known[:MOST_KNOWN], dtype="float32")
        self._is_text = is_text
        self._middle = np.zeros(kept.shape[1], "float32") if is_text else kept.mean(axis=0)
        self._spread = np.ones_like(self._middle) if is_text else np.maximum(kept.std(axis=0), LEAST_SPREAD)
        self._known = (kept - self._middle) / self._spread
        self._squares = np.square(self._known).sum(axis=1)
        near, outside = self._usual_nearness(), np.abs(self._known).max(axis=1)
        # What 99 in 100 stay within, so that the two kinds of being far count alike.
        self._units = (_usual_most(near), _usual_most(outside))
        self._usual = self._together(near, outside)
        self.threshold = _usual_most(self._usual)

    @property
    def unit(self) -> float:
        """What 99 in 100 known ones have their nearest others within."""
        return self._units[0]

    @property
    def scale(self) -> tuple[np.ndarray, np.ndarray]:
        """The middle of the known descriptions and how they spread around it, shape (n_numbers,) each."""
        return self._middle, self._spread

    @property
    def scaled(self) -> np.ndarray:
        """The known descriptions, in spreads from the middle: float32 of shape (n_known, n_numbers)."""
        return self._known

    @property
    def units(self) -> tuple[float, float]:
        """What 99 in 100 known ones have their nearest others within, and lie within themselves."""
        return self._units

    @property
    def usual(self) -> list[float]:
        """How far each known one is from the others, in that unit."""
        usual: list[float] = self._usual.tolist()
        return usual

    def familiarity(self, description: np.ndarray) -> Familiarity:
        """How like the known ones this is.

        Parameters
        ----------
        description : ndarray
            What `describe` made of a picture, shape (n_numbers,).
        """
        distance = self.distance(description)
        share = float((1 + np.sum(self._usual >= distance)) / (1 + self._usual.size))
        return Familiarity(distance, share, distance > self.threshold)

    def distance(self, description: np.ndarray) -> float:
        """How far it is from the known ones, in units of what is usual among them.

        Parameters
        ----------
        description : ndarray
            What `describe` made of a picture, shape (n_numbers,).
        """
        own = (np.asarray(description, dtype="float32") - self._middle) / self._spread
        near = self._nearest(self._squares - 2 * (self._known @ own) + float(own @ own))
        return float(self._together(np.array([near]), np.abs(own).max(keepdims=True))[0])

    def _together(self, near: np.ndarray, outside: np.ndarray) -> np.ndarray:
        if self._is_text:
            return near / self._units[0]
        return np.maximum(near / self._units[0], outside / self._units[1])

    def _nearest(self, squares: np.ndarray) -> float:
        k = min(NEIGHBOURS, squares.size)
        nearest = np.partition(squares, k - 1)[:k]
        return float(np.sqrt(np.maximum(nearest, 0.0)).mean())

    def _usual_nearness(self) -> np.ndarray:
        """For each known one how far its nearest other ones are."""
        apart = self._squares[:, None] - 2 * (self._known @ self._known.T) + self._squares[None, :]
        return np.array([self._nearest(np.delete(row, at)) for at, row in enumerate(apart)])


def _usual_most(distances: np.ndarray) -> float:
    """What 99 in 100 stay within; where they are too few for that, a little more than all."""
    if distances.size * STRANGE_SHARE >= 1:
        most = float(np.quantile(distances, 1 - STRANGE_SHARE))
    else:
        most = float(distances.max()) * BEYOND_ALL
    return most or 1.0


def false_alarm_share(known: np.ndarray, *, is_text: bool = False) -> float:
    """Of known ones that were held back, the share that would be called unlike the rest.

    Parameters
    ----------
    known : ndarray of shape (n_known, n_numbers)
        At least `FEWEST_KNOWN`.
    is_text : bool
    """
    some = known[:MOST_KNOWN]
    halves = [some[at::2] for at in (0, 1)]
    alarms = []
    for own, others in (halves, halves[::-1]):
        likeness = Likeness(own, is_text=is_text)
        alarms += [likeness.distance(one) > likeness.threshold for one in others]
    return float(np.mean(alarms))


def as_descriptions(kept: Sequence[bytes]) -> np.ndarray:
    """Descriptions as they are kept in a file: float32 of shape (n_known, n_numbers).

    Parameters
    ----------
    kept : sequence of bytes
        As they were written.
    """
    return np.array([np.frombuffer(one, dtype="float32") for one in kept])
