"""What differs between two states of a demo, setting by setting, in words."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from pydantic import BaseModel

from ..answers import BoxReading
from ..boxes.words import reading_words
from ..fields.calendars import date_text
from ..fields.checking import number_text
from .document import DemoDocument
from .replacing import WORDINGS

__all__ = ["SettingDifference", "document_differences"]

# Settings by what they are called on the author's pages. What is not named here is called by its own name.
NAMES = {
    "title": "Title",
    "purpose": "Purpose",
    "description": "How far to trust it",
    "not_for": "What it is not for",
    "licence": "Licence",
    "record_inputs": "Keeping what visitors enter",
    "record_days": "Days it is kept",
    "asks": "When the page asks",
    "answers_in": "Where answers are worked out",
    "browser_rows": "Rows that go to browsers",
    "logo": "Logo",
    "hidden": "fixed and hidden",
    "calendar": "stands for a date, counted in",
    "threshold_of": "class with a threshold",
    "cost_of_miss": "cost of a miss",
    "cost_of_false_alarm": "cost of a false alarm",
    "bands": "bands",
    "table_rows": "Rows of a visitor's table",
    "film_rate": "Frames asked of a film's second",
    "background_rows": "Reference rows contributions are counted against",
    "confirmed": "What was confirmed",
    "minimum": "lowest",
    "maximum": "highest",
    "default": "start",
    "help": "help",
    "unit": "unit",
    "label": "label",
    "label_one": "label of one",
    "group": "group",
    "headline": "headline",
    "tone": "tone",
    "threshold": "threshold",
    "coverage": "coverage",
    "noun": "what is counted",
    "noun_one": "one of them",
    "decimals": "decimals",
    "better": "which way is good",
    "least_score": "lowest score that is shown at first",
    "reading": "how boxes are read",
    "overlap": "area that two boxes may share",
    "before": "what the picture shows that was given",
    "nothing": "the class that is nothing in particular",
}
# Facts that come from the reference table, and what holds others.
LEFT_OUT = {"seen", "counts", "low", "high", "kind", "name", "classes", "labels", "values", "options"}
LONGEST = 200


class SettingDifference(BaseModel):
    """One setting that differs. What was not there, or is not any more, is None."""

    what: str
    field: str | None = None
    before: str | None
    after: str | None


def document_differences(old: DemoDocument, new: DemoDocument) -> list[SettingDifference]:
    """What differs of what an author can set, in the order of the author's pages.

    Parameters
    ----------
    old, new : DemoDocument
    """
    before, after = old.model_dump(mode="json"), new.model_dump(mode="json")
    plain = [key for key in before if key not in ("fields", "answer", "parts", "samples", "sample_films")]
    return [
        *_of_fields(before["fields"], after["fields"]),
        *_of_answers(before["answer"], after["answer"]),
        *_changed(before["parts"], after["parts"], lambda key: f"On the page: {key}"),
        *_of_samples("Ready cases", "with other values", before["samples"], after["samples"]),
        *_of_samples("Ready films", "another film", before["sample_films"], after["sample_films"]),
        *_changed({key: before[key] for key in plain}, {key: after[key] for key in plain}, _name),
    ]


def _of_fields(old: list[dict[str, Any]], new: list[dict[str, Any]]) -> Iterator[SettingDifference]:
    was, now = {field["name"]: field for field in old}, {field["name"]: field for field in new}
    for name, field in was.items():
        if name not in now:
            yield SettingDifference(what="Field", field=name, before=field["label"], after=None)
    for name, field in now.items():
        if name not in was:
            yield SettingDifference(what="Field", field=name, before=None, after=field["label"])
            continue
        label = field["label"]
        yield from _changed(_dated(was[name]), _dated(field), partial(_name_behind, f"{label}: "), field=name)
        yield from _of_listed(was[name].get("options"), field.get("options"), "value", label, field=name)
    kept_before, kept_now = [name for name in was if name in now], [name for name in now if name in was]
    if kept_before != kept_now:
        order = (
            ", ".join(was[name]["label"] for name in kept_before),
            ", ".join(now[name]["label"] for name in kept_now),
        )
        yield SettingDifference(what="Order of the fields", before=_short(order[0]), after=_short(order[1]))


def _dated(field: dict[str, Any]) -> dict[str, Any]:
    """A field whose numbers stand for dates, with dates."""
    if not field.get("calendar"):
        return field
    ends = {key: field[key] for key in ("minimum", "maximum", "default") if field[key] is not None}
    return {**field, **{key: date_text(value, field["calendar"]) for key, value in ends.items()}}


def _of_answers(old: dict[str, Any], new: dict[str, Any]) -> Iterator[SettingDifference]:
    if old["kind"] != new["kind"]:
        yield SettingDifference(what="Kind of answer", before=old["kind"], after=new["kind"])
        return
    if new["kind"] == "boxes":
        old, new = _in_words(old), _in_words(new)
    yield from _changed(old, new, lambda key: f"Answer: {_name(key)}")
    listed = WORDINGS.get(new["kind"])
    if listed:
        yield from _of_listed(old[listed], new[listed], "name", "Answer")


def _in_words(answer: dict[str, Any]) -> dict[str, Any]:
    """An answer of boxes with its reading in words, but for how much boxes may overlap, which they leave out."""
    reading = BoxReading.model_validate(answer["reading"])
    return {**answer, "reading": reading_words(reading), "overlap": reading.overlap}


def _of_listed(
    old: list[dict[str, Any]] | None, new: list[dict[str, Any]] | None, key: str, whose: str, field: str | None = None
) -> Iterator[SettingDifference]:
    """Options, classes, labels, numbers: by their values or names."""
    was, now = ({str(one[key]): one for one in listed or []} for listed in (old, new))
    for name in dict.fromkeys([*was, *now]):
        if name not in now or name not in was:
            gone, come = was.get(name), now.get(name)
            yield SettingDifference(
                what=f"{whose}: {name}",
                field=field,
                before=gone and gone.get("label", name),
                after=come and come.get("label", name),
            )
        else:
            own = partial(_name_behind, f"{whose}: {name}, ")
            yield from _changed(was[name], now[name], own, field=field)


def _of_samples(
    what: str, changed: str, old: list[dict[str, Any]], new: list[dict[str, Any]]
) -> Iterator[SettingDifference]:
    if old != new:
        titles = ["; ".join(sample["title"] for sample in samples) or "none" for samples in (old, new)]
        same = titles[0] == titles[1]
        after = f"{titles[1]} ({changed})" if same else titles[1]
        yield SettingDifference(what=what, before=_short(titles[0]), after=_short(after))


def _changed(
    old: dict[str, Any], new: dict[str, Any], name_of: Callable[[str], str], field: str | None = None
) -> Iterator[SettingDifference]:
    for key in dict.fromkeys([*old, *new]):
        before, after = old.get(key), new.get(key)
        if key in LEFT_OUT or key == "count" or before == after:
            continue
        if key == "logo":
            was_there = bool(before and before["data"])
            before, after = _picture_words(before), _picture_words(after, is_other=was_there)
        yield SettingDifference(what=name_of(key), field=field, before=_words(before), after=_words(after))


def _picture_words(logo: dict[str, Any] | None, *, is_other: bool = False) -> str:
    """A picture in words: it has none of its own."""
    if not logo or not logo["data"]:
        return "nothing"
    return f"{'another' if is_other else 'a'} picture" + (f" of {logo['alt']}" if logo["alt"] else "")


def _name(key: str) -> str:
    return NAMES.get(key, key.replace("_", " "))


def _name_behind(what: str, key: str) -> str:
    return f"{what}{_name(key)}"


def _words(value: Any) -> str:
    if value is None or value in ("", []):
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return number_text(value)
    if isinstance(value, list):
        return _short(", ".join(_words(one) for one in value))
    if isinstance(value, dict):
        return _short("; ".join(f"{_name(key)} {_words(one)}" for key, one in value.items()))
    return _short(str(value))


def _short(text: str) -> str:
    return text if len(text) <= LONGEST else f"{text[: LONGEST - 1]}…"
