"""Classes as strings, whatever they were stored as."""

from typing import Any

import numpy as np

__all__ = ["class_name"]


def class_name(value: Any) -> str:
    """A class as a string; whole numbers without a decimal point, whatever type they were stored in.

    Parameters
    ----------
    value : object
    """
    plain = value.item() if isinstance(value, np.generic) else value
    if isinstance(plain, float) and plain.is_integer():
        return str(int(plain))
    return str(plain)
