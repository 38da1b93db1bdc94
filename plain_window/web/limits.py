"""How often one address may ask, and guess."""

import math

from flask import request

from .identity import caller, has_key
from .peers import network_of
from .problems import ApiProblem
from .state import state

__all__ = ["check_guess", "check_link_use", "note_guess", "rate_key", "slow_down", "slow_down_visitor"]

# Guesses at passwords, passcodes and links: one a second, after a few that people need for slips.
GUESS_RATE, GUESSES_SAVED = 1.0, 5.0
# Of one demo's passcode, from all addresses together.
GUESS_RATE_OF_ALL, GUESSES_SAVED_OF_ALL = 2.0, 30.0


def rate_key(what: str, address: str | None) -> str:
    """Under which name requests of an address are counted.

    Parameters
    ----------
    what : str
        What is counted.
    address : str, optional
    """
    return f"{what} {network_of(address)}"


def slow_down(what: str, rate: float, *, saved: float | None = None) -> None:
    """Count this request against its address.

    Parameters
    ----------
    what : str
        What is counted, as a sentence would say it.
    rate : float
    saved : float or None, optional
        How many may be saved up; one second's worth if None.

    Raises
    ------
    ApiProblem
        429 if there were too many.
    """
    _refuse(state().rate.wait_seconds(rate_key(what, request.remote_addr), rate=rate, saved=saved))


def slow_down_visitor(what: str, rate: float, *, saved: float | None = None) -> None:
    """The same for visitors; keys have no limit, and the operator may lower or lift it (`PLAINWINDOW_RATE`).

    Parameters
    ----------
    what : str
        What is counted, as a sentence would say it.
    rate : float
    saved : float or None, optional
        How many may be saved up; one second's worth if None.

    Raises
    ------
    ApiProblem
        429 if there were too many, 401 for a key that is none.
    """
    # Knowing who asks refuses an invalid key, which must not lift the limit.
    if not has_key() or caller() is None:
        slow_down(what, min(rate, state().services.settings.limits.rate), saved=saved)


def check_guess(at: str) -> None:
    """Before a guess at something secret. One address has to wait longer and longer after wrong ones.

    Parameters
    ----------
    at : str
        What is guessed at: `sign-in`, or a demo's passcode.

    Raises
    ------
    ApiProblem
        429 if it is too early.
    """
    slow_down(f"guess {at}", GUESS_RATE, saved=GUESSES_SAVED)
    # Before what all addresses share is touched: who has to wait must not use that up for others.
    _refuse(state().guesses.wait_seconds(_guesser(at)))
    _refuse(state().rate.wait_seconds(f"guesses at {at}", rate=GUESS_RATE_OF_ALL, saved=GUESSES_SAVED_OF_ALL))


def check_link_use() -> None:
    """Before a one-time link is used. Its tokens cannot be guessed, so its waits do not grow, and are not passwords'.

    Raises
    ------
    ApiProblem
        429 if there were too many.
    """
    slow_down("sign-in link", GUESS_RATE, saved=GUESSES_SAVED)


def note_guess(at: str, *, is_right: bool) -> None:
    """What came of a guess.

    Parameters
    ----------
    at : str
        What was guessed at.
    is_right : bool
    """
    if is_right:
        state().guesses.note_right(_guesser(at))
    else:
        state().guesses.note_wrong(_guesser(at))


def _guesser(at: str) -> str:
    return f"{at} {network_of(request.remote_addr)}"


def _refuse(wait: float) -> None:
    if wait > 0:
        seconds = max(1, math.ceil(wait))
        detail = f"That was a lot at once. Wait {seconds} second{'s' if seconds > 1 else ''} and go on."
        raise ApiProblem(429, "Too many requests", detail, retry_after=seconds)
