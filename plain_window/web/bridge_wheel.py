"""The bridge's client as a wheel, made of its sources: what `pip install` fetches from this server."""

import base64
import functools
import hashlib
import io
import tomllib
import zipfile

from ..settings import ROOT

__all__ = ["bridge_wheel", "wheel_name"]

SOURCES = ROOT / "bridge"
PACKAGE = "plain_window_bridge"
NO_TIME = (1980, 1, 1, 0, 0, 0)


@functools.cache
def _project() -> dict[str, object]:
    found: dict[str, object] = tomllib.loads((SOURCES / "pyproject.toml").read_text("utf-8"))["project"]
    return found


def wheel_name() -> str:
    """What its file is called, by its version."""
    return f"{PACKAGE}-{_project()['version']}-py3-none-any.whl"


@functools.cache
def bridge_wheel() -> bytes:
    """The wheel, the same bytes for the same sources [1]_.

    References
    ----------
    .. [1] Python Packaging User Guide, "Binary distribution format".
    """
    project = _project()
    info = f"{PACKAGE}-{project['version']}.dist-info"
    needs = project["dependencies"]
    assert isinstance(needs, list), "it is a list of requirements"
    metadata = [
        "Metadata-Version: 2.1",
        f"Name: {project['name']}",
        f"Version: {project['version']}",
        f"Summary: {project['description']}",
        f"Requires-Python: {project['requires-python']}",
        *(f"Requires-Dist: {one}" for one in needs),
    ]
    wheel = ["Wheel-Version: 1.0", "Generator: plain-window", "Root-Is-Purelib: true", "Tag: py3-none-any"]
    contents = {f"{PACKAGE}/{path.name}": path.read_bytes() for path in sorted((SOURCES / PACKAGE).glob("*.py"))}
    contents[f"{info}/METADATA"] = ("\n".join(metadata) + "\n").encode()
    contents[f"{info}/WHEEL"] = ("\n".join(wheel) + "\n").encode()
    record = "".join(f"{name},sha256={_digest(content)},{len(content)}\n" for name, content in contents.items())
    contents[f"{info}/RECORD"] = f"{record}{info}/RECORD,,\n".encode()
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for name, content in contents.items():
            entry = zipfile.ZipInfo(name, NO_TIME)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            archive.writestr(entry, content)
    return packed.getvalue()


def _digest(content: bytes) -> str:
    return base64.urlsafe_b64encode(hashlib.sha256(content).digest()).rstrip(b"=").decode()
