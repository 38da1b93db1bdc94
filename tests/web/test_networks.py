"""Networks of PyTorch and Keras, with the real libraries: a gigabyte, so only with `./plainwindow test --all`."""

import json
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pandas as pd
import pytest
from PIL import Image

from ..core.test_functions import zipped
from ..studio import Studio
from .helpers import problem
from .tables import as_csv, ended

pytestmark = pytest.mark.large

REQUIREMENTS = "torch==2.13.0\nonnx\nonnxscript\nsafetensors\nkeras\n"
BUILD_SECONDS = 900.0
# Of the converted network, at most.
MOST_DIFFERENT = 1e-4
CODE = """
import torch


class Glaze(torch.nn.Module):
    classes = ["even", "pinholes", "crawling"]

    def __init__(self):
        super().__init__()
        self.look = torch.nn.Conv2d(3, 8, 3, padding=1)
        self.pool = torch.nn.AdaptiveAvgPool2d(1)
        self.name = torch.nn.Linear(8, 3)

    def forward(self, x):
        return torch.softmax(self.name(self.pool(torch.relu(self.look(x))).flatten(1)), 1)


class Weighed(torch.nn.Module):
    def __init__(self):
        super().__init__()
        self.look, self.weigh = torch.nn.Conv2d(3, 4, 3), torch.nn.Linear(4 + 2, 3)
        self.example_input_array = {"kiln": torch.rand(1, 2), "tile": torch.rand(1, 3, 32, 32)}

    def forward(self, tile, kiln):
        looked = torch.relu(self.look(tile)).mean((2, 3))
        return torch.softmax(self.weigh(torch.cat([looked, kiln], 1)), 1)


class Branching(torch.nn.Module):
    def __init__(self):
        super().__init__()
        self.low, self.high = torch.nn.Linear(4, 3), torch.nn.Linear(4, 3)

    def forward(self, x):
        return torch.softmax(self.high(x) if float(x.mean()) > 0.2 else self.low(x), 1)
"""
SAVE = """
import json, os, site, sys
sys.path.append(sys.argv[1]); site.addsitedir(sys.argv[1]); os.chdir(sys.argv[2])
os.environ["KERAS_BACKEND"] = "torch"
import torch, keras, numpy as np
from safetensors.torch import save_file
torch.manual_seed(3); keras.utils.set_random_seed(3)
sys.path.insert(0, sys.argv[2])
import glaze_network as code
Glaze, Branching = code.Glaze, code.Branching
picture, row = torch.from_numpy(np.load("picture.npy")), torch.from_numpy(np.load("row.npy"))
glaze, branching, weighed = Glaze().eval(), Branching().eval(), code.Weighed().eval()
torch.save(weighed, "weighed.pt")
torch.save({"epoch": 7, "state_dict": {f"module.{k}": v for k, v in glaze.state_dict().items()}}, "weights.pt")
save_file(glaze.state_dict(), "weights.safetensors")
torch.jit.script(glaze).save("scripted.pt")
batch = {0: torch.export.Dim("batch")}
torch.export.save(torch.export.export(glaze, (torch.rand(2, 3, 32, 32),), dynamic_shapes=(batch,)), "exported.pt2")
torch.save(branching.state_dict(), "branching.pt")
layers = [keras.layers.Rescaling(1 / 255), keras.layers.Conv2D(4, 3, activation="relu"),
          keras.layers.GlobalAveragePooling2D(), keras.layers.Dense(3, activation="softmax")]
# As a training script has its classes, and as a module of somebody's own has them.
torch.save(glaze, "by_module.pt")
Glaze.__module__ = "__main__"
torch.save(glaze, "pickled.pt")
network = keras.Sequential([keras.Input((32, 32, 3)), *layers])
network.save("network.keras"); network.save("network.h5")
with torch.no_grad():
    print(json.dumps({
        "glaze": glaze(picture).tolist()[0],
        "branching": branching(row).tolist()[0],
        "weighed": weighed(picture, row[:, :2]).tolist()[0],
        "keras": np.asarray(network(picture.permute(0, 2, 3, 1) * 255).detach()).tolist()[0],
    }))
"""


