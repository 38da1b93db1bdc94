"""How often an address may ask, across all workers: buckets of tokens, and waits that grow with wrong guesses.

Both are kept in small files that all workers map into memory. An entry is found by a keyed hash of whom it is about, so
nobody can choose an address whose entry is another's, and holds 64 bits of that hash, so that two who fall into one
place are told apart. A place has several entries; one that is pushed out is the one that mattered least. Two workers
may now and then count one request as none; that is harmless for what this is for.
"""

import hashlib
import mmap
import secrets
import struct
import time
from pathlib import Path

__all__ = ["GrowingWait", "RateLimit"]

PLACES, ENTRIES = 1 << 13, 8
# Whom it is about, and two numbers.
ENTRY = struct.Struct("=Qdd")
PLACE_BYTES = ENTRIES * ENTRY.size
KEY_BYTES = 16
# Wrong guesses: the first few are slips; after them the wait doubles, up to a quarter of an hour, and is forgotten
# after a day without one.
FREE_GUESSES, FIRST_WAIT_SECONDS, MOST_WAIT_SECONDS, FORGET_SECONDS = 5, 2.0, 900.0, 86_400.0


class _SharedTable:
    """Two numbers for each of very many names, shared by all processes on one run folder."""

    def __init__(self, path: Path) -> None:
        size = KEY_BYTES + PLACES * PLACE_BYTES
        with open(path, "a+b") as file:
            path.chmod(0o600)
            file.truncate(size)
            self._shared = mmap.mmap(file.fileno(), size)
        # Of two that start together the one that writes last is followed; both read it back.
        if not any(self._shared[:KEY_BYTES]):
            self._shared[:KEY_BYTES] = secrets.token_bytes(KEY_BYTES)

    def find(self, who: str) -> tuple[int, int, float, float]:
        """Where the entry of `who` is or will be, its mark, and its numbers (0, 0 if it is new)."""
        key = self._shared[:KEY_BYTES]
        digest = hashlib.blake2b(who.encode("utf-8", "replace"), key=key, digest_size=16).digest()
        place, mark = struct.unpack("=QQ", digest)
        start = KEY_BYTES + place % PLACES * PLACE_BYTES
        least, least_at = float("inf"), start
        for at in range(start, start + PLACE_BYTES, ENTRY.size):
            known, first, second = ENTRY.unpack_from(self._shared, at)
            if known == mark:
                return at, mark, first, second
            if first < least:
                least, least_at = first, at
        return least_at, mark, 0.0, 0.0

    def put(self, at: int, mark: int, first: float, second: float) -> None:
        """Write an entry. The one with the smallest first number is the next to be pushed out."""
        ENTRY.pack_into(self._shared, at, mark, first, second)


class RateLimit:
    """Buckets of tokens.

    Parameters
    ----------
    folder : Path
        The run folder.
    """

    def __init__(self, folder: Path) -> None:
        self._table = _SharedTable(folder / "rate")

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
        at, mark, last, tokens = self._table.find(who)
        now = time.time()
        most = max(rate if saved is None else saved, 1.0)
        # A new bucket reads as last looked at in 1970, and is full.
        tokens = min(most, tokens + max(0.0, now - last) * rate)
        if tokens < 1:
            return (1 - tokens) / rate
        self._table.put(at, mark, now, tokens - 1)
        return 0.0


class GrowingWait:
    """Waits that grow with wrong guesses.

    Parameters
    ----------
    folder : Path
        The run folder.
    """

    def __init__(self, folder: Path) -> None:
        self._table = _SharedTable(folder / "guesses")

    def wait_seconds(self, who: str, *, now: float | None = None) -> float:
        """How long `who` must wait before the next guess.

        Parameters
        ----------
        who : str
            Whom guesses are counted by.
        now : float or None, optional
            Seconds of a clock that only goes on; its own if None.
        """
        _, _, last, wrong = self._table.find(who)
        now = time.time() if now is None else now
        return max(0.0, last + _pause(wrong) - now) if now - last < FORGET_SECONDS else 0.0

    def note_wrong(self, who: str, *, now: float | None = None) -> None:
        """A guess was wrong.

        Parameters
        ----------
        who : str
            Whom guesses are counted by.
        now : float or None, optional
            Seconds of a clock that only goes on; its own if None.
        """
        at, mark, last, wrong = self._table.find(who)
        now = time.time() if now is None else now
        self._table.put(at, mark, now, (wrong if now - last < FORGET_SECONDS else 0.0) + 1)

    def note_right(self, who: str) -> None:
        """A guess was right: what was wrong before it is forgotten.

        Parameters
        ----------
        who : str
            Whom guesses are counted by.
        """
        at, mark, _, wrong = self._table.find(who)
        if wrong:
            self._table.put(at, mark, 0.0, 0.0)


def _pause(wrong: float) -> float:
    over = wrong - FREE_GUESSES
    return 0.0 if over < 0 else min(MOST_WAIT_SECONDS, FIRST_WAIT_SECONDS * 2.0 ** min(over, 20))
