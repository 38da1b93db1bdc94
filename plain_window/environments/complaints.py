"""What pip says went wrong, as a sentence with the way on."""

import re

from packaging.version import InvalidVersion, Version

__all__ = ["complaint", "name_not_found"]

NOT_FOUND = re.compile(
    r"Could not find a version that satisfies the requirement (?P<what>.+?)"
    r"(?: \(from (?!versions)(?P<whom>.+?)\))? \(from versions: (?P<versions>.*)\)"
)
CONFLICT = re.compile(r"The conflict is caused by:\n(?P<lines>(?:[ ]{4}.+\n)+)")
CANNOT = re.compile(r"ERROR: Cannot install (?P<what>.+) because these package versions have conflicting dependencies")
WRONG_HASH = re.compile(r"THESE PACKAGES DO NOT MATCH THE HASHES.*?\n\s+(?P<what>\S.+?) from", re.S)
UNHASHED = re.compile(r"In --require-hashes mode.*?\n\s+(?P<what>\S+==\S+)", re.S)
OF_PYTHON = re.compile(r"(?:Requires-Python|requires a different Python)[^\n]*")
NETWORK = (
    "Failed to establish a new connection", "NewConnectionError", "Temporary failure in name resolution",
    "Name or service not known", "ConnectTimeoutError", "ProxyError", "SSLError", "Max retries exceeded",
)  # fmt: skip
NEAREST = 3
MOST_CONFLICTS = 4


def complaint(output: str, *, exists: bool | None = None) -> str:
    """Why packages could not be had.

    Parameters
    ----------
    output : str
        What pip printed.
    exists : bool, optional
        Whether the index has source packages of what was not found.
    """
    if found := CONFLICT.search(output):
        lines = [line.strip() for line in found["lines"].split("\n") if line.strip()][:MOST_CONFLICTS]
        return f"The requirements contradict each other: {'; '.join(lines)}. Loosen one of them."
    if found := CANNOT.search(output):
        return f"The requirements contradict each other: {found['what'][:300]}. Loosen one of them."
    if found := WRONG_HASH.search(output):
        return f"`{found['what']}` is not the file that its hash stands for. Take the hashes anew, or leave them out."
    if found := UNHASHED.search(output):
        return f"With hashes every package needs one, those that others need included; `{found['what']}` has none."
    if any(sign in output for sign in NETWORK) and not _versions(output):
        return (
            "The package index cannot be reached from this server. Whoever runs it can say why; a model without "
            "requirements needs no index."
        )
    if found := NOT_FOUND.search(output):
        return _not_found(found, output, exists)
    last = [line for line in output.split("\n") if line.startswith("ERROR:") and line != "ERROR: Exception:"]
    last = last or [line for line in output.strip().split("\n") if line][-1:]
    reason = last[-1].removeprefix("ERROR: ")[:300].rstrip(".") if last else "pip ended without a word"
    return f"The packages could not be had: {reason}."


def _versions(output: str) -> str:
    found = NOT_FOUND.search(output)
    return found["versions"] if found and found["versions"] != "none" else ""


def name_not_found(output: str) -> str | None:
    """The package of which no file fits, if that is what pip complains of.

    Parameters
    ----------
    output : str
    """
    found = NOT_FOUND.search(output)
    return re.split(r"[<>=!~;\[ ]", found["what"])[0] if found else None


def _not_found(found: "re.Match[str]", output: str, exists: bool | None) -> str:
    what = found["what"].split(";")[0].strip()
    whom = f", which {found['whom'].split('->')[-1].strip('() ')} asks for," if found["whom"] else ""
    if found["versions"] != "none":
        shown = ", ".join(_near(what, found["versions"]))
        why = " Others want another Python than the one here." if OF_PYTHON.search(output) else ""
        return f"There is no `{what}`{whom} to be installed here; the nearest are {shown}.{why} Ask for one of them."
    if exists:
        return (
            f"Of `{what}`{whom} there are only source packages for this Python, and building them runs their code. "
            "Ask for a version that has a wheel, or have whoever runs this server allow the package by name."
        )
    if OF_PYTHON.search(output):
        return f"`{what}`{whom} wants another Python than the one here. Ask for a version that runs with it."
    return (
        f"The index has no package `{what}`{whom} or none that runs on this machine. Look for a slip of the pen in its "
        "name, and leave out what is for another system."
    )


def _near(what: str, listed: str) -> list[str]:
    """The versions that there are, nearest to the one that was asked for."""
    versions = sorted(
        one for name in listed.split(",") if (one := _version(name)) is not None and not one.is_prerelease
    )
    stated = re.search(r"\d[\w.]*", re.sub(r"^[\w.\[\],-]+", "", what))
    wanted = _version(stated[0]) if stated else None
    at = sum(one < wanted for one in versions) if wanted is not None else len(versions)
    return [str(one) for one in versions[max(0, at - NEAREST) : at + NEAREST]]


def _version(text: str) -> Version | None:
    try:
        return Version(text.strip())
    except InvalidVersion:
        return None
