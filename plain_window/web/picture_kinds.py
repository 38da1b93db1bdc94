"""Pictures that browsers may be sent, by their first bytes."""

__all__ = ["picture_kind"]

PICTURE_MAGIC = {
    b"\xff\xd8\xff": "image/jpeg",
    b"\x89PNG": "image/png",
    b"RIFF": "image/webp",
    b"GIF8": "image/gif",
    b"BM": "image/bmp",
    b"II*\x00": "image/tiff",
    b"MM\x00*": "image/tiff",
}


def picture_kind(content: bytes) -> str | None:
    """A picture's media type; None for what is no picture that is sent.

    Parameters
    ----------
    content : bytes
    """
    return next((kind for magic, kind in PICTURE_MAGIC.items() if content.startswith(magic)), None)
