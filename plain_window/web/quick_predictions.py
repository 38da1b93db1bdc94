"""The short way for predictions that have nothing special about them, in front of the framework (decision 23).

A visitor's question to a live demo that is open to everyone, whose small model this process has at hand, is answered
here; what explains the answer, and models without a compiled form, are asked of the runner. Whatever else it is, and
whatever is wrong with it, goes the usual way, which has the words for it; so nothing is refused here, and everything
the usual way checks before an answer is checked here in the same order.
"""

import io
import time
from collections.abc import Callable, Iterable
from typing import Any, NamedTuple
from urllib.parse import parse_qsl

import msgspec

from ..core.errors import Faults, ModelFailed
from ..core.fields import CheckedInputs, check_inputs
from ..runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from .entered import count_entered, page_visitor
from .explained_answers import Wanted, explained_answer, read_wanted
from .hosts import name_of
from .identity import address_name
from .limits import rate_key
from .lookups import ServedDemo, Version
from .plain_answers import (
    WrittenAnswer,
    add_id,
    plain_answer_elsewhere,
    plain_answer_here,
    recorded_inputs,
)
from .problems import ApiProblem
from .request_inputs import MOST_INPUTS
from .state import WebState
from .worker import send_at_once

__all__ = ["COUNTED", "FAILED", "QuickPredictions", "counted_as"]

BEFORE, AFTER = "/api/v1/demos/", "/predictions"
# A case of sixty fields is 2 KB.
MOST_BODY_BYTES = 32 << 10
# Left for the usual way: that the caller was counted here, and what came of asking a runner.
COUNTED, FAILED = "plain_window.counted", "plain_window.failed"
HEADERS = [
    ("Content-Type", "application/json"),
    ("X-Content-Type-Options", "nosniff"),
    ("Cache-Control", "no-store"),
    ("Vary", "Cookie, Authorization"),
]
HEAD = "".join(f"{name}: {value}\r\n" for name, value in HEADERS).encode("ascii")

Environ = dict[str, Any]
Application = Callable[[Environ, Any], Iterable[bytes]]


class _Body(msgspec.Struct, forbid_unknown_fields=True):
    inputs: dict[str, Any]


_BODY = msgspec.json.Decoder(_Body)


def counted_as(is_explained: bool) -> str:
    """Under which name a prediction counts against its address.

    The page asks for every answer once by itself and once with what explains it; either is counted by itself.

    Parameters
    ----------
    is_explained : bool
    """
    return "explain" if is_explained else "predict"


class _Asked(NamedTuple):
    """What is asked."""

    demo: ServedDemo
    version: Version


class _GivenUp:
    """A body of which no more comes, for the usual way to say so."""

    def __init__(self, error: Exception) -> None:
        self._error = error

    def read(self, *_: int) -> bytes:
        raise self._error

    readline = readinto = read


