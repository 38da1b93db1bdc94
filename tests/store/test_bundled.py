"""The bundled MariaDB: everyone has their own."""

from pathlib import Path

from plain_window.service.database import BundledDatabase
from plain_window.settings import Settings
from plain_window.store.database import database, use_database


def test_two_that_want_one_port_have_each_their_own_database(tmp_path: Path) -> None:
    """As a copy of a state directory has the password and the port of what it is a copy of."""
    one, copy = _fresh(tmp_path / "first"), _fresh(tmp_path / "second")
    first = BundledDatabase(one)
    for name in ("database.password", "run/database.port"):
        (copy.home / name).write_bytes((one.home / name).read_bytes())
    second = BundledDatabase(copy)
    assert first.url == second.url
    try:
        first.start()
        second.start()
        first.wait()
        second.wait()
        assert first.url != second.url
        for bundled, home in ((first, "first"), (second, "second")):
            use_database(bundled.url)
            with database.connection_context():
                (datadir,) = database.execute_sql("SELECT @@datadir").fetchone()
            database.close_all()
            assert Path(datadir) == tmp_path / home / "database"
    finally:
        first.stop(seconds=30)
        second.stop(seconds=30)


def _fresh(home: Path) -> Settings:
    settings = Settings(home=home, port=0, workers=1)
    settings.make_folders()
    return settings
