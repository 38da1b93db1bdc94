"""Answers that are pictures: made of the one that was given, and a class for each of its pixels."""

import io

import numpy as np
import pytest
from PIL import Image

from plain_window.core.answers.in_picture import MaskReading, PictureReading
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.contract.replies import PictureReply
from plain_window.core.contract.requests import MakePictureRequest, MaskRequest
from plain_window.core.errors import MismatchFaults, ModelFailed
from plain_window.core.intake.opening import take_in
from plain_window.core.intake.reopening import Intake
from plain_window.core.made.masks import output_classes
from plain_window.core.made.pictures import output_picture

from ..detectors import as_bytes
from ..made_pictures import darker, land_and_water

GIVEN = np.random.default_rng(5).integers(0, 256, (90, 131, 3)).astype("uint8")
MAP = np.full((60, 80, 3), 255, dtype="uint8")
MAP[:30, :40], MAP[30:, 40:] = (255, 0, 0), (0, 0, 255)


def _brought(model: bytes, **told: object) -> Intake:
    return take_in({"model": io.BytesIO(model)}, OpenFile(**told))


def _answered(intake: Intake, content: bytes, *, most_side: int | None = None, over: bool = False, **value: object):
    setting, field = intake.inspection.answer, intake.inspection.fields[0]
    row = {"picture": {"content": content, "preparation": field.preparation.model_dump(), **value}}
    reading = setting.reading.model_dump()
    service = intake.service(background_rows=10)
    if setting.kind == "picture":
        reply = service.answer(MakePictureRequest(row=row, reading=reading, most_side=most_side))
    else:
        names = [label.name for label in setting.labels]
        nothing = names.index(setting.nothing) if setting.nothing else None
        reply = service.answer(
            MaskRequest(
                row=row, reading=reading, n_classes=len(names), most_side=most_side, laid_over=over, nothing=nothing
            )
        )
    assert isinstance(reply, PictureReply), reply
    return reply


def _pixels(reply: PictureReply) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(reply.content)))


@pytest.mark.parametrize(
    "model",
    [darker(), darker(last=True), darker(scale=255.0), darker(halves=3), darker(size=(90, 131))],
    ids=["any size", "channels last", "up to 255", "even sides only", "this very size"],
)
def test_a_picture_comes_back_pixel_by_pixel_in_its_own_size(model: bytes):
    intake = _brought(model)
    assert intake.inspection.found.task == "picture"
    reply = _answered(intake, as_bytes(GIVEN))
    assert (reply.width, reply.height, reply.is_full, reply.type) == (131, 90, True, "image/png")
    np.testing.assert_allclose(_pixels(reply).astype(int), GIVEN[:, :, ::-1] / 2, atol=1)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "BMP", "TIFF"])
def test_it_stays_in_the_format_it_came_in_unless_it_is_only_to_be_shown(kind: str):
    intake = _brought(darker())
    reply = _answered(intake, as_bytes(GIVEN, kind))
    assert (Image.open(io.BytesIO(reply.content)).format, reply.type) == (kind, f"image/{kind.lower()}")
    shown = _answered(intake, as_bytes(GIVEN, kind), most_side=60)
    assert max(shown.width, shown.height) == 60
    assert shown.type in ("image/jpeg", "image/png", "image/webp")


def test_what_is_cut_out_and_turned_comes_back_so():
    reply = _answered(_brought(darker()), as_bytes(GIVEN), cut=[0.0, 0.5, 0.5, 0.5], turn=90)
    part = np.rot90(GIVEN[45:90, 0:66], -1)
    assert _pixels(reply).shape == part.shape
    np.testing.assert_allclose(_pixels(reply).astype(int), part[:, :, ::-1] / 2, atol=1)


