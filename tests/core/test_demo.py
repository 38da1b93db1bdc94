"""An author's changes to a demo."""

import pytest
from pydantic import ValidationError

from plain_window.core.answers import ClassSetting, ClassWording
from plain_window.core.documents import DemoChanges, DemoDocument, apply_changes, faults_of
from plain_window.core.documents.document import PageParts
from plain_window.core.errors import DocumentFaults
from plain_window.core.fields import ChoiceField, NumberField, Option, Seen, YesNoField

DOCUMENT = DemoDocument(
    title="Will it crack?",
    fields=[
        NumberField(
            name="wall",
            label="Wall",
            minimum=3,
            maximum=18,
            step=0.1,
            default=7.5,
            seen=Seen(low=3, high=18, usual_low=6, usual_high=9, counts=[4, 5]),
        ),
        ChoiceField(
            name="clay",
            label="Clay",
            options=[Option(value="a", label="A", count=7), Option(value="b", label="B", count=2)],
            default="a",
        ),
        YesNoField(name="handle", label="Handle", no=False, yes=True, default=False),
    ],
    answer=ClassSetting(classes=[ClassWording(name="cracks", label="cracks", headline="Cracks")]),
)


def change(**changes) -> DemoDocument:
    return apply_changes(DOCUMENT, DemoChanges.model_validate(changes))


def test_what_is_left_out_stays():
    changed = change(title="Crack?", fields=[{"name": "wall", "unit": "mm"}])
    assert (changed.title, changed.purpose) == ("Crack?", "")
    assert changed.fields[0].unit == "mm"
    assert changed.fields[0].maximum == 18
    assert DOCUMENT.fields[0].unit == ""


def test_naming_all_fields_sets_their_order_and_naming_some_does_not():
    names = lambda document: [field.name for field in document.fields]  # noqa: E731
    assert names(change(fields=[{"name": "handle"}, {"name": "wall"}, {"name": "clay"}])) == ["handle", "wall", "clay"]
    assert names(change(fields=[{"name": "handle"}, {"name": "wall"}])) == ["wall", "clay", "handle"]


def test_a_whole_demo_can_be_sent_back_as_it_came():
    document = DOCUMENT.model_dump(mode="json")
    assert apply_changes(DOCUMENT, DemoChanges.model_validate(document)) == DOCUMENT


def test_options_can_be_renamed_and_reordered_and_keep_their_counts():
    field = change(
        fields=[{"name": "clay", "options": [{"value": "b", "label": "Buff"}, {"value": "a", "label": "A"}]}]
    )
    assert [(option.value, option.label, option.count) for option in field.fields[1].options] == [
        ("b", "Buff", 2),
        ("a", "A", 7),
    ]


@pytest.mark.parametrize(
    ("settings", "path", "message"),
    [
        ({"name": "wal"}, "fields.wal", "The model has no feature `wal`. It has `wall`, `clay`, `handle`."),
        ({"name": "wall", "minimum": 20}, "fields.wall.minimum", "must be below `maximum`. Got 20 and 18."),
        ({"name": "wall", "default": 2}, "fields.wall.default", "must lie from 3 to 18. Got 2."),
        ({"name": "wall", "default": "thick"}, "fields.wall.default", "valid number"),
        ({"name": "wall", "step": 0}, "fields.wall.step", "greater than 0"),
        ({"name": "wall", "step": 40}, "fields.wall.step", "must not be larger than its range"),
        ({"name": "wall", "kind": "choice"}, "fields.wall.kind", "comes from the model and the table"),
        (
            {"name": "wall", "options": [{"value": 1, "label": "1"}]},
            "fields.wall.options",
            "is a number and has no `options`",
        ),
        ({"name": "clay", "default": "c"}, "fields.clay.default", "must be one of its options"),
        (
            {"name": "clay", "options": [{"value": "c", "label": "C"}]},
            "fields.clay.options",
            "only their labels and order",
        ),
        ({"name": "clay", "minimum": 3}, "fields.clay.minimum", "is a choice and has no `minimum`"),
        ({"name": "handle", "default": "perhaps"}, "fields.handle.default", "valid boolean"),
    ],
)
def test_a_setting_that_does_not_fit_is_named_with_its_path(settings, path, message):
    with pytest.raises(DocumentFaults) as caught:
        change(fields=[settings])
    (fault,) = caught.value.faults
    assert fault.field == path
    assert message in fault.message


def test_all_faults_come_at_once():
    with pytest.raises(DocumentFaults) as caught:
        change(
            fields=[{"name": "wall", "default": 99}, {"name": "clay", "default": "c"}],
            answer={"unit": "kWh", "classes": [{"name": "melts", "label": "melt"}]},
        )
    assert [fault.field for fault in caught.value.faults] == [
        "fields.wall.default",
        "fields.clay.default",
        "answer.unit",
        "answer.classes",
    ]


def test_an_unknown_key_is_named():
    with pytest.raises(ValidationError) as caught:
        DemoChanges.model_validate({"titel": "x"})
    assert faults_of(caught.value)[0].message == "`titel` is not a setting. Leave it out."


def test_what_was_called_pushes_is_still_read():
    assert DemoChanges.model_validate({"parts": {"pushes": False}}).parts.contributions is False
    assert PageParts.model_validate({"pushes": False}).contributions is False
    assert "pushes" not in PageParts.model_validate({"pushes": False}).model_dump()
