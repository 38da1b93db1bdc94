"""Who is at the other end, as far as an address tells."""

import functools
import ipaddress

__all__ = ["TooSlow", "network_of"]

IPV6_PREFIX = 64


class TooSlow(Exception):
    """What was to come did not come in time."""


@functools.lru_cache(maxsize=4096)
def network_of(address: str | None) -> str:
    """The network that limits count: an IPv4 address by itself, the /64 of an IPv6 one.

    Whoever has one IPv6 address has all of its /64.

    Parameters
    ----------
    address : str or None

    Examples
    --------
    >>> network_of("2001:db8:1:2:3:4:5:6")
    '2001:db8:1:2::'
    >>> network_of("::ffff:192.0.2.7")
    '192.0.2.7'
    """
    try:
        found = ipaddress.ip_address((address or "").partition("%")[0])
    except ValueError:
        return "nobody"
    if isinstance(found, ipaddress.IPv6Address):
        if found.ipv4_mapped:
            return str(found.ipv4_mapped)
        return str(ipaddress.ip_network((found, IPV6_PREFIX), strict=False).network_address)
    return str(found)
