"""How long models take for an answer, as this process has seen it: pages of slow ones ask by a button."""

import threading

__all__ = ["Speeds"]

# The weight of the newest time; the ones before it fade.
NEWEST = 0.3
# From here on an answer is waited for, and asking at each change would only pile up questions.
SLOW_MS = 1000.0
MOST_KEPT = 4096


class Speeds:
    """A fading mean for each model."""

    def __init__(self) -> None:
        self._means: dict[str, float] = {}
        self._lock = threading.Lock()

    def note(self, key: str, milliseconds: float) -> None:
        """An answer took so long.

        Parameters
        ----------
        key : str
            The runner's.
        milliseconds : float
        """
        with self._lock:
            before = self._means.get(key)
            if before is None and len(self._means) >= MOST_KEPT:
                self._means.pop(next(iter(self._means)))
            self._means[key] = milliseconds if before is None else before + NEWEST * (milliseconds - before)

    def is_slow(self, key: str) -> bool:
        """Whether answers of this model are waited for.

        Parameters
        ----------
        key : str
            The runner's.
        """
        return self._means.get(key, 0.0) > SLOW_MS
