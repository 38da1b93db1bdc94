"""Asking a library, with whatever it raises put in words."""

import traceback
import warnings
from collections.abc import Callable
from typing import TypeVar

from ..errors import ModelFailed

__all__ = ["ask"]

Answer = TypeVar("Answer")


def ask(outputs: Callable[[], Answer]) -> Answer:
    """What `outputs` returns.

    Parameters
    ----------
    outputs : callable
        Asks the library; what it raises becomes `ModelFailed`.

    Raises
    ------
    ModelFailed
        If it raises, with the library's traceback.
    """
    try:
        with warnings.catch_warnings():
            # What the library has to say is said once, when the model is opened.
            warnings.simplefilter("ignore")
            return outputs()
    except ModelFailed:
        raise
    except Exception as error:  # any step of an author's model may raise anything
        reason = str(error).strip().split("\n")[0][:300]
        message = f"The model could not answer: {type(error).__name__}: {reason.rstrip('.')}."
        raise ModelFailed(message, traceback=traceback.format_exc(limit=-8)) from error
