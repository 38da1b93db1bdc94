"""What several web tests stand on."""

from collections.abc import Iterator

import pytest

from ..studio import Studio


@pytest.fixture(scope="module")
def own_studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A Plain Window that may be hurt."""
    studio = Studio(tmp_path_factory.mktemp("hurt") / "home", environment={"PLAINWINDOW_RATE": "0"})
    yield studio
    studio.stop()
