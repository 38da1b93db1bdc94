"""Which addresses belong to the public internet.

Lists of the registries of special-purpose addresses, whole: https://www.iana.org/assignments/iana-ipv4-special-registry
and …/iana-ipv6-special-registry (as of 2025), multicast, and what once stood for something else. Written out, since
what Python knows of them differs from version to version.
"""

import ipaddress

__all__ = ["is_public"]

SPECIAL_IPV4 = tuple(
    map(
        ipaddress.IPv4Network,
        (
            "0.0.0.0/8",  # this network
            "10.0.0.0/8",  # private
            "100.64.0.0/10",  # shared by carriers
            "127.0.0.0/8",  # loopback
            "169.254.0.0/16",  # link-local, where clouds tell their secrets
            "172.16.0.0/12",  # private
            "192.0.0.0/24",  # protocol assignments
            "192.0.2.0/24",  # documentation
            "192.31.196.0/24",  # AS112
            "192.52.193.0/24",  # AMT
            "192.88.99.0/24",  # 6to4 relays, no longer used
            "192.168.0.0/16",  # private
            "192.175.48.0/24",  # AS112
            "198.18.0.0/15",  # benchmarks
            "198.51.100.0/24",  # documentation
            "203.0.113.0/24",  # documentation
            "224.0.0.0/4",  # multicast
            "240.0.0.0/4",  # reserved, and broadcast
        ),
    )
)
SPECIAL_IPV6 = tuple(
    map(
        ipaddress.IPv6Network,
        (
            "::/96",  # unspecified, loopback, and IPv4-compatible, no longer used
            "::ffff:0:0/96",  # mapped IPv4: looked at as such
            "::ffff:0:0:0/96",  # translated IPv4
            "64:ff9b::/96",  # NAT64: looked at as the IPv4 address it stands for
            "64:ff9b:1::/48",  # NAT64, local use
            "100::/64",  # discard only
            "100:0:0:1::/64",  # dummy prefix
            "2001::/23",  # protocol assignments: Teredo, ORCHID, benchmarks and the rest
            "2001:db8::/32",  # documentation
            "2002::/16",  # 6to4: looked at as the IPv4 address it stands for
            "2620:4f:8000::/48",  # AS112
            "3fff::/20",  # documentation
            "5f00::/16",  # segment routing
            "fc00::/7",  # unique local
            "fe80::/10",  # link-local
            "fec0::/10",  # site-local, no longer used
            "ff00::/8",  # multicast
        ),
    )
)
# Only these are given out at all.
GLOBAL_UNICAST = ipaddress.IPv6Network("2000::/3")
NAT64 = ipaddress.IPv6Network("64:ff9b::/96")


def is_public(address: str) -> bool:
    """Whether an address belongs to the public internet, also where it stands for another one.

    Parameters
    ----------
    address : str
        Of either version; a zone behind `%` makes it local to a link.

    Examples
    --------
    >>> is_public("93.184.215.14"), is_public("169.254.169.254"), is_public("64:ff9b::a00:1")
    (True, False, False)
    """
    if "%" in address:
        return False
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return False
    if isinstance(found, ipaddress.IPv4Address):
        return not any(found in network for network in SPECIAL_IPV4)
    inner = _stands_for(found)
    if inner is not None:
        return is_public(str(inner))
    return found in GLOBAL_UNICAST and not any(found in network for network in SPECIAL_IPV6)


def _stands_for(found: ipaddress.IPv6Address) -> ipaddress.IPv4Address | None:
    """The IPv4 address that packets to this one end up at. Teredo's are refused as they are: nobody serves there."""
    if found.ipv4_mapped or found.sixtofour:
        return found.ipv4_mapped or found.sixtofour
    return ipaddress.IPv4Address(int(found) & 0xFFFFFFFF) if found in NAT64 else None
