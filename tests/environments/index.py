"""A package index on loopback, with packages made up in here: wheels and sources of a few bytes each."""

import hashlib
import io
import tarfile
import threading
import zipfile
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

# A build of its own, that needs nothing: it tells what it could reach, and makes a wheel.
BACKEND = """
import os, socket, zipfile

def _tried():
    found = []
    try:
        socket.create_connection(("127.0.0.1", {port}), timeout=1).close()
        found.append("network")
    except OSError:
        pass
    for place in ("/source", "/wheels", "/usr", "/etc"):
        try:
            open(os.path.join(place, "left-behind"), "w").close()
            found.append(place)
        except OSError:
            pass
    return found

def build_wheel(wheel_directory, config_settings=None, metadata_directory=None):
    name = "glazed-1.0-py3-none-any.whl"
    with zipfile.ZipFile(os.path.join(wheel_directory, name), "w") as wheel:
        wheel.writestr("glazed/__init__.py", f"REACHED = {{_tried()!r}}\\n")
        wheel.writestr("glazed-1.0.dist-info/METADATA", "Metadata-Version: 2.1\\nName: glazed\\nVersion: 1.0\\n")
        kind = "Wheel-Version: 1.0\\nRoot-Is-Purelib: true\\nTag: py3-none-any\\n"
        wheel.writestr("glazed-1.0.dist-info/WHEEL", kind)
        wheel.writestr("glazed-1.0.dist-info/RECORD", "")
    return name
"""


class Index:
    """The index, and what was asked of it.

    Parameters
    ----------
    folder : Path
        Where its files are.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.asked: list[str] = []
        handler = partial(_Handler, self.asked, directory=str(folder))
        self._server = ThreadingHTTPServer(("127.0.0.1", 0), handler)
        self.port = self._server.server_address[1]
        self.url = f"http://127.0.0.1:{self.port}/simple/"
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def add_wheel(self, name: str, version: str, *, needs: tuple[str, ...] = (), code: str = "", size: int = 0) -> str:
        """A wheel with one module; its hash."""
        packed = io.BytesIO()
        info = f"{name}-{version}.dist-info"
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as wheel:
            wheel.writestr(f"{name}/__init__.py", code or f"VERSION = {version!r}\n")
            if size:
                wheel.writestr(f"{name}/large.bin", b"\0" * size)
            needed = "".join(f"Requires-Dist: {one}\n" for one in needs)
            wheel.writestr(f"{info}/METADATA", f"Metadata-Version: 2.1\nName: {name}\nVersion: {version}\n{needed}")
            wheel.writestr(
                f"{info}/WHEEL", "Wheel-Version: 1.0\nGenerator: tests\nRoot-Is-Purelib: true\nTag: py3-none-any\n"
            )
            wheel.writestr(f"{info}/RECORD", f"{name}/__init__.py,,\n")
        return self._add(name, f"{name}-{version}-py3-none-any.whl", packed.getvalue())

    def add_sources(self, name: str, version: str) -> None:
        """Sources of a package, whose build says what it could reach."""
        packed = io.BytesIO()
        files = {
            "pyproject.toml": '[build-system]\nrequires = []\nbuild-backend = "backend"\nbackend-path = ["."]\n',
            "backend.py": BACKEND.format(port=self.port),
            "PKG-INFO": f"Metadata-Version: 2.1\nName: {name}\nVersion: {version}\n",
        }
        with tarfile.open(fileobj=packed, mode="w:gz") as archive:
            for path, text in files.items():
                entry = tarfile.TarInfo(f"{name}-{version}/{path}")
                entry.size = len(text.encode())
                archive.addfile(entry, io.BytesIO(text.encode()))
        self._add(name, f"{name}-{version}.tar.gz", packed.getvalue())

    def _add(self, name: str, file: str, content: bytes) -> str:
        place = self.folder / "simple" / name
        place.mkdir(parents=True, exist_ok=True)
        (place / file).write_bytes(content)
        digest = hashlib.sha256(content).hexdigest()
        page = place / "index.html"
        before = page.read_text() if page.exists() else ""
        page.write_text(f'{before}<a href="{file}#sha256={digest}">{file}</a>\n')
        return digest

    def stop(self) -> None:
        self._server.shutdown()
        self._server.server_close()


class _Handler(SimpleHTTPRequestHandler):
    def __init__(self, asked: list[str], *args: object, **options: object) -> None:
        self._asked = asked
        super().__init__(*args, **options)  # type: ignore[arg-type]

    def log_message(self, format: str, *args: object) -> None:
        self._asked.append(self.path)
