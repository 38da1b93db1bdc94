"""What an ONNX model's outputs mean."""

import json
import re
from collections.abc import Mapping
from typing import Any, Literal

import numpy as np
import onnx
import onnxruntime

from ...errors import ModelNotOpened

__all__ = ["TEXT", "OnnxOutputs", "class_names"]

TEXT = "tensor(string)"
FLOATS = ("tensor(float)", "tensor(double)", "tensor(float16)")
# Of these what reads a graph elsewhere has arrays.
PLAIN_FLOATS = ("tensor(float)", "tensor(double)")
# Of several tables of numbers, the one that is called so is the answer.
ANSWER_NAMES = re.compile(r"prob|logit|softmax|class", re.IGNORECASE)
# Operators that end in probabilities.
TO_PROBABILITIES = ("Softmax", "Sigmoid")
MAX_CLASSES = 10_000
# Keys under which exporters leave the names of classes.
NAMES_IN_METADATA = ("names", "labels", "classes", "class_names")
# How far the sum of probabilities may be from 1, in single precision.
SUM_TOLERANCE = 1e-3


class OnnxOutputs:
    """What the outputs mean, told from the graph and from one row that was asked."""

    def __init__(
        self,
        document: onnx.ModelProto,
        session: onnxruntime.InferenceSession,
        probe: list[Any] | None,
        *,
        of_pictures: bool = False,
        n_probed: int = 1,
    ) -> None:
        self._outputs = list(session.get_outputs())
        self._makers: Mapping[str, onnx.NodeProto] = {
            name: node for node in document.graph.node for name in node.output
        }
        self.probabilities: int | None = None
        self._label: int | None = None
        self._numbers = 0
        self._link: Literal["none", "softmax", "sigmoid"] = "none"
        self.classes: list[str] | None = None
        self.task = "number"
        self.reading_note = ""
        # Whether nothing in the graph says what the numbers are.
        self.is_guessed = False
        self._of_pictures = of_pictures
        # How many rows were asked about, for outputs to be held against; 0 where rows have no axis of their own.
        self._n_probed = n_probed
        # Outputs of one number each, which are several numbers together, and what they are called.
        self._together: list[int] = []
        self.output_names: list[str] | None = None
        self._known = class_names(document)
        self._decide(probe)

    def table(self, answers: list[Any]) -> np.ndarray:
        """Probabilities in class order, 1 at the predicted class, or numbers: shape (n_rows, n_outputs).

        Parameters
        ----------
        answers : list of object
            What a session gave, output by output.
        """
        if self.probabilities is not None:
            return self._probabilities(answers[self.probabilities])
        if self._label is not None:
            labels = [_plain(value) for value in np.ravel(answers[self._label])]
            return np.array([[float(name == label) for name in self.classes or []] for label in labels])
        if self._together:
            return np.column_stack([np.ravel(np.asarray(answers[at], dtype="float64")) for at in self._together])
        numbers = np.asarray(answers[self._numbers], dtype="float64")
        return numbers.reshape(len(numbers), -1)

    @property
    def reading(self) -> tuple[list[str], Literal["none", "softmax", "sigmoid"], bool] | None:
        """Which outputs are read, what is done to their numbers, and whether one number stands for two classes; None
        where an answer is made of words."""
        if self._together:
            places = self._together
        elif self.probabilities is not None:
            places = [self.probabilities]
        elif self._label is None:
            places = [self._numbers]
        else:
            return None
        if any(self._outputs[at].type not in PLAIN_FLOATS for at in places):
            return None
        is_probability = self.probabilities is not None and not self._together
        return [self._outputs[at].name for at in places], self._link if is_probability else "none", is_probability

    def take_as_two_classes(self) -> None:
        """One number is the score of the second of two classes: what it is for is known from elsewhere."""
        self._together = []
        self._link, self.probabilities, self.task, self.classes = "sigmoid", 0, "class", ["0", "1"]
        self.reading_note = "The model gives one score for two classes; the sigmoid is applied to it, once."

    def _probabilities(self, answers: Any) -> np.ndarray:
        if isinstance(answers, list):
            by_name = [{_plain(name): value for name, value in row.items()} for row in answers]
            return np.array([[row[name] for name in self.classes or []] for row in by_name], dtype="float64")
        out = np.asarray(answers, dtype="float64").reshape(len(answers), -1)
        if self._link == "softmax":
            exponents = np.exp(out - out.max(axis=1, keepdims=True))
            return exponents / exponents.sum(axis=1, keepdims=True)
        if self._link == "sigmoid":
            out = 1 / (1 + np.exp(-out))
        return np.column_stack([1 - out, out]) if out.shape[1] == 1 else out

    def _decide(self, probe: list[Any] | None) -> None:
        types = [item.type for item in self._outputs]
        maps = [at for at, type_ in enumerate(types) if type_.startswith("seq(map")]
        labels = [at for at, type_ in enumerate(types) if type_ in (TEXT, "tensor(int64)", "tensor(int32)")]
        floats = [at for at, type_ in enumerate(types) if type_ in FLOATS]
        if not maps:
            labels, floats = self._rows_only(labels, floats, probe)
            floats = self._one_table(floats, labels, probe)
        if maps:
            self._take_classes(maps[0], labels, list(probe[maps[0]][0]) if probe else None)
        elif labels and floats:
            self._take_classes(floats[0], labels, None, width=self._width_of(floats[0], probe))
        elif labels:
            self.task, self._label = "class", labels[0]
            self.classes = self._known
            if self.classes is None:
                raise ModelNotOpened(
                    "The ONNX model gives only a class and does not name its classes. Export it with probabilities."
                )
        elif floats:
            self._decide_floats(floats[0], probe)
        else:
            raise self._no_reading(probe, "none of them is a number or a class")

    def _rows_only(self, labels: list[int], floats: list[int], probe: list[Any] | None) -> tuple[list[int], list[int]]:
        """The outputs that give a row for each row asked about; a model with others beside them has no reading.

        Raises
        ------
        ModelNotOpened
            If an output has several axes, or another number of rows.
        """
        if probe is None:
            return labels, floats
        n_rows = self._n_probed
        for at in [*labels, *floats]:
            shape = np.asarray(probe[at]).shape
            inner = [size for size in shape[1:] if size != 1]
            if len(inner) > 1:
                what = "picture: it answers with a picture" if self._of_pictures else "row"
                sizes = " × ".join(map(str, inner))
                raise self._no_reading(probe, f"output `{self._outputs[at].name}` has {sizes} numbers for one {what}")
            if n_rows and (not shape or shape[0] != n_rows):
                raise self._no_reading(probe, f"`{self._outputs[at].name}` has not one row for each row asked about")
            if at in labels and inner and floats and not self._is_label_for_each(at, floats, probe):
                raise self._no_reading(probe, f"`{self._outputs[at].name}` names several classes for one row")
        return labels, floats

    def _is_label_for_each(self, at: int, floats: list[int], probe: list[Any]) -> bool:
        """Yes or no for each label, beside a probability each."""
        labels = np.asarray(probe[at])
        return bool(np.isin(labels, (0, 1)).all()) and any(
            np.asarray(probe[one]).shape == labels.shape for one in floats
        )

    def _one_table(self, floats: list[int], labels: list[int], probe: list[Any] | None) -> list[int]:
        """The one output of numbers that is the answer; several of one number each are several numbers.

        Raises
        ------
        ModelNotOpened
            If there are several and nothing tells which is the answer.
        """
        if len(floats) < 2:
            return floats
        named = [at for at in floats if ANSWER_NAMES.search(self._outputs[at].name)]
        if len(named) == 1:
            return named
        widths = [self._width_of(at, probe) for at in floats]
        if not labels and all(width == 1 for width in widths):
            self._together = floats
            self.output_names = [self._outputs[at].name for at in floats]
            return floats[:1]
        raise self._no_reading(probe, "which of them is the answer cannot be told. Export it with the answer alone")

    def _no_reading(self, probe: list[Any] | None, why: str) -> ModelNotOpened:
        """What was seen, and why it is no answer."""
        described = []
        for at, item in enumerate(self._outputs):
            shape = list(item.shape or [])
            if probe is not None and not isinstance(probe[at], list):
                shape = ["any", *np.asarray(probe[at]).shape[1:]]
            sizes = " × ".join(str(size) if isinstance(size, int) else "any" for size in shape)
            described.append(f"`{item.name}` ({sizes or 'one value'}, {item.type.removeprefix('tensor(').rstrip(')')})")
        outputs = "output is" if len(described) == 1 else "outputs are"
        return ModelNotOpened(
            f"The ONNX model answers with nothing that is known here. Its {outputs} {', '.join(described[:8])}: {why}."
        )

    def _take_classes(self, at: int, labels: list[int], names: list[Any] | None, *, width: int | None = None) -> None:
        self.task, self.probabilities = "class", at
        known = [_plain(name) for name in names] if names is not None else self._known
        if known is None and width is not None:
            known = [str(number) for number in range(max(width, 2))]
        if known is None:
            raise ModelNotOpened("The ONNX model does not name its classes. Export it with them, or without ZipMap.")
        self.classes = known

    def _width_of(self, at: int, probe: list[Any] | None) -> int | None:
        stated = self._outputs[at].shape[-1] if self._outputs[at].shape else None
        if isinstance(stated, int):
            return stated
        return int(np.asarray(probe[at]).reshape(self._n_probed or 1, -1).shape[1]) if probe is not None else None

    def _decide_floats(self, at: int, probe: list[Any] | None) -> None:
        """One table of numbers: probabilities if the graph ends in what makes them, numbers otherwise.

        Networks that look at pictures tell classes apart unless they give one number; many leave the last step out.
        """
        self._numbers = at
        if self._together:
            self.task, self.is_guessed = "numbers", False
            return
        width = self._width_of(at, probe) or 1
        if self._of_pictures and width > 1:
            self._decide_classes(at, width, probe)
            return
        maker = self._makers.get(self._outputs[at].name)
        ends_in = maker.op_type if maker is not None else ""
        if ends_in in TO_PROBABILITIES and not (ends_in == "Sigmoid" and width > 1):
            self._take_classes(at, [], None, width=width)
        elif ends_in == "Sigmoid":
            self.task, self.probabilities, self.is_guessed = "labels", at, True
            self.classes = self._known or [f"Label {number + 1}" for number in range(width)]
        else:
            self.task, self.is_guessed = ("numbers" if width > 1 else "number"), True

    def _decide_classes(self, at: int, width: int, probe: list[Any] | None) -> None:
        maker = self._makers.get(self._outputs[at].name)
        ends_in = maker.op_type if maker is not None else ""
        probed = np.asarray(probe[at], dtype="float64").reshape(len(probe[at]), -1) if probe is not None else None
        adds_up = probed is not None and (probed >= 0).all() and np.allclose(probed.sum(axis=1), 1, atol=SUM_TOLERANCE)
        if ends_in == "Sigmoid" and not adds_up:
            self.task, self.probabilities = "labels", at
            self.classes = self._known or [f"Label {number + 1}" for number in range(width)]
            self.reading_note = "The model gives a probability for each label by itself."
            return
        if self._known is not None and len(self._known) != width:
            self._known = None
        if ends_in == "LogSoftmax":
            self._link, self.reading_note = "softmax", "The model gives logarithms of probabilities; they are undone."
        elif adds_up:
            self.reading_note = "The model gives probabilities; they are taken as they are."
        else:
            self._link, self.reading_note = (
                "softmax",
                "The model gives scores (logits); softmax is applied to them, once.",
            )
        self._take_classes(at, [], None, width=width)


