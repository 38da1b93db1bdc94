"""Answer a Plain Window demo from a function or a fitted model that stays in this process.

    from plain_window_bridge import connect
    bridge = connect(predict, to="http://127.0.0.1:8700", demo="will-it-crack")
    bridge.wait()

The key is read from PLAINWINDOW_KEY, unless it is given. Only the function's signature and docstring are sent, never
its body; nothing has to be reachable here, because the connection is made from here.
"""

from .bridge import Bridge, BridgeRefused, connect

__all__ = ["Bridge", "BridgeRefused", "connect"]
__version__ = "1.0.0"
