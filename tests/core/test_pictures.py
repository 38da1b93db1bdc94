"""Pictures on their way to a model, against arrays worked out by hand."""

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image
from pydantic import ValidationError

from plain_window.core.errors import PictureNotRead
from plain_window.core.pictures.preparation import as_input, as_seen
from plain_window.core.pictures.preparer import Preparer
from plain_window.core.pictures.reading import read_picture
from plain_window.core.pictures.settings import Preparation

RED, GREEN, BLUE, WHITE = (255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255)


def saved(image: Image.Image, kind: str = "PNG", **options) -> bytes:
    file = io.BytesIO()
    image.save(file, kind, **options)
    return file.getvalue()


def two_by_one(first=RED, second=BLUE) -> Image.Image:
    image = Image.new("RGB", (2, 1))
    image.putdata([first, second])
    return image


def png_of(width: int, height: int) -> bytes:
    """A PNG that says how large it is, and has hardly any pixels."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 40))


# --- reading ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("image", "kind", "options", "expected"),
    [
        (two_by_one(), "PNG", {}, [RED, BLUE]),
        (two_by_one(), "WEBP", {"lossless": True}, [RED, BLUE]),
        (two_by_one(), "BMP", {}, [RED, BLUE]),
        (two_by_one(), "TIFF", {}, [RED, BLUE]),
        (two_by_one().convert("P", palette=Image.Palette.ADAPTIVE), "PNG", {}, [RED, BLUE]),
        (two_by_one().convert("CMYK"), "TIFF", {}, [RED, BLUE]),
        (two_by_one((128,) * 3, (64,) * 3).convert("L"), "PNG", {}, [(128,) * 3, (64,) * 3]),
        (two_by_one(WHITE, (0, 0, 0)).convert("1"), "PNG", {}, [WHITE, (0, 0, 0)]),
    ],
    ids=["PNG", "WEBP", "BMP", "TIFF", "palette", "CMYK", "grey", "black and white"],
)
def test_every_kind_and_mode_becomes_eight_bit_colour(image, kind, options, expected):
    pixels = read_picture(saved(image, kind, **options)).pixels
    assert pixels.dtype == np.uint8
    assert pixels[0].tolist() == [list(colour) for colour in expected]


def test_sixteen_bits_keep_their_lightness():
    grey = np.array([[0, 32768, 65535]], dtype="uint16")
    pixels = read_picture(saved(Image.fromarray(grey))).pixels
    assert pixels[0, :, 0].tolist() == [0, 128, 255]


def test_what_is_see_through_is_laid_on_the_stated_colour():
    image = Image.new("RGBA", (3, 1))
    image.putdata([(*RED, 255), (*RED, 0), (0, 0, 0, 128)])
    assert read_picture(saved(image)).pixels[0].tolist() == [list(RED), list(WHITE), [127] * 3]
    assert read_picture(saved(image), behind=GREEN).pixels[0, 1].tolist() == list(GREEN)
    palette = two_by_one().convert("P", palette=Image.Palette.ADAPTIVE)
    at = palette.getpixel((0, 0))
    assert read_picture(saved(palette, transparency=at), behind=GREEN).pixels[0].tolist() == [list(GREEN), list(BLUE)]


@pytest.mark.parametrize(
    ("flag", "expected"),
    [
        (1, [[1, 2, 3], [4, 5, 6]]),
        (2, [[3, 2, 1], [6, 5, 4]]),
        (3, [[6, 5, 4], [3, 2, 1]]),
        (4, [[4, 5, 6], [1, 2, 3]]),
        (5, [[1, 4], [2, 5], [3, 6]]),
        (6, [[4, 1], [5, 2], [6, 3]]),
        (7, [[6, 3], [5, 2], [4, 1]]),
        (8, [[3, 6], [2, 5], [1, 4]]),
    ],
)
def test_a_phones_rotation_flag_is_obeyed(flag, expected):
    stored = Image.fromarray(np.array([[1, 2, 3], [4, 5, 6]], dtype="uint8"))
    exif = Image.Exif()
    exif[0x0112] = flag
    assert read_picture(saved(stored, exif=exif)).pixels[:, :, 0].tolist() == expected


def test_of_a_moving_picture_the_first_frame_is_taken_and_that_is_said():
    frames = [Image.new("RGB", (2, 2), colour) for colour in (RED, BLUE)]
    picture = read_picture(saved(frames[0], "GIF", save_all=True, append_images=frames[1:]))
    assert picture.pixels[0, 0].tolist() == list(RED)
    assert picture.notes == ["Of a moving picture the first frame is taken."]


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"", "is empty"),
        (b"three mugs and a bowl", "is no picture that can be read here"),
        (b"\x00\x00\x00\x18ftypheic\x00\x00\x00\x00mif1heic", "HEIC"),
        (b'<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"/>', "SVG"),
        (b'  <svg width="10" height="10"/>', "SVG"),
        (saved(two_by_one(), "JPEG")[:-20], "cut off or damaged"),
        (saved(Image.effect_noise((64, 64), 50).convert("RGB"))[:2000], "cut off or damaged"),
        (png_of(100_000, 100_000), "100000 × 100000 pixels; the limit is 50 million"),
        (png_of(10, 10), "cut off or damaged"),
        (b"%PDF-1.7 ...", "is no picture that can be read here"),
        (b"GIF89a", "is no picture that can be read here"),
    ],
    ids=[
        "nothing",
        "text",
        "HEIC",
        "SVG",
        "bare SVG",
        "cut JPEG",
        "cut PNG",
        "bomb",
        "hardly any pixels",
        "PDF",
        "cut GIF",
    ],
)
def test_what_is_no_picture_is_one_sentence(content, message):
    with pytest.raises(PictureNotRead, match=message):
        read_picture(content)


def test_the_smallest_and_the_longest_pictures_are_pictures():
    assert read_picture(saved(Image.new("RGB", (1, 1), RED))).pixels.shape == (1, 1, 3)
    strip = read_picture(saved(Image.new("RGB", (20_000, 20), RED))).pixels
    for fit in ("stretch", "border", "crop"):
        seen = as_seen(strip, Preparation(width=8, height=8, fit=fit, border=BLUE))
        assert seen.shape == (8, 8, 3)
        # Whole inside a border it is one pixel high.
        assert seen[3 if fit == "border" else 4, 4].tolist() == list(RED)


# --- preparation ------------------------------------------------------------------------------------------------------

PIXELS = np.array([[RED, GREEN], [BLUE, WHITE]], dtype="uint8")


def prepared(pixels=PIXELS, **options) -> np.ndarray:
    preparation = Preparation(**{"width": pixels.shape[1], "height": pixels.shape[0], **options})
    return as_input(as_seen(pixels, preparation), preparation)


def test_layouts_are_those_that_are_stated():
    by_hand = PIXELS.astype("float32") / 255
    assert prepared().shape == (1, 3, 2, 2)
    np.testing.assert_array_equal(prepared()[0], by_hand.transpose(2, 0, 1))
    np.testing.assert_array_equal(prepared(layout="channels last", batch=False), by_hand)
    np.testing.assert_array_equal(prepared(layout="flat", batch=False), by_hand.ravel())
    np.testing.assert_array_equal(prepared(order="bgr")[0], by_hand[:, :, ::-1].transpose(2, 0, 1))


@pytest.mark.parametrize(
    ("options", "expected"),
    [
        ({"scale": "0..255"}, [0, 51, 255]),
        ({"scale": "0..1"}, [0, 0.2, 1]),
        ({"scale": "-1..1"}, [-1, -0.6, 1]),
        ({"scale": "spread", "mean": [0.5, 0.4, 0.2], "spread": [0.5, 0.2, 0.1]}, [-1, -1, 8]),
    ],
    ids=["as they are", "to one", "around nothing", "mean and spread"],
)
def test_scales_are_those_that_are_stated(options, expected):
    pixels = np.array([[[0, 51, 255]]], dtype="uint8")
    np.testing.assert_allclose(prepared(pixels, **options)[0, :, 0, 0], expected, rtol=1e-6, atol=1e-7)


def test_pictures_the_other_way_round_than_the_trainings_are_turned_and_no_others():
    dark_on_light = np.full((9, 9, 3), 240, "uint8")
    dark_on_light[4, 2:7] = 10
    for picture in (dark_on_light, 255 - dark_on_light):
        for trained_on, expected in (("light on dark", 255 - dark_on_light), ("dark on light", dark_on_light)):
            preparation = Preparation(width=9, height=9, trained_on=trained_on)
            np.testing.assert_array_equal(as_seen(picture, preparation), expected)
        np.testing.assert_array_equal(as_seen(picture, Preparation(width=9, height=9)), picture)
    # A document of before.
    assert Preparation.model_validate({"width": 9, "height": 9, "invert": True}).trained_on == "light on dark"


def test_mean_and_spread_go_by_the_models_own_channel_order():
    pixels = np.array([[[0, 51, 255]]], dtype="uint8")
    options = {"scale": "spread", "mean": [0.5, 0.2, 0.0], "spread": [1.0, 1.0, 1.0], "order": "bgr"}
    np.testing.assert_allclose(prepared(pixels, **options)[0, :, 0, 0], [0.5, 0.0, 0.0], atol=1e-7)


def test_grey_is_weighed_as_eyes_do():
    seen = as_seen(PIXELS, Preparation(width=2, height=2, colour="grey"))
    assert seen[:, :, 0].tolist() == [[76, 150], [29, 255]]
    assert prepared(colour="grey").shape == (1, 1, 2, 2)


def test_fits_keep_or_lose_what_they_say():
    wide = np.zeros((2, 4, 3), dtype="uint8")
    wide[:, :2], wide[:, 2:] = RED, BLUE
    bordered = as_seen(wide, Preparation(width=4, height=4, fit="border", border=GREEN))
    assert bordered[0].tolist() == bordered[3].tolist() == [list(GREEN)] * 4
    np.testing.assert_array_equal(bordered[1:3], wide)
    cropped = as_seen(wide, Preparation(width=2, height=2, fit="crop"))
    assert cropped[0].tolist() == [list(RED), list(BLUE)]
    stretched = as_seen(wide, Preparation(width=2, height=2))
    assert stretched[0, 0, 0] > 200
    assert stretched[0, 1, 2] > 200


def test_a_picture_of_the_right_size_is_not_touched():
    noise = np.random.default_rng(1).integers(0, 256, (7, 5, 3), dtype="uint8")
    for fit in ("stretch", "border", "crop"):
        np.testing.assert_array_equal(as_seen(noise, Preparation(width=5, height=7, fit=fit)), noise)


@pytest.mark.parametrize(
    "wrong",
    [
        {"scale": "spread"},
        {"scale": "spread", "mean": [0.5], "spread": [0.5]},
        {"scale": "spread", "mean": [0.5] * 3, "spread": [0.5, 0.0, 0.5]},
        {"width": 0},
    ],
)
def test_what_cannot_be_prepared_is_refused(wrong):
    with pytest.raises(ValidationError):
        Preparation(**{"width": 2, "height": 2, **wrong})


def test_large_pictures_are_resized_to_the_bit_as_in_one_go():
    pixels = np.random.default_rng(0).integers(0, 256, (1201, 1003, 3)).astype("uint8")
    preparation = Preparation(width=33, height=47)
    in_one_go = Image.fromarray(pixels).resize((33, 47), Image.Resampling.BILINEAR)
    np.testing.assert_array_equal(as_seen(pixels, preparation), np.asarray(in_one_go))


@pytest.mark.parametrize("side", [32, 64, 100])
def test_a_photograph_that_is_not_decoded_in_full_looks_the_same_to_one_of_255(side):
    pixels = np.random.default_rng(0).integers(0, 256, (30, 40, 3)).astype("uint8")
    content = io.BytesIO()
    Image.fromarray(pixels).resize((3200, 2400), Image.Resampling.BICUBIC).save(content, "JPEG", quality=90)
    preparation = Preparation(width=side, height=side)
    value = {"content": content.getvalue(), "preparation": preparation.model_dump(), "cut": [0, 0, 1, 1], "turn": 0}
    in_full = np.asarray(Image.open(content).resize((side, side), Image.Resampling.BILINEAR)).astype(int)
    found = Preparer()(value).seen.astype(int)
    assert np.abs(found - in_full).max() <= 1
