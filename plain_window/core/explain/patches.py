"""Patches of a picture: which there are, the picture with some of them covered, and where they lie in words."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..pictures.preparation import as_input
from ..pictures.settings import Preparation

__all__ = ["MOST_PATCHES_ACROSS", "PatchGrid", "RegionSum", "region_sums"]

# Rows and columns of patches: small enough to point at something, large enough to matter to a model.
MOST_PATCHES_ACROSS, SMALLEST_PATCH = 7, 4
DOWN, ACROSS = ("upper", "middle", "lower"), ("left", "middle", "right")


@dataclass(frozen=True)
class PatchGrid:
    """A prepared picture in rows and columns of patches.

    `patch_of` says to which patch each number of the model's input (without its batch dimension) belongs, with one
    channel for all where they stand apart; `shown` and `covered` are the input as it is, and with all of it covered.
    """

    n_rows: int
    n_columns: int
    patch_of: np.ndarray
    shown: np.ndarray
    covered: np.ndarray

    @classmethod
    def of(
        cls,
        picture: np.ndarray,
        preparation: Preparation,
        *,
        most_across: int = MOST_PATCHES_ACROSS,
        cover: Sequence[int] | None = None,
    ) -> "PatchGrid":
        """The patches of what a model sees.

        Parameters
        ----------
        picture : ndarray of uint8, shape (height, width, n_channels)
        preparation : Preparation
        most_across : int
            How many patches stand beside each other at the most.
        cover : sequence of int, optional
            A colour; without it the picture's average.
        """
        height, width, n_channels = picture.shape
        n_rows = max(1, min(most_across, height // SMALLEST_PATCH))
        n_columns = max(1, min(most_across, width // SMALLEST_PATCH))
        row = np.minimum(np.arange(height) * n_rows // height, n_rows - 1)
        column = np.minimum(np.arange(width) * n_columns // width, n_columns - 1)
        patch = (row[:, None] * n_columns + column)[:, :, None]
        if preparation.layout == "channels first":
            patch = patch.transpose(2, 0, 1)
        elif preparation.layout == "flat":
            patch = np.repeat(patch, n_channels, axis=2).reshape(-1)
        colour = np.rint(picture.reshape(-1, n_channels).mean(axis=0)) if cover is None else np.array(cover)
        blank = np.broadcast_to(colour.astype("uint8"), picture.shape)
        alone = preparation.model_copy(update={"batch": False})
        return cls(
            n_rows,
            n_columns,
            np.ascontiguousarray(patch),
            as_input(picture, alone),
            as_input(np.ascontiguousarray(blank), alone),
        )

    @property
    def n_patches(self) -> int:
        """How many there are."""
        return self.n_rows * self.n_columns

    def pictures(self, shown: np.ndarray) -> np.ndarray:
        """Inputs with only some patches shown: float32 of shape (n_groups, *input).

        Parameters
        ----------
        shown : ndarray of bool, shape (n_groups, n_patches)
        """
        # Bit by bit: choosing between floating point numbers took a tenth of the model's own time.
        whole, nothing = self.shown.view("int32"), self.covered.view("int32")
        takes = (-shown.astype("int32"))[:, self.patch_of]
        bits = takes & (whole ^ nothing)
        bits ^= nothing
        return bits.view("float32")


@dataclass(frozen=True)
class RegionSum:
    """What a ninth of a picture contributes, by its place in words; the standard error is NaN in a sketch."""

    words: str
    contribution: float
    error: float


def region_sums(contributions: np.ndarray, covariance: np.ndarray, n_rows: int, n_columns: int) -> list[RegionSum]:
    """What the ninths of a picture contribute, the largest first.

    Parameters
    ----------
    contributions : ndarray of shape (n_patches,)
    covariance : ndarray of shape (n_patches, n_patches)
    n_rows, n_columns : int
        Of patches.
    """
    down, across = (_thirds(n) for n in (n_rows, n_columns))
    of_patch = [_words(DOWN[row], ACROSS[column]) for row in down for column in across]
    sums = []
    for words in dict.fromkeys(of_patch):
        own = np.array([other == words for other in of_patch])
        variance = float(covariance[np.ix_(own, own)].sum())
        error = float(np.sqrt(max(variance, 0.0))) if variance == variance else float("nan")
        sums.append(RegionSum(words, float(contributions[own].sum()), error))
    return sorted(sums, key=lambda one: -abs(one.contribution))


def _thirds(n: int) -> np.ndarray:
    return np.minimum(((np.arange(n) + 0.5) / n * 3).astype(int), 2)


def _words(down: str, across: str) -> str:
    return "centre" if down == across == "middle" else f"{down} {across}"
