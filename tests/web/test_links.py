"""Links to pictures: fetched from public addresses only, whatever form an address comes in."""

import contextlib
import http.server
import json
import os
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from typing import ClassVar

import pytest

from plain_window.core.errors import PictureNotRead
from plain_window.web import links
from plain_window.web.addresses import is_public
from plain_window.web.links import fetch_picture

from ..studio import ROOT
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
        if self.path == "/drip-headers":
            with contextlib.suppress(OSError):
                self.wfile.write(b"HTTP/1.1 200 OK\r\n")
                for letter in b"X-Slow: " + b"y" * 200:
                    self.wfile.write(bytes([letter]))
                    self.wfile.flush()
                    time.sleep(0.05)
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
        "１２７.0.0.1",
    ],
)
def test_this_machine_is_not_asked_in_any_spelling(port, host):
    with pytest.raises(PictureNotRead, match=r"not public|cannot be opened"):
        fetch_picture(f"http://{host}:{port}/", most_bytes=MOST)
    assert _Pictures.asked == []


# Only looked at, never asked: one of each special-purpose range, its ends, and what stands for one.
SPECIAL = [
    *("0.0.0.0", "0.255.255.255", "10.0.0.1", "10.255.255.255", "100.64.0.1", "100.127.255.255", "127.0.0.1"),
    *("169.254.169.254", "172.16.5.5", "172.31.255.255", "192.0.0.1", "192.0.2.1", "192.31.196.1", "192.52.193.1"),
    *("192.88.99.1", "192.168.1.1", "192.175.48.1", "198.18.0.1", "198.19.255.255", "198.51.100.7", "203.0.113.9"),
    *("224.0.0.1", "239.255.255.255", "240.0.0.1", "255.255.255.255"),
    *("::", "::1", "::10.0.0.1", "::93.184.215.14", "::ffff:10.0.0.1", "::ffff:0:10.0.0.1", "64:ff9b::10.0.0.1"),
    *("64:ff9b:1::93.184.215.14", "100::1", "100:0:0:1::1", "2001::1", "2001:0:4136:e378:8000:63bf:3fff:fdd2"),
    *("2001:2::1", "2001:10::1", "2001:20::1", "2001:30::1", "2001:db8::1", "2002:a00:1::", "2620:4f:8000::1"),
    *("3fff::1", "5f00::1", "fc00::1", "fd00::1", "fe80::1", "fe80::1%eth0", "fec0::1", "ff02::1", "4000::1", "1::1"),
    *("", "localhost", "1.2.3", "1.2.3.4.5", "[::1]", "０.0.0.0"),
]
PUBLIC = [
    *("1.1.1.1", "9.255.255.255", "11.0.0.0", "100.63.255.255", "100.128.0.0", "172.15.255.255", "172.32.0.0"),
    *("192.0.1.1", "192.167.255.255", "198.17.255.255", "198.20.0.0", "223.255.255.255"),
    *("2606:4700::1", "2001:200::1", "2a00:1450::1", "64:ff9b::101:101", "::ffff:1.1.1.1", "2002:101:101::"),
]


@pytest.mark.parametrize("address", SPECIAL)
def test_a_special_purpose_address_is_not_public(address):
    assert not is_public(address)


@pytest.mark.parametrize("address", PUBLIC)
def test_what_lies_beside_the_special_ranges_is_public(address):
    assert is_public(address)


@pytest.mark.parametrize(
    ("address", "port", "allowed", "may"),
    [
        ("1.1.1.1", 443, [], True),
        ("1.1.1.1", 80, [], True),
        ("1.1.1.1", 8080, [], False),
        ("1.1.1.1", 22, [], False),
        ("1.1.1.1", 8080, ["1.1.1.1:8080"], True),
        ("1.1.1.1", 8081, ["1.1.1.1:8080"], False),
        ("10.0.0.7", 80, ["10.0.0.7"], True),
        ("10.0.0.7", 8080, ["10.0.0.7"], False),
        ("10.0.0.7", 80, ["10.0.0.7:8080"], False),
        ("fd00::1", 8443, ["[fd00::1]:8443"], True),
    ],
)
def test_ports_are_the_usual_ones_unless_allowed_by_name(address, port, allowed, may):
    assert links._may(address, port, allowed) is may


def test_an_address_the_operator_allows_is_asked(port):
    assert fetch_picture(f"http://127.0.0.1:{port}/", most_bytes=MOST, allowed=[f"127.0.0.1:{port}"]) == PICTURE


def test_a_redirect_to_a_private_address_is_not_followed(port):
    allowed = [f"127.0.0.1:{port}"]
    for elsewhere in (f"http://127.0.0.2:{port}/", "http://[::1]/", "http://0.0.0.0/"):
        with pytest.raises(PictureNotRead, match=r"not public|cannot be opened"):
            fetch_picture(f"http://127.0.0.1:{port}/to?{elsewhere}", most_bytes=MOST, allowed=allowed)
    here = f"http://127.0.0.1:{port}/to?http://127.0.0.1:{port}/"
    assert fetch_picture(here, most_bytes=MOST, allowed=allowed) == PICTURE
    with pytest.raises(PictureNotRead, match="https:// or http://"):
        fetch_picture(f"http://127.0.0.1:{port}/to?file:///etc/passwd", most_bytes=MOST, allowed=allowed)
    with pytest.raises(PictureNotRead, match="leads on and on"):
        fetch_picture(f"http://127.0.0.1:{port}/to?/to?/to?/to?/", most_bytes=MOST, allowed=allowed)


def test_a_name_that_changes_its_address_gains_nothing(monkeypatch):
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
        fetch_picture("http://rebinding.example/", most_bytes=MOST)
    assert (looked_up, connected) == (["rebinding.example"], ["93.184.215.14"])


