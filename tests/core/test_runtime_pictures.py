"""Pictures in a browser: prepared, cut out, covered and drawn to the bit as here, described and explained alike."""

import base64
import io
import json
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from plain_window.core.explain.groups import GroupContributions
from plain_window.core.explain.patches import PatchGrid
from plain_window.core.pictures.preparation import as_input, as_seen
from plain_window.core.pictures.preparer import image_of
from plain_window.core.pictures.settings import Preparation
from plain_window.core.pictures.strokes import draw_strokes
from plain_window.core.trust.likeness import describe_picture

READER = Path(__file__).parents[1] / "pictures.mjs"
MOST_SIDE = 90


def any_preparation(rng: np.random.Generator) -> Preparation:
    colour = str(rng.choice(["colour", "grey"]))
    scale = str(rng.choice(["0..255", "0..1", "-1..1", "spread"]))
    numbers = (3 if colour == "colour" else 1) if scale == "spread" else 0
    width, height = rng.integers(1, MOST_SIDE, 2).tolist()
    return Preparation.model_validate(
        {
            "width": width,
            "height": height,
            "own_size": bool(rng.random() < 0.3),
            "multiple": int(rng.choice([1, 8, 32])),
            "fit": str(rng.choice(["stretch", "border", "crop"])),
            "border": rng.integers(0, 256, 3).tolist(),
            "colour": colour,
            "trained_on": str(rng.choice(["any", "light on dark", "dark on light"])),
            "scale": scale,
            "mean": rng.uniform(0.05, 0.95, numbers).tolist(),
            "spread": rng.uniform(0.05, 0.95, numbers).tolist(),
            "order": str(rng.choice(["rgb", "bgr"])),
            "layout": str(rng.choice(["channels first", "channels last", "flat"])),
            "batch": bool(rng.random() < 0.5),
        }
    )


