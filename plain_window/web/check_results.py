"""What the checks of drafts came to."""

from collections import OrderedDict

from ..core.checks.result import CheckResult

__all__ = ["CheckResults"]

REMEMBERED_DRAFTS = 64


class CheckResults:
    """What the checks of drafts came to, each for the draft it was made on: publishing need not make them again."""

    def __init__(self) -> None:
        self._results: OrderedDict[str, list[CheckResult]] = OrderedDict()

    def of(self, tag: str) -> list[CheckResult] | None:
        """The results for a draft, if it was checked as it is.

        Parameters
        ----------
        tag : str
            Of the draft: another one after each change.
        """
        return self._results.get(tag)

    def keep(self, tag: str, results: list[CheckResult]) -> None:
        """Remember the results of a draft.

        Parameters
        ----------
        tag : str
            Of the draft.
        results : list of CheckResult
        """
        self._results[tag] = results
        self._results.move_to_end(tag)
        while len(self._results) > REMEMBERED_DRAFTS:
            self._results.popitem(last=False)
