"""What every network offers, whatever library it is of."""

from collections.abc import Sequence
from typing import Protocol

import numpy as np

__all__ = ["Network", "NetworkInput"]


class NetworkInput:
    """One input: its name, its shape with None for what is open, and NumPy's name of its type."""

    def __init__(self, name: str, shape: Sequence[int | None], dtype: str) -> None:
        self.name, self.shape, self.dtype = name, list(shape), dtype

    def example(self, batch: int, free: int) -> np.ndarray:
        """Noise of its shape.

        Parameters
        ----------
        batch : int
            How many cases.
        free : int
            In place of what else is open.
        """
        sizes = [
            batch if at == 0 and size is None else free if size is None else size for at, size in enumerate(self.shape)
        ]
        noise = np.random.default_rng(len(sizes)).uniform(0, 1, sizes)
        return noise.astype(self.dtype)


class Network(Protocol):
    """A network, whatever library it is of."""

    library: str
    version: str
    inputs: list[NetworkInput]
    layers: list[str]
    # What it states of classes and preparation, by the names that ONNX's metadata have for them.
    stated: dict[str, str]
    notes: list[str]

    def run(self, arrays: Sequence[np.ndarray]) -> list[np.ndarray]:
        """Its outputs.

        Parameters
        ----------
        arrays : sequence of ndarray
            One an input, in their order.
        """

    def onnx(self) -> bytes:
        """The same as ONNX."""
