"""What a model says of the pictures it takes, and models of flattened pixels."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol, cast

import numpy as np

from ..answers.in_picture import IN_PICTURE, BoxesSetting, MaskSetting, PictureSetting
from ..answers.written import TableSetting, TextSetting
from ..boxes.readings import BoxOutputs
from ..contract.inspection import Found
from ..errors import ModelNotOpened
from ..made.outputs import MapOutput
from ..pictures.flattening import PIXELS, flattened, pixel_names, places_by_name
from ..pictures.settings import Preparation
from .adapter import ModelAdapter

if TYPE_CHECKING:  # models of pictures alone need no tables
    import pandas as pd

__all__ = [
    "FlatPictureModel",
    "InPictureModel",
    "PictureInput",
    "PictureModel",
    "flat_preparation",
    "in_picture_model",
    "may_be_two_classes",
    "picture_of_columns",
    "stated_setting",
    "take_as_two_classes",
]

SMALLEST_SIDE = 4
StatedSetting = BoxesSetting | PictureSetting | MaskSetting | TextSetting | TableSetting


@dataclass(frozen=True)
class PictureInput:
    """One input for pictures: what is known of its preparation, and which settings of it are stated by the model.

    `tells_scale` is set where numbers in the model speak for the scale of the pixels, without stating it.
    """

    name: str
    preparation: Preparation
    stated: frozenset[str]
    tells_scale: bool = False


class PictureModel(Protocol):
    """A model that looks at pictures, and perhaps at a row beside each."""

    found: Found
    pictures: Sequence[PictureInput]
    notes: Sequence[str]

    def predict(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs), for prepared pictures by input and the columns beside them.

        Parameters
        ----------
        pictures : mapping
            Prepared pictures by input, as many each.
        table : pandas.DataFrame or None
            Shape (n_rows, n_features).

        Raises
        ------
        ModelFailed
            With the library's traceback.
        """


class InPictureModel(PictureModel, Protocol):
    """A model whose answer lies in the picture, once its outputs are read: boxes, a picture, a class for each pixel."""

    boxes: BoxOutputs | None
    maps: Sequence[MapOutput]

    def outputs(
        self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None"
    ) -> dict[str, np.ndarray]:
        """All outputs by name, for one prepared picture.

        Parameters
        ----------
        pictures : mapping
            One prepared picture by input.
        table : pandas.DataFrame or None
            One row of what stands beside it.

        Raises
        ------
        ModelFailed
            With the library's traceback.
        """


def in_picture_model(model: PictureModel) -> "InPictureModel | None":
    """The model as one whose answer lies in the picture; None if it is none.

    Parameters
    ----------
    model : PictureModel
    """
    lies_in_it = model.found.task in IN_PICTURE or stated_setting(model) is not None
    return cast("InPictureModel", model) if lies_in_it else None


def stated_setting(model: PictureModel) -> StatedSetting | None:
    """How answers that are no row of outputs are read, where the model itself says so: a function does.

    Parameters
    ----------
    model : PictureModel
    """
    return getattr(model, "setting", None)


class FlatPictureModel:
    """A model of a table whose columns are the pixels of a picture.

    Parameters
    ----------
    model : ModelAdapter
        Without names for its columns, or with such as pixels have.

    Attributes
    ----------
    model : ModelAdapter
    names : list of str
        Which pixel each column is, in the model's order.
    own_names : list of str
        What the model calls its columns; the same where it has no names for them.

    Raises
    ------
    ModelNotOpened
        If its columns are those of no square picture.
    """

    def __init__(self, model: ModelAdapter) -> None:
        self.model = model
        self.found = model.found
        preparation = picture_of_columns(model)
        if preparation is None:
            raise ModelNotOpened(
                f"The model takes {model.found.n_features or 'an unknown number of'} columns, which is no square "
                "picture. Bring a reference table."
            )
        stated = frozenset({"width", "height", "colour", "layout", "batch"})
        self.pictures: Sequence[PictureInput] = [PictureInput(PIXELS, preparation, stated)]
        every, own, side = pixel_names(model.found.n_features or 0), model.found.features, preparation.width
        self._places = (places_by_name(own) if own else None) or list(range(len(every)))
        self.names = [every[place] for place in self._places]
        self.own_names = own or self.names
        called = f", going by their names (`{own[0]}` to `{own[-1]}`)" if own else ""
        self.notes: Sequence[str] = [
            f"No table came with the model: its {len(every):,} columns were taken for the pixels of a picture of "
            f"{side} × {side}, row by row{called}."
        ]

    def predict(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> np.ndarray:
        """As `PictureModel.predict`."""
        import pandas as pd

        pixels = flattened(pictures[PIXELS])[:, self._places]
        return self.model.predict(pd.DataFrame(pixels, columns=self.own_names))


def picture_of_columns(model: ModelAdapter) -> Preparation | None:
    """The square picture whose pixels a model's columns could be; None if there is none, or they are called otherwise.

    Parameters
    ----------
    model : ModelAdapter
    """
    own = model.found.features
    return None if own is not None and places_by_name(own) is None else flat_preparation(model.found.n_features)


def flat_preparation(n_features: int | None) -> Preparation | None:
    """The square picture with this many numbers, grey rather than colour; None if there is none.

    Parameters
    ----------
    n_features : int or None
        How many numbers the model takes; None if it does not say.
    """
    for colour, channels in (("grey", 1), ("colour", 3)):
        side = math.isqrt((n_features or 0) // channels)
        if side >= SMALLEST_SIDE and side * side * channels == n_features:
            settings: dict[str, Any] = {"colour": colour, "layout": "flat", "batch": False}
            return Preparation(width=side, height=side, **settings)
    return None


class _MayBeTwoClasses(Protocol):
    def take_as_two_classes(self) -> None:
        """Its one number is how likely the second of two classes is."""


def may_be_two_classes(model: PictureModel) -> bool:
    """Whether a model's one number could be how likely one of two classes is.

    Parameters
    ----------
    model : PictureModel
    """
    return hasattr(model, "take_as_two_classes")


def take_as_two_classes(model: PictureModel) -> None:
    """Have a model's one number be how likely the second of two classes is.

    Parameters
    ----------
    model : PictureModel
        One that `may_be_two_classes`.
    """
    cast("_MayBeTwoClasses", model).take_as_two_classes()
