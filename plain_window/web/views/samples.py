"""The sample demos, for an empty shelf."""

from ...authoring.folders import add_path
from ...core.errors import Fault, InputFaults
from ...samples import SAMPLES
from ...samples.opened import opened_sample
from ...store.demos import find_demo
from ...store.records import Author
from ..demo_states import demo_state
from ..identity import require_author
from ..state import state
from ..types.demos import DemoState
from .api import api

__all__ = []


@api.operation(
    "POST",
    "/samples/<name>",
    guard=lambda name: require_author(),
    described={"name": {"type": "string", "enum": list(SAMPLES)}},
    answer=DemoState,
    status=201,
    errors=(401, 403, 409, 422, 503),
)
def add_sample(name: str) -> DemoState:
    """Put one of the sample demos on the shelf, as a draft."""
    author = require_author()
    if name not in SAMPLES:
        raise InputFaults([Fault("name", f"There is no sample `{name[:60]}`. There are: {', '.join(SAMPLES)}.")])
    own_address = None if find_demo(name) else name
    folder, record = SAMPLES[name], Author.get_by_id(author.id)
    made = add_path(state().services, record, folder, slug=own_address, opened=opened_sample(folder))
    return demo_state(made)