@pytest.fixture(scope="module")
def saved(studio: Studio, key: str, tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, dict[str, list[float]]]:
    """Files saved by the libraries of an environment, and what the networks in them say of a picture or a row."""
    folder = tmp_path_factory.mktemp("networks")
    with studio.client(key=key) as author:
        sent = author.post("/api/v1/environments", files={"requirements": ("r.txt", REQUIREMENTS.encode())})
        if sent.status_code == 202:
            job = ended(author, sent, seconds=BUILD_SECONDS)
            assert job["state"] == "done", job
        (made,) = (one for one in author.get("/api/v1/environments").json()["environments"] if "torch" in str(one))
    pixels = np.random.default_rng(5).integers(0, 256, (32, 32, 3)).astype("uint8")
    Image.fromarray(pixels).save(folder / "picture.png")
    np.save(folder / "picture.npy", (pixels.astype("float32") / 255).transpose(2, 0, 1)[None])
    np.save(folder / "row.npy", np.full((1, 4), 0.5, "float32"))
    (folder / "glaze_network.py").write_text(CODE)
    libraries = str(studio.home / "environments" / made["id"] / "libraries")
    done = subprocess.run(
        [sys.executable, "-S", "-P", "-c", SAVE, libraries, str(folder)], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return folder, json.loads(done.stdout.strip().splitlines()[-1])


@pytest.fixture
def patient(studio: Studio, key: str) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=studio.url, headers={"Authorization": f"Bearer {key}"}, timeout=240) as client:
        yield client


def bring(author: httpx.Client, model: Path, *, beside: bytes | None = None, **parts: Any) -> httpx.Response:
    files: dict[str, Any] = {"model": (model.name, model.read_bytes())}
    files |= {"beside": ("network.py", beside)} if beside is not None else {}
    files |= {"reference": ("rows.csv", parts.pop("reference"))} if "reference" in parts else {}
    return author.post("/api/v1/demos", files=files, data={"requirements": REQUIREMENTS, **parts})


def said_of(author: httpx.Client, slug: str, picture: bytes) -> dict[str, float]:
    asked = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", files={_picture_field(author, slug): picture})
    assert asked.status_code == 200, asked.text
    return {one["class"]: one["probability"] for one in asked.json()["answer"]["probabilities"]}


def _picture_field(author: httpx.Client, slug: str) -> str:
    (field,) = author.get(f"/api/v1/demos/{slug}").json()["fields"]
    return str(field["name"])


@pytest.mark.parametrize(
    ("name", "has_code", "library"),
    [
        ("pickled.pt", True, "PyTorch"),
        ("by_module.pt", True, "PyTorch"),
        ("weights.pt", True, "PyTorch"),
        ("weights.safetensors", True, "PyTorch"),
        ("scripted.pt", False, "PyTorch"),
        ("exported.pt2", False, "PyTorch"),
        ("network.keras", False, "Keras"),
        ("network.h5", False, "Keras"),
    ],
)
def test_a_network_becomes_onnx_once_and_says_the_same_from_then_on(
    patient: httpx.Client, saved: tuple[Path, dict[str, list[float]]], name: str, has_code: bool, library: str
):
    folder, expected = saved
    made = bring(patient, folder / name, beside=CODE.encode() if has_code else None, title=name)
    assert made.status_code == 201, made.text
    state = made.json()
    assert state["found"]["library"] == library
    assert state["found"]["running"].startswith("onnxruntime, converted from ")
    assert "compared with the original" in state["notes"][0]
    slug = state["slug"]
    (field,) = state["fields"]
    if field["preparation"]["width"] != 32:
        # Its size is open in the file; the picture is asked about as it is.
        field["preparation"] |= {"width": 32, "height": 32}
        change = {"fields": [{"name": field["name"], "preparation": field["preparation"]}]}
        assert patient.patch(f"/api/v1/demos/{slug}", json=change).status_code == 200
    found = list(said_of(patient, slug, (folder / "picture.png").read_bytes()).values())
    wanted = sorted(expected["keras" if library == "Keras" else "glaze"], reverse=True)
    np.testing.assert_allclose(found, wanted, atol=MOST_DIFFERENT)
    if has_code:
        assert set(said_of(patient, slug, (folder / "picture.png").read_bytes())) == {"even", "pinholes", "crawling"}
    patient.delete(f"/api/v1/demos/{slug}")


