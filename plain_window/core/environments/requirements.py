"""A `requirements.txt`, as people have them: packages by name and version, and nothing that says where to get them."""

import codecs
import hashlib
import platform
import re
import sys
from dataclasses import dataclass

from packaging.requirements import InvalidRequirement, Requirement
from packaging.utils import canonicalize_name

from ..errors import Fault, MismatchFaults

__all__ = ["MOST_BYTES", "Requirements", "read_requirements", "requirements_text", "this_python"]

MOST_BYTES = 256 << 10
MOST_LINES = 1000
MOST_FAULTS = 20
SHOWN_CHARACTERS = 80
# What PowerShell writes, and editors on Windows.
MARKS = ((codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"))
HASH = re.compile(r"\s+--hash[= ](sha256:[0-9a-f]{64})\b")
# `numpy=1.26.4=py311h64a7726_0`, as conda lists what is there; with two signs it is pip's own.
OF_CONDA = re.compile(r"^([A-Za-z0-9][\w.-]*)=([\w.!+]+)(?:=[\w.]+)?$")
OF_YAML = re.compile(r"^\s*(?:dependencies|channels)\s*:", re.M)
OPTION = re.compile(r"^-{1,2}[A-Za-z]")
PLACE = re.compile(r"://|^git\+|^\.{0,2}[/\\]|^[A-Za-z]:\\|\.(?:whl|zip|tar\.gz|tgz)(?:$|[\s;#])")
# Debian's pip used to list this; there is no such package.
NOT_MEANT = {"pkg-resources"}
PLACES_SAID = "Packages come from the index that this server's operator has set, by name and version"


@dataclass(frozen=True)
class Requirements:
    """What is asked for.

    Attributes
    ----------
    lines : tuple of str
        One requirement each, sorted; hashes included where they were stated.
    names : tuple of str
        Of the packages, as indexes write them.
    """

    lines: tuple[str, ...]
    names: tuple[str, ...]

    @property
    def key(self) -> str:
        """The same for the same requirements under the same Python, in whatever order and spelling they came."""
        return hashlib.sha256("\n".join([this_python(), *self.lines]).encode()).hexdigest()


def this_python() -> str:
    """What a package's files depend on: Python's version, and the kind of machine."""
    return f"{sys.implementation.name} {sys.version_info.major}.{sys.version_info.minor} {platform.machine()}"


def read_requirements(content: bytes) -> Requirements:
    """Read what a `requirements.txt` asks for.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    MismatchFaults
        With one fault for every line that cannot be taken.
    """
    text = requirements_text(content)
    if OF_YAML.search(text):
        raise _refused(
            "This is an environment of conda's. Write `pip list --format=freeze > requirements.txt` in it, and send "
            "that file."
        )
    lines = _joined(text)
    if len(lines) > MOST_LINES:
        raise _refused(f"It has {len(lines)} lines; the limit is {MOST_LINES}.")
    read: dict[str, str] = {}
    faults = []
    for number, line in lines:
        try:
            one = _read_line(line)
        except ValueError as error:
            faults.append(Fault("requirements", f"Line {number}, `{_shown(line)}`: {error}"))
            continue
        if one is not None:
            name, words = one
            read[words] = name
    if read and 0 < sum("--hash=" in line for line in read) < len(read):
        mixed = "Some lines have hashes and others have none. Give all of them one, or none."
        faults.append(Fault("requirements", mixed))
    if faults:
        raise MismatchFaults(faults[:MOST_FAULTS], n_all=len(faults))
    return Requirements(tuple(sorted(read)), tuple(sorted(set(read.values()))))


def _refused(why: str) -> MismatchFaults:
    return MismatchFaults([Fault("requirements", why)])


def _shown(line: str) -> str:
    return line if len(line) <= SHOWN_CHARACTERS else line[: SHOWN_CHARACTERS - 1] + "…"


def requirements_text(content: bytes) -> str:
    """The text of a file, in whatever encoding it was saved.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    MismatchFaults
        If it is too large, or no text.
    """
    if len(content) > MOST_BYTES:
        raise _refused(f"It is larger than {MOST_BYTES >> 10} KB; it lists packages, one a line.")
    encoding = next((name for mark, name in MARKS if content.startswith(mark)), "utf-8")
    try:
        text = content.decode(encoding)
    except UnicodeDecodeError:
        raise _refused("It is no text in UTF-8. Save it as a plain text file.") from None
    if "\0" in text:
        raise _refused("It is no text. Send the `requirements.txt` itself.")
    return text


def _joined(text: str) -> list[tuple[int, str]]:
    """Lines by number without comments and blanks; one that ends with a backslash goes on in the next."""
    found: list[tuple[int, str]] = []
    open_line: tuple[int, str] | None = None
    for number, raw in enumerate(text.splitlines(), 1):
        part = re.sub(r"(^|\s)#.*$", "", raw).strip()
        start, before = open_line if open_line is not None else (number, "")
        whole = f"{before} {part.removesuffix(chr(92)).strip()}".strip()
        if part.endswith("\\"):
            open_line = (start, whole)
            continue
        open_line = None
        if whole:
            found.append((start, whole))
    if open_line is not None and open_line[1]:
        found.append(open_line)
    return found


def _read_line(line: str) -> tuple[str, str] | None:
    """One requirement: its package's name, and the line as it is kept; None for what means nothing."""
    hashes = sorted(HASH.findall(line))
    bare = HASH.sub("", line).strip()
    if OPTION.match(bare):
        raise ValueError(_no_option(bare))
    if conda := OF_CONDA.match(bare):
        raise ValueError(f"this is how conda writes it; pip's way is `{conda[1]}=={conda[2]}`.")
    if PLACE.search(bare):
        named = re.match(r"\s*([A-Za-z0-9][\w.-]*)(?:\[[^\]]*\])?\s*@", bare)
        way = f"`{named[1]}==…` with its version" if named else "the package's name and version"
        raise ValueError(f"it names a path or an address. {PLACES_SAID}: write {way}.")
    try:
        requirement = Requirement(bare)
    except InvalidRequirement as error:
        reason = str(error).split("\n")[0].rstrip(".")
        raise ValueError(f"it is no requirement ({reason}). Write it like `scikit-learn==1.3.2`.") from None
    name = canonicalize_name(requirement.name)
    if name in NOT_MEANT:
        return None
    requirement.name = name
    return name, " ".join([str(requirement), *(f"--hash={one}" for one in hashes)])


def _no_option(line: str) -> str:
    option = re.split(r"[\s=]", line)[0]
    if option in ("-r", "--requirement", "-c", "--constraint"):
        return "another file is meant, and only this one is here. Write its lines here."
    if option in ("-e", "--editable"):
        return "a folder of code is meant, and folders do not come along. Put it into the zip beside the function."
    return f"options are not taken. {PLACES_SAID}; leave the line out."
