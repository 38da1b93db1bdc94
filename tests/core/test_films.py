"""Films as people have them: what they are, which frames are asked about, what is refused and why."""

import io
import struct

import av
import numpy as np
import pytest
from PIL import Image

from plain_window.core.contract.films import DrawnMoment
from plain_window.core.contract.requests import BoxToDraw
from plain_window.core.errors import FilmNotRead, PictureNotRead
from plain_window.core.films.bitmaps import as_bitmap, upright
from plain_window.core.films.expected import expected_moments
from plain_window.core.films.fitting import fitted_frame, may_be_fitted
from plain_window.core.films.moments import moments
from plain_window.core.films.reading import Film, length_words
from plain_window.core.films.with_boxes import film_with_boxes
from plain_window.core.pictures.preparer import Preparer
from plain_window.core.pictures.reading import read_picture
from plain_window.core.pictures.settings import Preparation

from ..detectors import as_bytes
from ..films import film_of, plain_frames, sound_only

KINDS = {
    "mp4": ("mp4", "libx264"),
    "a phone's MOV": ("mov", "libx265"),
    "a browser's WebM": ("webm", "libvpx-vp9"),
    "an old camera's AVI": ("avi", "mpeg4"),
    "a camcorder's TS": ("mpegts", "mpeg2video"),
    "a moving GIF": ("gif", "gif"),
}


