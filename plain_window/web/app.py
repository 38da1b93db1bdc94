"""The factory."""

from functools import partial
from wsgiref.headers import Headers

from flask import Flask
from flask.json.provider import DefaultJSONProvider
from werkzeug.middleware.proxy_fix import ProxyFix
from whitenoise import WhiteNoise

from ..authoring.services import make_services
from ..settings import Settings
from ..store.database import database, use_database
from ..store.predictions import PredictionLog
from ..store.summaries import EnteredSummaries
from .answer_ids import AnswerIds
from .browser_answers import PackedFiles
from .built_pages import PAGES
from .check_results import CheckResults
from .headers import install_headers
from .hosts import install_hosts, known_hosts
from .identity import install_sessions
from .lookups import (
    Remembered,
    read_doors,
    read_key,
    read_served,
    read_session,
)
from .problems import install_problem_handlers
from .quick_models import QuickModels
from .quick_predictions import QuickPredictions
from .rate import GrowingWait, RateLimit
from .speeds import Speeds
from .state import WebState
from .views import api, health, pages

__all__ = ["create_app"]

# What answers in a browser computes, and talks to nobody but the page that made it.
THREAD_POLICY = "default-src 'none'; script-src 'wasm-unsafe-eval'"


def create_app(settings: Settings) -> Flask:
    """The web application.

    Parameters
    ----------
    settings : Settings
        With the address of a database that has its tables.

    Raises
    ------
    ValueError
        If there is no such address.
    """
    if settings.database_url is None:
        raise ValueError("the web application needs a database; start it with `./plainwindow serve`")
    use_database(settings.database_url)
    app = Flask(__name__, static_folder=None)
    app.config.update(PAGES=PAGES, JSON_LIMIT=settings.limits.json_bytes)
    assert isinstance(app.json, DefaultJSONProvider)
    app.json.sort_keys = False
    install_sessions(app, settings)
    install_problem_handlers(app)
    install_headers(app)
    install_hosts(app, settings)
    app.register_blueprint(health.blueprint)
    app.register_blueprint(pages.blueprint)
    pages.install_problem_pages(app)
    app.register_blueprint(api.blueprint)
    app.teardown_request(_give_back_connection)
    assert isinstance(app.secret_key, bytes), "sessions are installed by now"
    state = _state(settings, app.secret_key)
    app.extensions["plain_window"] = state
    # Built files carry a hash of their content in their name, so browsers may keep them for good.
    app.wsgi_app = WhiteNoise(  # type: ignore[method-assign]  # as Flask documents it
        app.wsgi_app,
        root=PAGES / "assets",
        prefix="assets/",
        max_age=31_536_000,
        add_headers_function=_note_file,
    )
    session_cookie = app.config["SESSION_COOKIE_NAME"]
    app.wsgi_app = QuickPredictions(  # type: ignore[method-assign]
        app.wsgi_app, state, hosts=known_hosts(settings), session_cookie=session_cookie
    )
    if settings.trusted_proxies:
        count = settings.trusted_proxies
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=count, x_proto=count, x_host=count)  # type: ignore[method-assign]
    return app


def _note_file(headers: Headers, _path: str, url: str) -> None:
    """What developers fetch by a name that stays may be another file tomorrow; threads have a policy of their own."""
    if url.startswith("/assets/thread-"):
        headers["Content-Security-Policy"] = THREAD_POLICY
    if url.startswith("/assets/plain-window-runtime"):
        headers["Cache-Control"] = "no-cache"


def _state(settings: Settings, secret: bytes) -> WebState:
    services = make_services(settings)
    return WebState(
        services=services,
        doors=Remembered(read_doors, services.stamp),
        served=Remembered(partial(read_served, services=services), services.stamp),
        sessions=Remembered(read_session, services.stamp),
        keys=Remembered(read_key, services.stamp),
        predictions=PredictionLog(),
        summaries=EnteredSummaries(),
        rate=RateLimit(settings.run),
        guesses=GrowingWait(settings.run),
        answer_ids=AnswerIds(secret),
        quick_models=QuickModels(settings.kernels),
        checks=CheckResults(),
        packed_files=PackedFiles(),
        speeds=Speeds(),
    )


def _give_back_connection(_error: BaseException | None) -> None:
    """Whatever connection a request took goes back to the pool; most predictions take none."""
    if not database.is_closed():
        database.close()
