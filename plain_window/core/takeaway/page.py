"""The file: a built page with the content and the model put in, both packed and written as text."""

import base64
import gzip
import hashlib
import html
import re
from typing import NamedTuple

__all__ = ["LARGE_BYTES", "Packed", "compressed", "filled_page", "packed"]

# From here on mails and phones have trouble with a file.
LARGE_BYTES = 30 << 20
# Of compressing: more takes several times as long for a hundredth.
LEVEL = 6
PLACE = re.compile(rb"%pw-(title|slug|mark|content|model)%")


class Packed(NamedTuple):
    """Something packed as it stands in a file, and its SHA-256 before that, in hexadecimal digits."""

    text: bytes
    mark: str


def packed(content: bytes) -> Packed:
    """Pack bytes the same way each time: the same content makes the same file.

    Parameters
    ----------
    content : bytes
    """
    return Packed(base64.b64encode(compressed(content)), hashlib.sha256(content).hexdigest())


def compressed(content: bytes) -> bytes:
    """Compress bytes with gzip, the same way each time.

    Parameters
    ----------
    content : bytes
    """
    return gzip.compress(content, LEVEL, mtime=0)


def filled_page(template: bytes, *, title: str, slug: str, content: Packed, model: Packed) -> bytes:
    """The file.

    Parameters
    ----------
    template : bytes
        The built page, with a place for each part.
    title : str
        Of the demo, as its author wrote it.
    slug : str
    content : Packed
        What the page answers from, as JSON.
    model : Packed
        The compiled model's file.

    Examples
    --------
    >>> filled_page(b"<title>%pw-title%</title>", title="Bowls & cups", slug="", content=packed(b""), model=packed(b""))
    b'<title>Bowls &amp; cups</title>'
    """
    parts = {
        b"title": html.escape(title).encode(),
        b"slug": html.escape(slug).encode(),
        b"mark": content.mark.encode(),
        b"content": content.text,
        b"model": model.text,
    }
    # Places are looked for once, in the template only: a title may hold the word for one.
    return PLACE.sub(lambda found: parts[found[1]], template)
