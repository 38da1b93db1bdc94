"""Models that came without a reference table: of pictures, of flattened pixels, or of text."""

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any

import numpy as np

from ..contract.inspection import Inspection
from ..contract.kept_rows import KeptRows
from ..errors import Fault, MismatchFaults
from ..formats.adapter import ModelAdapter
from ..formats.picture_input import FlatPictureModel, PictureModel, flat_preparation, picture_of_columns
from ..pictures.flattening import places_by_name

if TYPE_CHECKING:
    import pandas as pd
    from typing_extensions import TypeIs

__all__ = [
    "as_picture_model",
    "like_pixels",
    "looks_at_pictures",
    "may_see_pictures",
    "stand_in_lines",
    "without_lines",
]

N_LINES, MOST_WORDS, SEED = 200, 30, 20261124
# Where a model does not tell its words.
COMMON_WORDS = ("the", "kiln", "was", "cold", "and", "a", "pot", "cracked", "after", "firing")
TEXT_NAME = "text"


def looks_at_pictures(model: ModelAdapter | PictureModel) -> "TypeIs[PictureModel]":
    """Whether it is asked about pictures.

    Parameters
    ----------
    model : ModelAdapter or PictureModel
    """
    return hasattr(model, "pictures")


def may_see_pictures(model: ModelAdapter | PictureModel) -> bool:
    """Whether it could be asked about pictures: it is, or its columns could be pixels.

    Parameters
    ----------
    model : ModelAdapter or PictureModel
    """
    return looks_at_pictures(model) or picture_of_columns(model) is not None


def like_pixels(names: Sequence[str]) -> list[str]:
    """A note where the columns of a table are called like the pixels of a picture: nobody sets those one by one.

    Parameters
    ----------
    names : sequence of str
        Columns that the model takes.
    """
    preparation = flat_preparation(len(names)) if places_by_name(names) is not None else None
    if preparation is None:
        return []
    size = f"{preparation.width} × {preparation.height}"
    return [
        f"The columns are called like the pixels of a picture of {size}. Bring the model without the table, and "
        f"visitors draw or choose a picture instead of setting {len(names):,} numbers."
    ]


def as_picture_model(model: ModelAdapter | PictureModel) -> PictureModel:
    """The model, asked about pictures.

    Parameters
    ----------
    model : ModelAdapter or PictureModel

    Raises
    ------
    MismatchFaults
        If no picture fits it.
    """
    if looks_at_pictures(model):
        return model
    if picture_of_columns(model) is None:
        names = ", ".join(f"`{name}`" for name in (model.found.features or [])[:6])
        wants = f"the columns {names}" if names else f"{model.found.n_features or 'some'} columns"
        message = f"The model takes rows of a table: {wants}. Bring a reference table with such rows."
        raise MismatchFaults([Fault("reference", message)])
    return FlatPictureModel(model)


def stand_in_lines(model: ModelAdapter) -> "pd.DataFrame | None":
    """Lines of the words a model of text knows, to try it on; None if it takes anything but one text.

    They prove that a compiled model says the same. They are no reference rows: nothing is explained by them.

    Parameters
    ----------
    model : ModelAdapter
    """
    import pandas as pd

    names = model.found.features or ([TEXT_NAME] if model.found.n_features == 1 else [])
    if len(names) != 1 or model.column_uses(names).get(names[0]) is None:
        return None
    if model.column_uses(names)[names[0]].wants != "text":
        return None
    words = sorted(set(_vocabulary(model))) or list(COMMON_WORDS)
    random = np.random.default_rng(SEED)
    lines = [" ".join(random.choice(words, size=random.integers(1, MOST_WORDS))) for _ in range(N_LINES)]
    return pd.DataFrame({names[0]: lines})


def without_lines(inspection: Inspection) -> tuple[Inspection, KeptRows]:
    """The inspection without what was read off lines that stood in for a table.

    What is left to compare a text with is the empty one.

    Parameters
    ----------
    inspection : Inspection
        What was found in the model.
    """
    fields = [field.model_copy(update={"default": None}) for field in inspection.fields]
    empty = KeptRows(columns={field.name: [""] for field in fields})
    return inspection.model_copy(update={"fields": fields, "n_reference_rows": 0}), empty


def _vocabulary(model: Any) -> Iterator[str]:
    """The words that any step of the model counts."""
    waiting, visited = [getattr(model, "estimator", None)], set()
    while waiting:
        step = waiting.pop()
        if step is None or id(step) in visited or isinstance(step, str):
            continue
        visited.add(id(step))
        vocabulary = getattr(step, "vocabulary_", None)
        if isinstance(vocabulary, dict):
            yield from map(str, vocabulary)
        for part in ("steps", "transformers_", "transformer_list", "named_steps"):
            inner = getattr(step, part, None)
            if isinstance(inner, list):
                waiting += [one for entry in inner for one in entry if hasattr(one, "fit")]
