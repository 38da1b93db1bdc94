"""Whole tables of cases, through the API."""

import io
import json
from collections.abc import Iterator

import httpx
import numpy as np
import pandas as pd
import pytest
from sklearn.calibration import CalibratedClassifierCV
from sklearn.linear_model import LogisticRegression

from plain_window.samples.will_it_crack.month import PLACE as MONTH
from plain_window.samples.will_it_crack.month import SLIPS, make_month

from ..made_models import FEATURES, dumped, firings
from ..runners.test_hostile import turncoat
from ..studio import Studio, wait_for
from .helpers import bring, fields_at_fault, problem
from .tables import as_csv, ended, pieces, result, send


@pytest.fixture(scope="module")
def open_to_tables(studio: Studio, key: str) -> Iterator[str]:
    """A demo whose visitors may have tables answered, of 50 rows at most."""
    with studio.client(key=key) as author:
        slug = bring(author, title="Firings in tables").json()["slug"]
        author.patch(f"/api/v1/demos/{slug}", json={"parts": {"tables": True}, "table_rows": 50})
        assert author.post(f"/api/v1/demos/{slug}/releases", json={"despite": {}}).status_code == 201
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
        yield slug
        author.delete(f"/api/v1/demos/{slug}")


def test_each_row_gets_the_answer_it_gets_alone(author: httpx.Client) -> None:
    table = pieces(30)
    job = ended(author, send(author, as_csv(table)))
    assert (job["state"], job["done"], job["answered"], job["faults"]) == ("done", 30, 30, 0)
    answers = result(author, job)
    assert list(answers.columns[: len(table.columns)]) == list(table.columns)
    for at in range(0, 30, 7):
        inputs = json.loads(table.drop(columns=["piece", "outcome"]).iloc[at].to_json())
        alone = author.post("/api/v1/demos/will-it-crack/predictions", json={"inputs": inputs}).json()["answer"]
        assert answers["answer"][at] == alone["class"]
        for one in alone["probabilities"]:
            assert answers[f"probability {one['class']}"][at] == one["probability"]


def test_a_large_table_is_answered_by_workers_as_a_small_one_is_by_the_runner(author: httpx.Client) -> None:
    table = pieces(6000)
    job = ended(author, send(author, as_csv(table)))
    assert job["done"] == 6000
    few = ended(author, send(author, as_csv(table.head(100))))
    pd.testing.assert_frame_equal(result(author, job).head(100), result(author, few))


def test_rows_with_a_fault_stay_in_their_place_and_say_why(author: httpx.Client) -> None:
    table = pieces(20).astype({"peak_temp": object, "wall_mm": object})
    table.loc[4, "peak_temp"] = "hot"
    table.loc[9, "clay_body"] = "mud"
    table.loc[9, "wall_mm"] = np.nan
    job = ended(author, send(author, as_csv(table)))
    assert (job["answered"], job["faults"]) == (18, 2)
    answers = result(author, job)
    assert list(answers["piece"]) == list(table["piece"])
    assert answers["answer"].isna().to_list() == [at in (4, 9) for at in range(20)]
    assert 'must be a number. You gave "hot"' in answers["notes"][4]
    found = author.get(f"/api/v1/jobs/{job['id']}/faults").json()
    assert [(fault["row"], fault["column"]) for fault in found["faults"]] == [
        (5, "peak_temp"),
        (10, "clay_body"),
        (10, "wall_mm"),
    ]
    as_table = author.get(f"/api/v1/jobs/{job['id']}/faults", params={"format": "csv"})
    assert len(as_table.text.splitlines()) == 4
    parquet = author.get(f"/api/v1/jobs/{job['id']}/result", params={"format": "parquet"})
    # What is no number is kept as it is written.
    assert pd.read_parquet(io.BytesIO(parquet.content))["peak_temp"][4] == "hot"


