"""Pictures prepared and strokes drawn in a browser: what a model sees there is what it sees here, to the bit."""

import base64
import json
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from plain_window.core.pictures.preparation import as_input, as_seen
from plain_window.core.pictures.settings import Preparation
from plain_window.core.pictures.strokes import draw_strokes

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


def assert_prepared_the_same(asked: list[tuple[np.ndarray, Preparation]]) -> None:
    questions = [
        {
            "width": picture.shape[1],
            "height": picture.shape[0],
            "data": base64.b64encode(picture.tobytes()).decode("ascii"),
            "preparation": preparation.model_dump(),
        }
        for picture, preparation in asked
    ]
    for (picture, preparation), told in zip(asked, told_by_the_runtime(questions), strict=True):
        seen = as_seen(picture, preparation)
        there = np.frombuffer(base64.b64decode(told["seen"]), "uint8").reshape(told["size"])
        np.testing.assert_array_equal(there, seen, err_msg=f"{picture.shape} as {preparation}")
        put_in = as_input(seen, preparation)
        input_there = np.frombuffer(base64.b64decode(told["input"]), "float32").reshape(told["shape"])
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
        questions.append({"strokes": strokes, "pen": pen, "keep": keep.tolist() if rng.random() < 0.5 else None})
    for question, told in zip(questions, told_by_the_runtime(questions), strict=True):
        drawn = np.asarray(draw_strokes(question["strokes"], **question["pen"], keep=question["keep"]))
        there = np.frombuffer(base64.b64decode(told["drawn"]), "uint8").reshape(drawn.shape)
        np.testing.assert_array_equal(there, drawn, err_msg=str(question["pen"]))
