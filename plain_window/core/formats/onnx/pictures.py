"""The adapter for ONNX models that look at pictures, asked through onnxruntime."""

import itertools
from collections.abc import Mapping, Sequence
from functools import partial
from typing import TYPE_CHECKING, Any, Literal

import numpy as np
import onnx
import onnxruntime

from ...boxes.readings import BoxOutputs
from ...contract.inspection import Found, GraphReading
from ...errors import ModelFailed, ModelNotOpened
from ...made.outputs import MapOutput, map_outputs
from ...pictures.settings import Preparation
from ..calling import ask
from ..picture_input import PictureInput
from .boxes import box_outputs, is_clearly_of_boxes, named_outputs, suppressing_step
from .outputs import TEXT, OnnxOutputs, class_names
from .session import NUMBERS, OpenedGraph

if TYPE_CHECKING:  # models of pictures alone need no tables
    import pandas as pd

__all__ = ["OnnxPictureModel"]

InPictureTask = Literal["boxes", "picture", "mask"]
PIXELS = {"tensor(uint8)": "uint8", "tensor(int8)": "int8"} | NUMBERS
# Of these what reads a graph elsewhere has arrays.
ELEMENTS: Mapping[str, Literal["float32", "float64", "uint8", "int8", "int32"]] = {
    "tensor(float)": "float32",
    "tensor(double)": "float64",
    "tensor(uint8)": "uint8",
    "tensor(int8)": "int8",
    "tensor(int32)": "int32",
}
# Where the size is left open: what most networks for photographs were trained on.
USUAL_SIDE = 224
CHANNELS = (3, 1)
# Rows a network is asked about at once: more gain nothing and take memory.
ROWS_AT_ONCE = 32
PROBE_SEED, PROBES = 20261124, 3
# What ONNX's own metadata say of pixels (docs/MetadataProps.md of the ONNX repository).
RANGES = {"NominalRange_0_255": "0..255", "Normalized_0_1": "0..1", "Normalized_1_1": "-1..1"}


