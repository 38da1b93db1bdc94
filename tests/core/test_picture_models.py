"""Models that look at pictures: what they take is read off, their answers are what onnxruntime says."""

import io
import zipfile

import numpy as np
import onnx
import onnxruntime
import pandas as pd
import pytest
from onnx import TensorProto, helper, numpy_helper
from PIL import Image
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LogisticRegression
from sklearn.pipeline import make_pipeline

from plain_window.core.errors import MismatchFaults, ModelNotOpened
from plain_window.core.formats.opening import open_model
from plain_window.core.intake.picture_inspection import inspect_picture_model
from plain_window.core.intake.without_table import as_picture_model, stand_in_lines
from plain_window.core.pictures.labelled import labelled_at, read_labelled
from plain_window.core.pictures.preparation import as_input, as_seen
from plain_window.core.pictures.settings import Preparation
from plain_window.core.pictures.strokes import draw_strokes

from ..made_models import dumped


def network(shape, *, end=None, n_out=3, type_=TensorProto.FLOAT, props=None, weights=None, beside=0):
    """A network that weighs the pixels it is given: shape as the file states it, names for open sizes."""
    size = int(np.prod([part if isinstance(part, int) else 8 for part in shape[1:]]))
    made = np.random.default_rng(1).normal(size=(size + beside, n_out)) * 0.2 if weights is None else weights
    nodes = [
        helper.make_node("Cast", ["look"], ["numbers"], to=TensorProto.FLOAT),
        helper.make_node("Flatten", ["numbers"], ["flat"]),
        helper.make_node("Concat", ["flat", "row"], ["all"], axis=1)
        if beside
        else helper.make_node("Identity", ["flat"], ["all"]),
        helper.make_node("MatMul", ["all", "weights"], ["scores"]),
        helper.make_node(end or "Identity", ["scores"], ["said"]),
    ]
    inputs = [helper.make_tensor_value_info("look", type_, shape)]
    if beside:
        inputs.append(helper.make_tensor_value_info("row", TensorProto.FLOAT, [None, beside]))
    graph = helper.make_graph(
        nodes,
        "plain",
        inputs,
        [helper.make_tensor_value_info("said", TensorProto.FLOAT, [None, n_out])],
        [numpy_helper.from_array(made.astype("float32"), "weights")],
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8)
    helper.set_model_props(model, props or {})
    onnx.checker.check_model(model)
    return model.SerializeToString()


def opened(content):
    return open_model(io.BytesIO(content))


def zipped(pictures):
    """Pictures by path as an archive."""
    content = io.BytesIO()
    with zipfile.ZipFile(content, "w") as archive:
        for path, pixels in pictures.items():
            one = io.BytesIO()
            Image.fromarray(pixels).save(one, "PNG")
            archive.writestr(path, one.getvalue())
    content.seek(0)
    return content


@pytest.mark.parametrize(
    ("shape", "expected"),
    [
        ([1, 3, 24, 32], ("channels first", "colour", 32, 24, True)),
        (["n", 1, 28, 28], ("channels first", "grey", 28, 28, True)),
        (["n", 24, 32, 3], ("channels last", "colour", 32, 24, True)),
        ([1, 28, 28], ("channels first", "grey", 28, 28, False)),
        ([16, 16, 3], ("channels last", "colour", 16, 16, False)),
    ],
)
def test_size_colours_and_layout_are_read_off_the_input(shape, expected):
    # Without an axis for several pictures all numbers of the first axis would be rows.
    weights = np.ones((int(np.prod([part for part in shape[1:] if isinstance(part, int)])), 1))
    (one,) = opened(network(shape, n_out=1, weights=weights)).pictures
    found = one.preparation
    assert (found.layout, found.colour, found.width, found.height, found.batch) == expected
    assert {"width", "height", "layout", "colour"} <= one.stated


def test_what_the_file_says_of_its_pixels_is_taken():
    props = {"Image.NominalPixelRange": "Normalized_1_1", "Image.BitmapPixelFormat": "Bgr8", "names": '["a", "b", "c"]'}
    model = opened(network([1, 3, 8, 8], props=props))
    assert (model.pictures[0].preparation.scale, model.pictures[0].preparation.order) == ("-1..1", "bgr")
    assert model.found.classes == ["a", "b", "c"]
    assert opened(network([1, 3, 8, 8], type_=TensorProto.UINT8)).pictures[0].preparation.scale == "0..255"


