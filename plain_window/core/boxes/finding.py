"""What a model finds in one picture: its outputs read, thinned out, and placed in the picture as it was given."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..answers.in_picture import MOST_BOXES, BoxReading
from ..pictures.frames import Frame
from .candidates import read_candidates
from .suppression import suppressed

__all__ = ["BoxesFound", "find_boxes"]


@dataclass(frozen=True)
class BoxesFound:
    """Boxes, best score first.

    Attributes
    ----------
    corners : ndarray of float64, shape (n, 4)
        Left, top, right and bottom, in pixels of the picture as it was given.
    scores : ndarray of float64, shape (n,)
    classes : ndarray of int64, shape (n,)
    n_without : int
        Candidates that are left out because they are no numbers.
    n_outside : int
        Boxes that are left out because they lie outside what was seen of the picture.
    is_cut : bool
        Whether there are more than an answer may hold.
    """

    corners: np.ndarray
    scores: np.ndarray
    classes: np.ndarray
    n_without: int
    n_outside: int
    is_cut: bool


def find_boxes(
    outputs: Mapping[str, np.ndarray],
    reading: BoxReading,
    *,
    seen: tuple[int, int],
    frame: Frame,
    least_score: float,
    most: int = MOST_BOXES,
) -> BoxesFound:
    """The boxes in a model's outputs for one picture.

    Parameters
    ----------
    outputs : mapping of str to ndarray
    reading : BoxReading
    seen : (int, int)
        Width and height of the picture as the model sees it.
    frame : Frame
        Where that lies in the picture as it was given.
    least_score : float
        Boxes with a lower score are left out.
    most : int
        How many boxes are kept.

    Raises
    ------
    ModelFailed
        If the reading does not fit the outputs.
    """
    candidates = read_candidates(outputs, reading, width=seen[0], height=seen[1])
    likely = candidates.among(candidates.scores >= least_score)
    if reading.suppression == "ours":
        kept = suppressed(likely, overlap=reading.overlap, most=most + 1)
    else:
        kept = likely.among(np.argsort(-likely.scores, kind="stable")[: most + 1])
    is_cut = len(kept.scores) > most
    kept = kept.among(np.arange(min(most, len(kept.scores))))
    corners = frame.in_given(kept.corners)
    lies_inside = (corners[:, 2:] > corners[:, :2]).all(axis=1)
    return BoxesFound(
        corners=corners[lies_inside],
        scores=np.minimum(kept.scores[lies_inside], 1.0),
        classes=kept.classes[lies_inside],
        n_without=candidates.n_without,
        n_outside=int((~lies_inside).sum()),
        is_cut=is_cut,
    )