def test_one_of_several_inputs_says_by_an_example_what_it_takes(
    patient: httpx.Client, saved: tuple[Path, dict[str, list[float]]]
):
    folder, expected = saved
    rows = pd.DataFrame(np.random.default_rng(0).uniform(size=(60, 2)).round(2), columns=["heat", "wear"])
    made = bring(patient, folder / "weighed.pt", beside=CODE.encode(), reference=as_csv(rows), title="Weighed")
    assert made.status_code == 201, made.text
    state = made.json()
    assert state["found"]["running"].startswith("onnxruntime, converted from ")
    pictured, *numbers = sorted(state["fields"], key=lambda one: one["kind"] != "picture")
    assert [one["kind"] for one in (pictured, *numbers)] == ["picture", "number", "number"]
    form = {"inputs": json.dumps({one["name"]: 0.5 for one in numbers})}
    picture = {pictured["name"]: (folder / "picture.png").read_bytes()}
    asked = patient.post(f"/api/v1/demos/{state['slug']}/predictions?draft=1", data=form, files=picture).json()
    found = [one["probability"] for one in asked["answer"]["probabilities"]]
    np.testing.assert_allclose(found, sorted(expected["weighed"], reverse=True), atol=MOST_DIFFERENT)
    patient.delete(f"/api/v1/demos/{state['slug']}")


def test_what_onnx_would_say_otherwise_is_served_as_it_is(
    patient: httpx.Client, saved: tuple[Path, dict[str, list[float]]]
):
    folder, expected = saved
    rows = pd.DataFrame(np.random.default_rng(0).normal(size=(60, 4)).round(2), columns=["a", "b", "c", "d"])
    made = bring(patient, folder / "branching.pt", beside=CODE.encode(), reference=as_csv(rows), title="Branching")
    assert made.status_code == 201, made.text
    state = made.json()
    assert state["found"]["running"].startswith("PyTorch 2.13.0")
    assert "as ONNX its outputs differ by up to" in state["notes"][0]
    inputs = dict.fromkeys(rows.columns, 0.5)
    asked = patient.post(f"/api/v1/demos/{state['slug']}/predictions?draft=1", json={"inputs": inputs}).json()
    found = [one["probability"] for one in asked["answer"]["probabilities"]]
    np.testing.assert_allclose(found, sorted(expected["branching"], reverse=True), atol=1e-6)
    patient.delete(f"/api/v1/demos/{state['slug']}")


def test_what_it_lacks_is_said(patient: httpx.Client, saved: tuple[Path, dict[str, list[float]]]):
    folder, _ = saved
    alone = problem(bring(patient, folder / "pickled.pt"), 422)
    assert "`Glaze` was defined in the script or notebook that it was saved from" in alone["detail"]
    weights = problem(bring(patient, folder / "weights.safetensors"), 422)
    assert "Bring the Python file with the network's class `beside` it." in weights["detail"]
    other = zipped({"other.py": b"import torch\nclass Other(torch.nn.Linear):\n    pass\n"})
    unfit = problem(bring(patient, folder / "weights.pt", beside=other), 422)
    assert "fit no class of the file beside them" in unfit["detail"]
    without = patient.post("/api/v1/demos", files={"model": (folder / "pickled.pt").read_bytes()})
    assert without.status_code == 422
    assert without.json()["requirements"] == ["torch", "onnx", "onnxscript"]


def test_its_folder_makes_the_same_demo_again(patient: httpx.Client, saved: tuple[Path, dict[str, list[float]]]):
    folder, _ = saved
    slug = bring(patient, folder / "weights.pt", beside=CODE.encode(), title="Weights").json()["slug"]
    packed = patient.get(f"/api/v1/demos/{slug}/folder").content
    again = patient.post("/api/v1/demos", files={"folder": ("d.zip", packed)}, data={"slug": "weights-again"})
    assert again.status_code == 201, again.text
    assert again.json()["found"] == patient.get(f"/api/v1/demos/{slug}").json()["found"]
    for one in (slug, "weights-again"):
        patient.delete(f"/api/v1/demos/{one}")