def class_names(document: onnx.ModelProto) -> list[str] | None:
    """The classes by name, where the graph has them; a map to names in words stands behind one to numbers.

    Parameters
    ----------
    document : ModelProto
    """
    nodes = sorted(document.graph.node, key=lambda node: node.op_type != "ZipMap")
    named = [_plain(value) for node in nodes for value in _attribute(node, "classlabels_strings")[:MAX_CLASSES]]
    named = named or _names_in_metadata(document)
    if named:
        return list(dict.fromkeys(named))
    for tensor in document.graph.initializer:
        # Where converters keep the names that a class's number is looked up in.
        if tensor.name.startswith("classes") and tensor.string_data:
            return [_plain(value) for value in tensor.string_data]
    for name in ("classlabels_int64s", "classlabels_ints"):
        for node in nodes:
            if values := _attribute(node, name):
                return [_plain(value) for value in values]
    return None


def _names_in_metadata(document: onnx.ModelProto) -> list[str]:
    """Names that exporters leave as a JSON list or object by number, or parted by commas or lines."""
    listed = next((one.value for one in document.metadata_props if one.key.lower() in NAMES_IN_METADATA), "")
    try:
        parsed = json.loads(listed)
    except ValueError:
        parts = listed.splitlines() if "\n" in listed else listed.split(",")
        return [part.strip() for part in parts if part.strip()]
    if isinstance(parsed, dict):
        parsed = [name for _, name in sorted(parsed.items(), key=lambda item: (len(str(item[0])), str(item[0])))]
    return [str(name) for name in parsed] if isinstance(parsed, list) else []


def _attribute(node: onnx.NodeProto, name: str) -> list[Any]:
    found = next((attribute for attribute in node.attribute if attribute.name == name), None)
    return [] if found is None else list(found.strings) or list(found.ints)


def _plain(value: Any) -> str:
    plain = value.item() if isinstance(value, np.generic) else value
    return plain.decode("utf-8", errors="replace") if isinstance(plain, bytes) else str(plain)
