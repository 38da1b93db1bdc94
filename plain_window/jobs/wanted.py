"""What a job is to make, as it is kept with it: libraries, a demo, another model for one."""

import json
from dataclasses import dataclass, fields
from typing import Any, Literal

from ..authoring.replacing import Replacement
from ..authoring.submission import ModelSubmission
from ..core.documents import DemoChanges

__all__ = ["WantedMaking", "read_wanted", "write_wanted"]


@dataclass(frozen=True)
class WantedMaking:
    """What is to be made, with the libraries that must be there first, if any.

    Attributes
    ----------
    do : str
        `build` only; `bring` a demo; or `replace` the model of the one at `slug`.
    requirements : str
        As their author wrote them; empty where there are none.
    slug : str
        Of the demo that is there already.
    """

    do: Literal["build", "bring", "replace"]
    requirements: str
    submission: ModelSubmission | None = None
    replacement: Replacement | None = None
    slug: str = ""
    # The address that it is to have from then on.
    moved_to: str | None = None
    # Outputs of the author's own that come with a folder, and whether a folder without any takes them away.
    expected_file: str | None = None
    is_folder: bool = False

    @property
    def files(self) -> list[str]:
        """All files that it needs, by hash."""
        found = [*self.submission.files] if self.submission else []
        found += [hash_ for hash_ in self.replacement.files.values() if hash_] if self.replacement else []
        return [*found, *([self.expected_file] if self.expected_file else [])]


def write_wanted(wanted: WantedMaking) -> str:
    """What is wanted, as JSON.

    Parameters
    ----------
    wanted : WantedMaking
    """
    values = {one.name: getattr(wanted, one.name) for one in fields(wanted)}
    for name in ("submission", "replacement"):
        values[name] = _plain(values[name]) if values[name] is not None else None
    return json.dumps(values)


def read_wanted(text: str) -> WantedMaking:
    """The same, read.

    Parameters
    ----------
    text : str
    """
    values = json.loads(text)
    submission, replacement = values.pop("submission"), values.pop("replacement")
    return WantedMaking(
        submission=ModelSubmission(**_read(submission)) if submission else None,
        replacement=Replacement(**_read(replacement)) if replacement else None,
        **values,
    )


def _plain(kept: ModelSubmission | Replacement) -> dict[str, Any]:
    values = {one.name: getattr(kept, one.name) for one in fields(kept) if one.name != "opened"}
    if kept.changes is not None:
        values["changes"] = kept.changes.model_dump(mode="json", exclude_unset=True)
    return values


def _read(values: dict[str, Any]) -> dict[str, Any]:
    changes = values.get("changes")
    return {**values, "changes": DemoChanges.model_validate(changes) if changes is not None else None}