@pytest.mark.parametrize("end", [None, "Softmax", "LogSoftmax", "Sigmoid"])
def test_answers_are_onnxruntimes_and_softmax_is_applied_once(end):
    content = network(["n", 3, 8, 8], end=end)
    model = opened(content)
    seen = np.random.default_rng(0).integers(0, 256, (40, 8, 8, 3)).astype("uint8")
    given = [as_input(one, model.pictures[0].preparation) for one in seen]
    said = model.predict({"look": given}, None)
    (raw,) = onnxruntime.InferenceSession(content).run(None, {"look": np.concatenate(given)})
    if end in (None, "LogSoftmax"):
        exponents = np.exp(raw.astype("float64"))
        raw = exponents / exponents.sum(axis=1, keepdims=True)
    np.testing.assert_allclose(said, raw, rtol=1e-5, atol=1e-7)
    assert model.found.task == ("labels" if end == "Sigmoid" else "class")
    told = {None: "softmax is applied to them, once", "Softmax": "taken as they are", "LogSoftmax": "undone"}
    assert end == "Sigmoid" or told[end] in model.notes[-1]


def test_a_file_that_takes_one_picture_at_a_time_is_asked_one_by_one():
    content = network([1, 3, 8, 8])
    model = opened(content)
    given = [as_input(one, model.pictures[0].preparation) for one in np.zeros((5, 8, 8, 3), "uint8")]
    assert model.predict({"look": given}, None).shape == (5, 3)


def test_one_number_is_a_number():
    model = opened(network(["n", 3, 8, 8], n_out=1))
    inspection, _ = inspect_picture_model(model, None)
    assert (inspection.found.task, inspection.answer.kind) == ("number", "number")


def test_one_score_for_two_named_classes_goes_through_the_sigmoid_once():
    content = network(["n", 3, 8, 8], n_out=1)
    model = opened(content)
    inspection, _ = inspect_picture_model(model, None, labels=["cracked", "whole"])
    assert [wording.name for wording in inspection.answer.classes] == ["cracked", "whole"]
    assert "the sigmoid is applied to it, once" in inspection.notes[-1]
    given = as_input(np.full((8, 8, 3), 200, "uint8"), model.pictures[0].preparation)
    score = onnxruntime.InferenceSession(content).run(None, {"look": given})[0].item()
    whole = 1 / (1 + np.exp(-score))
    np.testing.assert_allclose(model.predict({"look": [given]}, None), [[1 - whole, whole]], rtol=1e-6)


@pytest.mark.parametrize("shape", [[1, 4, 16, 16], [1, 12, 3, 64, 64], [1, 7, 9, 11]])
def test_what_no_picture_fits_says_so(shape):
    with pytest.raises(ModelNotOpened, match="input `look`"):
        opened(network(shape))


def test_open_sizes_are_said_to_be_guessed():
    # Averaged over the picture, whatever its size.
    nodes = [helper.make_node("GlobalAveragePool", ["look"], ["mean"]), helper.make_node("Flatten", ["mean"], ["said"])]
    look = helper.make_tensor_value_info("look", TensorProto.FLOAT, ["n", 3, "h", "w"])
    said = helper.make_tensor_value_info("said", TensorProto.FLOAT, ["n", 3])
    graph = helper.make_graph(nodes, "plain", [look], [said])
    content = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8).SerializeToString()
    assert "width" not in opened(content).pictures[0].stated
    inspection, _ = inspect_picture_model(opened(content), None)
    assert any("leaves the size of its pictures open" in note for note in inspection.notes)


def red_or_blue(n=12):
    """A network that tells red from blue if it is given red first, from −1 to 1; and pictures of both."""
    rng = np.random.default_rng(0)
    weights = np.zeros((3 * 64, 2))
    # Only what is far above grey counts: numbers from 0 to 1 would always look red.
    weights[:64, 0], weights[128:, 1] = 1.0, 1.0
    weights[64:128, 0] = 1.3
    pictures = {}
    for at in range(n):
        pixels = rng.integers(0, 60, (8, 8, 3)).astype("uint8")
        outcome, channel = ("blue", 2) if at % 2 else ("red", 0)
        pixels[:, :, channel] += 140
        pictures[f"tiles/{outcome}/{at}.png"] = pixels
    props = {"classes": "red,blue"}
    return network(["n", 3, 8, 8], weights=weights, n_out=2, props=props), zipped(pictures)


