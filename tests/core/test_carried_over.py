"""What of a draft stays when another model or table takes the old one's place, and what two states differ in."""

from typing import Any

from plain_window.core.answers import AnyAnswerSetting, ClassSetting, NumberSetting
from plain_window.core.answers.kinds import ClassWording
from plain_window.core.contract.inspection import Inspection, Question
from plain_window.core.documents import DemoDocument
from plain_window.core.documents.comparing import document_differences
from plain_window.core.documents.document import Sample
from plain_window.core.documents.replacing import carried_over
from plain_window.core.fields import AnyField, ChoiceField, NumberField, Option, Seen, YesNoField


def number(name: str, low: float = 3, high: float = 18, **own: Any) -> NumberField:
    seen = Seen(low=low, high=high, usual_low=low, usual_high=high, counts=[1])
    inferred = {"label": name.title(), "minimum": low, "maximum": high, "step": 1, "default": (low + high) // 2}
    return NumberField.model_validate({"name": name, "seen": seen.model_dump(), **inferred, **own})


def choice(name: str, *values: str, default: str | None = None, **labels: str) -> ChoiceField:
    options = [Option(value=one, label=labels.get(one, one)) for one in values]
    return ChoiceField(name=name, label=name.title(), options=options, default=default or values[0])


def handle(name: str = "handle") -> YesNoField:
    return YesNoField(name=name, label=name.title(), no=0, yes=1, default=False)


def classes(*names: str, **own: Any) -> ClassSetting:
    return ClassSetting(classes=[ClassWording(name=one, label=one, headline=one.title()) for one in names], **own)


def inspected(fields: list[AnyField], answer: AnyAnswerSetting | None = None, **own: Any) -> Inspection:
    return Inspection.model_construct(fields=fields, answer=answer or classes("cracks", "sound"), questions=[], **own)


def draft_of(old: Inspection, **own: Any) -> DemoDocument:
    return DemoDocument(**{"title": "Pots", "fields": old.fields, "answer": old.answer, **own})


OLD = inspected([number("wall"), choice("clay", "red", "white"), handle()])


def carried(draft: DemoDocument, new: Inspection, **renames: str) -> DemoDocument:
    return carried_over(draft, OLD, new, renames)


def names(document: DemoDocument) -> list[str]:
    return [field.name for field in document.fields]


def test_what_the_author_set_stays_and_what_was_inferred_follows_the_new_table():
    wall = number("wall", label="Wall thickness", unit="mm", group="The pot", direction="up")
    draft = draft_of(OLD, fields=[wall, *OLD.fields[1:]])
    field = carried(draft, inspected([number("wall", 2, 30), *OLD.fields[1:]])).fields[0]
    assert (field.label, field.unit, field.group, field.direction) == ("Wall thickness", "mm", "The pot", "up")
    assert (field.minimum, field.maximum, field.default, field.seen.high) == (2, 30, 16, 30)


def test_a_range_that_the_author_set_stays_where_another_table_moves():
    draft = draft_of(OLD, fields=[number("wall", maximum=12), *OLD.fields[1:]])
    assert carried(draft, inspected([number("wall", 2, 30), *OLD.fields[1:]])).fields[0].maximum == 12


def test_a_number_that_its_author_made_a_date_stays_one():
    dated = number("wall", calendar="days", unit="")
    draft = draft_of(OLD, fields=[dated, *OLD.fields[1:]])
    assert carried(draft, inspected([number("wall", 2, 30), *OLD.fields[1:]])).fields[0].calendar == "days"


def test_labels_of_options_stay_with_their_values():
    draft = draft_of(OLD, fields=[OLD.fields[0], choice("clay", "white", "red", red="Terracotta"), handle()])
    new = inspected([OLD.fields[0], choice("clay", "grey", "red", "white"), handle()])
    options = carried(draft, new).fields[1].options
    assert [(one.value, one.label) for one in options] == [("grey", "grey"), ("red", "Terracotta"), ("white", "white")]


def test_a_feature_of_another_kind_begins_anew():
    draft = draft_of(OLD, fields=[number("wall", label="Wall thickness"), *OLD.fields[1:]])
    field = carried(draft, inspected([choice("wall", "thin", "thick"), *OLD.fields[1:]])).fields[0]
    assert (field.kind, field.label) == ("choice", "Wall")


def test_the_models_order_is_kept_unless_the_author_had_another():
    new = inspected([handle(), number("days"), choice("clay", "red", "white"), number("wall")])
    assert names(carried(draft_of(OLD), new)) == ["handle", "days", "clay", "wall"]
    turned = draft_of(OLD, fields=[OLD.fields[2], OLD.fields[0], OLD.fields[1]])
    # What is new comes last.
    assert names(carried(turned, new)) == ["handle", "wall", "clay", "days"]


def test_classes_keep_their_words_by_name_in_whatever_order():
    worded = ClassWording(name="sound", label="sound ones", headline="It holds", tone="calm")
    draft = draft_of(OLD, answer=ClassSetting(classes=[OLD.answer.classes[0], worded], noun="pots"))
    answer = carried(draft, inspected(OLD.fields, classes("sound", "warps", "cracks"))).answer
    assert [(one.name, one.headline, one.tone) for one in answer.classes] == [
        ("sound", "It holds", "calm"),
        ("warps", "Warps", ""),
        ("cracks", "Cracks", ""),
    ]
    assert answer.noun == "pots"


def test_a_threshold_stays_while_there_are_two_classes():
    draft = draft_of(OLD, answer=classes("cracks", "sound", threshold=0.3, threshold_of="cracks"))
    turned = carried(draft, inspected(OLD.fields, classes("sound", "cracks"))).answer
    assert (turned.threshold, turned.threshold_of) == (0.3, "cracks")
    assert carried(draft, inspected(OLD.fields, classes("sound", "cracks", "warps"))).answer.threshold is None


def test_an_answer_of_another_kind_begins_anew():
    draft = draft_of(OLD, answer=classes("cracks", "sound", noun="pots"))
    assert carried(draft, inspected(OLD.fields, NumberSetting(name="kwh"))).answer == NumberSetting(name="kwh")


def test_ready_cases_stay_while_they_fit():
    samples = [
        Sample(title="Thin", inputs={"wall": 4, "clay": "red", "handle": True}),
        Sample(title="White", inputs={"wall": 4, "clay": "white", "handle": True}),
    ]
    draft = draft_of(OLD, samples=samples)
    fewer = inspected([OLD.fields[0], choice("clay", "red", "grey"), handle()])
    assert [one.title for one in carried(draft, fewer).samples] == ["Thin"]
    assert carried(draft, inspected([number("wall")])).samples == []


def test_a_feature_with_another_name_takes_along_its_settings_and_its_values_in_ready_cases():
    draft = draft_of(
        OLD,
        fields=[number("wall", label="Wall thickness"), *OLD.fields[1:]],
        samples=[Sample(title="Thin", inputs={"wall": 4, "clay": "red", "handle": True})],
    )
    new = inspected([number("wall_mm"), *OLD.fields[1:]])
    renamed = carried(draft, new, wall_mm="wall")
    assert (renamed.fields[0].name, renamed.fields[0].label) == ("wall_mm", "Wall thickness")
    assert renamed.samples[0].inputs == {"wall_mm": 4, "clay": "red", "handle": True}
    unsaid = carried(draft, new)
    assert (unsaid.fields[0].label, unsaid.samples) == ("Wall_Mm", [])


def test_names_that_two_features_swapped_are_told_apart():
    old = inspected([number("inner", label="In"), number("outer", label="Out")])
    draft = draft_of(old, samples=[Sample(title="One", inputs={"inner": 4, "outer": 9})])
    new = inspected([number("outer"), number("inner")])
    swapped = carried_over(draft, old, new, {"outer": "inner", "inner": "outer"})
    assert swapped.samples[0].inputs == {"outer": 4, "inner": 9}


def test_what_was_confirmed_stays_confirmed_while_the_question_is_the_same():
    asked = [
        Question.model_construct(name="features", text="Is this the order?"),
        Question.model_construct(name="class-order", text="A class?"),
    ]
    old = OLD.model_copy(update={"questions": asked})
    new = OLD.model_copy(
        update={"questions": [asked[0], Question.model_construct(name="class-order", text="A number?")]}
    )
    draft = draft_of(OLD, confirmed=["features", "class-order"])
    assert carried_over(draft, old, new, {}).confirmed == ["features"]


def told(old: DemoDocument, new: DemoDocument) -> list[tuple[str, str | None, str | None]]:
    return [(one.what, one.before, one.after) for one in document_differences(old, new)]


def test_two_states_of_a_demo_differ_in_words():
    draft = draft_of(OLD)
    assert told(draft, draft) == []
    changed = draft.model_copy(update={"title": "Jugs", "record_inputs": True})
    assert told(draft, changed) == [("Title", "Pots", "Jugs"), ("Keeping what visitors enter", "no", "yes")]
    relabelled = draft_of(OLD, fields=[number("wall", label="Wall thickness", maximum=12.5), *OLD.fields[1:]])
    assert told(draft, relabelled) == [
        ("Wall thickness: label", "Wall", "Wall thickness"),
        ("Wall thickness: highest", "18", "12.5"),
    ]


def test_fields_that_came_went_or_changed_places_are_named():
    draft = draft_of(OLD)
    without = draft_of(OLD, fields=[handle(), OLD.fields[0], number("days")])
    assert told(draft, without) == [
        ("Field", "Clay", None),
        ("Field", None, "Days"),
        ("Order of the fields", "Wall, Handle", "Handle, Wall"),
    ]


def test_ends_of_a_date_are_told_as_dates():
    dated = [draft_of(OLD, fields=[number("wall", 20454, end, calendar="days")]) for end in (20753, 20754)]
    differences = told(*dated)
    assert ("Wall: highest", "2026-10-27", "2026-10-28") in differences


def test_words_of_classes_and_ready_cases_are_compared():
    draft = draft_of(OLD)
    answer = ClassSetting(
        classes=[OLD.answer.classes[0].model_copy(update={"headline": "It will crack"}), OLD.answer.classes[1]]
    )
    case = Sample(title="Thin", inputs={"wall": 4, "clay": "red", "handle": True})
    assert told(draft, draft_of(OLD, answer=answer)) == [("Answer: cracks, headline", "Cracks", "It will crack")]
    one = draft_of(OLD, samples=[case])
    assert told(draft, one) == [("Ready cases", "none", "Thin")]
    other = draft_of(OLD, samples=[case.model_copy(update={"inputs": {**case.inputs, "wall": 5}})])
    assert told(one, other) == [("Ready cases", "Thin", "Thin (with other values)")]
