"""A reading of boxes in a few words."""

from ..answers.in_picture import BoxReading

__all__ = ["reading_words"]

FORMS = {
    "two corners": "left, top, right, bottom",
    "two corners, down first": "top, left, bottom, right",
    "centre and size": "centre, width, height",
    "corner and size": "left, top, width, height",
}


def reading_words(reading: BoxReading) -> str:
    """What a reading says, for an author.

    Parameters
    ----------
    reading : BoxReading

    Examples
    --------
    >>> reading_words(BoxReading(boxes="out", score_at=4, class_at=5, suppression="inside"))
    '`out`: a row each, left, top, right, bottom in pixels; score, class; thinned out by the model'
    """
    unit = "pixels" if reading.unit == "pixels" else "shares of the picture"
    side = "row" if reading.candidates == "rows" else "column"
    thinned = "thinned out by the model" if reading.suppression == "inside" else "thinned out here"
    return f"`{reading.boxes}`: a {side} each, {FORMS[reading.form]} in {unit}; {_scores(reading)}; {thinned}"


def _scores(reading: BoxReading) -> str:
    if reading.scores:
        parts = [f"scores in `{reading.scores}`"]
        if reading.classes:
            parts.append(f"classes in `{reading.classes}`" + (", counted from 1" if reading.first_class else ""))
        if reading.chosen:
            parts.append(f"those that `{reading.chosen}` lists")
    elif reading.classes_from is not None:
        parts = [*(["how likely a thing at all"] if reading.score_at is not None else []), "a score each class"]
    else:
        by_place = {reading.score_at: "score", reading.class_at: "class"}
        parts = [by_place[at] for at in sorted(place for place in by_place if place is not None)]
        parts += ["counted from 1"] if reading.first_class else []
    if reading.link != "none":
        parts.append(f"through a {reading.link}")
    if reading.background != "none":
        parts.append(f"the {reading.background} class is nothing")
    return ", ".join(parts)
