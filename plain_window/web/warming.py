"""Makes a web process ready for its first visitor: demos read, runners connected to.

The first request after a start would otherwise pay for both, several times over what the next ones take.
"""

import contextlib
import logging
import os
import threading
import time
from collections.abc import Iterator

from flask import Flask

from ..core.errors import Faults, ModelFailed
from ..core.fields import check_inputs
from ..runners.failures import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..store.database import DATABASE_ERRORS, database
from ..store.demos import live_slugs
from .lookups import ServedDemo, Version
from .plain_answers import add_id, plain_answer_here
from .state import WebState

__all__ = ["warm_up"]

log = logging.getLogger("warming")

# Runners and the database start at the same time as this process.
TRIES, PAUSE_SECONDS = 60, 0.25


def warm_up(app: Flask, *, told: int) -> None:
    """Warm the process in the background; give up quietly where something does not come.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    told : int
        The descriptor of a number (`eventfd`) that one is added to once what is there is warm; a model that takes long
        to come, or whose process is away, is not waited for.
    """

    def warm() -> None:
        rounds = _rounds(app)
        try:
            next(rounds, None)
        finally:
            os.eventfd_write(told, 1)
        for n_left in rounds:
            log.debug("%d demos are not warm yet", n_left)

    threading.Thread(target=warm, name="warming", daemon=True).start()


def _rounds(app: Flask) -> Iterator[int]:
    """Warm whatever is there by now, round after round; how many demos are left after each."""
    state, waiting = app.extensions["plain_window"], None
    # The way through the framework, to an address that no demo can have.
    app.test_client().post("/api/v1/demos/-/predictions", json={"inputs": {}})
    for _ in range(TRIES):
        with contextlib.suppress(*DATABASE_ERRORS), database.connection_context():
            waiting = live_slugs() if waiting is None else waiting
            state.doors(None)
            waiting = [slug for slug in waiting if not _is_warm(state, slug)]
        if waiting is not None:
            yield len(waiting)
        if waiting == []:
            return
        time.sleep(PAUSE_SECONDS)
    log.info("%d demos were not warm in time", len(waiting or []))


def _is_warm(state: WebState, slug: str) -> bool:
    """Whether the demo at this address was asked once; one that cannot be held needs no warming."""
    demo = state.served(slug)
    if demo is None or demo.live is None:
        return True
    row = demo.live.inspection.warm_up_row
    try:
        state.quick_models.load(demo.live.job)
        _answer_usual(state, demo, demo.live)
        if row and state.services.runners.is_there(demo.live.job):
            state.services.runners.predict(demo.live.job, [row])
            return True
    except (RunnerFailed, RunnerRaised):
        return True
    except RunnerUnavailable:
        return False
    return not row


def _answer_usual(state: WebState, demo: ServedDemo, version: Version) -> None:
    """Go the way of an answer once, from the case that a page starts with to the text that would be sent."""
    inputs = {field.name: getattr(field, "default", None) for field in version.document.fields}
    with contextlib.suppress(Faults, ModelFailed):
        checked = check_inputs(version.document.fields, inputs)
        answer = plain_answer_here(state.quick_models, version, checked, started=time.perf_counter())
        if answer is not None:
            add_id(state.answer_ids, demo, version, answer)
            answer.json()
            version.bins.kept(checked.values)