def test_numbers_as_people_write_them_come_back_as_they_are_written(author: httpx.Client) -> None:
    table = pieces(3).astype({"wall_mm": object, "humidity": object})
    table["wall_mm"] = ["7 mm", "8", "9.5 mm"]
    table["humidity"] = ["57", "NA", "60"]
    job = ended(author, send(author, as_csv(table)))
    assert (job["answered"], job["faults"]) == (2, 1)
    made = author.get(f"/api/v1/jobs/{job['id']}/result", params={"format": "parquet"})
    read = pd.read_parquet(io.BytesIO(made.content))
    assert list(read["wall_mm"]) == ["7 mm", "8", "9.5 mm"]
    assert list(read["humidity"]) == ["57", "NA", "60"]
    assert read["peak_temp"].dtype == "float64"


@pytest.mark.parametrize("kind", ["parquet", "xlsx"])
def test_a_result_is_had_as_another_kind_of_file(author: httpx.Client, kind: str) -> None:
    table = pieces(15)
    file = io.BytesIO()
    table.to_parquet(file, index=False) if kind == "parquet" else table.to_excel(file, index=False)
    job = ended(author, send(author, file.getvalue(), name=f"pieces.{kind}"))
    plain = result(author, job)
    response = author.get(f"/api/v1/jobs/{job['id']}/result", params={"format": kind})
    assert response.status_code == 200
    assert f"pieces with answers.{kind}" in response.headers["Content-Disposition"]
    read = pd.read_parquet if kind == "parquet" else pd.read_excel
    made = read(io.BytesIO(response.content))
    assert list(made.columns) == list(plain.columns)
    assert np.array_equal(made["probability cracks"], plain["probability cracks"])
    assert list(made["peak_temp"]) == list(table["peak_temp"])


def test_contributions_are_written_beside_the_answers(author: httpx.Client) -> None:
    table = pieces(5)
    job = ended(author, send(author, as_csv(table), contributions=2))
    answers = result(author, job)
    inputs = json.loads(table.drop(columns=["piece", "outcome"]).iloc[0].to_json())
    alone = author.post(
        "/api/v1/demos/will-it-crack/predictions", params={"with": "explanation"}, json={"inputs": inputs}
    ).json()
    strongest = max(alone["explanation"]["contributions"], key=lambda one: abs(one["contribution"]))
    assert answers["strongest 1 adds"][0] == pytest.approx(strongest["contribution"], abs=1e-12)
    assert (answers["strongest 1 adds"].abs() >= answers["strongest 2 adds"].abs()).all()


def test_a_model_served_by_its_library_is_asked_where_it_is(author: httpx.Client) -> None:
    table = firings(60)

    model = CalibratedClassifierCV(LogisticRegression(), cv=3).fit(table[["pots", "peak"]], table["outcome"])
    brought = bring(
        author, model=dumped(model), reference=table[["pots", "peak", "outcome"]].to_csv(index=False).encode()
    )
    slug = brought.json()["slug"]
    job = ended(author, send(author, as_csv(table), slug=slug))
    assert job["answered"] == 60
    expected = model.predict_proba(table[["pots", "peak"]])
    answers = result(author, job)
    assert np.allclose(answers[["probability green", "probability red"]], expected)
    author.delete(f"/api/v1/demos/{slug}")


def test_a_row_that_the_model_raises_over_costs_no_other_row_its_answer(author: httpx.Client) -> None:
    """Those it came with are asked again by halves."""
    table = pd.DataFrame({"pots": range(1, 31), "outcome": ["a", "b", "a"] * 10})
    reference = table[table["pots"] != 7]
    brought = bring(author, model=turncoat("raise ValueError('seven')"), reference=as_csv(reference))
    slug = brought.json()["slug"]
    job = ended(author, send(author, as_csv(table[["pots"]]), slug=slug))
    assert (job["state"], job["done"], job["answered"]) == ("done", 30, 29)
    answers = result(author, job)
    assert list(answers["pots"][answers["answer"].isna()]) == [7]
    assert "no answer" in answers["notes"][6]
    author.delete(f"/api/v1/demos/{slug}")


