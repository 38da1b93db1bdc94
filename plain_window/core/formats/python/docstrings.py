"""A function's docstring, in any of the usual styles: a title, a description, and words on each parameter."""

from dataclasses import dataclass, field

import docstring_parser

__all__ = ["Docstring", "read_docstring"]

# A first line that is longer says what the function does; it is no title.
TITLE_CHARACTERS = 70
HELP_CHARACTERS = 1000


@dataclass(frozen=True)
class Docstring:
    """What it says."""

    title: str = ""
    description: str = ""
    parameters: dict[str, str] = field(default_factory=dict)
    returns: str = ""


def read_docstring(text: str | None) -> Docstring:
    """Read a docstring; one that follows no style is a description.

    Parameters
    ----------
    text : str or None

    Examples
    --------
    >>> found = read_docstring("Will it crack?\\n\\nParameters\\n----------\\ndays : float\\n    Of drying.")
    >>> found.title, found.parameters
    ('Will it crack?', {'days': 'Of drying.'})
    """
    if not text:
        return Docstring()
    try:
        parsed = docstring_parser.parse(text)
    except docstring_parser.ParseError:
        return Docstring(description=_lines(text))
    first, rest = _lines(parsed.short_description), _lines(parsed.long_description)
    is_title = len(first) <= TITLE_CHARACTERS
    words = {
        # NumPy's style may name several at once.
        name.strip().lstrip("*"): _lines(one.description)
        for one in parsed.params
        for name in one.arg_name.split(",")
        if one.description
    }
    return Docstring(
        title=first.rstrip(".") if is_title else "",
        description=rest if is_title else "\n\n".join(part for part in (first, rest) if part),
        parameters=words,
        returns=_lines(parsed.returns.description) if parsed.returns else "",
    )


def _lines(text: str | None) -> str:
    """Paragraphs, each on one line."""
    paragraphs = (text or "").strip().split("\n\n")
    return "\n\n".join(" ".join(paragraph.split()) for paragraph in paragraphs)[:HELP_CHARACTERS]
