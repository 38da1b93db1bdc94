"""By what web processes say that they are warm: a number that each of them adds one to."""

import os
import select
import time

__all__ = ["Warmth"]


class Warmth:
    """How many processes have said so. Handed on by its descriptor, which a child inherits."""

    def __init__(self) -> None:
        # A process that is brought back later says so too; nobody need read it, since a number never fills up.
        self.descriptor = os.eventfd(0, os.EFD_NONBLOCK | os.EFD_CLOEXEC)
        self._n_warm = 0

    def wait(self, n_processes: int, *, seconds: float) -> bool:
        """Wait until so many have said so; False if they have not in time.

        Parameters
        ----------
        n_processes : int
        seconds : float
        """
        deadline = time.monotonic() + seconds
        while self._n_warm < n_processes:
            left = deadline - time.monotonic()
            if left <= 0 or not select.select([self.descriptor], [], [], left)[0]:
                return False
            self._n_warm += os.eventfd_read(self.descriptor)
        return True

    def close(self) -> None:
        """Nobody is waited for any more. Safe to call twice."""
        if self.descriptor >= 0:
            os.close(self.descriptor)
            self.descriptor = -1
