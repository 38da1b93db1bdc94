"""Models that stay in their authors' own processes."""

from pydantic import BaseModel
from pydantic import Field as Constrained

from .common import UtcTime

__all__ = ["BridgeList", "BridgeView"]


class BridgeView(BaseModel):
    """A demo that is answered from a process of its author's."""

    demo: str
    connected: bool
    since: UtcTime | None = Constrained(description="Since when it is connected, or away.")
    name: str = Constrained(description="What the process calls itself.")
    python: str
    client: str = Constrained(description="The version of its client.")


class BridgeList(BaseModel):
    """Those of an author."""

    client: str = Constrained(description="The file's name of the client: `pip install …/api/v1/bridge/NAME`.")
    bridges: list[BridgeView]
