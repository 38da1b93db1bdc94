"""Who sends half a request, or sends it slowly, takes nothing from anybody else; with and without nginx in front."""

import shutil
import socket
import ssl
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from plain_window.web import worker
from plain_window.web.peers import TooSlow, network_of

from ..studio import ROOT, Studio, _free_port, wait_for
from .helpers import problem

HALF = b"POST /api/v1/demos/will-it-crack/predictions HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"


def begun(port: int, first: bytes = HALF) -> socket.socket:
    connection = socket.create_connection(("127.0.0.1", port), timeout=60)
    connection.sendall(first)
    return connection


def answer_of(connection: socket.socket) -> bytes:
    """All that comes until the other side ends it."""
    received = b""
    while part := connection.recv(4096):
        received += part
    return received


def last_word(connection: socket.socket) -> bytes | None:
    """What came before the other side ended it; None while it is open."""
    try:
        return connection.recv(4096)
    except BlockingIOError:
        return None
    except ConnectionError:
        return b""


def test_many_half_sent_requests_from_one_address_leave_room_for_others(studio):
    """Many more than there is room for: what is beyond an address's share is told so, and closed at once."""
    held = [begun(studio.port) for _ in range(2 * worker.CONNECTIONS_EACH + 60)]
    try:
        for connection in held:
            connection.setblocking(False)
        ended: dict[socket.socket, bytes] = {}

        def beyond_the_share() -> bool:
            words = [(one, last_word(one)) for one in held if one not in ended]
            ended.update((one, said) for one, said in words if said is not None)
            return len(ended) >= 40

        wait_for(beyond_the_share, what="those beyond the share being closed")
        told = [said for said in ended.values() if said]
        assert len(told) >= 20
        assert all(said.startswith(b"HTTP/1.1 429 ") and b"Retry-After: 2" in said for said in told)
    finally:
        for connection in held:
            connection.close()
    # What was held is given back as soon as it ends.
    with studio.client() as visitor:
        wait_for(lambda: _answers(visitor), what="this address having room again")


def _answers(visitor: httpx.Client) -> bool:
    try:
        return visitor.get("/healthz").status_code == 200
    except httpx.TransportError:
        return False


def test_half_a_head_is_given_up_after_a_while(studio):
    connection = begun(studio.port)
    begun_at = time.monotonic()
    answer = answer_of(connection)
    assert answer.startswith(b"HTTP/1.1 408 ")
    assert b"application/problem+json" in answer
    assert time.monotonic() - begun_at < 3 * worker.HEAD_SECONDS
    connection.close()


def test_a_body_that_stops_is_given_up_after_a_while(studio):
    connection = begun(studio.port, HALF + b'Content-Length: 100\r\n\r\n{"inputs"')
    begun_at = time.monotonic()
    answer = answer_of(connection)
    assert answer.startswith(b"HTTP/1.1 408 ")
    assert time.monotonic() - begun_at < 3 * worker.SILENCE_SECONDS
    connection.close()


class _Clock:
    """A socket that gives a byte a second, on a clock of its own."""

    def __init__(self) -> None:
        self.now = 0.0

    def recv(self, size: int) -> bytes:
        self.now += 1.0
        return b"x"

    def settimeout(self, seconds: float) -> None:
        """Nothing here waits."""


def test_a_body_that_drips_is_given_up_however_steadily_it_drips(monkeypatch):
    slow = _Clock()
    monkeypatch.setattr(worker.time, "monotonic", lambda: slow.now)
    paced = worker._PacedSocket(slow)
    paced.start_clock()

    def read_on() -> None:
        while slow.now < 1000:
            paced.recv(1)

    with pytest.raises(TooSlow, match="too slowly"):
        read_on()
    assert worker.BODY_SECONDS < slow.now < worker.BODY_SECONDS + 3


@pytest.mark.parametrize(
    ("address", "network"),
    [
        ("192.0.2.7", "192.0.2.7"),
        ("2001:db8:1:2:aaaa::1", "2001:db8:1:2::"),
        ("2001:db8:1:2:bbbb::2", "2001:db8:1:2::"),
        ("::ffff:192.0.2.7", "192.0.2.7"),
        ("fe80::1%eth0", "fe80::"),
        ("", "nobody"),
        (None, "nobody"),
    ],
)
def test_an_address_of_the_next_protocol_counts_with_its_network(address, network):
    assert network_of(address) == network


