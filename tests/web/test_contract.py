"""What the description promises, held against what the server does, with made-up calls of every kind."""

import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from ..studio import Studio
from .helpers import bring
from .test_sessions import sign_in

CHECKS = (
    "not_a_server_error",
    "status_code_conformance",
    "content_type_conformance",
    "response_schema_conformance",
    "unsupported_method",
)
# Bringing models is slow and has tests of its own; what ends the caller's own session would end the trial.
LEFT_OUT = ["--exclude-path", "/api/v1/samples/{name}"]
MAIN = Path(sys.executable).with_name("st")


def trial(studio: Studio, folder: Path, slug: str, *more: str, examples: int, phases: str = "coverage,fuzzing") -> None:
    """Try every call, in every way that the description allows and in many that it does not, about one demo."""
    (folder / "schemathesis.toml").write_text(f'[parameters]\n"path.slug" = "{slug}"\n')
    command = [MAIN, "--config-file", folder / "schemathesis.toml", "run", f"{studio.url}/api/v1/openapi.json"]
    command += ["--checks", ",".join(CHECKS), "--phases", phases, "--seed", "7"]
    # On a busy machine a model takes its time to be opened; that is no fault of what is promised.
    command += ["--max-examples", str(examples), "--request-timeout", "60"]
    done = subprocess.run([*command, *LEFT_OUT, *more], cwd=folder, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout[-6000:]
    assert "generated" in done.stdout


@pytest.fixture(scope="module")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """One of its own, whose packages' index is nowhere: what is made up here asks nobody for packages."""
    nowhere = {"PIP_INDEX_URL": "http://127.0.0.1:9/simple/", "PIP_CONFIG_FILE": "/dev/null", "PIP_RETRIES": "0"}
    running = Studio(tmp_path_factory.mktemp("tried") / "home", environment={"PLAINWINDOW_RATE": "0", **nowhere})
    yield running
    running.stop()


@pytest.fixture(scope="module")
def key(studio: Studio) -> str:
    return studio.new_key()


@pytest.fixture
def author(studio: Studio, key: str) -> Iterator[httpx.Client]:
    with studio.client(key=key) as client:
        yield client


@pytest.fixture
def slug(author) -> str:
    slug = bring(author, title="To be tried").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    yield slug
    author.delete(f"/api/v1/demos/{slug}")


def test_for_a_visitor(studio, slug, scratch):
    # Most of it is refused alike, whatever is sent; edge by edge it is tried below.
    trial(studio, scratch, slug, examples=6, phases="fuzzing")


def test_for_a_program_with_a_key(studio, slug, key, scratch):
    more = ["--exclude-method", "DELETE", "--exclude-path", "/api/v1/demos"]
    trial(studio, scratch, slug, "-H", f"Authorization: Bearer {key}", *more, examples=2)


def test_for_an_author_at_a_browser(studio, slug, scratch):
    with studio.client() as browser:
        headers = sign_in(studio, browser)
        ((name, value),) = browser.cookies.items()
    more = ["--exclude-method", "DELETE", "--exclude-path", "/api/v1/demos", "--exclude-path-regex", "session"]
    sent = ["-H", f"Cookie: {name}={value}", "-H", f"X-CSRF-Token: {headers['X-CSRF-Token']}"]
    # What a key may do was tried above, edge by edge; here it is the other way in.
    trial(studio, scratch, slug, *sent, *more, examples=2, phases="fuzzing")