class QuickPredictions:
    """A WSGI application in front of another.

    Parameters
    ----------
    application : callable
        The usual way.
    state : WebState
    hosts : frozenset of str
        The names this server goes by.
    session_cookie : str
        Of authors; who has one goes the usual way.
    """

    def __init__(
        self, application: Application, state: WebState, *, hosts: frozenset[str], session_cookie: str
    ) -> None:
        self._application, self._state = application, state
        self._hosts, self._session_cookie = hosts, session_cookie

    def __call__(self, environ: Environ, start_response: Any) -> Iterable[bytes]:
        started = time.perf_counter()
        path = environ["PATH_INFO"]
        if path.endswith(AFTER) and path.startswith(BEFORE) and self._is_plain(environ):
            is_explained = "with=" in environ["QUERY_STRING"]
            asked = self._asked(path[len(BEFORE) : -len(AFTER)], is_explained=is_explained)
            may_ask = asked and self._may_ask(environ, is_explained=is_explained)
            answer = asked and may_ask and self._answered(asked, environ, started)
            if answer:
                sent: Iterable[bytes] | None = send_at_once(environ, HEAD, answer)
                if sent is not None:
                    return sent
                start_response("200 OK", [*HEADERS, ("Content-Length", str(len(answer)))])
                return [answer]
        return self._application(environ, start_response)

    def _is_plain(self, environ: Environ) -> bool:
        """Whether a visitor sends a small case as JSON, about the live release."""
        length = environ.get("CONTENT_LENGTH", "")
        return (
            environ["REQUEST_METHOD"] == "POST"
            and "draft" not in environ["QUERY_STRING"]
            and environ.get("CONTENT_TYPE") == "application/json"
            and (length.isdecimal() and len(length) < 6 and 0 < int(length) <= MOST_BODY_BYTES)
            and "HTTP_TRANSFER_ENCODING" not in environ
            and "HTTP_AUTHORIZATION" not in environ
            and self._session_cookie not in environ.get("HTTP_COOKIE", "")
            and name_of(environ.get("HTTP_HOST", "")) in self._hosts
        )

    def _asked(self, slug: str, *, is_explained: bool) -> _Asked | None:
        """The demo, if everyone may ask it, and all that is needed is at hand."""
        doors = self._state.doors.at_hand(None)
        door = doors and doors.get(slug)
        if not door or door.access != "everyone" or not door.is_live:
            return None
        demo = self._state.served.at_hand(door.slug)
        version = demo and demo.shown
        if not demo or not version or not version.is_of_values:
            return None
        # One that has no compiled form is asked of its runner; one that has is loaded here the usual way first.
        is_here = is_explained or not version.job.compiled or self._state.quick_models.at_hand(version.job)
        return _Asked(demo, version) if is_here else None

    def _may_ask(self, environ: Environ, *, is_explained: bool) -> bool:
        """Whether the caller's address has not asked too often; this counts as once."""
        rate, who = self._state.services.settings.limits.rate, environ.get("REMOTE_ADDR")
        environ[COUNTED] = not self._state.rate.wait_seconds(rate_key(counted_as(is_explained), who), rate=rate)
        return bool(environ[COUNTED])

    def _answered(self, asked: _Asked, environ: Environ, started: float) -> bytes | None:
        document, number = asked.version.document, asked.version.number
        inputs = _inputs_of(environ)
        if inputs is None:
            return None
        try:
            checked = check_inputs(document.fields, inputs)
            wanted = read_wanted(document, _query_of(environ)) if environ["QUERY_STRING"] else None
            if wanted and wanted.parts:
                answer = self._explained(asked, inputs, checked, wanted, environ, started)
            elif asked.version.job.compiled:
                answer = plain_answer_here(self._state.quick_models, asked.version, checked, started=started)
            else:
                answer = self._from_runner(asked, checked, environ, started)
        except (Faults, ModelFailed, ApiProblem):
            return None
        if answer is None:
            return None
        add_id(self._state.answer_ids, asked.demo, asked.version, answer)
        body = answer.json()
        page_of = page_visitor(environ.get("HTTP_ORIGIN"), environ.get("REMOTE_ADDR"))
        count_entered(self._state.summaries, asked.demo, asked.version, checked, answer.answer.answer, page_of=page_of)
        self._state.predictions.add(
            demo_id=asked.demo.id,
            release_number=number,
            duration_ms=(time.perf_counter() - started) * 1000,
            outcome="answered",
            inputs=recorded_inputs(document, inputs),
        )
        return body

    def _from_runner(
        self, asked: _Asked, checked: CheckedInputs, environ: Environ, started: float
    ) -> WrittenAnswer | None:
        runners, caller = self._state.services.runners, address_name(environ.get("REMOTE_ADDR"))
        try:
            answer = plain_answer_elsewhere(runners, asked.version, checked, caller=caller, started=started)
        except (ModelFailed, RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable) as error:
            # It has the words, and must not ask once more.
            environ[FAILED] = error
            return None
        self._state.speeds.note(asked.version.job.key, answer.answer.timing_ms.predict)
        return answer

    def _explained(
        self,
        asked: _Asked,
        inputs: dict[str, Any],
        checked: CheckedInputs,
        wanted: Wanted,
        environ: Environ,
        started: float,
    ) -> WrittenAnswer | None:
        runners, caller = self._state.services.runners, address_name(environ.get("REMOTE_ADDR"))
        try:
            return explained_answer(runners, asked.version, inputs, checked, wanted, caller=caller, started=started)
        except (ModelFailed, RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable) as error:
            # It has the words, and must not ask once more.
            environ[FAILED] = error
            return None


def _query_of(environ: Environ) -> dict[str, str]:
    """Each name with its first value."""
    return dict(reversed(parse_qsl(environ["QUERY_STRING"], keep_blank_values=True)))


def _inputs_of(environ: Environ) -> dict[str, Any] | None:
    """The case in the body; None for a body that is none. The usual way finds the body as it came."""
    try:
        body = environ["wsgi.input"].read(int(environ["CONTENT_LENGTH"]))
    except Exception as error:
        environ["wsgi.input"] = _GivenUp(error)
        return None
    environ["wsgi.input"] = io.BytesIO(body)
    try:
        inputs = _BODY.decode(body).inputs
    except (msgspec.MsgspecError, ValueError, RecursionError):
        return None
    return inputs if len(inputs) <= MOST_INPUTS else None
