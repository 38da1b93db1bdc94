"""How a process that does work waits for whoever asks, and when it ends."""

import os
import socket
import threading
from collections.abc import Callable, Iterator

from ..core.contract import Finished, Opened, Ready
from .protocol import send

__all__ = ["connections"]


def connections(
    listening: socket.socket, control: socket.socket, *, seconds: float, is_idle: Callable[[], bool] = lambda: True
) -> Iterator[socket.socket]:
    """Say that it is ready, and give each connection as it comes, until nobody asks any more.

    The process ends with its keeper, whatever it is doing; and by itself where whoever it was for has gone without
    letting go of it.

    Parameters
    ----------
    listening, control : socket.socket
    seconds : float
        How long it waits for a connection before it asks whether it `is_idle`.
    is_idle : callable, optional
        Whether nobody needs it.
    """
    send(control, Opened())
    send(control, Ready())
    threading.Thread(target=_end_with, args=(control,), daemon=True).start()
    listening.settimeout(seconds)
    while True:
        try:
            connection, _ = listening.accept()
        except TimeoutError:
            if is_idle():
                send(control, Finished())
                return
            continue
        connection.settimeout(None)
        yield connection


def _end_with(control: socket.socket) -> None:
    # The keeper never sends again; what can be read is the end.
    control.recv(1)
    os._exit(0)
