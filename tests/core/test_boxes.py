"""Boxes in pictures: a detector's outputs in any order, read by what fits, back in the picture as it was given."""

import io
import zipfile

import numpy as np
import pytest
from PIL import Image

from plain_window.core.answers.in_picture import BoxReading
from plain_window.core.boxes.candidates import read_candidates
from plain_window.core.boxes.drawing import colour_of, draw_boxes
from plain_window.core.boxes.finding import find_boxes
from plain_window.core.boxes.suppression import overlaps, suppressed
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.contract.requests import BoxesRequest, BoxToDraw
from plain_window.core.errors import MismatchFaults, ModelFailed, ModelNotOpened
from plain_window.core.intake.opening import take_in
from plain_window.core.intake.reopening import Intake
from plain_window.core.pictures.frames import Frame, placed
from plain_window.core.pictures.preparer import Preparer
from plain_window.core.pictures.settings import Preparation
from plain_window.core.pictures.writing import as_file

from ..detectors import CLASSES, ORDERS, SIDE, as_bytes, detector, picture_with, plainly_found

SHOWN = picture_with(("red", 3, 2, 1.0), ("blue", 10, 7, 0.9), ("red", 14, 10, 0.8))
ROW = BoxReading(boxes="out", score_at=4, class_at=5, suppression="inside")


def _pictures(n: int = 4, *, seed: int = 1) -> bytes:
    random = np.random.default_rng(seed)
    content = io.BytesIO()
    with zipfile.ZipFile(content, "w") as archive:
        for at in range(n):
            patches = [
                (CLASSES[random.integers(2)], int(random.integers(1, 15)), int(random.integers(1, 11)), 1.0)
                for _ in range(4)
            ]
            archive.writestr(f"{at}.png", as_bytes(picture_with(*patches)))
    return content.getvalue()


def _brought(model: bytes, known: bytes | None = None, labels: list[str] | None = None) -> Intake:
    files = {"model": io.BytesIO(model)} | ({"known": io.BytesIO(known)} if known else {})
    return take_in(files, OpenFile(labels=labels))


def _found_in(intake: Intake, content: bytes, *, least: float, **value: object) -> list[tuple[str, list[float]]]:
    setting, field = intake.inspection.answer, intake.inspection.fields[0]
    row = {"picture": {"content": content, "preparation": field.preparation.model_dump(), **value}}
    service = intake.service(background_rows=10)
    reply = service.answer(BoxesRequest(row=row, reading=setting.reading.model_dump(), least_score=least))
    return sorted(
        (setting.labels[box.class_].name, [box.x, box.y, box.x + box.width, box.y + box.height]) for box in reply.boxes
    )


def _expected(*, least: float) -> list[tuple[str, list[float]]]:
    return sorted(
        (name, np.clip([x, y, x + width, y + height], 0, [*SIDE, *SIDE]).tolist())
        for name, _, x, y, width, height in plainly_found(SHOWN, least=least)
    )


def _same(found: list[tuple[str, list[float]]], expected: list[tuple[str, list[float]]]) -> None:
    assert [name for name, _ in found] == [name for name, _ in expected]
    np.testing.assert_allclose([box for _, box in found], [box for _, box in expected], atol=0.01)


@pytest.mark.parametrize("has_pictures", [True, False], ids=["with pictures", "with none"])
@pytest.mark.parametrize("order", ORDERS)
def test_outputs_in_any_order_are_read_by_what_fits(order: str, has_pictures: bool):
    intake = _brought(detector(order), _pictures() if has_pictures else None)
    assert intake.inspection.found.task == "boxes"
    assert [question.name for question in intake.inspection.questions][:1] == ["reading"]
    # What a softmax makes of it is another score for the same window.
    least = 0.53
    _same(_found_in(intake, as_bytes(SHOWN), least=0.57 if "background" in order else least), _expected(least=least))


def test_a_square_picture_does_not_hide_which_number_is_across():
    """Across and down have the same range in it: only mirroring tells."""
    for form in ("two corners", "two corners, down first"):
        intake = _brought(detector("chosen" if "down" in form else "left, apart"), _pictures())
        best, *others = intake.inspection.boxes.tries
        assert best.reading.form == form
        assert best.agreement > 0.9 > 0.5 > max(one.agreement for one in others)


def test_classes_are_named_by_the_author_or_numbered():
    named = _brought(detector("columns, centre"), _pictures(), labels=["warm", "cold"])
    assert [label.name for label in named.inspection.answer.labels] == ["warm", "cold"]
    nameless = _brought(detector("left, apart", names=""), _pictures())
    assert [label.name for label in nameless.inspection.answer.labels] == ["0", "1"]
    assert any("does not name" in note for note in nameless.inspection.notes)


