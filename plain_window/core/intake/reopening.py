"""What a model and its tables amount to, and a model that was taken in before opened again, with what that needs."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import BinaryIO, Protocol, cast

from ..contract import ModelFacts
from ..contract.inspection import Found, Inspection
from ..contract.kept_rows import KeptRows
from ..formats.adapter import ModelAdapter
from ..formats.format import Beside
from ..formats.network_files import network_kind
from ..formats.networks import open_network
from ..formats.opening import open_model
from ..formats.own_libraries import GuestLine
from ..formats.picture_input import PictureModel, take_as_two_classes
from ..model_service.backends import Asked, Backend, FunctionBackend, LibraryBackend, PictureBackend
from ..model_service.service import ModelService
from .without_table import as_picture_model, looks_at_pictures

__all__ = ["Files", "Intake", "reopen"]

Files = Mapping[str, BinaryIO]


class _CodeModel(Protocol):
    def take_up(self, found: Found) -> None:
        """Read its answers as they were found to be when it was brought."""


@dataclass(frozen=True)
class Intake:
    """The model as it will be asked, what it and its tables amount to, and the rows to keep beside it.

    `compiled` is the compiled model's file, where that is proved.
    """

    model: ModelAdapter | PictureModel
    inspection: Inspection
    kept_rows: KeptRows | None
    compiled: bytes | None = None
    # A network as ONNX, where that says the same.
    converted: bytes | None = None

    def service(self, *, background_rows: int) -> ModelService:
        """What answers requests for it through its library.

        Parameters
        ----------
        background_rows : int
            How many reference rows contributions are counted against, at the most.
        """
        found = self.inspection
        backend: Backend
        if found.found.format == "python" and not looks_at_pictures(self.model):
            backend = FunctionBackend(cast("Asked", self.model), found.columns)
        elif looks_at_pictures(self.model):
            backend = PictureBackend(self.model, found.picture_inputs, found.columns)
        else:
            backend = LibraryBackend(self.model, found.columns)
        facts = ModelFacts.of_inspection(found.model_dump_json().encode())
        return ModelService(backend, facts, self.kept_rows, background_rows=background_rows)


def reopen(
    files: Files,
    inspection: bytes,
    kept_rows: KeptRows | None,
    function: str | None = None,
    line: GuestLine | None = None,
) -> Intake:
    """A model that was taken in before, opened again as it was then.

    Parameters
    ----------
    files : mapping of str to binary file
        `model`, and perhaps `preprocessor`.
    inspection : bytes
        What was found then, as JSON.
    kept_rows : KeptRows, optional
    function : str, optional
        Of a Python file with several functions, the one that answers.
    line : GuestLine, optional
        To a process with libraries of its own.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    found = Inspection.model_validate_json(inspection)
    beside = Beside(files.get("beside"), function, has_table=found.n_reference_rows > 0, line=line)
    kind = network_kind(files["model"]) if line is not None else None
    if line is not None and kind is not None:
        # One that could be converted is opened from that, without its libraries.
        model, _ = open_network(line, kind, function, as_it_is=True)
    else:
        model = open_model(files["model"], files.get("preprocessor"), beside)
    if found.found.format == "python":
        cast("_CodeModel", model).take_up(found.found)
        return Intake(model, found, kept_rows)
    if found.picture_inputs:
        model = as_picture_model(model)
        # What the one number of a model is for was learnt when it was brought.
        if found.answer.kind == "class" and model.found.task == "number":
            take_as_two_classes(model)
    return Intake(model, found, kept_rows)
