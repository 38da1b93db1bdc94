"""The adapter for functions that look at pictures, and perhaps at values beside them."""

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

import numpy as np

from ...answers.in_picture import IN_PICTURE, BoxesSetting, MaskSetting, PictureSetting
from ...answers.written import TableSetting, TextSetting
from ...boxes.readings import BoxOutputs
from ...contract.inspection import Found
from ...contract.replies import WrittenReply
from ...errors import Fault, MismatchFaults, ModelFailed
from ...made.outputs import MapOutput
from ...pictures.settings import Preparation
from ..picture_input import PictureInput
from .adapter import FunctionModel, rows_of
from .in_picture import InPictureForm, Task, learn_in_picture

if TYPE_CHECKING:  # a function of pictures alone needs no tables
    import pandas as pd

__all__ = ["FunctionPictureModel"]

# Pictures keep their own size up to here; what a function takes grows with every pixel.
LARGEST_OWN = 1600
STATED = frozenset(Preparation.model_fields)


class FunctionPictureModel:
    """A function at least one of whose parameters is a picture.

    Parameters
    ----------
    function : FunctionModel
    """

    boxes: BoxOutputs | None = None
    maps: Sequence[MapOutput] = ()

    def __init__(self, function: FunctionModel) -> None:
        self.function = function
        self.notes: Sequence[str] = []
        self.pictures: Sequence[PictureInput] = [
            PictureInput(one.name, _preparation(), STATED) for one in function.signature.pictures
        ]
        beside = [one.name for one in function.signature.parameters if one not in function.signature.pictures]
        self.beside = beside
        self.found: Found = function.found.model_copy(update={"features": beside or None, "n_features": len(beside)})
        self.setting: BoxesSetting | PictureSetting | MaskSetting | TextSetting | TableSetting | None = None
        self._form: InPictureForm | None = None

    def learn(self, answers: Sequence[Any], *, wanted: str | None, labels: Sequence[str] | None) -> None:
        """Find out what its answers are.

        Parameters
        ----------
        answers : sequence of object
            What it answered.
        wanted : str or None
            The kind that its author says it is.
        labels : sequence of str or None

        Raises
        ------
        MismatchFaults
            If the answers are of no kind that can be shown, or not what the author says.
        """
        if wanted in ("text", "table") or not (
            learnt := learn_in_picture(self.function.signature.returned, answers, wanted=wanted, labels=labels)
        ):
            self.function.learn(answers, wanted=wanted, labels=labels)
            kept = {"features": self.found.features, "n_features": self.found.n_features}
            self.setting, self.found = self.function.setting, self.function.found.model_copy(update=kept)
            return
        self._form, self.setting = learnt
        try:
            for answer in answers:
                self._form.outputs(answer)
        except ModelFailed as error:
            raise MismatchFaults([Fault("function", str(error))]) from error
        names = list(self._form.names) or None
        self.found = self.found.model_copy(update={"task": self._form.task, "classes": names})

    def take_up(self, found: Found) -> None:
        """Read its answers as they were found to be when it was brought.

        Parameters
        ----------
        found : Found
        """
        self.found = found
        if found.task in IN_PICTURE:
            task: Task = found.task  # type: ignore[assignment]
            self._form = InPictureForm(task, tuple(found.classes or []))
        else:
            self.function.take_up(found)

    def answers(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> list[Any]:
        """What it answers, as it came, for prepared pictures by parameter and the values beside them.

        Parameters
        ----------
        pictures : mapping
            Prepared pictures by input, as many each.
        table : pandas.DataFrame or None

        Raises
        ------
        ModelFailed
            With the line it failed at.
        """
        return self.function.examples(self._rows(pictures, table))

    def predict(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> np.ndarray:
        """As `PictureModel.predict`."""
        if self._form is not None:
            raise ModelFailed("The function's answer lies in the picture; it has no row of numbers.", traceback="")
        return self.function.ask(self._rows(pictures, table))

    def outputs(
        self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None"
    ) -> dict[str, np.ndarray]:
        """As `InPictureModel.outputs`."""
        if self._form is None:
            raise ModelFailed("The function's answer does not lie in a picture.", traceback="")
        one = {name: each[:1] for name, each in pictures.items()}
        return self._form.outputs(self.answers(one, table)[0])

    def write(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> WrittenReply:
        """What it answers with a text or a table, for one prepared picture by input.

        Parameters
        ----------
        pictures : mapping
            One prepared picture by input.
        table : pandas.DataFrame or None
            One row of what stands beside it.

        Raises
        ------
        ModelFailed
            With the line it failed at, or what it answered.
        """
        return self.function.write(self._rows(pictures, table)[0])

    @staticmethod
    def _rows(pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> list[dict[str, Any]]:
        n_rows = len(next(iter(pictures.values())))
        beside: Sequence[Mapping[str, Any]] = rows_of(table) if table is not None else [{}] * n_rows
        return [
            {**beside[at], **{name: _as_given(each[at]) for name, each in pictures.items()}} for at in range(n_rows)
        ]


def _preparation() -> Preparation:
    """As pictures are: their own size, colours from 0 to 255, one byte each."""
    side: dict[str, Any] = {"width": LARGEST_OWN, "height": LARGEST_OWN, "own_size": True}
    return Preparation(**side, scale="0..255", layout="channels last", batch=False)


def _as_given(picture: np.ndarray) -> np.ndarray:
    """Bytes, where its author has not asked for other numbers."""
    array = np.asarray(picture)
    as_bytes = array.astype("uint8")
    return as_bytes if (as_bytes == array).all() else array
