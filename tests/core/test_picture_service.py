"""What is said of a model that looks at pictures, however slow that is."""

import time

import numpy as np
import pytest

from plain_window.core.contract import FieldFacts, ModelFacts
from plain_window.core.contract.requests import ExplainRequest, OverallRequest, RegionsRequest
from plain_window.core.model_service.backends import PictureBackend
from plain_window.core.model_service.pictures import PictureExplainer
from plain_window.core.pictures.settings import Preparation

PREPARATION = Preparation(width=32, height=32)
ROW = {"picture": {"preparation": PREPARATION.model_dump()}}
FACTS = ModelFacts("class", 2, (FieldFacts("picture", "picture"),))
LOOK = RegionsRequest(row=ROW, field="picture")


class Slow:
    """Two classes by how light a picture is, after some thought about each."""

    def __init__(self, seconds: float) -> None:
        self._seconds = seconds

    def predict(self, pictures, table):
        light = np.array([float(np.mean(picture)) for picture in pictures["look"]])
        time.sleep(self._seconds * len(light))
        return np.column_stack([light, 1 - light])


class HeldUp(Slow):
    """Quick, but for the first call, which waits for others."""

    def predict(self, pictures, table):
        answers = super().predict(pictures, table)
        self._seconds = 0.0
        return answers


def explainer(seconds: float, kind: type[Slow] = Slow) -> PictureExplainer:
    return PictureExplainer(PictureBackend(kind(seconds), {"picture": "look"}, []), FACTS, None)


@pytest.mark.parametrize(("seconds", "n_patches"), [(0.0, 49), (0.06, 25), (0.3, 4)])
def test_a_slow_model_gets_fewer_and_larger_patches(seconds, n_patches):
    said = explainer(seconds).regions(LOOK)
    # A busy machine may be slower than the model by itself.
    assert 4 <= len(said.contributions) <= n_patches
    assert said.method == "sketch"
    if seconds == 0:
        assert len(said.contributions) == 49


def test_a_model_too_slow_for_any_says_so_and_still_answers():
    slow = explainer(0.8)
    assert slow.regions(LOOK).reason == "too-slow"
    assert len(slow.explain(ExplainRequest(row=ROW)).outputs) == 2


def test_a_model_is_not_called_slow_for_one_call_that_waited():
    assert len(explainer(0.8, HeldUp).regions(LOOK).contributions) == 49


def test_asking_ends_after_so_many_groups_however_unsure_it_is():
    look = explainer(0.1)
    said = look.regions(LOOK)
    while not said.is_done:
        said = look.regions(LOOK)
    # Twenty seconds at a tenth of a second each, or fewer on a busy machine.
    assert said.n_asked <= 240


def test_what_is_not_worked_out_for_pictures_is_said():
    assert explainer(0.0).overall(OverallRequest(of=0)).reason == "not-for-pictures"
