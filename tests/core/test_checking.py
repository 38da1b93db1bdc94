"""A visitor's values against the fields."""

import json
import math

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.errors import InputFaults
from plain_window.core.fields import (
    ChoiceField,
    NumberField,
    Option,
    Seen,
    TextField,
    YesNoField,
    check_inputs,
    inputs_schema,
)

SEEN = Seen(low=3, high=18, usual_low=6, usual_high=9, counts=[])
WALL = NumberField(name="wall", label="Wall", unit="mm", minimum=3, maximum=18, step=0.1, default=7.5, seen=SEEN)
DAYS = WALL.model_copy(update={"name": "days", "label": "Days", "unit": "", "optional": True})
CLAY = ChoiceField(
    name="clay",
    label="Clay",
    options=[Option(value="stoneware", label="Stoneware"), Option(value="porcelain", label="Porcelain")],
    default="stoneware",
)
SHELF = ChoiceField(name="shelf", label="Shelf", options=[Option(value=n, label=str(n)) for n in (1, 2, 3)], default=1)
CODE = ChoiceField(name="code", label="Code", options=[Option(value=c, label=c) for c in ("10", "2.5")], default="10")
HANDLE = YesNoField(name="handle", label="Handle", no=False, yes=True, default=False)
COVER = YesNoField(name="cover", label="Cover", no="no", yes="yes", default=True)
STAMP = YesNoField(name="stamp", label="Stamp", no=0, yes=1, default=False)
LOG = TextField(name="log", label="Kiln log", default=None, max_length=50)
FIELDS = [WALL, DAYS, CLAY, SHELF, CODE, HANDLE, COVER, STAMP, LOG]
GOOD = {
    "wall": 7.5,
    "days": None,
    "clay": "porcelain",
    "shelf": 2,
    "code": "2.5",
    "handle": True,
    "cover": False,
    "stamp": True,
    "log": "cone 9 down",
}


def faults(**changes) -> dict[str, str]:
    with pytest.raises(InputFaults) as caught:
        check_inputs(FIELDS, {**GOOD, **changes})
    return {fault.field: fault.message for fault in caught.value.faults}


def test_good_values_come_out_as_the_model_knows_them():
    values, notes = check_inputs(FIELDS, GOOD)
    assert values == {**GOOD, "cover": "no", "stamp": 1}
    assert notes == []


@pytest.mark.parametrize(
    ("field", "given_value", "value"),
    [
        ("shelf", "3", 3),
        ("code", 2.5, "2.5"),
        ("code", 10, "10"),
        ("cover", "yes", "yes"),
        ("stamp", 0, 0),
        ("handle", 1, True),
    ],
)
def test_other_spellings_of_an_option_are_taken(field, given_value, value):
    taken = check_inputs(FIELDS, {**GOOD, field: given_value}).values[field]
    assert (taken, type(taken)) == (value, type(value))


@pytest.mark.parametrize(
    ("field", "given_value", "message"),
    [
        ("wall", "14", 'Wall must be a number. You gave "14". Try 7.5.'),
        ("wall", True, "Wall must be a number. You gave true. Try 7.5."),
        ("wall", [7], "Wall must be a number. You gave a list. Try 7.5."),
        ("wall", None, "Wall is empty. Try 7.5."),
        ("wall", math.nan, "Wall must be an ordinary number, neither infinite nor “not a number”. Try 7.5."),
        ("wall", -math.inf, "Wall must be an ordinary number, neither infinite nor “not a number”. Try 7.5."),
        ("wall", 10**400, "Wall must be an ordinary number, neither infinite nor “not a number”. Try 7.5."),
        ("clay", "mud", 'Clay cannot be "mud". Choose one of "stoneware", "porcelain".'),
        ("clay", {"a": 1}, 'Clay cannot be an object. Choose one of "stoneware", "porcelain".'),
        ("shelf", 4, "Shelf cannot be 4. Choose one of 1, 2, 3."),
        ("shelf", True, "Shelf cannot be true. Choose one of 1, 2, 3."),
        ("handle", "maybe", 'Handle must be yes (true) or no (false). You gave "maybe".'),
        ("handle", 2, "Handle must be yes (true) or no (false). You gave 2."),
        ("log", "  ", "Kiln log is empty. Write a few words."),
        ("log", "x" * 51, "Kiln log is 51 characters long; the limit is 50. Shorten it."),
        ("log", 7, "Kiln log must be text. You gave 7."),
    ],
)
def test_a_bad_value_is_named_with_the_way_on(field, given_value, message):
    assert faults(**{field: given_value}) == {field: message}


def test_every_fault_is_listed_at_once():
    given_values = {name: value for name, value in GOOD.items() if name not in ("wall", "days")}
    with pytest.raises(InputFaults) as caught:
        check_inputs(FIELDS, {**given_values, "clay": "mud", "wal": 3, "zzz": 1})
    assert [fault.message for fault in caught.value.faults] == [
        "Wall is missing.",
        "Days is missing. Give null where it is not known.",
        'Clay cannot be "mud". Choose one of "stoneware", "porcelain".',
        'There is no field "wal". Did you mean "wall"?',
        'There is no field "zzz". Leave it out.',
    ]


@pytest.mark.parametrize(("value", "side"), [(2.9, "below"), (25, "above")])
def test_a_number_outside_the_reference_range_is_answered_with_a_note(value, side):
    values, notes = check_inputs(FIELDS, {**GOOD, "wall": value})
    assert values["wall"] == value
    assert [(note.field, note.level) for note in notes] == [("wall", "warn")]
    assert f"is {side} everything in the author's table (3 to 18 mm)" in notes[0].message


def test_other_options_are_taken_where_the_author_allows_them():
    open_clay = CLAY.model_copy(update={"other": True})
    values, notes = check_inputs([open_clay], {"clay": "raku"})
    assert values == {"clay": "raku"}
    assert notes[0].field == "clay"


json_values = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-5, 30),
    st.floats(allow_nan=False, allow_infinity=False),
    st.sampled_from(["stoneware", "10", "2.5", "1", "yes", "no", "true", " ", "x", "", "3.0"]),
    st.lists(st.integers(), max_size=1),
)


@given(st.sampled_from(FIELDS), json_values)
def test_the_schema_accepts_what_the_check_accepts(field, value):
    schema = inputs_schema([field], title="Any")
    # Through JSON, since that is how values and schema meet outside.
    inputs = json.loads(json.dumps({field.name: value}))
    try:
        check_inputs([field], inputs)
        accepted = True
    except InputFaults:
        accepted = False
    valid = jsonschema.Draft202012Validator(schema).is_valid(inputs)
    # The check also reads "3.0" as 3; a schema cannot list every spelling of a number.
    if accepted != valid:
        assert accepted
        assert isinstance(value, str)
        assert float(value) in (3.0, 10.0, 2.5, 1.0)


def test_a_sliders_own_ends_are_not_beyond_what_was_seen():
    seen = Seen(low=18.04, high=63.97, usual_low=25, usual_high=40, counts=[])
    width = NumberField(name="width", label="Width", minimum=18, maximum=64, step=0.2, default=30, seen=seen)
    for value in (18, 18.04, 64):
        assert check_inputs([width], {"width": value}).notes == []
    for value in (17.8, 64.2):
        assert len(check_inputs([width], {"width": value}).notes) == 1
    coarse = width.model_copy(update={"step": 20.0})
    assert len(check_inputs([coarse], {"width": 10}).notes) == 1
