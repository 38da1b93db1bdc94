"""Under which names this server answers.

A browser can be made to send requests for a name of an attacker's that leads to this address. Only names that the
operator knows are answered.
"""

from collections.abc import Iterable

from flask import Flask, request

from ..settings import Settings
from .problems import ApiProblem

__all__ = ["install_hosts", "known_hosts", "name_of"]

LOCAL = ("localhost", "127.0.0.1", "[::1]")
# What watches over servers asks by whatever address it has.
ANYHOW = ("/healthz", "/readyz")


def install_hosts(app: Flask, settings: Settings) -> None:
    """Refuse requests for names that are not ours.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    settings : Settings
    """
    hosts = known_hosts(settings)

    @app.before_request
    def check() -> None:
        if name_of(request.host) not in hosts and request.path not in ANYHOW:
            detail = "This server does not go by that name. (Whoever runs it can add names with PLAINWINDOW_HOSTS.)"
            raise ApiProblem(421, "Unknown name", detail)


def known_hosts(settings: Settings) -> frozenset[str]:
    """The names: this machine's own, the address it listens at, and those the operator adds.

    Parameters
    ----------
    settings : Settings
    """
    at = f"[{settings.host}]" if ":" in settings.host else settings.host
    return frozenset(name.casefold() for name in _all(settings.hosts, at))


def _all(added: Iterable[str], at: str) -> Iterable[str]:
    return [*LOCAL, at, *added]


def name_of(host: str) -> str:
    """A host without its port.

    Parameters
    ----------
    host : str
        As the request names it.
    """
    if host.startswith("["):
        return host.partition("]")[0].casefold() + "]"
    return host.partition(":")[0].rstrip(".").casefold()