class OnnxPictureModel:
    """A network that looks at pictures.

    Parameters
    ----------
    graph : OpenedGraph

    Raises
    ------
    ModelNotOpened
        If it cannot be read, or no picture fits its input.
    """

    def __init__(self, graph: OpenedGraph) -> None:
        document, self._session = graph.document, graph.session
        self._inputs = {item.name: item for item in self._session.get_inputs()}
        looks = [item for item in self._inputs.values() if len(item.shape) >= 3]
        self._beside = [item for item in self._inputs.values() if len(item.shape) < 3]
        self._refuse_strangers(looks)
        self.notes: Sequence[str] = []
        self.pictures: Sequence[PictureInput] = [self._picture_input(item, document) for item in looks]
        answers = self._probe()
        self.maps = self._maps(answers)
        self.boxes = self._boxes(document, answers)
        self._task: InPictureTask | None = None
        self._read_outputs(document, answers)
        self.found = self._found(document)

    def outputs(
        self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None"
    ) -> dict[str, np.ndarray]:
        """As `InPictureModel.outputs`."""
        one = slice(0, 1)
        inputs = {each.name: self._stacked(self._inputs[each.name], pictures[each.name][one]) for each in self.pictures}
        inputs |= self._columns(table, one)
        names = [item.name for item in self._session.get_outputs()]
        return ask(lambda: named_outputs(names, self._session.run(None, inputs)))

    def _read_outputs(self, document: onnx.ModelProto, answers: list[list[Any]] | None) -> None:
        """What the outputs mean: a row a picture if they can be, else what lies in the picture."""
        if self.boxes is not None and is_clearly_of_boxes(document, self.boxes):
            self._task = "boxes"
            return
        probe = None if answers is None else _joined(answers)
        try:
            self._outputs = OnnxOutputs(document, self._session, probe, of_pictures=True, n_probed=self._n_probed)
        except ModelNotOpened as error:
            if not self.maps and self.boxes is None:
                raise self._no_boxes(document, error) from error
            names, channels = class_names(document), self.pictures[0].preparation.n_channels
            n_classes = len(names) if names else None
            is_mask = self.maps and self.maps[0].is_mask(n_classes=n_classes, n_input_channels=channels)
            self._task = ("mask" if is_mask else "picture") if self.maps else "boxes"
            return
        if self._outputs.reading_note:
            self._note(self._outputs.reading_note)

    def _no_boxes(self, document: onnx.ModelProto, error: ModelNotOpened) -> ModelNotOpened:
        step = suppressing_step(document)
        if step is None:
            return error
        return ModelNotOpened(
            f"{error} With its step `{step}` it finds things in pictures, but its outputs are neither boxes, scores "
            "and classes apart nor one table of candidates. Export it with the decoding of its boxes inside."
        )

    def _maps(self, answers: list[list[Any]] | None) -> Sequence[MapOutput]:
        if answers is None or len(self.pictures) != 1:
            return []
        names, preparation = [item.name for item in self._session.get_outputs()], self.pictures[0].preparation
        named = [named_outputs(names, answer) for answer in answers]
        return map_outputs(named, [(preparation.height, preparation.width)] * len(answers))

    def _boxes(self, document: onnx.ModelProto, answers: list[list[Any]] | None) -> BoxOutputs | None:
        if answers is None or len(self.pictures) != 1:
            return None
        names = class_names(document)
        n_classes = len(names) if names else None
        maps = {one.name for one in self.maps}
        return box_outputs(document, self._session.get_outputs(), answers, but=maps, n_classes=n_classes)

    def predict(self, pictures: Mapping[str, Sequence[np.ndarray]], table: "pd.DataFrame | None") -> np.ndarray:
        """As `PictureModel.predict`."""
        if self._task is not None:
            raise ModelFailed("The model's answer lies in the picture; it has no row of numbers.", traceback="")
        n_rows = len(next(iter(pictures.values())))
        size = self._rows_at_once()
        parts = []
        for start in range(0, n_rows, size):
            some = slice(start, start + size)
            inputs = {
                one.name: self._stacked(self._inputs[one.name], pictures[one.name][some]) for one in self.pictures
            }
            inputs |= self._columns(table, some)
            parts.append(ask(partial(self._outputs_of, inputs)))
        return np.concatenate(parts)

    @property
    def graph_reading(self) -> GraphReading | None:
        """How the graph is asked by whoever has its file alone; None for one that takes more than a picture, or whose
        answer is no row of numbers."""
        reading = self._outputs.reading if self._task is None else None
        if reading is None or len(self._inputs) != 1 or not self.pictures:
            return None
        (item,) = self._inputs.values()
        element = ELEMENTS.get(item.type)
        if element is None:
            return None
        shape = [size if isinstance(size, int) and size > 0 else None for size in item.shape]
        names, link, completes = reading
        return GraphReading(
            input=item.name,
            element=element,
            shape=shape,
            at_once=self._rows_at_once(),
            outputs=names,
            link=link,
            completes=completes,
        )

    def _outputs_of(self, inputs: dict[str, np.ndarray]) -> np.ndarray:
        return self._outputs.table(self._session.run(None, inputs))

    def _note(self, text: str) -> None:
        self.notes = [*self.notes, text]

    def take_as_two_classes(self) -> None:
        """Its one number is a score for two classes."""
        self._outputs.take_as_two_classes()
        self._note(self._outputs.reading_note)
        reading = {"task": "class", "classes": self._outputs.classes, "gives_probabilities": True}
        self.found = self.found.model_copy(update=reading)

    def _rows_at_once(self) -> int:
        """One where the file fixes how many rows come together."""
        firsts = [item.shape[0] for item in self._inputs.values()]
        is_open = all(not isinstance(first, int) for first in firsts) and all(
            one.preparation.batch for one in self.pictures
        )
        return ROWS_AT_ONCE if is_open else 1

    def _stacked(self, item: Any, pictures: Sequence[np.ndarray]) -> np.ndarray:
        if isinstance(pictures, np.ndarray) and pictures.ndim == 4 == len(item.shape):
            return pictures.astype(PIXELS[item.type], copy=False)
        arrays = [np.asarray(picture) for picture in pictures]
        stacked = np.concatenate(arrays) if arrays[0].ndim == len(item.shape) else np.stack(arrays)
        if len(item.shape) == 3:
            stacked = arrays[0]
        return stacked.astype(PIXELS[item.type], copy=False)

    def _columns(self, table: "pd.DataFrame | None", some: slice) -> dict[str, np.ndarray]:
        if table is None or not self._beside:
            return {}
        from .adapter import as_array

        rows = table.iloc[some]
        if len(self._beside) == 1:
            return {self._beside[0].name: as_array(rows, self._beside[0].type)}
        inputs = {}
        for item, name in zip(self._beside, rows.columns, strict=True):
            column = as_array(rows[[name]], item.type)
            inputs[item.name] = column if len(item.shape) == 2 else column[:, 0]
        return inputs

    def _refuse_strangers(self, looks: Sequence[Any]) -> None:
        for item in looks:
            if item.type not in PIXELS or len(item.shape) > 4:
                raise ModelNotOpened(
                    f"The ONNX model's input `{item.name}` is {_shape_text(item)} of {item.type}, which is no picture."
                )

    # --- what it takes ------------------------------------------------------------------------------------------------

    def _picture_input(self, item: Any, document: onnx.ModelProto) -> PictureInput:
        axes = list(item.shape[1:]) if len(item.shape) == 4 else list(item.shape)
        sizes = [size if isinstance(size, int) and size > 0 else None for size in axes]
        found = self._layout(item, sizes)
        if found is None:
            raise ModelNotOpened(
                f"The ONNX model's input `{item.name}` has the shape {_shape_text(item)}. A picture has one or three "
                "channels, in front of its height and width or behind them; none of that fits."
            )
        layout, channels = found
        height, width = sizes[1:] if layout == "channels first" else sizes[:2]
        stated = {"layout", "colour", "batch"}
        if height and width:
            stated |= {"width", "height"}
        settings: dict[str, Any] = {
            "width": width or USUAL_SIDE,
            "height": height or USUAL_SIDE,
            "colour": "colour" if channels == 3 else "grey",
            "layout": layout,
            "batch": len(item.shape) == 4,
        }
        metadata = _preparation_in_metadata(document, item.type)
        return PictureInput(item.name, Preparation(**settings, **metadata), frozenset(stated | set(metadata)))

    def _layout(self, item: Any, sizes: list[int | None]) -> tuple[str, int] | None:
        """Where the channels stand and how many there are: as stated, else what the network takes."""
        first, last = sizes[0], sizes[-1]
        if first in CHANNELS and last not in CHANNELS:
            return "channels first", first
        if last in CHANNELS and first not in CHANNELS:
            return "channels last", last
        if len(self._inputs) > 1 and None not in (first, last):
            return None
        for channels, layout in itertools.product(CHANNELS, ("channels first", "channels last")):
            place = 0 if layout == "channels first" else 2
            if sizes[place] not in (None, channels):
                continue
            tried = [size or USUAL_SIDE for size in sizes]
            tried[place] = channels
            if self._takes(item, tried):
                return layout, channels
        return None

    def _takes(self, item: Any, sizes: list[int]) -> bool:
        shape = [1, *sizes] if len(item.shape) == 4 else sizes
        try:
            self._session.run(None, {item.name: np.zeros(shape, dtype=PIXELS[item.type])})
        except Exception:  # any refusal means the same: not this shape
            return False
        return True

    def _probe(self) -> list[list[Any]] | None:
        """What comes out for a few pictures of noise, each by itself; None if the model takes none by themselves."""
        random = np.random.default_rng(PROBE_SEED)
        parts: list[list[Any]] = []
        self._n_probed = PROBES if all(one.preparation.batch for one in self.pictures) else 0
        for _ in range(PROBES):
            inputs = {}
            for one in self.pictures:
                item, preparation = self._inputs[one.name], one.preparation
                size = [preparation.height, preparation.width]
                channels = [preparation.n_channels]
                size = channels + size if preparation.layout == "channels first" else size + channels
                noise = random.uniform(0, 255 if "int8" in item.type else 1, [1, *size] if preparation.batch else size)
                inputs[one.name] = noise.astype(PIXELS[item.type])
            for item in self._beside:
                width = item.shape[-1] if len(item.shape) == 2 and isinstance(item.shape[-1], int) else 1
                shape = [1, width] if len(item.shape) == 2 else [1]
                inputs[item.name] = (
                    np.full(shape, "") if item.type == TEXT else np.zeros(shape, dtype=PIXELS[item.type])
                )
            try:
                parts.append(self._session.run(None, inputs))
            except Exception as error:  # whatever the reason, no picture fits
                if self._beside:
                    return None
                raise ModelNotOpened(
                    f"The ONNX model does not take a picture of the shape it states. onnxruntime says: "
                    f"{str(error).splitlines()[0][:200]}"
                ) from error
        if any(isinstance(part, list) for part in parts[0]):
            self._n_probed = 1
            return parts[:1]
        return parts

    def _found(self, document: onnx.ModelProto) -> Found:
        version = " ".join(part for part in (document.producer_name, document.producer_version) if part)
        width = self._beside[0].shape[-1] if len(self._beside) == 1 and len(self._beside[0].shape) == 2 else None
        several = len(self._beside) > 1
        return Found(
            format="onnx",
            library="ONNX",
            saved_with=version or None,
            running=f"onnxruntime {onnxruntime.__version__}",
            steps=list(dict.fromkeys(node.op_type for node in document.graph.node))[:12],
            task=self._task or self._outputs.task,
            features=[item.name for item in self._beside] if several else None,
            n_features=len(self._beside) if several else (width if isinstance(width, int) else len(self._beside)),
            classes=class_names(document) if self._task else self._outputs.classes,
            gives_probabilities=self._task is None and self._outputs.probabilities is not None,
            warnings=[],
        )


def _joined(answers: list[list[Any]]) -> list[Any]:
    """The answers to several pictures as one to all of them; the first, where they are of different lengths."""
    if len(answers) == 1:
        return answers[0]
    columns = list(zip(*answers, strict=True))
    if any(len({np.asarray(part).shape[1:] for part in parts}) > 1 for parts in columns):
        return answers[0]
    return [np.concatenate([np.atleast_1d(part) for part in parts]) for parts in columns]


def _preparation_in_metadata(document: onnx.ModelProto, type_: str) -> dict[str, Any]:
    metadata = {one.key: one.value for one in document.metadata_props}
    stated: dict[str, Any] = {}
    if "int8" in type_:
        stated["scale"] = "0..255"
    if metadata.get("Image.NominalPixelRange") in RANGES:
        stated["scale"] = RANGES[metadata["Image.NominalPixelRange"]]
    form = metadata.get("Image.BitmapPixelFormat", "")
    if form.startswith(("Rgb", "Bgr")):
        stated["order"] = form[:3].lower()
    return stated


def _shape_text(item: Any) -> str:
    return " × ".join(str(part) if isinstance(part, int) else "any" for part in item.shape)
