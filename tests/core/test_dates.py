"""Dates: read as people write them, counted as models know them, and entered as dates."""

import datetime as dt
import io

import numpy as np
import pandas as pd
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sklearn.ensemble import RandomForestRegressor
from sklearn.linear_model import LinearRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder

from plain_window.core.answers import NumberSetting
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.documents import DemoChanges, DemoDocument, apply_changes
from plain_window.core.errors import DocumentFaults, InputFaults, MismatchFaults
from plain_window.core.fields import NumberField, check_inputs
from plain_window.core.fields.calendars import CALENDARS, date_of, number_of_date
from plain_window.core.fields.schema import inputs_schema
from plain_window.core.intake.opening import take_in
from plain_window.core.tables.dates import DayOrMonth, dates_of, looks_like_dates

from ..made_models import csv, dumped

DRAWN = np.random.default_rng(4)
TABLE = pd.DataFrame(
    {
        "fired_on": pd.Timestamp("2026-01-01") + pd.to_timedelta(DRAWN.integers(0, 300, 120), unit="D"),
        "pots": DRAWN.integers(5, 40, 120),
    }
)
TABLE["kwh"] = 20.0 + 2 * TABLE["pots"] + 15.0 * (TABLE["fired_on"].dt.month < 4)
DAYS = TABLE.assign(fired_on=(TABLE["fired_on"] - pd.Timestamp(0)).dt.days)


def taken_in(model, reference: bytes, **told):
    files = {"model": io.BytesIO(dumped(model)), "reference": io.BytesIO(reference)}
    return take_in(files, OpenFile(**told))


@given(date=st.dates(min_value=dt.date(1, 1, 1)), calendar=st.sampled_from(CALENDARS))
def test_a_date_counted_and_read_again_is_the_same(date, calendar):
    assert date_of(number_of_date(date, calendar), calendar) == date


@pytest.mark.parametrize(("value", "calendar"), [(1e12, "days"), (-1.0, "ordinal"), (float("nan"), "seconds")])
def test_numbers_beyond_the_calendar_are_no_dates(value, calendar):
    assert date_of(value, calendar) is None


@pytest.mark.parametrize(
    ("written", "read"),
    [
        (["2026-03-01", None], [dt.date(2026, 3, 1), None]),
        (["2026-03-01T10:20:00"], [dt.date(2026, 3, 1)]),
        (["2026/3/1"], [dt.date(2026, 3, 1)]),
        (["01.03.2026"], [dt.date(2026, 3, 1)]),
        (["01/03/2026", "28/03/2026"], [dt.date(2026, 3, 1), dt.date(2026, 3, 28)]),
        (["03/01/2026", "03/28/2026"], [dt.date(2026, 3, 1), dt.date(2026, 3, 28)]),
        ([pd.Timestamp("2026-03-01 23:59")], [dt.date(2026, 3, 1)]),
    ],
)
def test_dates_are_read_as_people_write_them(written, read):
    column = pd.Series(written)
    assert looks_like_dates(column)
    assert dates_of(column) == read


def test_a_day_that_may_be_a_month_is_not_guessed():
    with pytest.raises(DayOrMonth, match="03/04/2026"):
        dates_of(pd.Series(["03/04/2026", "05/06/2026"]))


@pytest.mark.parametrize("values", [["20 pots", "2026-03-01"], ["1.2.3"], [20260301], [None]])
def test_what_is_no_date_is_left_alone(values):
    assert not looks_like_dates(pd.Series(values, dtype=object if values == [None] else None))


@pytest.mark.parametrize("estimator", [LinearRegression(), RandomForestRegressor(8, random_state=0)])
@pytest.mark.parametrize("form", ["%Y-%m-%d", "%d.%m.%Y", "parquet"])
def test_a_model_of_counted_days_takes_a_table_of_dates(estimator, form):
    model = estimator.fit(DAYS[["fired_on", "pots"]], DAYS["kwh"])
    if form == "parquet":
        content = io.BytesIO()
        TABLE.to_parquet(content)
        reference = content.getvalue()
    else:
        reference = csv(TABLE.assign(fired_on=TABLE["fired_on"].dt.strftime(form)))
    with pytest.raises(MismatchFaults, match=r"`fired_on`.*send `dates` as one of `days`"):
        taken_in(model, reference)
    found = taken_in(model, reference, dates="days")
    field = found.inspection.fields[0]
    assert (field.calendar, field.step, field.unit) == ("days", 1.0, "")
    assert date_of(field.seen.low, "days") == TABLE["fired_on"].min().date()
    values = check_inputs(found.inspection.fields, {"fired_on": "2026-02-15", "pots": 12}).values
    assert values == {"fired_on": 20499.0, "pots": 12.0}
    answer = found.model.predict(pd.DataFrame([values]))[0][0]
    expected = model.predict(pd.DataFrame({"fired_on": [20499], "pots": [12]}))[0]
    assert answer == pytest.approx(expected)