@pytest.mark.parametrize(
    ("fit", "size", "part"),
    [
        ("stretch", (93, 64), (0, 0, 1, 1)),
        ("border", (64, 44), (0, 0, 1, 1)),
        ("crop", (64, 64), ((131 - 90) / 2 / 131, 0, 90 / 131, 1)),
    ],
)
def test_a_model_of_one_size_gives_no_more_than_it_sees_in_the_pictures_own_proportions(
    fit: str, size: tuple[int, int], part: tuple[float, ...]
):
    preparation = {"width": 64, "height": 64, "fit": fit}
    intake = _brought(darker(size=(64, 64)), preparations={"picture": preparation})
    reply = _answered(intake, as_bytes(np.full_like(GIVEN, 200)))
    assert (reply.width, reply.height, reply.is_full) == (*size, False)
    assert reply.part == pytest.approx(part)
    # Nothing of a border is left in it.
    np.testing.assert_allclose(_pixels(reply).astype(int), 100, atol=1)


@pytest.mark.parametrize("form", ["scores first", "scores last", "numbers"])
def test_each_pixel_has_its_class_and_each_class_its_share(form: str):
    intake = _brought(land_and_water(form))
    setting = intake.inspection.answer
    assert (setting.kind, setting.reading.layout, setting.nothing) == ("mask", form, "background")
    reply = _answered(intake, as_bytes(MAP))
    expected = np.zeros((60, 80), dtype="uint8")
    expected[:30, :40], expected[30:, 40:] = 1, 2
    np.testing.assert_array_equal(_pixels(reply), expected)
    assert reply.shares == [0.5, 0.25, 0.25]


def test_a_mask_lies_over_the_picture_but_where_there_is_nothing():
    reply = _answered(_brought(land_and_water("numbers")), as_bytes(MAP, "BMP"), over=True)
    over = _pixels(reply).astype(int)
    assert reply.type == "image/bmp"
    assert (over[5, 60] == 255).all()
    assert 0 < np.abs(over[10, 10] - MAP[10, 10]).max() < 200
    # Its edge is a line in the kind's own colour.
    assert (over[10, 39] != over[10, 40]).any()


def test_one_score_a_pixel_is_one_class_and_nothing():
    intake = _brought(land_and_water("one", names=""))
    setting = intake.inspection.answer
    assert ([label.name for label in setting.labels], setting.nothing) == (["nothing", "something"], "nothing")
    assert _answered(intake, as_bytes(MAP)).shares == [0.75, 0.25]
    named = _brought(land_and_water("one", names=""), labels=["water"]).inspection.answer
    assert [label.name for label in named.labels] == ["nothing", "water"]


def test_the_author_knows_better_whether_it_is_a_picture_or_a_mask():
    assert _brought(darker(name="segmentation")).inspection.answer.kind == "mask"
    told = _brought(darker(name="segmentation"), answer_kind="picture")
    assert told.inspection.answer.kind == "picture"
    assert [one.name for one in told.inspection.questions] == []
    with pytest.raises(MismatchFaults, match="`labels` names 2"):
        _brought(land_and_water("scores first", names=""), labels=["a", "b"])


@pytest.mark.parametrize(
    ("outputs", "reading", "words"),
    [
        ({"out": np.zeros((1, 3, 9, 9))}, {"output": "other"}, "read from the output `other`; the model has `out`"),
        ({"out": np.zeros((1, 5, 9, 9))}, {"output": "out"}, "1 × 5 × 9 × 9 numbers, which are no picture"),
        ({"out": np.full((1, 3, 9, 9), np.nan)}, {"output": "out"}, "places without a number"),
    ],
)
def test_an_output_that_is_no_picture_says_so(outputs: dict[str, np.ndarray], reading: dict[str, str], words: str):
    with pytest.raises(ModelFailed, match=words):
        output_picture(outputs, PictureReading(**reading))


def test_a_class_that_has_no_name_is_no_answer():
    reading = MaskReading(output="out", layout="numbers")
    with pytest.raises(ModelFailed, match="class 7; there are 3"):
        output_classes({"out": np.full((1, 9, 9), 7)}, reading, n_classes=3)