def test_preparation_is_found_by_trying_it_on_known_pictures():
    content, known = red_or_blue()
    inspection, _ = inspect_picture_model(opened(content), None, known=known)
    best = inspection.pictures.tries[0]
    assert (best.n_right, best.n_tried) == (12, 12)
    assert best.preparation.order == "rgb"
    assert inspection.fields[0].preparation == best.preparation
    # Seven ways to make numbers of pixels, each with red and with blue first.
    assert len(inspection.pictures.tries) == 14
    assert inspection.questions == []
    assert any(one.n_right < 12 for one in inspection.pictures.tries)
    assert (inspection.pictures.n_right, inspection.pictures.n_known) == (12, 12)
    assert any("tried on 12 known pictures" in note for note in inspection.notes)


def test_how_pictures_are_prepared_is_a_guess_until_pictures_or_the_author_confirm_it():
    content, known = red_or_blue()
    (question,) = inspect_picture_model(opened(content), None)[0].questions
    assert question.name == "preparation"
    assert "is a guess: from 0 to 1, red first, stretched" in question.text
    # A handful of pictures, or pictures the model is wrong about, confirm nothing.
    few = zipped({f"{name}/1.png": np.zeros((8, 8, 3), "uint8") for name in ("red", "blue")})
    assert [one.name for one in inspect_picture_model(opened(content), None, known=few)[0].questions] == ["preparation"]
    told = {"picture": {"width": 8, "height": 8, "scale": "-1..1"}}
    inspection, _ = inspect_picture_model(opened(content), None, preparations=told)
    assert inspection.questions == []
    # The author's own way is measured, whatever would be better.
    worse = {"picture": {"width": 8, "height": 8, "scale": "-1..1", "order": "bgr"}}
    inspection, _ = inspect_picture_model(opened(content), None, known=known, preparations=worse)
    assert inspection.fields[0].preparation.order == "bgr"
    assert (inspection.pictures.n_right, inspection.pictures.tries[0].n_right) == (0, 12)
    assert inspection.evidence.right == 0


def test_a_network_of_photographs_is_found_out_whatever_is_taken_off_its_numbers():
    rng = np.random.default_rng(0)
    for mean, spread, order in (
        ([103.939 / 255, 116.779 / 255, 123.68 / 255], [1 / 255] * 3, "bgr"),
        ([0.4914, 0.4822, 0.4465], [0.247, 0.2435, 0.2616], "rgb"),
    ):
        trained_with = Preparation(width=8, height=8, scale="spread", mean=mean, spread=spread, order=order)
        images = [rng.integers(0, 256, (8, 8, 3)).astype("uint8") for _ in range(60)]
        inputs = np.array([as_input(as_seen(image, trained_with), trained_with).ravel() for image in images])
        weights = rng.normal(size=(inputs.shape[1], 4)) / np.abs(inputs).mean()
        places = (inputs @ weights).argmax(axis=1)
        known = zipped({f"{places[at]}/{at}.png": image for at, image in enumerate(images)})
        content = network(["n", 3, 8, 8], weights=weights.astype("float32"), n_out=4)
        inspection, _ = inspect_picture_model(opened(content), None, known=known)
        assert inspection.pictures.n_right == 60
        best = inspection.fields[0].preparation
        # Weights without a bias do not tell scales apart; what is taken off they do.
        assert (best.order, best.mean) == (order, pytest.approx(mean, abs=0.01))


