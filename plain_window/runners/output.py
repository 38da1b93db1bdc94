"""What a runner prints, kept in a log that no model can fill or forge."""

import os
import time
from pathlib import Path

from ..log_files import clipped_line

__all__ = ["OutputLog"]

READ_BYTES = 1 << 16
MOST_BYTES = 256 << 10
# More than this a second is not read: whoever prints it waits.
BYTES_A_SECOND = 128 << 10


class OutputLog:
    """One runner's log, with one older one beside it.

    Parameters
    ----------
    path : Path
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        self._rest = b""
        self._second, self._read = 0, 0

    def take(self, descriptor: int) -> bool:
        """Read what there is and write it down, line by line, clipped and escaped.

        Parameters
        ----------
        descriptor : int

        Returns
        -------
        bool
            Whether there may be more to come.
        """
        data = os.read(descriptor, READ_BYTES)
        self._read += len(data)
        *lines, self._rest = (self._rest + data).split(b"\n")
        if not data or len(self._rest) > READ_BYTES:
            lines, self._rest = [*lines, self._rest], b""
        if any(lines):
            self._write(lines)
        return bool(data)

    def wait_seconds(self, now: float | None = None) -> float:
        """How long to leave the rest unread; 0 unless it prints without end.

        Parameters
        ----------
        now : float or None, optional
            Seconds of a clock that only goes on; its own if None.
        """
        now = time.monotonic() if now is None else now
        if int(now) != self._second:
            self._second, self._read = int(now), 0
        return self._second + 1 - now if self._read > BYTES_A_SECOND else 0.0

    def _write(self, lines: list[bytes]) -> None:
        if self._path.exists() and self._path.stat().st_size > MOST_BYTES:
            self._path.replace(self._path.with_suffix(".log.1"))
        with open(self._path, "a", encoding="utf-8") as log:
            log.writelines(clipped_line(line.decode("utf-8", errors="replace")) + "\n" for line in lines)