def numbered(n: int, *, height: int = 48, width: int = 64) -> list[np.ndarray]:
    """Grey frames, each lighter than the one before."""
    return [np.full((height, width, 3), 10 + at * 240 // max(1, n), "uint8") for at in range(n)]


def opened(content: bytes, *, most_pixels: int = 1 << 22, most_seconds: float = 60.0) -> Film:
    return Film(io.BytesIO(content), most_pixels=most_pixels, most_seconds=most_seconds)


def asked_at(content: bytes, rate: float) -> list[float]:
    return [round(shown.at, 3) for shown in moments(opened(content), rate) if shown]


@pytest.mark.parametrize("kind", KINDS)
def test_films_of_every_usual_kind_are_read_with_their_times(kind: str):
    container, codec = KINDS[kind]
    content = film_of(numbered(20), kind=container, codec=codec)
    film = opened(content)
    assert (film.facts.width, film.facts.height) == (64, 48)
    assert film.facts.seconds == pytest.approx(2.0, abs=0.11)
    shown = list(film.frames())
    start = plain_frames(content)[0][0]
    assert [one.at for one in shown] == pytest.approx([time - start for time, _ in plain_frames(content)], abs=1e-6)
    light = [float(upright(one.frame).mean()) for one in shown]
    assert light == pytest.approx([float(frame.mean()) for frame in numbered(20)], abs=12)


def test_a_browsers_recording_that_does_not_say_its_length_is_gone_through_for_it():
    content = film_of(numbered(30), kind="webm", codec="libvpx", options={"live": "1"})
    with av.open(io.BytesIO(content)) as plain:
        assert plain.duration is None
    film = opened(content)
    assert film.facts.seconds == pytest.approx(3.0, abs=0.11)
    assert len(list(film.frames())) == 30


@pytest.mark.parametrize(("rate", "expected"), [(5, [0.0, 0.2, 0.4, 0.6, 0.8]), (10, 10), (30, 10), (1, [0.0])])
def test_each_moment_has_the_frame_that_is_shown_then_and_no_frame_comes_twice(rate, expected):
    found = asked_at(film_of(numbered(10)), rate)
    assert found == expected or len(found) == expected
    assert len(found) == expected_moments(1.0, 10.0, rate)


def test_at_a_changing_rate_the_frames_keep_their_times():
    """Four frames in a hurry, then one that stands for two seconds, then one more."""
    content = film_of(numbered(6), times=[0.0, 0.05, 0.1, 0.15, 0.2, 2.2])
    assert asked_at(content, 10) == [0.0, 0.1, 0.2, 2.2]
    # Of what stands still the model is asked once.
    assert asked_at(content, 1) == [0.0, 0.2]


def test_what_a_model_is_shown_is_the_frame_to_the_last_bit():
    rng = np.random.default_rng(3)
    # An odd width: rows of a bitmap are filled up.
    frames = [rng.integers(0, 256, (37, 53, 3), dtype="uint8") for _ in range(3)]
    for shown, frame in zip(opened(film_of(frames)).frames(), frames, strict=True):
        assert np.array_equal(read_picture(as_bitmap(upright(shown.frame))).pixels, frame)


@pytest.mark.parametrize("fit", ["stretch", "border", "crop"])
@pytest.mark.parametrize("colour", ["colour", "grey"])
def test_a_frame_that_travels_in_the_models_size_is_what_it_would_have_become_and_lies_where_it_did(fit, colour):
    frame = np.random.default_rng(4).integers(0, 256, (150, 211, 3), dtype="uint8")
    border = [200, 30, 90]
    preparation = Preparation(width=64, height=48, fit=fit, colour=colour, border=border)
    settings = {"preparation": preparation.model_dump(), "cut": [0, 0, 1, 1]}
    colours = frame[:, :, ::-1]
    assert may_be_fitted(preparation, (211, 150))
    small = {**settings, "content": as_bitmap(fitted_frame(colours, preparation)), "once": True}
    whole = Preparer()({**settings, "content": as_bitmap(colours)})
    fitted = Preparer()({**small, "fitted_from": (211, 150)})
    assert np.array_equal(fitted.input, whole.input)
    assert fitted.frame == whole.frame
    # Where that hangs on the picture as it was given, it is left alone.
    assert not may_be_fitted(Preparation(width=64, height=48, own_size=True), (211, 150))
    assert not may_be_fitted(Preparation(width=64, height=48, trained_on="light on dark"), (211, 150))


@pytest.mark.parametrize(("degrees", "turned"), [(90, -1), (180, 2), (270, 1)])
def test_a_film_that_a_phone_took_on_its_side_stands_upright(degrees: int, turned: int):
    frame = np.zeros((48, 64, 3), "uint8")
    frame[:24, :32] = 250
    content = bytearray(film_of([frame] * 3, kind="mov", codec="libx264"))
    # The matrix in the track's header says by how much players turn it, clockwise.
    at = content.index(b"tkhd") + 4 + 40
    cos, sin = {90: (0, 1), 180: (-1, 0), 270: (0, -1)}[degrees]
    content[at : at + 36] = struct.pack(">9i", cos << 16, sin << 16, 0, -sin << 16, cos << 16, 0, 0, 0, 1 << 30)
    film = opened(bytes(content))
    shown = upright(next(film.frames()).frame)
    expected = np.rot90(frame, turned)
    assert (film.facts.height, film.facts.width) == expected.shape[:2] == shown.shape[:2]
    assert np.abs(shown.astype(int) - expected).mean() < 12


def test_a_film_that_breaks_off_is_read_as_far_as_it_goes():
    content = film_of(numbered(40), kind="mpegts", codec="mpeg2video")
    half = opened(content[: len(content) // 2])
    assert 10 < len(list(half.frames())) < 40
    damaged = bytearray(content)
    damaged[len(content) // 3 : len(content) // 3 + 2000] = bytes(2000)
    assert len(list(opened(bytes(damaged)).frames())) > 20


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (sound_only(), "has sound only"),
        (film_of(numbered(30), kind="mp4", codec="libx264")[:700], "breaks off"),
        (film_of(numbered(30))[:600], "has no frames that can be read"),
        (as_bytes(numbered(1)[0]), "is a picture and no film"),
        (b"", "empty"),
        (b"x" * 5000, "is no film that can be read here"),
        (b"#EXTM3U\n#EXTINF:10,\nfile:///etc/passwd\n", "is no film"),
        (b"ffconcat version 1.0\nfile '/etc/passwd'\n", "is no film"),
        (
            film_of(numbered(2, height=2048, width=2100), codec="libx264", kind="mp4"),
            "2100 × 2048 pixels; the limit is",
        ),
        (film_of(numbered(3), times=[0.0, 1.0, 14_400.0]), "lasts 4 hours; the limit is 1 minute"),
    ],
    ids=[
        "sound only",
        "cut short",
        "without frames",
        "a picture",
        "empty",
        "no film",
        "a playlist",
        "a list of files",
        "8K",
        "4 hours",
    ],
)
def test_what_is_no_film_to_be_asked_about_is_refused_in_a_sentence(content: bytes, sentence: str):
    with pytest.raises(FilmNotRead, match=sentence):
        opened(content)


def test_a_film_that_lies_about_its_length_is_stopped_where_it_grows_too_long():
    content = bytearray(film_of(numbered(4), times=[0.0, 1.0, 2.0, 500.0]))
    # Matroska's length, a float behind its element's name.
    at = content.index(b"\x44\x89\x88") + 3
    content[at : at + 8] = struct.pack(">d", 2500.0)
    film = opened(bytes(content))
    assert film.facts.seconds == pytest.approx(2.5)
    with pytest.raises(FilmNotRead, match="goes on for longer than 1 minute"):
        list(film.frames())


def test_a_film_with_boxes_has_every_frame_at_its_time_and_its_sound():
    frames = numbered(20, height=120, width=160)
    content = film_of(frames, kind="mp4", codec="libx264", sound="aac")
    box = BoxToDraw(40, 50, 60, 40, "crack 71", "#1E6B6B")
    made = b"".join(film_with_boxes(opened(content), [DrawnMoment(0.5, [box]), DrawnMoment(1.5, [])]))
    with av.open(io.BytesIO(made)) as film:
        assert [stream.codec_context.name for stream in film.streams] == ["h264", "aac"]
        assert sum(packet.size > 0 for packet in film.demux(audio=0)) >= 90
    found = plain_frames(made)
    steps = np.diff([time for time, _ in found])
    assert len(found) == 20
    assert steps == pytest.approx([0.1] * 19, abs=1e-3)
    drawn = [bool(np.ptp(frame[60:80, 36:46].astype(int).mean(axis=(0, 2))) > 15) for _, frame in found]
    assert drawn == [5 <= at < 15 for at in range(20)]


def test_lengths_are_said_as_people_say_them():
    assert [length_words(seconds) for seconds in (1, 45, 60, 90, 240, 3600, 7500)] == [
        "1 second",
        "45 seconds",
        "1 minute",
        "1:30 minutes",
        "4 minutes",
        "1 hour",
        "2:05 hours",
    ]


def test_a_bitmap_is_one_that_any_program_reads_and_one_that_lies_is_refused():
    colours = np.arange(5 * 3 * 3, dtype="uint8").reshape(5, 3, 3)
    content = as_bitmap(colours)
    image = Image.open(io.BytesIO(content))
    assert (image.format, image.size) == ("BMP", (3, 5))
    assert np.array_equal(np.asarray(image)[:, :, ::-1], colours)
    read = read_picture(content)
    assert (read.kind, read.full) == ("BMP", (3, 5))
    assert np.array_equal(read.pixels[:, :, ::-1], colours)
    # Cut short, or with a size that it has not the pixels for, or more than is taken.
    for lying in (content[:-20], content[:18] + struct.pack("<ii", 3, -500) + content[26:]):
        with pytest.raises(PictureNotRead):
            read_picture(lying)
    with pytest.raises(PictureNotRead, match="the limit is"):
        read_picture(content, most_pixels=14)
