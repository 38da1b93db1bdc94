"""Who may open a demo, and how."""

import datetime as dt
import re
from typing import Annotated

from pydantic import AfterValidator, BaseModel
from pydantic import Field as Constrained

from .common import AccessWord, Body, UtcTime

__all__ = ["AccessChange", "AccessState", "LinkState", "Links", "NewLink", "Passcode", "Sites"]

# A scheme, a host and perhaps a port: what a browser compares when it is told who may frame a page.
ORIGIN = re.compile(r"https?://(?:[a-z0-9_-]+(?:\.[a-z0-9_-]+)*|\[[0-9a-f:.]+\])(?::\d{1,5})?")
MOST_SITES = 50


def _origin(site: str) -> str:
    plain = site.strip().lower().removesuffix("/")
    if ORIGIN.fullmatch(plain) is None:
        wanted = "a site is `https://` and a name, with nothing after it: `https://studio.example`"
        raise ValueError(f'{wanted}. Got "{site[:60]}"')
    return plain


Sites = Annotated[
    list[Annotated[str, Constrained(max_length=300), AfterValidator(_origin)]], Constrained(max_length=MOST_SITES)
]


class AccessChange(Body):
    """Who may open the demo, and where; what is left out stays as it is."""

    access: AccessWord | None = None
    passcode: Annotated[str, Constrained(min_length=6, max_length=200)] | None = Constrained(
        None, description="At least 6 characters; may be left out if there is one already."
    )
    link_days: Annotated[float, Constrained(gt=0, le=3650)] | None = Constrained(
        None, description="After how many days a new secret link stops working; never if left out."
    )
    new_link: bool = Constrained(False, description="Make a new secret link; all others stop working.")
    sites: Sites | None = Constrained(
        None, description="Sites whose pages may show this one in a frame; as they were if left out."
    )


class AccessState(BaseModel):
    """Who may open the demo, and how."""

    access: AccessWord
    link: str | None = Constrained(None, description="The newest secret link's path, if that is the access.")
    link_expires: UtcTime | None = None
    sites: list[str] = Constrained([], description="Sites whose pages may show this one in a frame.")


class NewLink(Body):
    """One more secret link."""

    name: Annotated[str, Constrained(max_length=120)] = Constrained(
        "", description="For whom it is; only the author reads it."
    )
    expires: dt.datetime | None = Constrained(
        None, description="When it stops working, in UTC unless it says otherwise; never if left out."
    )


class LinkState(BaseModel):
    """A secret link."""

    id: int
    name: str
    address: str = Constrained(description="Its whole address; whoever has it can open the demo.")
    path: str = Constrained(description="The same without this server's name.")
    created: UtcTime
    expires: UtcTime | None
    has_ended: bool
    opened: int = Constrained(description="How often the page was opened by it.")


class Links(BaseModel):
    """A demo's secret links, the newest first."""

    total: int
    links: list[LinkState]


class Passcode(Body):
    """A visitor's passcode."""

    passcode: Annotated[str, Constrained(max_length=200)]
