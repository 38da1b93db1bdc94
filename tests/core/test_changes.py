"""What would change an answer: against searching through everything."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from plain_window.core.explain import changes
from plain_window.core.explain.changes import LEAST_LEAD, Changeable, class_goal, find_changes, number_goal

SEEN = {"wall": list(range(2, 19)), "days": list(range(15)), "rate": list(range(40, 221, 5))}
STEPS = {"wall": 1, "days": 1, "rate": 5}
ROW = {"wall": 14, "days": 2, "rate": 150, "clay": "porcelain"}


def cracking(weights):
    """Two classes, linear in three numbers; one clay is safer."""

    def predict(columns):
        score = sum(weights[name] * np.array(columns[name], dtype=float) for name in SEEN) + weights["offset"]
        score -= 2.0 * np.array([clay == "grogged" for clay in columns["clay"]])
        cracks = 1 / (1 + np.exp(-score))
        return np.column_stack([1 - cracks, cracks])

    return predict


USUAL = cracking({"wall": 0.2, "days": -0.3, "rate": 0.01, "offset": -2.0})


def fields(**directions):
    numbers = [
        Changeable.number(name, ROW[name], SEEN[name], step=STEPS[name], direction=directions.get(name, "any"))
        for name in SEEN
        if directions.get(name) != "fixed"
    ]
    return [*numbers, *([Changeable("clay", ("grogged",))] if directions.get("clay") != "fixed" else [])]


def lead(outputs) -> float:
    """How much likelier the first class is."""
    return outputs[0] - outputs[1]


def test_where_two_classes_stand_level_only_what_makes_a_difference_is_offered():
    row = {**ROW, "days": 6}
    level = cracking({"wall": 0.2, "days": -0.3, "rate": 0.01, "offset": 0.0})
    shift = np.log(level({name: [value] for name, value in row.items()})[0])
    predict = cracking({"wall": 0.2, "days": -0.3, "rate": 0.01, "offset": float(shift[0] - shift[1]) + 0.01})
    before = predict({name: [value] for name, value in row.items()})[0]
    assert -0.01 < lead(before) < 0
    found = find_changes(predict, row, fields(), class_goal(1))
    assert found.ways
    assert all(lead(way.outputs) > LEAST_LEAD for way in found.ways)


def test_single_changes_are_the_smallest_there_are():
    found = find_changes(USUAL, ROW, fields(clay="fixed"), class_goal(1))
    singles = {name: way.values[name] for way in found.ways if len(way.values) == 1 for name in way.values}
    for name, value in singles.items():
        flipping = [
            other
            for other in SEEN[name]
            if lead(USUAL({key: [{**ROW, name: other}[key]] for key in ROW})[0]) > LEAST_LEAD
        ]
        assert value == min(flipping, key=lambda other: abs(other - ROW[name]))
    assert "days" in singles
    assert found.is_complete


def test_only_changeable_fields_move_and_only_the_way_they_may():
    found = find_changes(USUAL, ROW, fields(wall="fixed", clay="fixed", days="up", rate="up"), class_goal(1))
    assert found.ways
    for way in found.ways:
        assert set(way.values) <= {"days", "rate"}
        assert all(value > ROW[name] for name, value in way.values.items())


@settings(max_examples=40, deadline=None)
@given(st.tuples(st.floats(0.05, 0.4), st.floats(-0.5, -0.05), st.floats(0.002, 0.03), st.floats(-3, 2)))
def test_every_way_reaches_the_goal_inside_the_range_and_says_what_the_model_says(drawn):
    predict = cracking(dict(zip(("wall", "days", "rate", "offset"), drawn, strict=True)))
    before = predict({name: [value] for name, value in ROW.items()})[0]
    if before.argmax() == 0:
        return
    found = find_changes(predict, ROW, fields(), class_goal(1), seconds=5)
    for way in found.ways:
        after = {**ROW, **way.values}
        assert predict({name: [value] for name, value in after.items()})[0] == pytest.approx(way.outputs)
        assert way.outputs.argmax() == 0
        assert all(min(SEEN[name]) <= after[name] <= max(SEEN[name]) for name in SEEN)
    # Different ways: none contains another.
    for one, other in itertools.permutations(found.ways, 2):
        assert not set(one.values) <= set(other.values)
    if not found.ways:
        # Nothing was missed: all three numbers and the clay at their best are not enough, or take all of them.
        best = {"wall": [min(SEEN["wall"])], "days": [max(SEEN["days"])], "rate": [40], "clay": ["porcelain"]}
        assert predict(best)[0].argmax() == 1


def test_two_together_where_none_alone_is_enough():
    stubborn = cracking({"wall": 0.2, "days": -0.3, "rate": 0.0, "offset": 2.5})
    found = find_changes(stubborn, ROW, fields(clay="fixed"), class_goal(1))
    assert [set(way.values) for way in found.ways] == [{"wall", "days"}]


def test_a_number_is_reached_from_either_side():
    def kwh(columns):
        return 10.0 * np.array(columns["wall"], dtype=float)[:, None]

    for reach, wall in ((90, 9), (170, 17)):
        found = find_changes(kwh, ROW, fields(), number_goal(140.0, reach))
        assert [way.values for way in found.ways] == [{"wall": wall}]


def test_a_class_can_be_asked_for():
    def three(columns):
        days = np.array(columns["days"], dtype=float)
        return np.column_stack([days < 5, (days >= 5) & (days < 10), days >= 10]).astype(float)

    found = find_changes(three, ROW, fields(), class_goal(0, to=2))
    assert [way.values for way in found.ways] == [{"days": 10}]


def test_what_is_unlike_anything_seen_is_not_offered():
    def is_unlike(row):
        return row["days"] > 7

    free = find_changes(USUAL, ROW, fields(wall="fixed", rate="fixed", clay="fixed"), class_goal(1))
    assert free.ways[0].values["days"] > 7
    bound = find_changes(
        USUAL, ROW, fields(wall="fixed", rate="fixed", clay="fixed"), class_goal(1), is_unlike=is_unlike
    )
    assert bound.ways == []


def test_time_that_runs_out_is_said():
    found = find_changes(USUAL, ROW, fields(), class_goal(1, to=0), seconds=-1)
    assert not found.is_complete


def test_a_pair_that_there_was_no_time_to_make_smaller_is_not_called_the_smallest(monkeypatch):
    now, calls = [0.0], itertools.count(1)
    dry = cracking({"wall": 0.2, "days": -0.3, "rate": 0.01, "offset": -0.6})

    def slow_from_the_second_question(columns):
        now[0] = 0.0 if next(calls) == 1 else 100.0
        return dry(columns)

    row = {**ROW, "wall": 18, "days": 0, "rate": 220}
    wide = [one for one in fields(rate="fixed") if one.is_number]
    whole = find_changes(dry, row, wide, class_goal(1), seconds=60)
    monkeypatch.setattr(changes.time, "monotonic", lambda: now[0])
    monkeypatch.setattr(changes.time, "thread_time", lambda: now[0])
    cut = find_changes(slow_from_the_second_question, row, wide, class_goal(1))
    assert [set(way.values) for way in cut.ways] == [set(way.values) for way in whole.ways] == [{"wall", "days"}]
    assert cut.ways[0].size > whole.ways[0].size
    assert (whole.is_complete, cut.is_complete) == (True, False)


def test_a_machine_that_is_busy_with_other_things_finds_what_an_idle_one_does(monkeypatch):
    idle = find_changes(USUAL, ROW, fields(), class_goal(1), seconds=60)
    # Between any two looks at the clock others had the processor for a third of what there is.
    clock, processor = itertools.count(0.0, 0.3), itertools.repeat(0.0)
    monkeypatch.setattr(changes.time, "monotonic", lambda: next(clock))
    monkeypatch.setattr(changes.time, "thread_time", lambda: next(processor))
    busy = find_changes(USUAL, ROW, fields(), class_goal(1), seconds=1.0)
    assert [way.values for way in busy.ways] == [way.values for way in idle.ways] != []
    assert busy.is_complete


def test_a_slow_model_is_asked_little_and_that_is_said():
    asked = []

    def slow(columns):
        asked.append(len(columns["wall"]))
        return USUAL(columns)

    found = find_changes(slow, ROW, fields(), class_goal(1), row_seconds=0.05)
    # Twenty rows a question is what a second affords.
    assert max(asked) <= 20
    assert not found.is_complete
    asked.clear()
    assert find_changes(slow, ROW, fields(), class_goal(1), row_seconds=0.05, seconds=-1).ways
    assert len(asked) == 1
