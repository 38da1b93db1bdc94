"""What several web tests stand on."""

from collections.abc import Iterator

import httpx
import pytest

from ..studio import Studio
from .helpers import bring


@pytest.fixture(scope="module")
def own_studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A Plain Window that may be hurt."""
    studio = Studio(tmp_path_factory.mktemp("hurt") / "home", environment={"PLAINWINDOW_RATE": "0"})
    yield studio
    studio.stop()


@pytest.fixture
def demo(author: httpx.Client) -> Iterator[str]:
    """A published demo that only its author may open, by its address."""
    slug = bring(author, title="Firing").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    yield f"/api/v1/demos/{slug}"
    author.delete(f"/api/v1/demos/{slug}")