def test_one_private_address_among_several_is_enough(monkeypatch):
    found = [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (host, 80)) for host in ("93.184.215.14", "10.0.0.1")]
    monkeypatch.setattr(links.socket, "getaddrinfo", lambda *_, **__: found)
    with pytest.raises(PictureNotRead, match="not public"):
        fetch_picture("http://both.example/", most_bytes=MOST)


@pytest.mark.parametrize(
    ("path", "sentence"),
    [
        ("/drip", "took too long"),
        ("/drip-headers", "took too long"),
        ("/flood", "larger than 1 MB"),
        ("/gone", "answers with 404"),
    ],
)
def test_what_drips_overflows_or_is_gone_ends_in_a_sentence(port, monkeypatch, path, sentence):
    monkeypatch.setattr(links, "SECONDS", 1.0)
    begun = time.monotonic()
    with pytest.raises(PictureNotRead, match=sentence):
        fetch_picture(f"http://127.0.0.1:{port}{path}", most_bytes=MOST, allowed=[f"127.0.0.1:{port}"])
    # Left to drip it would take ten seconds.
    assert time.monotonic() - begun < 8


def test_a_name_that_is_looked_up_for_ever_ends_in_a_sentence(monkeypatch):
    asleep = threading.Event()
    monkeypatch.setattr(links.socket, "getaddrinfo", lambda *_, **__: asleep.wait(30) and [])
    monkeypatch.setattr(links, "SECONDS", 0.3)
    with pytest.raises(PictureNotRead, match="took too long"):
        fetch_picture("http://slow.example/", most_bytes=MOST)
    asleep.set()


@pytest.mark.parametrize(
    "link", ["", "picture.png", "ftp://x/y", "file:///etc/passwd", "http://", "https://a:b@x.example/"]
)
def test_what_is_no_link_says_so(link):
    with pytest.raises(PictureNotRead):
        fetch_picture(link, most_bytes=MOST)


def test_the_server_refuses_links_to_itself_and_counts_them(studio, visitor):
    link = f"{studio.url}/healthz"
    response = visitor.post("/api/v1/demos/how-is-the-glaze/predictions", json={"inputs": {"picture": {"link": link}}})
    assert response.status_code == 422
    assert "not public" in response.json()["errors"][0]["message"]
    assert visitor.post("/api/v1/demos/how-is-the-glaze/fetched", json={"link": link}).status_code == 422


# Run in a network of its own that has no way out: there a public address and private ones are this machine's.
IN_A_NETWORK_OF_ITS_OWN = """
import http.server, json, socket, subprocess, sys, threading
from plain_window.core.errors import PictureNotRead
from plain_window.web.links import fetch_picture

subprocess.run(["ip", "link", "set", "lo", "up"], check=True)
class V6(http.server.ThreadingHTTPServer):
    address_family = socket.AF_INET6
asked = []
class Pictures(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        asked.append(self.path)
        elsewhere = self.path.partition("?")[2]
        self.send_response(302 if elsewhere else 200)
        if elsewhere:
            self.send_header("Location", elsewhere)
        self.end_headers()
        self.wfile.write(b"" if elsewhere else b"a picture")
    def log_message(self, *_):
        pass
found = {}
for address in json.loads(sys.argv[1]):
    network = address + ("/128" if ":" in address else "/32")
    subprocess.run(["ip", "addr", "add", network, "dev", "lo"], check=True)
for address in json.loads(sys.argv[1]):
    server = (V6 if ":" in address else http.server.ThreadingHTTPServer)((address, 80), Pictures)
    threading.Thread(target=server.serve_forever, daemon=True).start()
for name, link in json.loads(sys.argv[2]).items():
    asked.clear()
    try:
        found[name] = fetch_picture(link, most_bytes=100).decode(), len(asked)
    except PictureNotRead as error:
        found[name] = str(error).partition(". ")[0], len(asked)
print(json.dumps(found))
"""


@pytest.mark.skipif(os.getuid() != 0, reason="only root may make a network of its own without more ado")
def test_only_public_addresses_are_asked_where_all_of_them_would_answer():
    public, private, metadata, public_v6, private_v6 = (
        "93.184.215.14", "10.77.0.1", "169.254.169.254", "2606:4700::77", "fd00::77",
    )  # fmt: skip
    links_to = {
        "public": f"http://{public}/",
        "public, next protocol": f"http://[{public_v6}]/",
        "private": f"http://{private}/",
        "metadata": f"http://{metadata}/latest",
        "private, next protocol": f"http://[{private_v6}]/",
        "from public to private": f"http://{public}/?http://{private}/",
        "from public to metadata": f"http://{public}/?http://[::ffff:{metadata}]/",
        "from public to public": f"http://{public}/?http://[{public_v6}]/",
        "to this machine": "http://127.0.0.1/",
    }
    here = json.dumps([public, private, metadata, public_v6, private_v6])
    command = ["unshare", "--net", sys.executable, "-P", "-c", IN_A_NETWORK_OF_ITS_OWN, here, json.dumps(links_to)]
    environment = {**os.environ, "PYTHONPATH": str(ROOT)}
    done = subprocess.run(command, capture_output=True, text=True, env=environment, timeout=60, check=False)
    assert done.returncode == 0, done.stderr
    refused = "The link leads to an address that is not public"
    assert {name: tuple(answer) for name, answer in json.loads(done.stdout).items()} == {
        "public": ("a picture", 1),
        "public, next protocol": ("a picture", 1),
        "private": (refused, 0),
        "metadata": (refused, 0),
        "private, next protocol": (refused, 0),
        "from public to private": (refused, 1),
        "from public to metadata": (refused, 1),
        "from public to public": ("a picture", 2),
        "to this machine": (refused, 0),
    }
