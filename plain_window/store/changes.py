"""The stamp that tells every process that a demo, an author or a key changed.

Web processes remember what they have read. Whoever writes counts up a number in one small file that all processes of
a machine have mapped into memory; reading it costs next to nothing, where asking the database costs a millisecond.
Machines that share only the database would each need to look there instead; this is the one place to change for that.
"""

import fcntl
import mmap
import os
from pathlib import Path

__all__ = ["ChangeStamp"]

# One number of 64 bits.
BYTES = 8


class ChangeStamp:
    """One file whose number is the version of all records. It stays where it is for as long as anybody has it mapped.

    Parameters
    ----------
    folder : Path
        The run folder, shared by all processes of one Plain Window.
    """

    def __init__(self, folder: Path) -> None:
        self._path = folder / "changes"
        with open(self._path, "a+b") as file:
            if os.fstat(file.fileno()).st_size < BYTES:
                # Grown, never cut: whoever has it mapped may go on reading.
                os.truncate(file.fileno(), BYTES)
            self._number = memoryview(mmap.mmap(file.fileno(), BYTES)).cast("Q")

    def read(self) -> int:
        """The current version; compare for equality only."""
        return self._number[0]

    def bump(self) -> None:
        """Say that something changed. Call after the change is committed."""
        with open(self._path, "rb") as file:
            # Of two that count up at once each must be seen.
            fcntl.flock(file, fcntl.LOCK_EX)
            self._number[0] = (self._number[0] + 1) % (1 << 64)
