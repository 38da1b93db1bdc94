"""A visitor's picture or drawing, checked as far as that goes without decoding it."""

import base64
import binascii
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from ..pictures.settings import GivenPicture
from .kinds import DrawingField, PictureField

__all__ = ["NotAccepted", "check_picture"]

SOURCES = ("data", "link", "sample", "strokes")


class NotAccepted(Exception):
    """What is wrong with one value, without the field's name in front of it."""


def check_picture(
    field: PictureField | DrawingField, entered: object, contents: Mapping[str, bytes]
) -> dict[str, object] | None:
    """What whoever reads the picture needs: its content or its strokes, what is cut out, and the field's settings.

    Parameters
    ----------
    field : PictureField or DrawingField
    entered : object
        As parsed from JSON.
    contents : mapping of str to bytes
        Files that came beside it, by field.

    Raises
    ------
    NotAccepted
        If it is none.
    """
    if entered is None and field.name not in contents:
        if field.optional:
            return None
        raise NotAccepted(f"is empty. {_wanted(field)}")
    picture = _parsed(field, {} if entered is None else entered)
    stated = [source for source in SOURCES if getattr(picture, source) is not None]
    if len(stated) + (field.name in contents and not {"link", "sample"} & set(stated)) != 1:
        what = "names several pictures" if stated else "is empty"
        raise NotAccepted(f"{what}. {_wanted(field)}")
    settings: dict[str, Any] = {
        "preparation": field.preparation.model_dump(),
        "behind": list(field.behind),
        "cut": [picture.left, picture.top, picture.width, picture.height],
        "turn": picture.turn,
    }
    if picture.strokes is not None:
        return {**settings, **_drawn(field, picture)}
    content = contents.get(field.name)
    if picture.data is not None:
        content = _decoded(picture.data)
    if content is None:
        # Whoever can follow a link or look up a sample has done so by now.
        raise NotAccepted("names a link or a sample, which leads to no picture here. Give its content as `data`.")
    return {**settings, "content": content}


def _parsed(field: PictureField | DrawingField, entered: Any) -> GivenPicture:
    if isinstance(entered, str):
        raise NotAccepted('must be an object like {"data": BASE64} or {"link": ADDRESS}, or a file of the request.')
    try:
        return GivenPicture.model_validate(entered)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        path = ".".join(str(part) for part in first["loc"][:3])
        where = f" at `{path}`" if path else ""
        raise NotAccepted(f"cannot be read{where}: {first['msg'][:1].lower()}{first['msg'][1:]}.") from None


def _drawn(field: PictureField | DrawingField, picture: GivenPicture) -> dict[str, Any]:
    if not isinstance(field, DrawingField):
        raise NotAccepted("is a picture, not a drawing. Send a file, `data` or a `link`.")
    if not picture.strokes:
        raise NotAccepted(f"is empty. {_wanted(field)}")
    return {"strokes": picture.strokes, "line_width": field.line_width, "centred": field.centred}


def _decoded(data: str) -> bytes:
    # What browsers call a data address is taken too.
    if data.startswith("data:"):
        data = data.partition(",")[2]
    try:
        return base64.b64decode(data, validate=True)
    except (binascii.Error, ValueError):
        raise NotAccepted("is not valid base64. Send the file's content in base64.") from None


def _wanted(field: PictureField | DrawingField) -> str:
    return "Draw something." if isinstance(field, DrawingField) else "Choose a picture."
