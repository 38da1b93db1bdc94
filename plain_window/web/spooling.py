"""A file that is sent while it is made: made as fast as it can be, however slowly it is taken."""

import os
import tempfile
from collections.abc import Generator, Iterator
from dataclasses import dataclass, field
from pathlib import Path

import gevent
from gevent.event import Event

__all__ = ["spooled"]

COPY_BYTES = 1 << 20


@dataclass
class _Spool:
    """How much there is of the file, whether that is all, and what went wrong."""

    size: int = 0
    is_over: bool = False
    error: BaseException | None = None
    changed: Event = field(default_factory=Event)


def spooled(parts: Generator[bytes], folder: Path) -> Iterator[bytes]:
    """The same bytes as they come. What makes them is done as soon as it can be; it ends if nobody takes them any more.

    Parameters
    ----------
    parts : generator of bytes
    folder : Path
        Where the file lies meanwhile; it has no name there and goes with its reader.

    Raises
    ------
    Exception
        What making it raised, behind what was made before.
    """
    spool, at = _Spool(), 0
    with tempfile.TemporaryFile(dir=folder) as file:
        maker = gevent.spawn(_fill, spool, parts, file.fileno())
        try:
            while at < spool.size or not spool.is_over:
                spool.changed.clear()
                if at < spool.size:
                    data = os.pread(file.fileno(), COPY_BYTES, at)
                    at += len(data)
                    yield data
                elif not spool.is_over:
                    spool.changed.wait()
        finally:
            maker.kill()
    if spool.error is not None:
        raise spool.error


def _fill(spool: _Spool, parts: Generator[bytes], descriptor: int) -> None:
    try:
        for part in parts:
            os.pwrite(descriptor, part, spool.size)
            spool.size += len(part)
            spool.changed.set()
    except Exception as error:  # whoever takes the file is told
        spool.error = error
    finally:
        # Also where it is ended from outside: what holds its maker's place is let go of.
        parts.close()
        spool.is_over = True
        spool.changed.set()
