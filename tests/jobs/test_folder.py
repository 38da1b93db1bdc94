"""What a job has made, as one file."""

import os
import tempfile
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.jobs.folder import JobFolder, JoinedFile


@pytest.fixture
def folder(tmp_path: Path) -> JobFolder:
    made = JobFolder(tmp_path, "token")
    made.make()
    made.keep("header.csv", b"a,b\n")
    made.keep_chunk(0, b"1,2\n", b'{"row": 1}\n', b"")
    made.keep_chunk(1, b"3,4\n5,6\n", b"", b"known")
    return made


def test_chunks_that_were_counted_are_one_file_and_no_others(folder: JobFolder) -> None:
    folder.keep_chunk(2, b"7,8\n", b'{"row": 4}\n', b"")
    assert b"".join(folder.result(2).parts()) == b"a,b\n1,2\n3,4\n5,6\n"
    assert list(folder.faults(2)) == [b'{"row": 1}\n']
    assert list(folder.known(3)) == [b"known"]


def test_a_chunk_that_is_written_again_is_there_once(folder: JobFolder) -> None:
    before = b"".join(folder.result(2).parts())
    folder.keep_chunk(1, b"3,4\n5,6\n", b"", b"known")
    assert b"".join(folder.result(2).parts()) == before
    assert not list(folder.path.glob("*.part"))


@given(st.lists(st.binary(max_size=7), min_size=1, max_size=5), st.integers(0, 40), st.integers(0, 40))
def test_joined_files_are_read_from_anywhere(contents: list[bytes], offset: int, size: int) -> None:
    with tempfile.TemporaryDirectory() as scratch:
        paths = [Path(scratch) / str(at) for at in range(len(contents))]
        for path, content in zip(paths, contents, strict=True):
            path.write_bytes(content)
        whole, joined = b"".join(contents), JoinedFile(paths)
        joined.seek(offset)
        assert joined.read(size) == whole[offset : offset + size]
        assert joined.seek(0, os.SEEK_END) == joined.size == len(whole)
        joined.close()