def test_what_does_not_fit_is_said_at_once_and_nothing_is_left(author: httpx.Client) -> None:
    table = pieces(5).rename(columns={"humidity": "dampness", "glaze": "glaze_name"})
    refused = send(author, as_csv(table))
    assert fields_at_fault(refused) == ["glaze", "humidity"]
    assert "glaze_name" in refused.json()["errors"][0]["message"]
    assert fields_at_fault(send(author, b"\x89PNG\r\n\x1a\n" + bytes(90))) == ["table"]
    assert fields_at_fault(send(author, b"")) == ["table"]
    assert fields_at_fault(send(author, as_csv(pieces(3)), kind="film")) == ["kind"]
    assert fields_at_fault(send(author, as_csv(pieces(3)), contributions=99)) == ["contributions"]
    assert fields_at_fault(send(author, as_csv(pieces(3)), columns="[")) == ["options"]
    assert fields_at_fault(send(author, as_csv(pieces(3)), columns='{"humdity": "humidity"}')) == ["columns"]
    assert fields_at_fault(send(author, as_csv(pieces(3)), outcome="fate")) == ["table"]
    told = ended(author, send(author, as_csv(table), columns='{"humidity": "dampness", "glaze": "glaze_name"}'))
    assert told["answered"] == 5


def test_a_held_job_shows_first_answers_and_begins_at_a_word(author: httpx.Client) -> None:
    table = pieces(40).rename(columns={"humidity": "dampness"})
    held = send(author, as_csv(table), hold="true")
    job, address = held.json(), held.headers["Location"]
    assert job["held"]
    assert job["table"]["missing"] == ["humidity"]
    assert fields_at_fault(author.post(f"{address}/start")) == ["humidity"]
    # A slip of the pen costs nothing: the table is still there.
    assert fields_at_fault(author.patch(address, json={"columns": {"humidity": "dampnes"}})) == ["humidity"]
    assert fields_at_fault(author.patch(address, json={"outcome": "fate"})) == ["outcome"]
    changed = author.patch(address, json={"columns": {"humidity": "dampness"}}).json()
    assert changed["table"]["ready"]
    assert changed["total"] == 40
    assert len(changed["table"]["preview"]) == 8
    assert author.post(f"{address}/start").status_code == 202
    done = ended(author, held)
    assert changed["table"]["preview"][0] == [
        "" if pd.isna(cell) else cell for cell in _first_line(author, done, len(changed["table"]["headings"]))
    ]
    problem(author.post(f"{address}/start"), 409)
    problem(author.patch(address, json={"numbers": "1,234.5"}), 409)


def _first_line(client: httpx.Client, job: dict, width: int) -> list[str]:
    text = client.get(f"/api/v1/jobs/{job['id']}/result").text
    line = pd.read_csv(io.StringIO(text), dtype=str, keep_default_na=False).iloc[0].to_list()
    assert len(line) == width
    return line


def test_events_tell_how_it_goes_on_until_it_is_over(author: httpx.Client) -> None:
    sent = send(author, as_csv(pieces(2000)))
    with author.stream("GET", sent.headers["Location"] + "/events") as response:
        lines = [json.loads(line) for line in response.iter_lines()]
    assert lines[-1]["state"] == "done"
    assert [line["done"] for line in lines] == sorted(line["done"] for line in lines)


def test_a_job_is_cancelled_and_forgotten(author: httpx.Client, studio: Studio) -> None:
    sent = send(author, as_csv(pieces(150_000)))
    address, token = sent.headers["Location"], sent.json()["id"]
    assert author.delete(address).status_code == 204
    assert author.get(address).json()["state"] == "cancelled"
    problem(author.get(f"{address}/result"), 409)
    assert author.delete(address).status_code == 204
    problem(author.get(address), 404)
    # Whoever carried it out may have begun to write just then, and takes that away again.
    wait_for(lambda: not (studio.home / "jobs" / token).exists(), what="nothing of it being left")


def test_all_jobs_are_in_one_list_for_their_author_only(author: httpx.Client, visitor: httpx.Client) -> None:
    sent = send(author, as_csv(pieces(3)))
    ended(author, sent)
    listed = author.get("/api/v1/jobs", params={"limit": 1}).json()
    assert listed["total"] >= 1
    assert [job["id"] for job in listed["jobs"]] == [sent.json()["id"]]
    problem(visitor.get("/api/v1/jobs"), 401)
    problem(visitor.get(sent.headers["Location"]), 404)
    problem(visitor.get(sent.headers["Location"] + "/result"), 404)
    problem(visitor.delete(sent.headers["Location"]), 404)


