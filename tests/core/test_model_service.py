"""A model with all that is said beside its answers, asked without a process around it."""

import io

import numpy as np
import pytest

from plain_window.core.contract import (
    AmongReply,
    ExplainReply,
    Missing,
    ModelFacts,
    OverallReply,
    PredictReply,
    Raised,
    ReplyMatcher,
)
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.contract.kept_rows import read_kept_rows, write_kept_rows
from plain_window.core.contract.requests import (
    AmongRequest,
    ChangesWanted,
    ExplainRequest,
    FieldMayChange,
    OverallRequest,
    PredictRequest,
    RegionsRequest,
)
from plain_window.core.intake.opening import take_in
from plain_window.core.intake.reopening import Intake, reopen
from plain_window.core.model_service.backends import Backend
from plain_window.core.model_service.service import ModelService, compiled_service

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings

TABLE = firings(300)
MODEL = classifier_pipeline(TABLE)
ROWS = [
    {name: value.item() if hasattr(value, "item") else value for name, value in row.items()}
    for row in TABLE[FEATURES].head(20).to_dict("records")
]


@pytest.fixture(scope="module")
def taken_in() -> Intake:
    files = {"model": io.BytesIO(dumped(MODEL)), "reference": io.BytesIO(csv(TABLE.drop(columns="kwh")))}
    return take_in(files, OpenFile(target="outcome"))


@pytest.fixture(scope="module")
def facts(taken_in: Intake) -> ModelFacts:
    return ModelFacts.of_inspection(taken_in.inspection.model_dump_json().encode())


@pytest.fixture(scope="module")
def service(taken_in: Intake, facts: ModelFacts) -> ModelService:
    made = compiled_service(taken_in.compiled, facts, read_kept_rows(write_kept_rows(taken_in.kept_rows)))
    made.warm_up()
    return made


def test_requests_that_came_together_each_get_their_own_rows(service, facts):
    requests = [PredictRequest(rows=ROWS[:3]), PredictRequest(rows=ROWS[3:4]), PredictRequest(rows=ROWS[4:20])]
    replies = service.predict(requests)
    for request, reply in zip(requests, replies, strict=True):
        ReplyMatcher.of(facts).check_predicted(reply, n_rows=len(request.rows))
    expected = MODEL.predict_proba(TABLE[FEATURES].head(20))
    np.testing.assert_array_equal(np.concatenate([reply.outputs.rows() for reply in replies]), expected)


def test_a_row_the_model_cannot_take_fails_nobody_else(service):
    stranger = {**ROWS[0], "kiln": "a kiln nobody has"}
    replies = service.predict([PredictRequest(rows=ROWS[:1]), PredictRequest(rows=[stranger])])
    assert isinstance(replies[0], PredictReply)
    assert isinstance(replies[1], Raised)


def test_the_library_and_the_compiled_model_say_the_same(taken_in, service):
    by_library = taken_in.service(background_rows=100)
    asked = [PredictRequest(rows=ROWS)]
    assert by_library.predict(asked)[0].outputs.rows() == service.predict(asked)[0].outputs.rows()


def test_an_inspection_is_enough_to_open_the_model_again(taken_in, service):
    files = {"model": io.BytesIO(dumped(MODEL))}
    again = reopen(files, taken_in.inspection.model_dump_json().encode(), taken_in.kept_rows)
    asked = [PredictRequest(rows=ROWS)]
    assert (
        again.service(background_rows=50).predict(asked)[0].outputs.rows() == service.predict(asked)[0].outputs.rows()
    )


def test_what_explains_an_answer_adds_up_to_it(service, facts):
    may_change = {field.name: FieldMayChange(step=1.0) for field in facts.fields}
    request = ExplainRequest(
        row=ROWS[0], explanation=True, curves=True, similar=True, changes=ChangesWanted(fields=may_change)
    )
    reply = service.answer(request)
    assert isinstance(reply, ExplainReply)
    ReplyMatcher.of(facts).check_explained(reply, of=None)
    explained = reply.explanation
    assert explained.baseline + sum(explained.contributions.values()) == pytest.approx(
        reply.outputs[reply.of], abs=1e-9
    )
    assert set(reply.curves) == facts.names
    assert len(reply.similar) == 5
    assert all(np.argmax(way.outputs) != np.argmax(reply.outputs) for way in reply.changes.ways)


def test_similar_cases_come_with_what_the_model_says_of_each_however_often_they_are_near(service):
    for row in [*ROWS[:6], *ROWS[:2]]:
        similar = service.answer(ExplainRequest(row=row, similar=True)).similar
        assert len(similar) == 5
        for one in similar:
            assert one.outputs == service.predict([PredictRequest(rows=[one.values])])[0].outputs.rows()[0]


def test_what_matters_overall_is_worked_out_piece_by_piece(service):
    first = service.answer(OverallRequest(of=0))
    assert isinstance(first, OverallReply)
    shares = [first.share_done]
    while service.has_work:
        service.work()
        shares.append(service.answer(OverallRequest(of=0)).share_done)
    assert shares == sorted(shares)
    assert shares[0] < shares[-1] == 1
    assert len(service.answer(OverallRequest(of=0)).fields) == len(FEATURES)


def test_reference_rows_come_with_what_the_model_says_and_what_happened(service, facts):
    reply = service.answer(AmongRequest(field="peak", of=1))
    assert isinstance(reply, AmongReply)
    ReplyMatcher.of(facts).check_among(reply)
    assert set(reply.outcomes) == set(TABLE["outcome"])


def test_what_cannot_be_said_has_a_code_and_no_sentence(service, taken_in, facts):
    assert service.answer(RegionsRequest(row=ROWS[0], field="peak")) == Missing("no-picture")
    bare = compiled_service(taken_in.compiled, facts, None)
    assert bare.answer(OverallRequest(of=0)) == Missing("no-reference-rows")
    assert bare.answer(ExplainRequest(row=ROWS[0], explanation=True)).missing == "no-reference-rows"


def test_between_the_questions_of_an_explanation_others_are_let_through(taken_in):
    service, pauses = taken_in.service(background_rows=20), []
    backend: Backend = service.backend
    backend.pause = lambda: pauses.append(1)
    service.answer(ExplainRequest(row=ROWS[0], explanation=True, curves=True))
    assert pauses
