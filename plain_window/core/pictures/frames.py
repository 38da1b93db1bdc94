"""From the picture as a model sees it back to the picture as it was given: fitted, turned and cut out the other way."""

from dataclasses import dataclass

import numpy as np

from .settings import Preparation

__all__ = ["Frame", "Placement", "placed", "size_seen"]


@dataclass(frozen=True)
class Placement:
    """Which part of a picture is resized to what, and where that stands in the picture a model sees; all in pixels.

    Attributes
    ----------
    part : (float, float, float, float)
        Left, top, right and bottom of the part.
    size : (int, int)
        What it is resized to.
    at : (int, int)
        Where its upper left corner stands.
    """

    part: tuple[float, float, float, float]
    size: tuple[int, int]
    at: tuple[int, int]


def size_seen(size: tuple[int, int], preparation: Preparation) -> tuple[int, int]:
    """Width and height of what a model sees of a picture of this size; of one that keeps its own, with what is added to
    make whole multiples of its sides.

    Parameters
    ----------
    size : (int, int)
        Width and height.
    preparation : Preparation
    """
    if not preparation.own_size:
        return preparation.width, preparation.height
    step = preparation.multiple
    width, height = (-(-side // step) * step for side in _own_size(size, preparation))
    return width, height


def _own_size(size: tuple[int, int], preparation: Preparation) -> tuple[int, int]:
    """The picture's own size, or as much of it as a model is shown at the most."""
    step = preparation.multiple
    most = [max(step, side // step * step) for side in (preparation.width, preparation.height)]
    share = min(1.0, most[0] / size[0], most[1] / size[1])
    return max(1, round(size[0] * share)), max(1, round(size[1] * share))


def placed(size: tuple[int, int], preparation: Preparation) -> Placement:
    """How a picture of this size is fitted to what a model was trained on.

    Parameters
    ----------
    size : (int, int)
        Width and height.
    preparation : Preparation
    """
    width, height = size_seen(size, preparation)
    whole = (0.0, 0.0, float(size[0]), float(size[1]))
    if preparation.own_size:
        return Placement(whole, _own_size(size, preparation), (0, 0))
    if size == (width, height) or preparation.fit == "stretch":
        return Placement(whole, (width, height), (0, 0))
    shares = (width / size[0], height / size[1])
    if preparation.fit == "border":
        share = min(shares)
        inside = (
            min(max(1, round(size[0] * share)), width),
            min(max(1, round(size[1] * share)), height),
        )
        return Placement(whole, inside, ((width - inside[0]) // 2, (height - inside[1]) // 2))
    share = max(shares)
    across, down = width / share, height / share
    left, top = (size[0] - across) / 2, (size[1] - down) / 2
    part = (max(0.0, left), max(0.0, top), min(float(size[0]), left + across), min(float(size[1]), top + down))
    return Placement(part, (width, height), (0, 0))


@dataclass(frozen=True)
class Frame:
    """Where the picture that a model sees lies in the picture that was given.

    Attributes
    ----------
    full : (int, int)
        Width and height of the picture as it was given, upright.
    decoded : (int, int)
        The same as it was decoded, which may be smaller.
    cut : (int, int, int, int)
        Left, top, right and bottom of the part that was cut out of what was decoded.
    turn : int
        By how many degrees that was turned clockwise: 0, 90, 180 or 270.
    placement : Placement
        How it was then fitted.
    """

    full: tuple[int, int]
    decoded: tuple[int, int]
    cut: tuple[int, int, int, int]
    turn: int
    placement: Placement

    def in_given(self, corners: np.ndarray) -> np.ndarray:
        """Boxes in the picture as it was given, cut off at its edges.

        Parameters
        ----------
        corners : ndarray of float64, shape (n, 4)
            Left, top, right and bottom in pixels of the picture that the model sees.

        Returns
        -------
        ndarray of float64, shape (n, 4)
            The same in pixels of the picture as it was given; one that lies outside the part that was seen has no area.
        """
        points = np.asarray(corners, dtype="float64").reshape(-1, 2)
        part, size, at = self.placement.part, self.placement.size, self.placement.at
        scale = np.array([(part[2] - part[0]) / size[0], (part[3] - part[1]) / size[1]])
        points = (points - at) * scale + part[:2]
        # What is seen beyond the part that was cut out is border, and none of the picture.
        width, height = self.turned_size
        points = self._turned_back(np.clip(points, 0, [width, height]))
        points = (points + self.cut[:2]) * np.divide(self.full, self.decoded)
        pairs = points.reshape(-1, 2, 2)
        low, high = np.clip(pairs.min(axis=1), 0, self.full), np.clip(pairs.max(axis=1), 0, self.full)
        return np.concatenate([low, high], axis=1)

    @property
    def turned_size(self) -> tuple[int, int]:
        """Width and height of what was cut out, after it was turned."""
        width, height = self.cut[2] - self.cut[0], self.cut[3] - self.cut[1]
        return (height, width) if self.turn in (90, 270) else (width, height)

    def _turned_back(self, points: np.ndarray) -> np.ndarray:
        width, height = self.cut[2] - self.cut[0], self.cut[3] - self.cut[1]
        x, y = points[:, 0], points[:, 1]
        if self.turn == 90:
            x, y = y, height - x
        elif self.turn == 180:
            x, y = width - x, height - y
        elif self.turn == 270:
            x, y = width - y, x
        return np.stack([x, y], axis=1)