def test_visitors_may_bring_tables_only_where_the_author_lets_them(visitor: httpx.Client) -> None:
    # Before anything of the body is read: there is none.
    problem(visitor.post("/api/v1/demos/what-will-this-firing-use/jobs"), 403)
    problem(visitor.post("/api/v1/demos/nothing-here/jobs"), 404)


def test_a_visitors_table_has_its_bounds(open_to_tables: str, visitor: httpx.Client, author: httpx.Client) -> None:
    table = firings(80)[FEATURES]
    sent = send(visitor, as_csv(table), slug=open_to_tables)
    job = ended(visitor, sent)
    assert job["state"] == "done"
    assert job["done"] == 50
    assert "more than 50 rows" in job["detail"]
    assert len(result(visitor, job)) == 50
    # Its author sees it; another visitor who does not know its address has no way to it.
    assert author.get(sent.headers["Location"]).json()["by_author"] is False
    author.put(f"/api/v1/demos/{open_to_tables}/access", json={"access": "private"})
    problem(visitor.get(sent.headers["Location"]), 404)
    author.put(f"/api/v1/demos/{open_to_tables}/access", json={"access": "everyone"})
    assert ended(author, send(author, as_csv(table), slug=open_to_tables))["done"] == 80


def test_a_visitor_has_only_so_many_tables_looked_at(open_to_tables: str, visitor: httpx.Client) -> None:
    held = [send(visitor, as_csv(firings(5)[FEATURES]), slug=open_to_tables, hold="true") for _ in range(5)]
    held += [send(visitor, as_csv(firings(5)[FEATURES]), slug=open_to_tables, hold="true") for _ in range(6)]
    assert [response.status_code for response in held].count(202) == 10
    assert "had 10 tables looked at" in problem(held[-1], 429)["detail"]
    for response in held[:10]:
        assert visitor.delete(response.headers["Location"]).status_code == 204


def test_a_months_pieces_as_a_potter_keeps_them(visitor: httpx.Client) -> None:
    """The sample's table: headings with units, decimal commas, a gap, two slips of the pen."""
    held = send(visitor, MONTH.read_bytes(), hold="true").json()
    assert held["table"]["ready"]
    assert held["table"]["outcome"] == "Outcome"
    assert any("multiplied by 10" in note for note in held["table"]["notes"])
    job = ended(visitor, send(visitor, MONTH.read_bytes()))
    assert (job["done"], job["faults"]) == (len(make_month()), len(SLIPS))
    found = visitor.get(f"/api/v1/jobs/{job['id']}/faults").json()["faults"]
    assert [(fault["row"] - 1, fault["column"]) for fault in found] == [(row, column) for row, column, _ in SLIPS]
    answers = pd.read_csv(io.BytesIO(visitor.get(f"/api/v1/jobs/{job['id']}/result").content), sep=";", decimal=",")
    # An honest model: about as often right as on the cases it was tried on.
    assert 0.65 < (answers["answer"] == answers["Outcome"]).mean() < 0.9
    # With what happened in it, the same figures as its answers and outcomes give by hand.
    report = visitor.get(f"/api/v1/jobs/{job['id']}/report").json()
    told = answers[answers["answer"].notna()]
    assert report["cases"] == len(told)
    assert report["share_right"]["value"] == pytest.approx((told["answer"] == told["Outcome"]).mean())
    assert np.sum(report["confusion"]["counts"]) == len(told)
    visitor.delete(f"/api/v1/jobs/{held['id']}")


def test_a_table_without_outcomes_has_no_report(author: httpx.Client) -> None:
    job = ended(author, send(author, as_csv(pieces(3).drop(columns="outcome"))))
    problem(author.get(f"/api/v1/jobs/{job['id']}/report"), 422)


def test_pictures_do_not_fit_into_a_table(author: httpx.Client) -> None:
    assert "pictures" in problem(send(author, b"a\n1\n", slug="how-is-the-glaze"), 422)["detail"]
