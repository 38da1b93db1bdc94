"""What gunicorn runs, and how. Started by the supervisor as `gunicorn -c python:plain_window.web.server`."""

import os
from typing import Any

from ..service.settings import read_settings
from .app import create_app

__all__ = ["application"]

# Slow visitors and slow models hold a thread, not a process.
THREADS = 16
KEEP_ALIVE_SECONDS = 30
GRACE_SECONDS = 15

_settings = read_settings()

wsgi_app = "plain_window.web.server:application()"
bind = f"{_settings.host}:{_settings.port}"
workers = _settings.workers
worker_class = "gthread"
threads = THREADS
keepalive = KEEP_ALIVE_SECONDS
graceful_timeout = GRACE_SECONDS
# Bringing a model of a gigabyte, or opening one, may take minutes.
timeout = 600
pidfile = str(_settings.run / "gunicorn.pid")
worker_tmp_dir = "/dev/shm" if os.path.isdir("/dev/shm") else None
control_socket_disable = True


def application() -> Any:
    """The application, made in each worker after it forked."""
    return create_app(_settings)


def worker_exit(_server: Any, worker: Any) -> None:
    """Write what predictions are still to be recorded."""
    app = getattr(worker, "wsgi", None)
    flask_app = getattr(app, "extensions", None)
    if flask_app:
        flask_app["plain_window"].predictions.stop()
