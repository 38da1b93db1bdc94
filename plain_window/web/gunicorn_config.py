"""What gunicorn runs, and how. Started by the supervisor as `gunicorn -c python:plain_window.web.gunicorn_config`."""

from gevent import monkey

# Before anything else is imported: sockets, locks and thread-local places must be gevent's from the start.
monkey.patch_all()

import gc  # noqa: E402
import os  # noqa: E402
from typing import Any  # noqa: E402

from ..log_files import log_to_stderr  # noqa: E402
from ..settings import ROOT, read_settings  # noqa: E402
from .app import create_app  # noqa: E402
from .gunicorn_settings import CONNECTIONS, KEEP_ALIVE_SECONDS, WORKER_CLASS  # noqa: E402
from .warming import warm_up  # noqa: E402

__all__ = ["application"]

# Less than the supervisor gives: what has begun is finished, nothing new is.
GRACE_SECONDS = 5
# New objects before Python looks for garbage. Requests make little that goes in circles.
GARBAGE_THRESHOLD = 20_000

_settings = read_settings()

wsgi_app = "plain_window.web.gunicorn_config:application()"
# The supervisor holds the socket: while this process is brought back visitors wait in its queue.
bind = f"fd://{os.environ['PLAINWINDOW_LISTENING']}"
workers = _settings.workers
worker_class = WORKER_CLASS
# What is started from here finds its modules beside this program only.
chdir = str(ROOT)
worker_connections = CONNECTIONS
keepalive = KEEP_ALIVE_SECONDS
graceful_timeout = GRACE_SECONDS
# Bringing a model of a gigabyte, or opening one, may take minutes.
timeout = 600
worker_tmp_dir = "/dev/shm" if os.path.isdir("/dev/shm") else None
control_socket_disable = True


def application() -> Any:
    """The application, made in each worker after it forked."""
    log_to_stderr()
    app = create_app(_settings)
    warm_up(app, told=int(os.environ["PLAINWINDOW_WARM"]))
    return app


def post_worker_init(_worker: Any) -> None:
    """Leave what stays for good out of what is looked through for garbage, and look less often.

    Parameters
    ----------
    _worker : object
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(GARBAGE_THRESHOLD)


def worker_exit(_server: Any, worker: Any) -> None:
    """Write what predictions are still to be recorded.

    Parameters
    ----------
    _server : object
    worker : object
    """
    app = getattr(worker, "wsgi", None)
    flask_app = getattr(app, "extensions", None)
    if flask_app:
        flask_app["plain_window"].predictions.stop()
        flask_app["plain_window"].summaries.stop()
