"""What a worker of a cluster runs: bytes in, bytes out. All it needs beside these bytes is this program's `core`."""

import functools
import os
from pathlib import Path
from typing import TYPE_CHECKING

from ..contract import decoded, encoded
from ..contract.chunks import AskChunk
from ..plan.machine_code import use_machine_code

if TYPE_CHECKING:  # imported once it is known where its kernels are
    from .asking import ChunkAsker

__all__ = ["run_chunk"]


def run_chunk(message: bytes, kernels: str) -> bytes:
    """Ask a model about a chunk of rows.

    Parameters
    ----------
    message : bytes
        An `AskChunk`.
    kernels : str
        Name of the environment variable that says where the kernels' machine code lies, if it does anywhere.

    Returns
    -------
    bytes
        A `ChunkReply`.
    """
    return encoded(_the_asker(kernels).answer(decoded(message, AskChunk)))


@functools.cache
def _the_asker(kernels: str) -> "ChunkAsker":
    place = os.environ.get(kernels)
    if place:
        use_machine_code(Path(place))
    # Only now: kernels are taken when they are imported.
    from .asking import ChunkAsker

    return ChunkAsker()
