"""Predictions a second and address, across all workers.

A token bucket an address, in a small file that all workers map into memory. Two addresses may share a bucket (there
are 65,536); two workers may now and then count one request as none. Both are harmless for what this is for: keeping
one visitor from taking all there is.
"""

import mmap
import struct
import time
import zlib
from pathlib import Path

__all__ = ["RateLimit"]

BUCKETS = 1 << 16
# When the bucket was last looked at (seconds), and how many tokens it then had.
BUCKET = struct.Struct("=dd")


class RateLimit:
    """Buckets that all processes on one run folder share.

    Parameters
    ----------
    folder : Path
        The run folder.
    """

    def __init__(self, folder: Path) -> None:
        path = folder / "rate"
        with open(path, "a+b") as file:
            file.truncate(BUCKETS * BUCKET.size)
            self._shared = mmap.mmap(file.fileno(), BUCKETS * BUCKET.size)

    def wait_seconds(self, who: str, *, rate: float, saved: float | None = None) -> float:
        """How long `who` must wait; 0 if it may go on, which takes one token.

        Parameters
        ----------
        who : str
            An address, with a prefix for what is counted.
        rate : float
            Tokens a second; 0 means no limit.
        saved : float, optional
            How many may be saved up; one second's worth if left out.
        """
        if rate <= 0:
            return 0.0
        at = zlib.crc32(who.encode()) % BUCKETS * BUCKET.size
        now = time.time()
        last, tokens = BUCKET.unpack_from(self._shared, at)
        most = max(rate if saved is None else saved, 1.0)
        # An empty bucket reads as last looked at in 1970, and is full.
        tokens = min(most, tokens + max(0.0, now - last) * rate)
        if tokens < 1:
            return (1 - tokens) / rate
        BUCKET.pack_into(self._shared, at, now, tokens - 1)
        return 0.0