@pytest.fixture(scope="module")
def behind_nginx(tmp_path_factory) -> Iterator[tuple[Studio, int]]:
    """Plain Window behind Debian's nginx with the example from the documentation, on other ports."""
    nginx = shutil.which("nginx") or shutil.which("nginx", path="/usr/sbin")
    assert nginx, "the Debian package `nginx-light` is missing"
    folder, port = tmp_path_factory.mktemp("nginx"), _free_port()
    environment = {"PLAINWINDOW_TRUSTED_PROXIES": "1", "PLAINWINDOW_HOSTS": "demos.example.org"}
    studio = Studio(folder / "home", environment={**environment, "PLAINWINDOW_RATE": "1000"})
    _certificate(folder)
    (folder / "nginx.conf").write_text(_configuration(folder, studio.port, port))
    server = subprocess.Popen(
        [nginx, "-c", str(folder / "nginx.conf"), "-e", str(folder / "error.log"), "-g", "daemon off;"]
    )
    try:
        wait_for(lambda: _listens(port), what="nginx listening")
        yield studio, port
    finally:
        server.terminate()
        server.wait(20)
        studio.stop()


def _listens(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) == 0


def _certificate(folder: Path) -> None:
    command = [
        "openssl",
        "req",
        "-x509",
        "-newkey",
        "rsa:2048",
        "-nodes",
        "-days",
        "2",
        "-subj",
        "/CN=demos.example.org",
    ]
    command += ["-keyout", str(folder / "key.pem"), "-out", str(folder / "cert.pem")]
    subprocess.run(command, check=True, capture_output=True)


def _configuration(folder: Path, inner: int, outer: int) -> str:
    """The example as it is, but for names, ports and places."""
    example = (ROOT / "docs" / "nginx" / "plain-window.conf").read_text()
    replaced = {
        "127.0.0.1:8700": f"127.0.0.1:{inner}",
        "listen 443 ssl http2": f"listen 127.0.0.1:{outer} ssl http2",
        "    listen [::]:443 ssl http2;\n": "",
        "listen 80;": f"listen 127.0.0.1:{_free_port()};",
        "    listen [::]:80;\n": "",
        "/etc/ssl/certs/demos.example.org.pem": str(folder / "cert.pem"),
        "/etc/ssl/private/demos.example.org.key": str(folder / "key.pem"),
    }
    for was, becomes in replaced.items():
        assert was in example, was
        example = example.replace(was, becomes)
    temporary = "".join(
        f"{name}_temp_path {folder / name};\n" for name in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    return (
        f"pid {folder / 'nginx.pid'};\nevents {{ worker_connections 1024; }}\n"
        f"http {{\naccess_log off;\n{temporary}{example}\n}}\n"
    )


def test_behind_nginx_it_works_and_browsers_are_told_to_stay_with_tls(behind_nginx):
    _, port = behind_nginx
    with httpx.Client(
        base_url=f"https://127.0.0.1:{port}", verify=False, headers={"Host": "demos.example.org"}
    ) as visitor:
        page = visitor.get("/d/will-it-crack")
        assert page.status_code == 200
        assert "max-age=" in page.headers["strict-transport-security"]
        assert visitor.get("/api/v1/demos/will-it-crack/page").status_code == 200
        problem(visitor.put("/api/v1/demos/will-it-crack/access", json={"access": "everyone"}), 404)


def test_behind_nginx_bodies_over_the_limit_end_there(behind_nginx):
    _, port = behind_nginx
    with httpx.Client(
        base_url=f"https://127.0.0.1:{port}", verify=False, headers={"Host": "demos.example.org"}
    ) as visitor:
        big = visitor.post("/api/v1/demos/will-it-crack/predictions", content=b"x" * (31 << 20))
        assert big.status_code == 413


def test_behind_nginx_half_sent_requests_never_get_as_far_as_us(behind_nginx):
    studio, port = behind_nginx
    context = ssl.create_default_context()
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE
    held = []
    for _ in range(40):
        connection = context.wrap_socket(socket.create_connection(("127.0.0.1", port), timeout=30))
        connection.sendall(HALF.replace(b"127.0.0.1", b"demos.example.org") + b'Content-Length: 100\r\n\r\n{"inp')
        held.append(connection)
    (master, *workers) = sorted(studio.processes()["web"], key=lambda process: process.pid)
    established = [
        one for each in (master, *workers) for one in each.net_connections(kind="tcp") if one.status == "ESTABLISHED"
    ]
    from_nginx = [one for one in established if one.laddr.port == studio.port]
    assert len(from_nginx) <= 5
    for connection in held:
        connection.close()
