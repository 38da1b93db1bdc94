"""Where environments lie: a folder each, named after exactly what is in it, readable by whoever runs behind walls."""

import contextlib
import os
import shutil
import tempfile
import time
from collections.abc import Collection, Iterator
from contextlib import contextmanager
from pathlib import Path

from ..settings import Settings

__all__ = ["EnvironmentFolders"]

LIBRARIES, MAKING = "libraries", "making-"
USED, SIZE = "used", "size"


class EnvironmentFolders:
    """All environments of one state directory.

    Parameters
    ----------
    settings : Settings
    """

    def __init__(self, settings: Settings) -> None:
        self._folder = settings.environments

    def libraries(self, key: str) -> Path:
        """Where an environment's libraries are.

        Parameters
        ----------
        key : str
            Of its lock.
        """
        return self._folder / key / LIBRARIES

    def is_there(self, key: str) -> bool:
        """Whether it is here, whole.

        Parameters
        ----------
        key : str
        """
        return self.libraries(key).is_dir()

    @contextmanager
    def making(self) -> Iterator[Path]:
        """A folder to make one in; it is gone afterwards, with what was not kept of it."""
        self._folder.mkdir(mode=0o711, parents=True, exist_ok=True)
        made = Path(tempfile.mkdtemp(prefix=MAKING, dir=self._folder))
        # Who writes there is nobody else here.
        made.chmod(0o711)
        try:
            yield made
        finally:
            shutil.rmtree(made, ignore_errors=True)

    def keep(self, key: str, made: Path) -> int:
        """Keep what was made; return its bytes.

        Parameters
        ----------
        key : str
        made : Path
            The folder of its libraries.
        """
        n_bytes = 0
        for folder, _, names in os.walk(made):
            _take_back(Path(folder), 0o755)
            for name in names:
                path = Path(folder) / name
                n_bytes += path.lstat().st_size
                _take_back(path, 0o644)
        (made.parent / SIZE).write_text(str(n_bytes))
        place = self._folder / key
        shutil.rmtree(place, ignore_errors=True)
        place.mkdir(mode=0o711)
        (made.parent / SIZE).rename(place / SIZE)
        (place / USED).touch()
        # The libraries come last: what was interrupted is no environment.
        made.rename(place / LIBRARIES)
        return n_bytes

    def bytes_of(self, key: str) -> int:
        """How much an environment takes on disk.

        Parameters
        ----------
        key : str
        """
        try:
            return int((self._folder / key / SIZE).read_text())
        except (OSError, ValueError):
            return 0

    def keys(self) -> list[str]:
        """All that are here."""
        return [one.parent.name for one in self._folder.glob(f"*/{LIBRARIES}")]

    def note_use(self, key: str) -> None:
        """It was wanted just now.

        Parameters
        ----------
        key : str
        """
        place = self._folder / key
        if place.is_dir():
            (place / USED).touch()

    def clean_up(self, needed: Collection[str], *, most_bytes: int) -> list[str]:
        """Delete those that no demo needs, longest unused first, until all of them fit; return which.

        Parameters
        ----------
        needed : collection of str
            Keys of those that stay.
        most_bytes : int
            How much all of them may take.
        """
        sizes = {key: self.bytes_of(key) for key in self.keys()}
        total, gone = sum(sizes.values()), []
        for key in sorted((key for key in sizes if key not in needed), key=self._last_used):
            if total <= most_bytes:
                break
            # First what makes it one: nobody starts with half of it.
            going = self._folder / f"{MAKING}{key}"
            (self._folder / key).rename(going)
            shutil.rmtree(going, ignore_errors=True)
            total -= sizes[key]
            gone.append(key)
        return gone

    def sweep(self, *, older_than: float) -> None:
        """Delete what is left of builds that were killed.

        Parameters
        ----------
        older_than : float
            Seconds; what is younger may be under way.
        """
        for left in self._folder.glob(f"{MAKING}*"):
            with contextlib.suppress(OSError):
                if time.time() - left.stat().st_mtime > older_than:
                    shutil.rmtree(left, ignore_errors=True)

    def _last_used(self, key: str) -> float:
        try:
            return (self._folder / key / USED).stat().st_mtime
        except OSError:
            return 0.0


def _take_back(path: Path, mode: int) -> None:
    """Ours, and readable by everybody behind walls; a link stays what it is."""
    if path.is_symlink():
        path.unlink()
        return
    if os.geteuid() == 0:
        os.chown(path, 0, 0)
    path.chmod(mode)
