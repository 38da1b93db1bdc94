"""The stamp that tells every process that a demo, an author or a key changed.

Web processes remember what they have read. Whoever writes touches one file; reading its time costs a microsecond,
where asking the database costs a thousand. Machines that share only the database would each need to look there
instead; this is the one place to change for that.
"""

import os
from pathlib import Path

__all__ = ["ChangeStamp"]


class ChangeStamp:
    """One file whose time of change is the version of all records.

    Parameters
    ----------
    folder : Path
        The run folder, shared by all processes of one Plain Window.
    """

    def __init__(self, folder: Path) -> None:
        self._path = folder / "changes"
        self._path.touch(exist_ok=True)

    def read(self) -> tuple[int, int]:
        """The current version; compare for equality only."""
        status = os.stat(self._path)
        return status.st_mtime_ns, status.st_size

    def bump(self) -> None:
        """Say that something changed. Call after the change is committed."""
        # Growing the file tells two changes apart that fall into one tick of the file system's clock.
        with open(self._path, "ab") as file:
            file.write(b".")
            grown = file.tell()
        if grown > 1 << 20:
            os.truncate(self._path, 0)
