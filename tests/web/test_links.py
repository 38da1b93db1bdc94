"""Links to pictures: fetched from public addresses only, whatever form an address comes in."""

import http.server
import socket
import threading
import time
from collections.abc import Iterator
from typing import ClassVar

import pytest

from plain_window.core.errors import PictureNotRead
from plain_window.web import links
from plain_window.web.links import fetch_picture

from .pictures import coloured, file_of

PICTURE = file_of(coloured(200, 20, 20))
MOST = 1 << 20


class _Pictures(http.server.BaseHTTPRequestHandler):
    """Serves a picture, redirects, drips and overflows; notes who asked."""

    asked: ClassVar[list[str]] = []

    def do_GET(self):
        self.asked.append(self.path)
        if self.path.startswith("/to?"):
            self.send_response(302)
            self.send_header("Location", self.path.partition("?")[2])
            self.end_headers()
            return
        self.send_response(404 if self.path == "/gone" else 200)
        self.end_headers()
        try:
            if self.path == "/drip":
                for _ in range(200):
                    self.wfile.write(b"x")
                    self.wfile.flush()
                    time.sleep(0.05)
            elif self.path == "/flood":
                for _ in range(64):
                    self.wfile.write(b"x" * (1 << 16))
            else:
                self.wfile.write(PICTURE)
        except OSError:
            pass

    def log_message(self, *_):
        pass


@pytest.fixture(scope="module")
def port() -> Iterator[int]:
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), _Pictures)
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield server.server_address[1]
    server.shutdown()
    server.server_close()
    thread.join()


@pytest.fixture(autouse=True)
def nobody_asked_yet():
    _Pictures.asked.clear()


@pytest.mark.parametrize(
    "host",
    [
        "127.0.0.1",
        "localhost",
        "127.1",
        "2130706433",
        "0x7f000001",
        "0177.0.0.1",
        "0.0.0.0",
        "[::1]",
        "[::]",
        "[::ffff:127.0.0.1]",
        "[::ffff:7f00:1]",
        "[64:ff9b::7f00:1]",
        "[2002:7f00:1::]",
        "10.0.0.1",
        "172.16.5.5",
        "192.168.1.1",
        "169.254.169.254",
        "100.64.0.1",
        "[fd00::1]",
        "[fe80::1]",
        "224.0.0.1",
    ],
)
def test_no_private_address_is_asked_in_any_spelling(port, host):
    with pytest.raises(PictureNotRead, match=r"not public|cannot be opened"):
        fetch_picture(f"http://{host}:{port}/", most_bytes=MOST)
    assert _Pictures.asked == []


def test_an_address_the_operator_allows_is_asked(port):
    assert fetch_picture(f"http://127.0.0.1:{port}/", most_bytes=MOST, allowed=["127.0.0.1"]) == PICTURE


def test_a_redirect_to_a_private_address_is_not_followed(port):
    allowed = ["127.0.0.1"]
    for elsewhere in ("http://127.0.0.2/", "http://[::1]/", "http://169.254.169.254/latest"):
        with pytest.raises(PictureNotRead, match=r"not public|cannot be opened"):
            fetch_picture(f"http://127.0.0.1:{port}/to?{elsewhere}", most_bytes=MOST, allowed=allowed)
    here = f"http://127.0.0.1:{port}/to?http://127.0.0.1:{port}/"
    assert fetch_picture(here, most_bytes=MOST, allowed=allowed) == PICTURE
    with pytest.raises(PictureNotRead, match="https:// or http://"):
        fetch_picture(f"http://127.0.0.1:{port}/to?file:///etc/passwd", most_bytes=MOST, allowed=allowed)
    with pytest.raises(PictureNotRead, match="leads on and on"):
        fetch_picture(f"http://127.0.0.1:{port}/to?/to?/to?/to?/", most_bytes=MOST, allowed=allowed)


def test_a_name_that_changes_its_address_gains_nothing(port, monkeypatch):
    """The address that was looked at is the one connected to: a second lookup is never made."""
    answers = iter(["93.184.215.14", "127.0.0.1"])
    looked_up, connected = [], []

    def lookup(host, its_port, *_, **__):
        looked_up.append(host)
        return [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (next(answers), its_port))]

    class Wire(links.httpcore.SyncBackend):
        def connect_tcp(self, host, its_port, *_, **__):
            connected.append(host)
            raise links.httpcore.ConnectError("not in a test")

    monkeypatch.setattr(links.socket, "getaddrinfo", lookup)
    monkeypatch.setattr(links.httpcore, "SyncBackend", Wire)
    with pytest.raises(PictureNotRead):
        fetch_picture(f"http://rebinding.example:{port}/", most_bytes=MOST)
    assert (looked_up, connected) == (["rebinding.example"], ["93.184.215.14"])


def test_one_private_address_among_several_is_enough(monkeypatch):
    found = [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (host, 80)) for host in ("93.184.215.14", "10.0.0.1")]
    monkeypatch.setattr(links.socket, "getaddrinfo", lambda *_, **__: found)
    with pytest.raises(PictureNotRead, match="not public"):
        fetch_picture("http://both.example/", most_bytes=MOST)


@pytest.mark.parametrize(
    ("path", "sentence"), [("/drip", "took too long"), ("/flood", "larger than 1 MB"), ("/gone", "answers with 404")]
)
def test_what_drips_overflows_or_is_gone_ends_in_a_sentence(port, monkeypatch, path, sentence):
    monkeypatch.setattr(links, "SECONDS", 1.0)
    begun = time.monotonic()
    with pytest.raises(PictureNotRead, match=sentence):
        fetch_picture(f"http://127.0.0.1:{port}{path}", most_bytes=MOST, allowed=["127.0.0.1"])
    assert time.monotonic() - begun < 5


@pytest.mark.parametrize(
    "link", ["", "picture.png", "ftp://x/y", "file:///etc/passwd", "http://", "https://a:b@x.example/"]
)
def test_what_is_no_link_says_so(link):
    with pytest.raises(PictureNotRead):
        fetch_picture(link, most_bytes=MOST)


def test_the_server_refuses_links_to_itself(studio, visitor):
    for link in (f"{studio.url}/healthz", "http://169.254.169.254/latest/meta-data"):
        body = {"inputs": {"picture": {"link": link}}}
        response = visitor.post("/api/v1/demos/how-is-the-glaze/predictions", json=body)
        assert response.status_code == 422
        assert "not public" in response.json()["errors"][0]["message"]
        shown = visitor.post("/api/v1/demos/how-is-the-glaze/fetched", json={"link": link})
        assert shown.status_code == 422