def test_boxes_follow_what_was_cut_out_turned_and_fitted_back_to_the_picture_that_was_given():
    """The picture stands somewhere in a larger one, turned; what is found lies where it lies in that."""
    intake = _brought(detector("left, apart"), _pictures())
    large = np.full((3 * SIDE[0], 4 * SIDE[1], 3), 255, dtype="uint8")
    # A quarter turn against the clock, so that turning it clockwise shows it upright.
    lying = np.rot90(SHOWN)
    left, top = SIDE[1], SIDE[0]
    large[top : top + SIDE[0], left : left + SIDE[1]] = lying
    height, width = large.shape[:2]
    cut = [left / width, top / height, SIDE[1] / width, SIDE[0] / height]
    found = _found_in(intake, as_bytes(large), least=0.53, cut=cut, turn=90)
    expected = sorted(
        (name, [left + y0, top + SIDE[0] - x1, left + y1, top + SIDE[0] - x0])
        for name, (x0, y0, x1, y1) in _expected(least=0.53)
    )
    _same(found, expected)


def test_a_photograph_that_a_phone_took_on_its_side_has_its_boxes_where_it_is_shown():
    intake = _brought(detector("left, apart"), _pictures())
    upright = Image.fromarray(SHOWN).resize((8 * SIDE[0], 8 * SIDE[1]), Image.Resampling.NEAREST)
    exif = Image.Exif()
    exif[0x0112] = 6
    content = io.BytesIO()
    upright.transpose(Image.Transpose.ROTATE_90).save(content, "JPEG", quality=95, subsampling=0, exif=exif)
    # So large a photograph is decoded smaller; its boxes are not.
    found = _found_in(intake, content.getvalue(), least=0.65)
    expected = [(name, (8 * np.array(box)).tolist()) for name, box in _expected(least=0.65)]
    assert [name for name, _ in found] == [name for name, _ in expected]
    np.testing.assert_allclose([box for _, box in found], [box for _, box in expected], atol=1)


@pytest.mark.parametrize("fit", ["stretch", "border", "crop"])
@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_a_point_that_is_seen_is_found_again_in_the_picture(fit: str, turn: int):
    """One bright spot in a dark photograph, decoded small, cut out, turned and fitted: the frame leads back to it."""
    preparation = Preparation(width=64, height=48, fit=fit)
    picture = np.zeros((600, 1000, 3), dtype="uint8")
    picture[300:330, 480:520] = 255
    value = {"content": as_bytes(picture), "preparation": preparation.model_dump(), "turn": turn}
    prepared = Preparer()({**value, "cut": [0.2, 0.1, 0.7, 0.8]})
    bright = np.argwhere(prepared.seen[:, :, 0] > 127)
    (top, left), (bottom, right) = bright.min(axis=0), bright.max(axis=0) + 1
    found = prepared.frame.in_given(np.array([[left, top, right, bottom]]))
    # As exact as a pixel of what is seen.
    np.testing.assert_allclose(found[0], [480, 300, 520, 330], atol=18)
    assert prepared.frame.full == (1000, 600)


def test_what_lies_in_the_border_alone_lies_outside_the_picture():
    preparation = Preparation(width=100, height=100, fit="border")
    frame = Frame((200, 100), (200, 100), (0, 0, 200, 100), 0, placed((200, 100), preparation))
    corners = np.array([[10.0, 0, 30, 20], [10, 20, 30, 40]])
    found = frame.in_given(corners)
    assert (found[0, 3] - found[0, 1], found[1].tolist()) == (0, [20, 0, 60, 30])


def test_of_boxes_over_one_another_the_best_of_each_kind_stays_and_lower_scores_change_nothing_above():
    random = np.random.default_rng(3)
    low = random.uniform(0, 80, (400, 2))
    rows = np.column_stack(
        [low, low + random.uniform(5, 40, (400, 2)), random.uniform(0, 1, 400), random.integers(0, 3, 400)]
    )
    candidates = read_candidates({"out": rows}, ROW, width=100, height=100)
    kept = suppressed(candidates, overlap=0.4, most=400)
    assert (np.diff(kept.scores) <= 0).all()
    plain: list[int] = []
    for at in np.argsort(-rows[:, 4]):
        same = [one for one in plain if rows[one, 5] == rows[at, 5]]
        if not same or overlaps(rows[at, :4], rows[same, :4]).max() <= 0.4:
            plain.append(int(at))
    np.testing.assert_array_equal(kept.corners, rows[plain, :4])
    above = suppressed(candidates.among(candidates.scores >= 0.5), overlap=0.4, most=400)
    np.testing.assert_array_equal(above.corners, kept.corners[kept.scores >= 0.5])