def any_picture(rng: np.random.Generator) -> np.ndarray:
    """Noise, a plain ground, or something drawn on one: what resizing and turning tell apart."""
    height, width = rng.integers(1, MOST_SIDE, 2).tolist()
    kind = rng.choice(["noise", "plain", "drawn"])
    if kind == "noise":
        return rng.integers(0, 256, (height, width, 3), dtype="uint8")
    picture = np.full((height, width, 3), rng.integers(0, 256, 3), dtype="uint8")
    if kind == "drawn":
        picture[height // 3 : height // 2 + 1, width // 4 : width // 2 + 1] = rng.integers(0, 256, 3)
    return picture


def any_strokes(rng: np.random.Generator) -> list[list[list[float]]]:
    """Some points say how hard the pen was pressed, some lie beside the paper."""
    return [
        [
            [*rng.uniform(-0.2, 1.2, 2).tolist(), *(rng.uniform(-0.1, 1.1, 1).tolist() if rng.random() < 0.5 else [])]
            for _ in range(rng.integers(1, 12))
        ]
        for _ in range(rng.integers(1, 5))
    ]


def told_by_the_runtime(questions: list[dict[str, Any]]) -> list[dict[str, Any]]:
    asked = json.dumps(questions)
    done = subprocess.run(["node", str(READER)], input=asked, capture_output=True, text=True, check=True)
    told: list[dict[str, Any]] = json.loads(done.stdout)
    return told


def pixels(picture: np.ndarray) -> dict[str, Any]:
    height, width, channels = picture.shape
    data = base64.b64encode(picture.tobytes()).decode("ascii")
    return {"width": width, "height": height, "channels": channels, "data": data}


def array_in(text: str, type_: str, shape: Any = -1) -> np.ndarray:
    return np.frombuffer(base64.b64decode(text), type_).reshape(shape)


def assert_prepared_the_same(asked: list[tuple[np.ndarray, Preparation]]) -> None:
    questions = [
        {"is": "prepared", **pixels(picture), "preparation": preparation.model_dump()} for picture, preparation in asked
    ]
    for (picture, preparation), told in zip(asked, told_by_the_runtime(questions), strict=True):
        seen = as_seen(picture, preparation)
        there = array_in(told["seen"], "uint8", told["size"])
        np.testing.assert_array_equal(there, seen, err_msg=f"{picture.shape} as {preparation}")
        put_in = as_input(seen, preparation)
        input_there = array_in(told["input"], "float32", told["shape"])
        np.testing.assert_array_equal(input_there, put_in, strict=True)


@pytest.mark.parametrize("seed", range(4))
def test_any_picture_prepared_in_any_way_is_the_same_to_the_bit(seed):
    rng = np.random.default_rng(seed)
    assert_prepared_the_same([(any_picture(rng), any_preparation(rng)) for _ in range(150)])


def test_a_photograph_of_millions_is_the_same_to_the_bit():
    """Those are resized on two cores here; what loses most of its height goes down first, as in one go."""
    rng = np.random.default_rng(3)
    wide = np.kron(rng.integers(0, 256, (30, 40, 3)), np.ones((40, 40, 1))).astype("uint8")
    tall = np.kron(rng.integers(0, 256, (100, 20, 3)), np.ones((20, 40, 1))).astype("uint8")
    squeezed = Preparation(width=760, height=40)
    assert_prepared_the_same(
        [
            (wide, Preparation(width=224, height=224, fit="crop")),
            (wide, Preparation(width=224, height=224, fit="border")),
            (tall, squeezed),
        ]
    )
    in_one_go = Image.fromarray(tall).resize((760, 40), Image.Resampling.BILINEAR)
    np.testing.assert_array_equal(as_seen(tall, squeezed), np.asarray(in_one_go))


def test_grey_is_rounded_to_the_nearest_and_from_the_middle_to_the_even_one():
    """The third lies in the middle: 250 of blue alone are 28.5."""
    picture = np.array([[[5, 5, 5], [10, 10, 15], [0, 0, 250], [250, 0, 0]]], dtype="uint8")
    seen = as_seen(picture, Preparation(width=4, height=1, colour="grey"))
    assert seen[0, :, 0].tolist() == [5, 11, 28, 75]


@pytest.mark.parametrize("seed", range(4))
def test_any_strokes_are_drawn_the_same_to_the_bit(seed):
    rng = np.random.default_rng(seed)
    questions = []
    for _ in range(40):
        strokes = any_strokes(rng)
        pen = {
            "line_width": float(rng.choice([0.001, 0.002, 0.01, 0.04, 0.11, 0.3])),
            "centred": bool(rng.random() < 0.5),
            "paper": rng.integers(0, 256, 3).tolist(),
        }
        keep = rng.random(len(strokes)) < 0.7
        questions.append(
            {"is": "drawn", "strokes": strokes, "pen": pen, "keep": keep.tolist() if rng.random() < 0.5 else None}
        )
    for question, told in zip(questions, told_by_the_runtime(questions), strict=True):
        drawn = np.asarray(draw_strokes(question["strokes"], **question["pen"], keep=question["keep"]))
        there = array_in(told["drawn"], "uint8", drawn.shape)
        np.testing.assert_array_equal(there, drawn, err_msg=str(question["pen"]))


@pytest.mark.parametrize("seed", range(2))
def test_any_part_of_a_picture_turned_any_way_is_the_same_to_the_bit(seed):
    rng = np.random.default_rng(seed)
    questions, here = [], []
    for _ in range(100):
        picture = any_picture(rng)
        left, top, width, height = rng.choice([rng.uniform(0.001, 0.999, 4), np.array([0, 0, 1, 1])]).tolist()
        turn = int(rng.choice([0, 90, 180, 270]))
        cut = {"left": left, "top": top, "width": width, "height": height}
        questions.append({"is": "cut", **pixels(picture), "cut": cut, "turn": turn})
        content = io.BytesIO()
        Image.fromarray(picture).save(content, "PNG")
        given = {"content": content.getvalue(), "cut": list(cut.values()), "turn": turn, "full": True}
        here.append(np.asarray(image_of({**given, "preparation": {"width": 9, "height": 9}})))
    for picture, told in zip(here, told_by_the_runtime(questions), strict=True):
        np.testing.assert_array_equal(array_in(told["data"], "uint8", told["size"]), picture)


def test_pictures_are_described_alike_but_for_the_last_digits():
    rng = np.random.default_rng(5)
    seen = [picture[:, :, : rng.choice([1, 3])] for picture in (any_picture(rng) for _ in range(80))]
    told = told_by_the_runtime([{"is": "described", **pixels(picture)} for picture in seen])
    for picture, there in zip(seen, told, strict=True):
        # What varies by nothing there varies by its rounding in single precision here, and logarithms show that.
        np.testing.assert_allclose(there, describe_picture(picture), rtol=2e-4, atol=2e-4)


def test_the_same_patches_are_covered_by_the_same_colour():
    rng = np.random.default_rng(9)
    questions, here = [], []
    for _ in range(60):
        preparation = any_preparation(rng)
        seen, most = as_seen(any_picture(rng), preparation), int(rng.integers(2, 8))
        grid = PatchGrid.of(seen, preparation, most_across=most)
        shown = rng.random((3, grid.n_patches)) < 0.5
        asked = {"preparation": preparation.model_dump(), "most": most, "shown": shown.astype(int).tolist()}
        questions.append({"is": "patches", **pixels(seen), **asked})
        here.append((grid, grid.pictures(shown)))
    for (grid, inputs), told in zip(here, told_by_the_runtime(questions), strict=True):
        assert told["size"] == [grid.n_rows, grid.n_columns]
        for own, there in zip(inputs, told["inputs"], strict=True):
            np.testing.assert_array_equal(array_in(there, "float32"), own.reshape(-1))


@pytest.mark.parametrize(("n_parts", "most_pairs"), [(1, 700), (6, 700), (9, 100), (12, 700), (49, 700)])
def test_parts_are_asked_about_in_the_same_groups_and_found_to_contribute_the_same(n_parts, most_pairs):
    weights = np.random.default_rng(n_parts).normal(size=(n_parts, n_parts)) * 0.2

    def ask(shown):
        given = shown.astype("float64")
        return 1 / (1 + np.exp(1 - given @ weights.sum(axis=1) - np.einsum("bi,ij,bj->b", given, weights, given)))

    game = {"weights": weights.tolist(), "seed": 7, "at_once": 50, "most_pairs": most_pairs}
    (told,) = told_by_the_runtime([{"is": "game", **game}])
    own = GroupContributions(ask, n_parts, seed=7, most_pairs=most_pairs)
    states = [own.state]
    while not own.is_done:
        own.advance(50)
        states.append(own.state)
    assert len(states) == len(told)
    for here, there in zip(states, told, strict=True):
        assert (here.method, here.n_asked, here.is_done) == (there["method"], there["nAsked"], there["isDone"])
        np.testing.assert_allclose(there["contributions"], here.contributions, rtol=0, atol=1e-9)
        np.testing.assert_allclose(
            np.array(there["covariance"], "float64").reshape(n_parts, n_parts), here.covariance, rtol=1e-6, atol=1e-9
        )
