"""Numbers in a request's query."""

import math

from flask import request

from .problems import ApiProblem

__all__ = ["amount_asked", "number_asked", "share_asked"]


def number_asked(name: str, usual: int, *, most: int = 1 << 31) -> int:
    """A whole number of the query.

    Parameters
    ----------
    name : str
    usual : int
        Where it is left out.
    most : int, optional

    Raises
    ------
    ApiProblem
        422 if it is none, or larger.
    """
    text = request.args.get(name)
    if text is None:
        return usual
    # `isdecimal` alone takes digits of every script, and a number may be too long to be one.
    if not (text.isascii() and text.isdecimal() and len(text) < 12) or int(text) > most:
        limit = f" up to {most}" if most < 1 << 31 else ""
        raise ApiProblem(422, "No number", f"`{name}` must be a whole number{limit}. Got `{text[:60]}`.")
    return int(text)


def amount_asked(name: str) -> float:
    """An amount of the query, 0 where it is left out.

    Parameters
    ----------
    name : str

    Raises
    ------
    ApiProblem
        422 if it is none, or less than nothing.
    """
    text = request.args.get(name, "0")
    try:
        amount = float(text) if text.isascii() and len(text) < 30 else math.nan
    except ValueError:
        amount = math.nan
    if not 0 <= amount < math.inf:
        raise ApiProblem(422, "No amount", f"`{name}` must be a number that is not below 0. Got `{text[:60]}`.")
    return amount


def share_asked(name: str, usual: float) -> float:
    """A share of the query, from 0 to 1.

    Parameters
    ----------
    name : str
    usual : float
        Where it is left out.

    Raises
    ------
    ApiProblem
        422 if it is none.
    """
    share = amount_asked(name) if name in request.args else usual
    if share > 1:
        raise ApiProblem(422, "No share", f"`{name}` must be from 0 to 1. Got `{request.args[name][:60]}`.")
    return share
