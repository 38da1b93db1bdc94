"""The supervisor waits until web processes are warm, but not for long."""

import os
import subprocess
import sys

from plain_window.service.warmth import Warmth


def say_warm(warmth: Warmth) -> None:
    """From a process that inherited the number, as gunicorn's do."""
    code = "import os, sys; os.eventfd_write(int(sys.argv[1]), 1)"
    subprocess.run([sys.executable, "-c", code, str(warmth.descriptor)], check=True, pass_fds=[warmth.descriptor])


def test_it_is_waited_for_until_all_have_said_so_and_no_longer_than_was_said():
    warmth = Warmth()
    assert not warmth.wait(2, seconds=0.0)
    say_warm(warmth)
    assert not warmth.wait(2, seconds=0.05)
    say_warm(warmth)
    assert warmth.wait(2, seconds=60)
    descriptor = warmth.descriptor
    warmth.close()
    warmth.close()
    assert not os.path.exists(f"/proc/self/fd/{descriptor}")
