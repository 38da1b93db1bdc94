"""What a visitor gives for a prediction, from whichever form it came in: JSON, or multipart with pictures."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from flask import request

from ..core.documents import MOST_FIELDS, DemoDocument
from ..core.errors import Fault, InputFaults, PictureNotRead
from ..core.fields import AnyField, DrawingField, PictureField, check_inputs
from .limits import slow_down_visitor
from .links import fetch_picture
from .operations import parse_body, parse_json, read_json
from .state import state
from .types.predictions import PredictionRequest
from .uploads import Upload, receive_upload

__all__ = ["RequestInputs", "picture_behind", "read_request_inputs", "sample_picture"]

# Base64 takes four characters for three bytes.
BASE64_SHARE = 4 / 3
MOST_INPUTS = 2 * MOST_FIELDS
# Links one address may have opened; nobody pastes faster.
FETCHES_A_SECOND, FETCHES_SAVED = 2.0, 4.0


@dataclass(frozen=True)
class RequestInputs:
    """Values by field as they came, and the content of pictures that did not come within them."""

    inputs: dict[str, Any]
    contents: dict[str, bytes]


class _InMemory:
    """A picture on its way in. It is never written to a file."""

    def __init__(self, limit: int, too_large: Callable[[], Exception]) -> None:
        self._parts: list[bytes] = []
        self._size, self._limit, self._too_large = 0, limit, too_large

    def write(self, data: bytes) -> int:
        self._size += len(data)
        if self._size > self._limit:
            raise self._too_large()
        self._parts.append(bytes(data))
        return len(data)

    def discard(self) -> None:
        self._parts = []

    def content(self) -> bytes:
        return b"".join(self._parts)


class _Memory:
    """Takes files as the store does, and keeps nothing."""

    def incoming(self, *, limit: int, too_large: Callable[[], Exception]) -> _InMemory:
        return _InMemory(limit, too_large)


def read_request_inputs(document: DemoDocument) -> RequestInputs:
    """This request's inputs for a demo.

    Parameters
    ----------
    document : DemoDocument
        What the demo says of itself.

    Raises
    ------
    ApiProblem
        400, 413 or 422 for a body that is none.
    InputFaults
        If a picture cannot be had.
    """
    pictures = [field for field in document.fields if isinstance(field, PictureField | DrawingField)]
    limits = state().services.settings.limits
    if request.mimetype == "multipart/form-data":
        sent = _from_multipart(pictures)
    else:
        most = limits.json_bytes + int(len(pictures) * limits.picture_bytes * BASE64_SHARE)
        parsed = read_json(most)
        if isinstance(parsed, dict) and isinstance(parsed.get("inputs"), dict) and len(parsed["inputs"]) > MOST_INPUTS:
            # No case has so many; which of them are none is said without copying all.
            check_inputs(document.fields, parsed["inputs"])
        sent = RequestInputs(parse_body(PredictionRequest, parsed).inputs, {})
    for field in pictures:
        _add_what_is_elsewhere(document, field, sent)
    return sent


def sample_picture(document: DemoDocument, name: str) -> dict[str, object] | None:
    """What a demo's own sample holds for a picture, by its name `number.field`; None if there is no such one.

    Parameters
    ----------
    document : DemoDocument
        What the demo says of itself.
    name : str
    """
    number, _, field = name.partition(".")
    # `isdecimal` alone takes digits of every script, and a number may be too long to be one.
    if not (number.isascii() and number.isdecimal() and len(number) < 6) or int(number) >= len(document.samples):
        return None
    value = document.samples[int(number)].inputs.get(field)
    return value if isinstance(value, dict) else None


def _from_multipart(pictures: Sequence[AnyField]) -> RequestInputs:
    limits = state().services.settings.limits
    upload: Upload = receive_upload(
        _Memory(),  # type: ignore[arg-type]
        {field.name: limits.picture_bytes for field in pictures},
        {"inputs": limits.json_bytes},
        "This picture" if len(pictures) == 1 else "What you show it",
    )
    body = parse_body(PredictionRequest, {"inputs": parse_json(upload.texts.get("inputs") or "{}")})
    contents = {name: incoming.content() for name, incoming in upload.files.items()}  # type: ignore[attr-defined]
    # A part stands for its field; beside it `inputs` may say what is cut out of it.
    return RequestInputs({**{name: {} for name in contents}, **body.inputs}, contents)


def _add_what_is_elsewhere(document: DemoDocument, field: AnyField, sent: RequestInputs) -> None:
    """Fetch what a link leads to, or take a sample of the demo's own."""
    value = sent.inputs.get(field.name)
    if not isinstance(value, dict) or field.name in sent.contents:
        return
    if isinstance(value.get("sample"), str):
        found = sample_picture(document, value["sample"])
        if found is None:
            raise InputFaults([Fault(field.name, f"{field.label}: there is no such sample. Choose another.")])
        rest = {key: part for key, part in value.items() if key != "sample"}
        sent.inputs[field.name] = {**found, **rest}
    elif isinstance(value.get("link"), str):
        sent.contents[field.name] = picture_behind(value["link"], field.name)


def picture_behind(link: str, field: str) -> bytes:
    """What a link leads to.

    Parameters
    ----------
    link : str
        An address.
    field : str
        Its name.

    Raises
    ------
    InputFaults
        Naming the field, with a sentence for the visitor.
    """
    settings = state().services.settings
    # Also where it comes within a case: a way round this limit would be none.
    slow_down_visitor("fetch", FETCHES_A_SECOND, saved=FETCHES_SAVED)
    try:
        return fetch_picture(link.strip(), most_bytes=settings.limits.picture_bytes, allowed=settings.links_allowed)
    except PictureNotRead as error:
        raise InputFaults([Fault(field, str(error))]) from error