@pytest.mark.parametrize("odd", ["2026-02-30", "unknown"])
def test_one_value_among_dates_that_is_none_is_named_with_its_row(odd):
    model = LinearRegression().fit(DAYS[["fired_on", "pots"]], DAYS["kwh"])
    written = TABLE.assign(fired_on=TABLE["fired_on"].dt.strftime("%Y-%m-%d"))
    written.loc[5, "fired_on"] = odd
    with pytest.raises(MismatchFaults, match=f'row 7 of the reference table has "{odd}"'):
        taken_in(model, csv(written), dates="days")
    # Without saying how, that is asked first.
    with pytest.raises(MismatchFaults, match="send `dates`"):
        taken_in(model, csv(written))
    written.loc[5, "fired_on"] = None
    assert not taken_in(model, csv(written), dates="days").inspection.fields[0].optional


def test_dates_that_a_model_knows_as_words_stay_words():
    words = TABLE.assign(fired_on=TABLE["fired_on"].dt.strftime("%Y-%m-%d"))
    model = make_pipeline(OneHotEncoder(handle_unknown="ignore"), LinearRegression()).fit(
        words[["fired_on"]], words["kwh"]
    )
    assert taken_in(model, csv(words[["fired_on", "kwh"]])).inspection.fields[0].kind == "choice"
    assert taken_in(model, csv(words[["fired_on", "kwh"]]), dates="days").inspection.fields[0].kind == "choice"


def dated_field(**settings) -> NumberField:
    seen = {"low": 20454, "high": 20753, "usual_low": 20500, "usual_high": 20700, "counts": [1]}
    own = {"minimum": 20454, "maximum": 20753, "step": 1, "default": 20500, "calendar": "days", **settings}
    return NumberField.model_validate({"name": "fired_on", "label": "Fired on", "seen": seen, **own})


def test_a_date_beyond_the_table_is_answered_with_a_note_that_says_dates():
    checked = check_inputs([dated_field()], {"fired_on": "2027-01-01"})
    assert checked.values == {"fired_on": 20819.0}
    assert checked.notes[0].message == (
        "Fired on 2027-01-01 is after everything in the author's table (2026-01-01 to 2026-10-27). "
        "Take the answer with care."
    )
    assert "before everything" in check_inputs([dated_field()], {"fired_on": "2020-01-01"}).notes[0].message


@pytest.mark.parametrize("entered", ["2026-02-30", "soon", "", "20500"])
def test_what_is_no_date_is_refused_with_one_that_is(entered):
    with pytest.raises(InputFaults) as refused:
        check_inputs([dated_field()], {"fired_on": entered})
    assert refused.value.faults[0].message.endswith("Try 2026-02-16.")


def test_the_schema_takes_dates_and_numbers():
    described = inputs_schema([dated_field()], title="Firing")["properties"]["fired_on"]
    assert [one["type"] for one in described["anyOf"]] == ["string", "number"]
    assert described["description"] == "Seen from 2026-01-01 to 2026-10-27."


def demo_of(field: NumberField) -> DemoDocument:
    return DemoDocument(title="Firing", fields=[field], answer=NumberSetting(name="kwh"))


def changed(field: NumberField, **settings) -> NumberField:
    wanted = DemoChanges.model_validate({"fields": [{"name": field.name, **settings}]})
    return apply_changes(demo_of(field), wanted).fields[0]


def test_a_number_that_becomes_a_date_goes_by_whole_days():
    seen = {"low": 1767225600.0, "high": 1793059200.0, "usual_low": 1.77e9, "usual_high": 1.78e9, "counts": [1]}
    counted = {"minimum": 1767230000, "maximum": 1793060000, "step": 1000, "default": 1780000000, "unit": "s"}
    field = changed(dated_field(calendar="", seen=seen, **counted), calendar="seconds")
    assert (field.calendar, field.unit, field.step) == ("seconds", "", 86400.0)
    assert {value % 86400 for value in (field.minimum, field.maximum, field.default)} == {0}
    assert (field.minimum, field.maximum) == (1767225600.0, 1793145600.0)
    # Its own step and ends may be set once it is one.
    assert changed(field, minimum=1767312000).minimum == 1767312000


def test_a_number_is_no_date_where_its_values_are_none():
    far = {"low": 1e12, "high": 2e12, "usual_low": 1.2e12, "usual_high": 1.8e12, "counts": [1]}
    field = dated_field(calendar="", seen=far, minimum=1e12, maximum=2e12, default=1.5e12, step=1e9)
    with pytest.raises(DocumentFaults) as refused:
        changed(field, calendar="days")
    assert [fault.field for fault in refused.value.faults] == ["fields.fired_on.calendar"]
    assert "no date counted that way" in refused.value.faults[0].message
    assert changed(field, calendar="milliseconds").calendar == "milliseconds"


def test_a_calendar_is_one_of_those_there_are():
    with pytest.raises(DocumentFaults) as refused:
        changed(dated_field(), calendar="weeks")
    assert refused.value.faults[0].field == "fields.fired_on.calendar"
