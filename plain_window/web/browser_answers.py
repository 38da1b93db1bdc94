"""What a page that answers in its visitor's browser fetches for that: whether there is any, what it is, and a cache."""

import hashlib
import threading
from collections import OrderedDict, defaultdict
from collections.abc import Callable

from ..core.documents import PageParts
from ..core.takeaway.page import compressed
from .beside import beside
from .lookups import Version
from .take_away_content import FORMAT
from .take_away_weights import weights_of
from .take_away_wish import Wish, left_out, obstacle_of, parts_in_browser, sends_rows
from .types.page import BrowserAnswers

__all__ = ["PackedFiles", "browser_answers", "browser_wish", "mark_of"]

MARK_CHARACTERS = 16
# Packed and kept at hand, all demos together; what was asked for longest ago goes first.
MOST_BYTES_TOGETHER = 64 << 20


def browser_wish(version: Version) -> Wish | None:
    """What goes to browsers; None where this server answers.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    """
    # A model that was exchanged for one that no browser can ask is asked here, as any other.
    if version.document.answers_in != "browser" or obstacle_of(version, is_file=False) is not None:
        return None
    return Wish(version, has_rows=sends_rows(version), is_file=False)


def browser_answers(version: Version, parts: PageParts) -> BrowserAnswers | None:
    """How a page answers in its visitor's browser; None where this server does.

    Parameters
    ----------
    version : Version
        The release or the draft that is shown.
    parts : PageParts
        What the page shows where this server answers.
    """
    wish = browser_wish(version)
    if wish is None:
        return None
    return BrowserAnswers(
        mark=mark_of(wish),
        bytes=sum(beside(lambda: weights_of(wish)).values()),
        runs_graph=wish.runs_graph,
        parts=parts_in_browser(parts, wish),
        left_out=left_out(wish),
    )


def mark_of(wish: Wish) -> str:
    """What all that is fetched is known by: another one after each change.

    Parameters
    ----------
    wish : Wish
    """
    version = wish.version
    evidence = version.evidence.model_dump_json() if version.evidence is not None else ""
    facts = [str(one) for one in (FORMAT, wish.has_rows, version.number)]
    told = [version.job.key, version.document.model_dump_json(), evidence, *facts]
    return hashlib.sha256("\n".join(told).encode()).hexdigest()[:MARK_CHARACTERS]


class PackedFiles:
    """What browsers fetched last, packed, so that it is not made anew for each."""

    def __init__(self) -> None:
        self._files: OrderedDict[str, bytes] = OrderedDict()
        # One after another: of many visitors of a page at once the first has it made, and the others find it.
        self._making: defaultdict[str, threading.Lock] = defaultdict(threading.Lock)

    def of(self, name: str, make: Callable[[], bytes]) -> bytes:
        """A file by its name, compressed.

        Parameters
        ----------
        name : str
            Another one when it is another file.
        make : callable
            Gives the file's content.
        """
        found = self._files.get(name)
        if found is not None:
            self._files.move_to_end(name)
            return found
        with self._making[name]:
            found = self._files.get(name)
            if found is None:
                content = make()
                found = self._files[name] = beside(lambda: compressed(content))
                while len(self._files) > 1 and sum(map(len, self._files.values())) > MOST_BYTES_TOGETHER:
                    self._files.popitem(last=False)
        # Whoever comes from here on finds it.
        self._making.pop(name, None)
        return found
