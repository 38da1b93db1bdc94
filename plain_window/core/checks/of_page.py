"""Whether visitors can use the page: ranges that the table bears out, words that people know, a prepared picture."""

import re

from ..boxes.words import reading_words
from ..fields import NumberField
from .facts import Facts
from .result import Finding, Fix

__all__ = ["preparation", "ranges", "readable", "reading", "words"]

# A control that reaches this many times as far as the table's values invites answers nobody has checked.
FAR_BEYOND = 1.0
LONGEST_SENTENCE_WORDS = 30
NAMED = 6


def ranges(facts: Facts) -> Finding:
    """Whether controls stay where the reference table has values, and start inside.

    Parameters
    ----------
    facts : Facts
    """
    every = [field for field in facts.document.fields if isinstance(field, NumberField)]
    numbers = [field for field in every if field.seen.source == "table"]
    if not numbers:
        why = "There is no reference table to hold ranges against." if every else "No field is a number."
        return Finding(status="skip", finding=why)
    far, narrow = [], []
    for field in numbers:
        width = field.seen.high - field.seen.low
        if width > 0 and (
            field.seen.low - field.minimum > FAR_BEYOND * width or field.maximum - field.seen.high > FAR_BEYOND * width
        ):
            far.append(field)
        if width > 0 and (field.maximum < field.seen.usual_low or field.minimum > field.seen.usual_high):
            narrow.append(field)
    evidence = {
        field.name: {"control": [field.minimum, field.maximum], "table": [field.seen.low, field.seen.high]}
        for field in [*narrow, *far]
    }
    if narrow:
        field = narrow[0]
        finding = f"The control of {field.label} leaves out what is usual in the reference table."
        fix = Fix(text="Widen its range.", place="inputs", field=field.name)
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    if far:
        field = far[0]
        others = f", and of {len(far) - 1} more," if len(far) > 1 else ""
        finding = (
            f"The control of {field.label}{others} reaches far beyond the reference table: nothing is proven there."
        )
        fix = Fix(text="Narrow its range to what the table has.", place="inputs", field=field.name)
        return Finding(status="warn", finding=finding, evidence=evidence, fix=fix)
    count = "The control stays" if len(numbers) == 1 else f"All {len(numbers)} controls of numbers stay"
    return Finding(status="pass", finding=f"{count} near what the reference table has.")


def words(facts: Facts) -> Finding:
    """Whether labels and classes read like words, and numbers have units.

    Parameters
    ----------
    facts : Facts
    """
    setting = facts.document.answer
    raw = [field for field in facts.document.fields if _is_raw(field.label)]
    if setting.kind == "class" or setting.kind == "boxes" or setting.kind == "mask":
        wordings = setting.classes if setting.kind == "class" else setting.labels
        codes = [one.name for one in wordings if re.fullmatch(r"-?\d+(\.0)?", one.label.strip())]
        if codes:
            finding = f"Classes are called {', '.join(codes[:NAMED])}: visitors cannot know what that means."
            fix = Fix(text="Give each class its name.", place="answer")
            return Finding(status="warn", finding=finding, evidence={"classes": codes}, fix=fix)
    if raw:
        names = [field.label for field in raw]
        finding = f"{', '.join(f'`{name}`' for name in names[:NAMED])} read like columns of a table, not like words."
        fix = Fix(text="Write labels as you would say them.", place="inputs", field=raw[0].name)
        return Finding(status="warn", finding=finding, evidence={"labels": names}, fix=fix)
    return Finding(status="pass", finding="Labels and classes read like words.")


def readable(facts: Facts) -> Finding:
    """Whether the page says what it is for, and what not, in sentences one can read.

    Parameters
    ----------
    facts : Facts
    """
    document = facts.document
    place = Fix(text="Write it on the Share page.", place="share")
    missing = [
        what
        for what, text in (("what it is for", document.purpose), ("what it is not for", document.not_for))
        if not text.strip()
    ]
    sentences = re.split(r"(?<=[.!?])\s+", f"{document.purpose} {document.description}")
    long = [sentence for sentence in sentences if len(sentence.split()) > LONGEST_SENTENCE_WORDS]
    if missing:
        finding = f"The page does not say {' or '.join(missing)}."
        return Finding(status="warn", finding=finding, evidence={"missing": missing}, fix=place)
    if long:
        finding = f"A sentence has {len(long[0].split())} words: \u201c{long[0][:80]}…\u201d Two are easier to read."
        return Finding(status="warn", finding=finding, evidence={"sentences": long[:5]}, fix=place)
    return Finding(status="pass", finding="The page says what it is for, and what not.")


def preparation(facts: Facts) -> Finding:
    """Whether pictures are prepared as in the training, by more than a guess.

    Parameters
    ----------
    facts : Facts
    """
    if not facts.has_pictures:
        return Finding(status="skip", finding="There are no pictures to prepare.")
    question = next((one for one in facts.inspection.questions if one.name == "preparation"), None)
    if question is not None and "preparation" not in facts.document.confirmed:
        fix = Fix(text="Give known pictures, or confirm how they are prepared.", place="model")
        return Finding(status="fail", finding=question.text, fix=fix)
    if facts.evidence is None and facts.inspection.evidence is not None:
        finding = "Pictures are prepared otherwise now than when known pictures were tried: nothing of that holds."
        fix = Fix(text="Measure again on the Model page.", place="model")
        return Finding(status="fail", finding=finding, fix=fix)
    best = facts.inspection.pictures.tries[:1]
    finding = (
        f"Known pictures bear out how pictures are prepared: {best[0].words}."
        if best
        else "How pictures are prepared is stated or confirmed."
    )
    return Finding(status="pass", finding=finding)


def reading(facts: Facts) -> Finding:
    """Whether what lies in a picture is read from the model's outputs as it is meant, by more than a guess.

    Parameters
    ----------
    facts : Facts
    """
    setting = facts.document.answer
    if setting.kind not in ("boxes", "picture", "mask"):
        return Finding(status="skip", finding="The answer does not lie in a picture.")
    question = next((one for one in facts.inspection.questions if one.name == "reading"), None)
    if question is not None and "reading" not in facts.document.confirmed:
        text = "Look at the answer to a picture that you know, then confirm how it is read."
        fix = Fix(text=text, place="model")
        return Finding(status="fail", finding=question.text, fix=fix)
    said = f": {reading_words(setting.reading)}" if setting.kind == "boxes" else ""
    return Finding(status="pass", finding=f"How the answer is read is stated or confirmed{said}.")


def _is_raw(label: str) -> bool:
    return bool(re.search(r"_|^[a-z]+[A-Z]|^[a-z]{1,3}\d+$|^[Cc]olumn \d+$", label.strip()))
