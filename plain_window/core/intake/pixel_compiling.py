"""The compiled form of a model of flattened pixels, held against its library on pictures."""

import random
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import BinaryIO

import numpy as np
import pandas as pd

from ..contract.compilation import CompiledReport
from ..contract.values import picture_in
from ..errors import PictureNotRead
from ..fields import DrawingField, check_inputs
from ..fields.columns import Column
from ..formats.picture_input import FlatPictureModel
from ..pictures.flattening import pixel_names
from ..pictures.labelled import read_labelled
from ..pictures.preparation import as_input, as_seen
from ..pictures.preparer import Preparer
from ..pictures.reading import read_picture
from ..pictures.settings import Preparation
from ..plan.container import write_plan
from ..plan.plan import Plan
from ..takeaway.made_pictures import made_drawing, made_picture
from .compiling import NOT_COMPILED, compile_and_prove
from .pixel_scale import SIXTEEN, pixel_scale

__all__ = ["PixelCompiler"]

# Of each kind: made-up pictures, made-up drawings; and known pictures at the most.
N_MADE, MOST_KNOWN = 40, 120
SEED = 20261129
SCALES = ("0..255", "0..1", "-1..1")


class PixelCompiler:
    """Compiles a model of flattened pixels: once for what its numbers tell of pixels, and for what serves.

    Parameters
    ----------
    model : FlatPictureModel
    """

    def __init__(self, model: FlatPictureModel) -> None:
        self._model = _OfPixels(model)

    def take_scale(self) -> None:
        """Have its pictures prepared on the scale that the model itself tells, where it does."""
        model = self._model.model
        try:
            found = pixel_scale(self._model.compile(_columns(model)))
        except NOT_COMPILED:
            return
        (one,) = model.pictures
        if found is None or (found.settings is SIXTEEN and one.preparation.n_channels > 1):
            return
        preparation = one.preparation.model_copy(update=found.settings)
        model.pictures = [replace(one, preparation=preparation, tells_scale=True)]
        note = (
            f"The numbers in the model that pixels are compared with or scaled by go up to {found.largest:.4g}, so "
            f"pixels were taken to go {found.words}."
        )
        model.notes = [*model.notes, note]

    def compiled(self, known: BinaryIO | None) -> tuple[bytes | None, CompiledReport]:
        """The compiled model's file, where it says the same on pictures, and on numbers around theirs.

        Parameters
        ----------
        known : binary file or None
            A zip archive of known pictures.
        """
        model = self._model.model
        (one,) = model.pictures
        seen = [*_made(one.preparation), *(_known(known, one.preparation) if known is not None else [])]
        inputs = [np.ravel(as_input(each, way)) for way in _ways(one.preparation) for each in seen]
        # Names are places: the model's own order is another one where it says so.
        rows = dict(zip(pixel_names(len(model.names)), np.array(inputs, dtype="float64").T, strict=True))
        table = pd.DataFrame({name: rows[name] for name in model.names})
        plan, report = compile_and_prove(self._model, table, _columns(model), [])
        return (None if plan is None else write_plan(plan)), report


class _OfPixels:
    """The model as one of a table whose columns are called after their pixels, whatever it calls them itself."""

    def __init__(self, model: FlatPictureModel) -> None:
        self.model, self.tolerance = model, model.model.tolerance
        self._plan: Plan | None = None

    def compile(self, columns: Sequence[Column]) -> Plan:
        if self._plan is None:
            called = dict(zip(self.model.own_names, (column.name for column in columns), strict=True))
            own = [Column(name=name, dtype="float64") for name in self.model.own_names]
            self._plan = _renamed(self.model.model.compile(own), called)
        return self._plan

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        return self.model.model.predict(table.set_axis(self.model.own_names, axis=1))


def _renamed(plan: Plan, called: Mapping[str, str]) -> Plan:
    """The plan with other names for its columns."""
    steps = [
        step.model_copy(update={"settings": {**step.settings, "columns": [called[one] for one in columns]}})
        if (columns := step.settings.get("columns"))
        else step
        for step in plan.steps
    ]
    inputs = [one.model_copy(update={"name": called[one.name]}) for one in plan.inputs]
    return plan.model_copy(update={"inputs": inputs, "steps": steps})


def _columns(model: FlatPictureModel) -> list[Column]:
    return [Column(name=name, dtype="float64") for name in model.names]


def _ways(own: Preparation) -> list[Preparation]:
    """As it is prepared now, and on every other scale: the author may choose another one later."""
    others = [{"scale": scale} for scale in SCALES] + ([SIXTEEN] if own.n_channels == 1 else [])
    ways = [own, *(own.model_copy(update=other) for other in others)]
    return [way for at, way in enumerate(ways) if way not in ways[:at]]


def _made(preparation: Preparation) -> list[np.ndarray]:
    """As visitors would give them, made-up pictures and drawings."""
    draw, prepare = random.Random(SEED), Preparer()
    field = DrawingField(name="picture", label="Picture", preparation=preparation)
    given = [made(draw) for made in (made_picture, made_drawing) for _ in range(N_MADE)]
    checked = (check_inputs([field], {field.name: value}).values for value in given)
    return [prepare(picture_in(values, field.name)).seen for values in checked]


def _known(archive: BinaryIO, preparation: Preparation) -> list[np.ndarray]:
    """Some of the known pictures, spread over all of them; one that cannot be read is told of elsewhere."""
    archive.seek(0)
    every = read_labelled(archive)
    seen = []
    for labelled in every[:: -(-len(every) // MOST_KNOWN)]:
        try:
            seen.append(as_seen(read_picture(labelled.content).image, preparation))
        except PictureNotRead:
            continue
    return seen
