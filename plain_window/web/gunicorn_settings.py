"""How requests are served: what gunicorn is told, here and where it is measured against other programs."""

__all__ = ["CONNECTIONS", "KEEP_ALIVE_SECONDS", "WORKER_CLASS"]

# Slow visitors and slow models hold a greenlet, not a thread or a process. Threads took turns at the interpreter's
# lock: under load a request cost three times as much of the processor as it did alone.
WORKER_CLASS = "plain_window.web.worker.PacedWorker"
CONNECTIONS = 1000
KEEP_ALIVE_SECONDS = 10
