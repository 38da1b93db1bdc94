"""Secret links: several of a demo, each named, counted and revocable."""

import datetime as dt

from flask import request

from ...core.errors import Fault
from ...store.database import now
from ...store.records import SecretLink
from ...store.secret_links import MOST_LINKS, links_of, new_link, revoke_link
from ..access import link_path, require_owner
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.access import Links, LinkState, NewLink
from .api import api
from .demos import own_record

__all__: list[str] = []


@api.operation("GET", "/demos/<slug>/links", guard=require_owner, answer=Links, errors=(401, 404, 503))
def get_links(slug: str) -> Links:
    """The demo's secret links that were not revoked, the newest first."""
    found = [_link_state(link) for link in links_of(own_record(slug))]
    return Links(total=len(found), links=found)


@api.operation(
    "POST",
    "/demos/<slug>/links",
    body=NewLink,
    guard=require_owner,
    answer=LinkState,
    status=201,
    errors=(400, 401, 403, 404, 409, 413, 415, 422, 503),
)
def create_link(slug: str, body: NewLink) -> LinkState:
    """Make one more secret link; those there are go on working.

    A demo that only its author may open is open to whoever has a link from then on. One that is open to everyone or
    asks for a passcode stays so, and takes no link: 409.
    """
    demo = own_record(slug)
    if demo.access in ("everyone", "passcode"):
        now_open = "open to everyone" if demo.access == "everyone" else "opened with a passcode"
        detail = f"This demo is {now_open}, so a secret link would change nothing. Set its access to `link` first."
        raise ApiProblem(409, "Not opened by links", detail)
    link = new_link(demo, state().services.stamp, name=body.name.strip(), expires=_end(body.expires))
    if link is None:
        detail = f"This demo has {MOST_LINKS} secret links that work. Revoke one first."
        raise ApiProblem(409, "Too many links", detail)
    return _link_state(link)


@api.operation(
    "DELETE",
    "/demos/<slug>/links/<int:link>",
    guard=lambda slug, link: require_owner(slug),
    errors=(401, 403, 404, 503),
    status=204,
)
def delete_link(slug: str, link: int) -> None:
    """Revoke a secret link: it opens nothing any more, also for those who have opened it."""
    if not revoke_link(own_record(slug), link, state().services.stamp):
        raise not_found()


def _end(expires: dt.datetime | None) -> dt.datetime | None:
    """When a link ends, as it is stored.

    Raises
    ------
    ApiProblem
        422 for a time that is over.
    """
    if expires is None:
        return None
    end = expires.astimezone(dt.UTC).replace(tzinfo=None) if expires.tzinfo else expires
    if end <= now():
        detail = f"`expires` is over: {end:%d %B %Y, %H:%M} UTC. Give a time to come, or leave it out."
        raise ApiProblem(422, "Over already", detail, faults=[Fault("expires", detail)])
    return end


def _link_state(link: SecretLink) -> LinkState:
    path = link_path(link)
    return LinkState(
        id=link.id,
        name=link.name,
        address=f"{request.host_url.rstrip('/')}{path}",
        path=path,
        created=link.created,
        expires=link.expires,
        has_ended=link.expires is not None and link.expires <= now(),
        opened=link.opened,
    )
