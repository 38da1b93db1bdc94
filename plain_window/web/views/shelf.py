"""The author's shelf: what became of each demo, and what was taken off it."""

import contextlib

from ...authoring.model_intake import runner_key
from ...core.contract.keeping import RunnerStatus
from ...core.documents import DemoDocument
from ...runners.failures import RunnerUnavailable
from ...store.demos import deleted_demos, draft_of, shelf
from ...store.log import Counts, count_predictions, failing_demos
from ...store.records import Author, Demo, Release
from ...store.releases import draft_differs, live_releases_of
from ..identity import require_author
from ..state import state
from ..types.shelf import DeletedEntry, Shelf, ShelfEntry
from .api import api

__all__: list[str] = []


@api.operation("GET", "/demos", guard=require_author, answer=Shelf, errors=(401, 503))
def list_demos() -> Shelf:
    """The author's demos, the one changed last first, and those that can be brought back."""
    author = Author.get_by_id(require_author().id)
    demos = shelf(author)
    runners, live = _runners(), live_releases_of(demos)
    counts, failing = count_predictions([demo.id for demo in demos]), failing_demos([demo.id for demo in demos])
    return Shelf(
        demos=[
            _entry(demo, live.get(demo.id), runners, counts.get(demo.id, Counts()), is_failing=demo.id in failing)
            for demo in demos
        ],
        deleted=[
            DeletedEntry(slug=demo.slug_before_deletion, title=draft_of(demo).title, deleted=demo.deleted)
            for demo in deleted_demos(author)
        ],
    )


def _entry(
    demo: Demo, release: Release | None, runners: dict[str, RunnerStatus], counts: Counts, *, is_failing: bool
) -> ShelfEntry:
    document = draft_of(demo)
    served = release.model if release else demo.model
    shown = DemoDocument.model_validate_json(release.document) if release else document
    runner = runners.get(runner_key(served, shown))
    health = runner.state if runner else "asleep"
    return ShelfEntry(
        slug=demo.slug,
        title=document.title,
        purpose=document.purpose,
        access=demo.access,
        release=release.number if release else None,
        draft_differs=draft_differs(demo, release),
        changed=demo.changed,
        predictions=counts.answered,
        last_prediction=counts.last,
        failures=counts.failed,
        own_tries=counts.own,
        # A process that stands ready is no help while the model fails every call.
        health="failing" if is_failing and health in ("ready", "asleep") else health,
        trouble=(runner.trouble if runner else "") or None,
    )


def _runners() -> dict[str, RunnerStatus]:
    with contextlib.suppress(RunnerUnavailable):
        return {runner.key: runner for runner in state().services.runners.status().runners}
    return {}
