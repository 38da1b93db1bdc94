"""A table that took over the process it is read in: what that says is believed only as far as it can be a table."""

from types import SimpleNamespace

import msgspec
import pytest

from plain_window.authoring.table_reading import read_table_inside
from plain_window.core.contract import encoded
from plain_window.core.contract.events import Failed
from plain_window.core.contract.tables import PlainTable
from plain_window.core.errors import MismatchFaults

HONEST = PlainTable({"wall": [6.5, None], "clay": ["red", "white"]}, total=400)


class Saying:
    """Runners of which each says the same, whatever it was asked."""

    def __init__(self, said: bytes) -> None:
        self.said, self.retired = said, []

    def ensure(self, job, *, until, timeout):
        return SimpleNamespace(kept_rows=self.said)

    def retire(self, key):
        self.retired.append(key)


def read(said: bytes) -> tuple[PlainTable, Saying]:
    runners = Saying(said)
    settings = SimpleNamespace(limits=SimpleNamespace(open_seconds=1.0))
    services = SimpleNamespace(runners=runners, files=SimpleNamespace(path=lambda file: file), settings=settings)
    try:
        return read_table_inside(services, "a-hash", part="expected", name="the outputs", most_rows=2), runners
    finally:
        assert len(runners.retired) == 1, "its process goes, whatever it said"


def test_an_honest_table_is_taken_as_it_is():
    assert read(encoded(HONEST))[0] == HONEST


@pytest.mark.parametrize(
    "said",
    [
        b"",
        b"\x93\x01",
        encoded(Failed("no table")),
        msgspec.msgpack.encode({"columns": {"wall": [[1]]}, "total": 1}),
        msgspec.msgpack.encode({"columns": {"wall": [1.0]}, "total": 1, "notes": [], "also": 1}),
        encoded(PlainTable({"wall": [6.5, 7.0], "clay": ["red"]}, total=2)),
        encoded(PlainTable({"wall": [6.5, 7.0, 8.0]}, total=400)),
        encoded(PlainTable({"wall": [6.5, 7.0]}, total=1)),
        encoded(PlainTable({}, total=0)),
    ],
)
def test_what_cannot_be_a_table_is_refused(said):
    with pytest.raises(MismatchFaults, match="is no table"):
        read(said)