@pytest.mark.parametrize("trained_on", ["light on dark", "dark on light"])
def test_what_a_model_of_drawings_was_trained_on_is_found_and_everything_reaches_it_so(trained_on):
    # Strokes across, or down: told by which ends are as bright as strokes are.
    across, down = np.zeros((8, 8), "float32"), np.zeros((8, 8), "float32")
    across[3:5, :2], down[:2, 3:5] = 1.0, 1.0
    sign = 1.0 if trained_on == "light on dark" else -1.0
    drawn = [np.full((8, 8, 3), 230, "uint8") for _ in range(12)]
    for at, sheet in enumerate(drawn):
        sheet[(slice(3, 5), slice(1, 7)) if at % 2 else (slice(1, 7), slice(3, 5))] = 20
    weights = np.stack([across.ravel(), down.ravel()], axis=1) * sign
    # Half of the known pictures come the other way round than the training's.
    known = zipped(
        {
            f"{'across' if at % 2 else 'down'}/{at}.png": 255 - sheet if at < 6 else sheet
            for at, sheet in enumerate(drawn)
        }
    )
    content = network(["n", 1, 8, 8], weights=weights, n_out=2, props={"classes": "across,down"})
    inspection, _ = inspect_picture_model(opened(content), None, known=known)
    preparation = inspection.fields[0].preparation
    assert (preparation.trained_on, inspection.pictures.n_right) == (trained_on, 12)
    line = [[[0.1, 0.5], [0.5, 0.5], [0.9, 0.5]]]
    for paper in ([255, 255, 255], [0, 0, 0], [30, 60, 30]):
        seen = as_seen(draw_strokes(line, line_width=0.2, paper=paper, side=64), preparation)[:, :, 0]
        assert (seen[4, 4] > seen[0, 0]) == (trained_on == "light on dark")


def test_folders_that_are_not_the_classes_are_named():
    content, _ = red_or_blue()
    known = zipped({"green/1.png": np.zeros((8, 8, 3), "uint8"), "red/1.png": np.zeros((8, 8, 3), "uint8")})
    with pytest.raises(MismatchFaults, match="`green`, `red`; the model's classes `red`, `blue`"):
        inspect_picture_model(opened(content), None, known=known)


@pytest.mark.parametrize(
    ("archive", "sentence"),
    [
        (io.BytesIO(b"PK\x03\x04 cut off"), "cut off, damaged or locked"),
        (zipped({}), "holds no pictures"),
        (zipped({"loose.png": np.zeros((2, 2, 3), "uint8")}), "lies in no folder"),
    ],
)
def test_archives_that_cannot_be_used_say_why(archive, sentence):
    with pytest.raises(MismatchFaults, match=sentence):
        inspect_picture_model(opened(red_or_blue()[0]), None, known=archive)


def test_a_row_may_stand_beside_the_picture():
    model = opened(network(["n", 3, 8, 8], beside=2))
    table = pd.DataFrame({"wall": [4.0, 7.5, 9.0] * 10, "peak": [1000.0, 1100.0, 1250.0] * 10})
    inspection, kept_rows = inspect_picture_model(model, table)
    assert [(field.name, field.kind) for field in inspection.fields] == [
        ("picture", "picture"),
        ("wall", "number"),
        ("peak", "number"),
    ]
    assert (inspection.n_reference_rows, kept_rows.n_rows) == (30, 30)
    with pytest.raises(MismatchFaults, match="Beside pictures the model takes 2 numbers"):
        inspect_picture_model(model, None)


def test_a_model_of_flattened_pixels_is_a_model_of_pictures():
    rng = np.random.default_rng(0)
    pixels, outcomes = rng.random((60, 64)), rng.integers(0, 2, 60)
    fitted = LogisticRegression().fit(pixels, outcomes)
    model = as_picture_model(opened(dumped(fitted)))
    preparation = model.pictures[0].preparation
    assert (preparation.width, preparation.height, preparation.layout) == (8, 8, "flat")
    seen = as_seen(np.full((8, 8, 3), 77, "uint8"), preparation)
    said = model.predict({"picture": [as_input(seen, preparation)]}, None)
    np.testing.assert_allclose(said, fitted.predict_proba(np.full((1, 64), np.float32(77 / 255))))
    odd = LogisticRegression().fit(pixels[:, :50], outcomes)
    with pytest.raises(MismatchFaults, match="takes rows of a table: 50 columns"):
        as_picture_model(opened(dumped(odd)))


