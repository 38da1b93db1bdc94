"""A database for tests of records alone."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from plain_window.service.database import BundledDatabase
from plain_window.settings import Settings
from plain_window.store.database import database, use_database


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[None]:
    """A MariaDB of one's own, without any table."""
    settings = Settings(home=tmp_path / "home", port=0, workers=1)
    settings.make_folders()
    bundled = BundledDatabase(settings)
    bundled.start()
    try:
        bundled.wait()
        use_database(bundled.url)
        with database.connection_context():
            yield
    finally:
        database.close_all()
        bundled.stop(seconds=30)
