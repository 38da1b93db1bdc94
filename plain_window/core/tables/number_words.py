"""One number as people write it: with grouping, decimal commas, percent signs and currencies. Needs no pandas."""

import re
from collections.abc import Sequence
from typing import Literal, NamedTuple

__all__ = [
    "PLAIN",
    "POINTED",
    "Convention",
    "Parted",
    "is_doubtful",
    "majority",
    "number_of",
    "parted",
    "told_by",
    "told_by_one",
]

# Whether "1,234.5" or "1.234,5" is how the table writes a number.
Convention = Literal["point", "comma"]

CURRENCIES = r"(?:[€$£¥₹₩₽]|EUR|USD|GBP|CHF|SEK|NOK|DKK|PLN|CZK|JPY|kr\.?|zł|Kč|Fr\.?)"
SPACES = " \u00a0\u202f\u2009"
# What may stand around the digits.
AROUND = re.compile(
    rf"^(?P<front>[(\-−–+]?\s*{CURRENCIES}?\s*[\-−–+]?)(?P<digits>[\d.,'’{SPACES}]*\d[\d.,'’{SPACES}]*(?:[eE][+\-]?\d+)?)(?P<back>\s*(?:%|{CURRENCIES})?\s*[)\-−]?)$"
)
# Nobody writes a number at more length, and looking for one in a long text takes very long.
LONGEST = 80
PLAIN = re.compile(r"^\d+$")
POINTED = re.compile(r"^\d*\.\d+(?:[eE][+\-]?\d+)?$|^\d+\.$|^\d+[eE][+\-]?\d+$")
GROUPED_BY_COMMA = re.compile(r"^\d{1,3}(?:,\d{3})+$")
GROUPED_BY_POINT = re.compile(r"^\d{1,3}(?:\.\d{3})+$")
COMMAS_THEN_POINT = re.compile(r"^\d{1,3}(?:,\d{3})+\.\d+$")
POINTS_THEN_COMMA = re.compile(r"^\d{1,3}(?:\.\d{3})+,\d+$")
COMMAED = re.compile(r"^\d*,\d+(?:[eE][+\-]?\d+)?$")
SEPARATED = re.compile(rf"^\d{{1,3}}(?:[{SPACES}'’]\d{{3}})+(?=$|[.,])")


class Parted(NamedTuple):
    """A number's digits with their separators, the signs that stood around them, and whether it is negative."""

    digits: str
    signs: tuple[str, ...]
    is_negative: bool


def parted(text: str) -> Parted | None:
    """A number in its parts; None if it is no number.

    Parameters
    ----------
    text : str
        Without space around it.
    """
    found = AROUND.match(text) if len(text) <= LONGEST else None
    if found is None:
        return None
    front, back = found["front"].strip(), found["back"].strip()
    minus = [sign for sign in (*front, *back) if sign in "-−–("]
    # One minus, in front or behind, or brackets around.
    if len(minus) > 1 or ("(" in front) != (")" in back):
        return None
    signs = tuple(part for part in (front.strip("(-−–+ "), back.strip(")-− ")) if part)
    digits = found["digits"].strip()
    separated = SEPARATED.match(digits)
    if separated:
        digits = re.sub(rf"[{SPACES}'’]", "", digits)
    elif re.search(rf"[{SPACES}'’]", digits):
        return None
    if not any(
        pattern.match(digits)
        for pattern in (
            PLAIN,
            POINTED,
            GROUPED_BY_COMMA,
            GROUPED_BY_POINT,
            COMMAS_THEN_POINT,
            POINTS_THEN_COMMA,
            COMMAED,
        )
    ):
        return None
    return Parted(digits, signs, bool(minus))


def told_by_one(digits: str) -> Convention | None:
    """The convention that this number alone tells.

    Parameters
    ----------
    digits : str
        As `parted` gives them.
    """
    if COMMAS_THEN_POINT.match(digits) or (GROUPED_BY_COMMA.match(digits) and digits.count(",") > 1):
        return "point"
    if POINTS_THEN_COMMA.match(digits) or (GROUPED_BY_POINT.match(digits) and digits.count(".") > 1):
        return "comma"
    if is_doubtful(digits) or PLAIN.match(digits):
        return None
    return "comma" if "," in digits else "point" if "." in digits else None


def is_doubtful(digits: str) -> bool:
    """Whether three digits follow one separator, so that it may be either.

    Parameters
    ----------
    digits : str
        As `parted` gives them.
    """
    if digits.startswith("0"):
        return False
    return bool(
        (GROUPED_BY_COMMA.match(digits) and digits.count(",") == 1)
        or (GROUPED_BY_POINT.match(digits) and digits.count(".") == 1)
    )


def told_by(distinct: Sequence[str]) -> set[Convention]:
    """The conventions that some of these numbers tell.

    Parameters
    ----------
    distinct : sequence of str
        What is no number among them tells nothing.
    """
    parts = (parted(text) for text in distinct)
    return {told for part in parts if part is not None and (told := told_by_one(part[0])) is not None}


def majority(distinct: Sequence[str]) -> Convention:
    """The convention that most of these numbers tell.

    Parameters
    ----------
    distinct : sequence of str
    """
    told = [told_by_one(part[0]) for text in distinct if (part := parted(text)) is not None]
    return "point" if told.count("point") >= told.count("comma") else "comma"


def number_of(part: Parted, convention: Convention | None) -> float | None:
    """The number that parts make in a convention; None if they do not follow it.

    Parameters
    ----------
    part : Parted
    convention : "point" or "comma", optional
        A point is for the decimals where nothing is known.

    Examples
    --------
    >>> number_of(parted("(1.234,5 €)"), "comma")
    -1234.5
    """
    digits, _, is_negative = part
    group, point = (".", ",") if convention == "comma" else (",", ".")
    if group in digits:
        whole, _, rest = digits.partition(point)
        if not re.match(rf"^\d{{1,3}}(?:{re.escape(group)}\d{{3}})+$", whole) or group in rest:
            return None
    value = float(digits.replace(group, "").replace(point, "."))
    return -value if is_negative else value