def test_a_model_of_one_text_needs_no_table():
    lines = ["cold kiln", "cracked pot", "cold again", "pot fell"] * 5
    fitted = make_pipeline(TfidfVectorizer(), LogisticRegression()).fit(lines, ["kiln", "pot"] * 10)
    made = stand_in_lines(opened(dumped(fitted)))
    assert list(made.columns) == ["text"]
    assert set(" ".join(made["text"]).split()) == {"cold", "kiln", "cracked", "pot", "again", "fell"}


def test_a_preparation_that_cannot_be_is_refused():
    with pytest.raises(ValueError, match="1 numbers each"):
        Preparation(width=8, height=8, colour="grey", scale="spread", mean=[0.5] * 3, spread=[0.2] * 3)


# --- outputs that are no answer ---------------------------------------------------------------------------------------


def with_outputs(*outputs: tuple[str, list[int], int], steps: tuple[str, ...] = ()) -> bytes:
    """A network that answers every picture with constants of these names, shapes (-1 for the rows) and types."""
    nodes = [helper.make_node("Shape", ["look"], ["sizes"]), helper.make_node("Gather", ["sizes", "zero"], ["n"])]
    constants = [numpy_helper.from_array(np.array([0], "int64"), "zero")]
    infos = []
    for name, shape, type_ in outputs:
        rest = numpy_helper.from_array(np.array(shape[1:], "int64"), f"{name}_rest")
        constants.append(rest)
        value = helper.make_tensor("value", type_, [1], [1])
        if shape[0] == -1:
            nodes.append(helper.make_node("Concat", ["n", f"{name}_rest"], [f"{name}_shape"], axis=0))
        else:
            constants.append(numpy_helper.from_array(np.array(shape, "int64"), f"{name}_shape"))
        nodes.append(helper.make_node("ConstantOfShape", [f"{name}_shape"], [name], value=value))
        infos.append(helper.make_tensor_value_info(name, type_, [None if size == -1 else size for size in shape]))
    graph = helper.make_graph(
        nodes, "detector", [helper.make_tensor_value_info("look", TensorProto.FLOAT, [None, 3, 8, 8])], infos, constants
    )
    return helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8).SerializeToString()


FLOAT, INT = TensorProto.FLOAT, TensorProto.INT64
NO_ANSWERS = {
    "a row a thing, too short for a box": ([("found", [7, 4], FLOAT)], "`found` has not one row for each row"),
    "points": ([("points", [-1, 20, 3], FLOAT)], "`points` has 20 × 3"),
    "kinds beside scores": ([("scores", [-1, 20], FLOAT), ("kinds", [-1, 9], INT)], "`kinds` names several classes"),
    "two tables": ([("left", [-1, 5], FLOAT), ("right", [-1, 7], FLOAT)], "which of them is the answer"),
}


@pytest.mark.parametrize("name", NO_ANSWERS)
def test_outputs_that_fit_no_reading_are_refused_with_what_was_seen(name):
    outputs, why = NO_ANSWERS[name]
    with pytest.raises(ModelNotOpened, match=why) as caught:
        opened(with_outputs(*outputs))
    for output, shape, _ in outputs:
        sizes = " × ".join(["any", *map(str, shape[1:])])
        assert f"`{output}` ({sizes}, " in str(caught.value)


def test_of_several_outputs_the_one_that_is_called_an_answer_is_it():
    model = opened(with_outputs(("features", [-1, 64], FLOAT), ("logits", [-1, 4], FLOAT)))
    assert (model.found.task, len(model.found.classes)) == ("class", 4)


def test_a_picture_of_an_archive_is_found_by_its_place_whatever_could_not_be_read():
    archive = zipped({f"{name}.png": np.full((4, 4, 3), at, "uint8") for at, name in enumerate(("red/b", "blue/a"))})
    with zipfile.ZipFile(archive, "a") as more:
        more.writestr("blue/broken.png", b"no picture")
        more.writestr("__MACOSX/red/.b.png", b"beside it")
    every = read_labelled(archive)
    assert [(one.outcome, one.name) for one in every] == [("blue", "a.png"), ("blue", "broken.png"), ("red", "b.png")]
    assert [labelled_at(archive, place) for place in range(4)] == [*every, None]
    assert labelled_at(archive, -1) is None
    assert labelled_at(io.BytesIO(b"PK\x03\x04 cut off"), 0) is None
