"""Multipart requests: files go straight into the file store, each within its own limit, nothing through memory."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from flask import request
from werkzeug.sansio.multipart import Data, Epilogue, Field, File, MultipartDecoder

from ..store.files import FileStore, Incoming
from .operations import refuse_large
from .problems import ApiProblem

__all__ = ["Upload", "receive_upload"]

PART_BYTES = 1 << 18
FORM_FIELD_BYTES = 1 << 20
# Boundaries and part headers.
OVERHEAD_BYTES = 1 << 16


@dataclass
class Upload:
    """What came in: files in the store's waiting room, and text."""

    files: dict[str, Incoming] = field(default_factory=dict)
    texts: dict[str, str] = field(default_factory=dict)
    # What each file was called where it came from.
    names: dict[str, str] = field(default_factory=dict)

    def discard(self) -> None:
        """Drop what was not taken into the store."""
        for incoming in self.files.values():
            incoming.discard()


def receive_upload(
    store: FileStore,
    limits: Mapping[str, int],
    texts: Mapping[str, int],
    what: str = "The request",
    *,
    declined: Mapping[str, str] | None = None,
) -> Upload:
    """Read this request's multipart body.

    Parameters
    ----------
    store : FileStore
    limits : mapping of str to int
        The files it may have, and how many bytes each may be.
    texts : mapping of str to int
        The text parts it may have, likewise. A file sent under such a name is taken for its text.
    what : str
        What the whole of it is called where it is too large.
    declined : mapping of str to str, optional
        Parts that are sent elsewhere, but of no use here, and why not.

    Raises
    ------
    ApiProblem
        400 if it is no multipart body, 413 or 422 naming the part that is too large or not expected.
    """
    boundary = request.mimetype_params.get("boundary")
    if request.mimetype != "multipart/form-data" or not boundary:
        names = ", ".join(f"`{name}`" for name in [*limits, *texts])
        raise ApiProblem(400, "Not a multipart body", f"Send multipart/form-data with the parts {names}.")
    refuse_large(sum(limits.values()) + sum(texts.values()) + OVERHEAD_BYTES, what, sum(limits.values()))
    request.max_content_length = None
    upload = Upload()
    try:
        _read_parts(_Parts(store, limits, texts, upload, declined or {}), boundary.encode())
    except BaseException:
        upload.discard()
        raise
    return upload


class _Parts:
    """Takes the parts as they come, one after another."""

    def __init__(
        self,
        store: FileStore,
        limits: Mapping[str, int],
        texts: Mapping[str, int],
        upload: Upload,
        declined: Mapping[str, str],
    ) -> None:
        self._store, self._limits, self._texts, self._upload = store, limits, texts, upload
        self._declined = declined
        self._name = ""
        self._text = bytearray()

    def begin(self, part: Field | File) -> None:
        self._name = part.name or ""
        if self._name in self._upload.files or self._name in self._upload.texts:
            raise ApiProblem(422, "A part twice", f"`{self._name}` was sent twice. Send it once.")
        if self._name in self._limits:
            limit = self._limits[self._name]
            self._upload.names[self._name] = (part.filename or "") if isinstance(part, File) else ""
            self._upload.files[self._name] = self._store.incoming(limit=limit, too_large=lambda: self._too_large(limit))
        elif self._name in self._texts:
            self._text = bytearray()
        elif self._name in self._declined:
            raise ApiProblem(422, "Not for this demo", self._declined[self._name])
        else:
            names = ", ".join(f"`{name}`" for name in [*self._limits, *self._texts])
            raise ApiProblem(422, "Unknown part", f"There is no part `{self._name[:60]}`. The parts are {names}.")

    def take(self, data: bytes, *, last: bool) -> None:
        if self._name in self._limits:
            self._upload.files[self._name].write(data)
            return
        self._text += data
        if len(self._text) > self._texts[self._name]:
            raise self._too_large(self._texts[self._name])
        if last:
            self._upload.texts[self._name] = self._as_text()

    def _as_text(self) -> str:
        """UTF-8, or what text editors of before save in."""
        if self._text.startswith((b"\xff\xfe", b"\xfe\xff")):
            return self._text.decode("utf-16", errors="replace")
        try:
            return self._text.decode("utf-8-sig")
        except UnicodeDecodeError:
            if b"\0" in self._text:
                raise ApiProblem(422, "Not text", f"`{self._name}` is no text. Send one name a line.") from None
            return self._text.decode("cp1252", errors="replace")

    def _too_large(self, limit: int) -> ApiProblem:
        size = f"{limit / (1 << 20):.3g} MB" if limit >= 1 << 20 else f"{limit} bytes"
        return ApiProblem(413, "Too large", f"`{self._name}` is larger than the limit of {size}. Send a smaller one.")


def _read_parts(parts: _Parts, boundary: bytes) -> None:
    decoder = MultipartDecoder(boundary, max_form_memory_size=None, max_parts=20)
    while True:
        data = request.stream.read(PART_BYTES)
        decoder.receive_data(data or None)
        try:
            while not isinstance(event := decoder.next_event(), Epilogue):
                if isinstance(event, Field | File):
                    parts.begin(event)
                elif isinstance(event, Data):
                    parts.take(event.data, last=not event.more_data)
                elif type(event).__name__ == "NeedData":
                    break
            else:
                return
        except ValueError as error:
            raise ApiProblem(400, "Not a multipart body", "The request ends before its last part does.") from error
        if not data:
            raise ApiProblem(400, "Not a multipart body", "The request ends before its last part does.")
