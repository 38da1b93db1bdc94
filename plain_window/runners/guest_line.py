"""A second process within a runner's walls, with the libraries that its model asks for; the runner asks it."""

import os
import socket
import subprocess
import sys
from collections.abc import Mapping
from typing import Any, BinaryIO, cast

from ..core.errors import ModelNotOpened
from ..core.guest.wire import WireBroken, read_message, write_message

__all__ = ["BridgeLine", "GuestProcess"]

ENDED = 70
# Its libraries come after Python's own, as installed ones do.
BEGIN = (
    "import runpy, sys; sys.path.append(sys.argv[2]); "
    "runpy.run_module('plain_window.core.guest.main', run_name='__main__', alter_sys=True)"
)
FILES = ("model", "preprocessor", "beside")


class GuestProcess:
    """The process, and the line to it; of `core.guest`.

    Parameters
    ----------
    libraries : str
        Folder that its libraries lie in.
    files : mapping of str to binary file
        The model's files; it gets descriptors of them.
    """

    def __init__(self, libraries: str, files: Mapping[str, BinaryIO]) -> None:
        self._descriptors = {
            name: files[name].fileno() for name in ("model", "preprocessor", "beside") if name in files
        }
        ours, theirs = socket.socketpair()
        # The interpreter that this one was made from, and nothing that is installed beside it: -S.
        command = [os.path.realpath(sys.executable), "-S", "-P", "-c", BEGIN]
        with theirs:
            subprocess.Popen(
                [*command, str(theirs.fileno()), libraries],
                pass_fds=[theirs.fileno(), *self._descriptors.values()],
                stdin=subprocess.DEVNULL,
            )
        self._file = cast("BinaryIO", ours.makefile("rwb"))
        ours.close()
        self._has_opened = False

    def ask(self, question: Mapping[str, object]) -> dict[str, object]:
        """As `GuestLine.ask`.

        Parameters
        ----------
        question : mapping

        Raises
        ------
        ModelNotOpened
            If the process ends before it has opened anything. One that ends later takes this one along, and the keeper
            starts both anew.
        """
        try:
            write_message(self._file, question)
            reply = read_message(self._file)
        except (OSError, EOFError, WireBroken):
            if self._has_opened:
                os._exit(ENDED)
            raise ModelNotOpened(
                "Opening the model file ended the process it was opened in. It is damaged, runs code that ends the "
                "process, or needs more memory than a runner may have."
            ) from None
        self._has_opened = True
        return cast("dict[str, Any]", reply) if isinstance(reply, dict) else {"value": reply}

    def descriptor(self, name: str) -> int | None:
        """As `GuestLine.descriptor`.

        Parameters
        ----------
        name : str
        """
        return self._descriptors.get(name)


class BridgeLine:
    """The line to a model that stays in its author's own process; what is at its other end speaks as `core.guest` does.

    Parameters
    ----------
    connection : socket.socket
        To who holds the connection to that process.
    """

    def __init__(self, connection: socket.socket) -> None:
        self._file = cast("BinaryIO", connection.makefile("rwb"))
        connection.close()
        self._has_opened = False

    def ask(self, question: Mapping[str, object]) -> dict[str, object]:
        """As `GuestLine.ask`.

        Parameters
        ----------
        question : mapping

        Raises
        ------
        ModelNotOpened
            If the line is cut before anything was opened. One that is cut later takes this process along, and callers
            are told that the model is away.
        """
        try:
            write_message(self._file, question)
            reply = read_message(self._file)
        except (OSError, EOFError, WireBroken):
            if self._has_opened:
                os._exit(ENDED)
            raise ModelNotOpened("The process that holds the model went away while it was asked.") from None
        self._has_opened = True
        return cast("dict[str, Any]", reply) if isinstance(reply, dict) else {"value": reply}

    def descriptor(self, name: str) -> int | None:
        """As `GuestLine.descriptor`: there are no files.

        Parameters
        ----------
        name : str
        """
        return None
