"""The bridge: a WebSocket to a process that holds a model and stays where it is; its client, and who is connected."""

import logging
import threading
from typing import Any

import msgspec
from flask import Response, current_app, request
from simple_websocket import ConnectionClosed, Server

from ...authoring.bridging import Bridged, NotYours, bridge_key, bring_bridged, wanted_slug
from ...core.errors import ModelNotOpened, PlainWindowError
from ...runners.failures import RunnerFailed, RunnerUnavailable
from ...store.addresses import SlugTaken
from ...store.database import DATABASE_ERRORS, database
from ...store.demos import bridged_demos
from ...store.records import Author
from ..bridge_lines import MOST_BYTES, BridgeLines, Taken, bridge_state, bridge_view
from ..bridge_wheel import bridge_wheel, wheel_name
from ..identity import caller, has_key, require_author
from ..problems import ApiProblem, not_found
from ..sentences import unavailable_sentence
from ..state import state
from ..types.bridges import BridgeList
from .api import api

__all__: list[str] = []

log = logging.getLogger("bridge")

PROTOCOL = 1
HELLO_SECONDS, PING_SECONDS = 20.0, 5.0


class _Hello(msgspec.Struct, tag_field="say", tag="hello"):
    """What a process says first."""

    protocol: int
    source: str
    function: str
    client: str = ""
    python: str = ""
    name: str = ""
    demo: str | None = None
    title: str | None = None
    target: str | None = None
    reference: bytes | None = None
    take_over: bool = False


class _Finished(Response):
    """Nothing more is sent: the connection was the WebSocket's."""

    def __call__(self, *_: Any) -> Any:
        raise StopIteration


@api.operation("GET", "/bridges", answer=BridgeList, guard=require_author, errors=(401, 403, 503))
def list_bridges() -> BridgeList:
    """Your demos that are answered from a process of your own, and whether it is connected."""
    author, settings = require_author(), state().services.settings
    found = ((demo.slug, bridge_state(settings, str(demo.model.bridge))) for demo in bridged_demos(author.id))
    return BridgeList(client=wheel_name(), bridges=[bridge_view(slug, one) for slug, one in found])


@api.operation("GET", "/bridge/<file>", errors=(404,), content_type="application/zip")
def get_bridge_client(file: str) -> Response:
    """The bridge's client as a wheel, for `pip install`; its name is in `GET /bridges`."""
    if file not in (wheel_name(), "client.whl"):
        raise not_found()
    return Response(bridge_wheel(), content_type="application/zip", headers={"Cache-Control": "no-cache"})


@api.blueprint.get("/bridge", endpoint="no_bridge")
def no_bridge() -> Response:
    """Somebody looks at the bridge's address with something that is no WebSocket.

    Raises
    ------
    ApiProblem
        426, always.
    """
    detail = "This address takes WebSockets. `pip install` the client; it does the rest."
    raise ApiProblem(426, "A WebSocket", detail)


@api.blueprint.get("/bridge", endpoint="bridge", websocket=True)
def bridge() -> Response:
    """A process connects what it holds; docs/bridge.md describes the protocol.

    Raises
    ------
    ApiProblem
        401 without a key.
    """
    author = caller()
    if author is None or not has_key():
        raise ApiProblem(401, "No key", "Send a key: `Authorization: Bearer KEY`.")
    environ = {**request.environ, "gunicorn.socket": request.environ["gunicorn.socket"].unpaced()}
    websocket = Server(environ, max_message_size=MOST_BYTES, ping_interval=PING_SECONDS)
    try:
        _Connected(websocket, author.id).serve()
    except ConnectionClosed:
        pass
    finally:
        if websocket.connected:
            websocket.close()
    return _Finished()


class _Connected:
    """One process, from its hello until it goes."""

    def __init__(self, websocket: Server, author_id: int) -> None:
        self._websocket, self._author_id = websocket, author_id
        self._services = state().services
        self._app = current_app._get_current_object()  # type: ignore[attr-defined]
        self._base = request.host_url.rstrip("/")
        self._is_over = False

    def serve(self) -> None:
        hello = self._hello()
        if hello is None:
            return
        told = Bridged(hello.source, hello.function, hello.demo, hello.title, hello.target, hello.reference)
        slug = wanted_slug(self._author_id, told)
        lines = BridgeLines(self._services.settings, bridge_key(self._author_id, slug), self._websocket)
        try:
            lines.open(name=hello.name, python=hello.python, client=hello.client, take_over=hello.take_over)
        except Taken as taken:
            who = f" (`{taken}`)" if str(taken) else ""
            self._refuse(
                f"Another process answers for `{slug}` already{who}. Close it, or connect with `take_over=True`."
            )
            return
        # Opening the model asks over these very lines.
        threading.Thread(target=self._bring, args=(told, slug), daemon=True).start()
        try:
            lines.serve(lambda: self._is_over)
            if lines.is_taken:
                self._refuse(f"Another process has taken `{slug}` over.")
        finally:
            lines.close()

    def _hello(self) -> _Hello | None:
        message = self._websocket.receive(timeout=HELLO_SECONDS)
        if message is None:
            return None
        try:
            hello = msgspec.msgpack.decode(message, type=_Hello)
        except (msgspec.MsgspecError, TypeError):
            self._refuse("This is not how the bridge begins. Install the client from this server.")
            return None
        if hello.protocol != PROTOCOL:
            spoken = f"The client speaks protocol {hello.protocol}, this server {PROTOCOL}."
            self._refuse(f"{spoken} Install the client from this server.")
            return None
        return hello

    def _bring(self, told: Bridged, slug: str) -> None:
        with self._app.app_context():
            try:
                with database.connection_context():
                    demo = bring_bridged(self._services, Author.get_by_id(self._author_id), told, slug)
            except NotYours:
                self._end(f"There is another author's demo at `{slug}`. Choose another address.")
            except SlugTaken as error:
                self._end(f"Another demo has the address `{error}`. Choose another.")
            except ModelNotOpened as error:
                self._end("\n\n".join(part for part in (str(error), error.traceback) if part))
            except PlainWindowError as error:
                self._end(str(error))
            except RunnerUnavailable as error:
                self._end(unavailable_sentence(error))
            except (RunnerFailed, *DATABASE_ERRORS) as error:
                log.warning("bridge to %s: %s", slug, error)
                self._end("It could not be opened just now. Try again.")
            else:
                self._say({"say": "ready", "demo": demo.slug, "address": f"{self._base}/demos/{demo.slug}"})

    def _end(self, reason: str) -> None:
        self._refuse(reason)
        self._is_over = True

    def _refuse(self, reason: str) -> None:
        self._say({"say": "refused", "reason": reason})

    def _say(self, what: dict[str, Any]) -> None:
        try:
            self._websocket.send(msgspec.msgpack.encode(what))
        except ConnectionClosed:
            self._is_over = True