def test_boxes_without_numbers_outside_and_by_the_hundred_thousand_are_told_apart():
    frame = Frame((100, 100), (100, 100), (0, 0, 100, 100), 0, placed((100, 100), Preparation(width=100, height=100)))
    good = [10.0, 10, 30, 30, 0.9, 0]
    rows = np.array(
        [good, [*good[:4], np.nan, 0], [np.inf, *good[1:]], [150, 150, 190, 190, 0.8, 1], [80, 80, 900, 900, 0.7, 1]]
    )
    found = find_boxes({"out": rows}, ROW, seen=(100, 100), frame=frame, least_score=0.1)
    assert (found.n_without, found.n_outside, found.is_cut) == (2, 1, False)
    assert found.corners.tolist() == [[10, 10, 30, 30], [80, 80, 100, 100]]
    random = np.random.default_rng(0)
    low = random.uniform(0, 90, (100_000, 2))
    many = np.column_stack([low, low + 2, random.uniform(0, 1, 100_000), np.zeros(100_000)])
    found = find_boxes({"out": many}, ROW, seen=(100, 100), frame=frame, least_score=0.0)
    assert (len(found.scores), found.is_cut) == (300, True)
    assert found.scores.tolist() == sorted(many[:, 4], reverse=True)[:300]


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"boxes": "nothing"}, "names the output `nothing`; the model has `out`, `scores`"),
        ({"box_at": 9}, "`out` has 6 numbers a candidate"),
        ({"score_at": None, "class_at": None, "classes_from": 40}, "41 are needed"),
        ({"scores": "scores"}, "has other scores in `scores` than boxes"),
    ],
)
def test_a_reading_that_does_not_fit_says_in_what_way(changes: dict[str, object], words: str):
    outputs = {"out": np.zeros((5, 6)), "scores": np.zeros((7, 2))}
    with pytest.raises(ModelFailed, match=words):
        read_candidates(outputs, BoxReading.model_validate({**ROW.model_dump(), **changes}), width=10, height=10)


def test_a_detector_whose_outputs_fit_no_reading_is_refused_with_what_it_gives():
    """Raw maps of several sizes, before any decoding."""
    from onnx import TensorProto, helper

    nodes = [
        helper.make_node("AveragePool", ["images"], ["half"], kernel_shape=[8, 8], strides=[8, 8]),
        helper.make_node("AveragePool", ["images"], ["quarter"], kernel_shape=[16, 16], strides=[16, 16]),
    ]
    outputs = [
        helper.make_tensor_value_info("half", TensorProto.FLOAT, [1, 3, 12, 16]),
        helper.make_tensor_value_info("quarter", TensorProto.FLOAT, [1, 3, 6, 8]),
    ]
    images = helper.make_tensor_value_info("images", TensorProto.FLOAT, [1, 3, SIDE[1], SIDE[0]])
    model = helper.make_model(
        helper.make_graph(nodes, "maps", [images], outputs), opset_imports=[helper.make_opsetid("", 17)], ir_version=8
    )
    with pytest.raises(ModelNotOpened, match=r"`half` \(any × 3 × 12 × 16, float\)"):
        _brought(model.SerializeToString())


def test_a_table_beside_a_detector_helps_nobody_and_its_pictures_need_no_folders():
    intake = _brought(detector("left, apart"), _pictures(2))
    assert intake.inspection.boxes.n_pictures == 2
    with pytest.raises(MismatchFaults, match="cut off, damaged"):
        _brought(detector("left, apart"), _pictures(2)[:-200])


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF"])
def test_the_picture_with_its_boxes_stays_in_its_format_and_size(kind: str):
    image = Image.new("RGB", (200, 120), (200, 180, 160))
    drawn = draw_boxes(image, [BoxToDraw(20, 30, 80, 60, "crack 82", colour_of(0, ""))])
    content, type_ = as_file(drawn, kind)
    again = Image.open(io.BytesIO(content))
    assert (again.format, again.size, type_) == (kind, (200, 120), f"image/{kind.lower()}")
    changed = np.abs(np.asarray(again.convert("RGB"), dtype=int) - np.array([200, 180, 160])).max(axis=2) > 60
    # Its lines, and nothing far from it.
    assert changed[60, 18:24].any()
    assert not changed[100:, 140:].any()
    assert not changed[45:75, 40:80].any()


def test_words_above_a_box_are_whole_wherever_between_pixels_it_lies():
    def letters(y: float) -> int:
        drawn = np.asarray(draw_boxes(Image.new("RGB", (320, 240)), [BoxToDraw(50, y, 60, 40, "71", colour_of(0, ""))]))
        return int((np.abs(drawn[: int(y) - 3, 52:75].astype(int) - [32, 48, 47]).max(axis=2) < 40).sum())

    assert {letters(60 + part) for part in (0.0, 0.2, 0.4)} == {letters(60)}


def test_a_score_that_single_precision_rounds_down_is_none_that_was_asked_for():
    """0.7 is a little less in 32 bits: it must not come back as an answer to "0.7 or more"."""
    rows = np.array([[10, 10, 30, 30, 0.7, 0], [40, 40, 60, 60, 0.75, 0]], dtype="float32")
    frame = Frame((100, 100), (100, 100), (0, 0, 100, 100), 0, placed((100, 100), Preparation(width=100, height=100)))
    found = find_boxes({"out": rows}, ROW, seen=(100, 100), frame=frame, least_score=0.7)
    assert found.scores.tolist() == [0.75]
