"""Pictures and a small network that looks at them, for tests through the API."""

import io

import httpx
import numpy as np
from PIL import Image

from ..core.test_picture_models import red_or_blue

__all__ = ["bring_red_or_blue", "coloured", "file_of"]


def coloured(red: int, green: int, blue: int, size: tuple[int, int] = (40, 30)) -> Image.Image:
    return Image.new("RGB", size, (red, green, blue))


def file_of(image: Image.Image, kind: str = "PNG", **options) -> bytes:
    content = io.BytesIO()
    image.save(content, kind, **options)
    return content.getvalue()


def bring_red_or_blue(author: httpx.Client, slug: str) -> httpx.Response:
    """A published demo that tells red pictures from blue ones."""
    content, known = red_or_blue()
    files = {"model": ("model.onnx", content), "known": ("known.zip", known.getvalue())}
    response = author.post("/api/v1/demos", files=files, data={"slug": slug, "title": "Red or blue?"})
    assert response.status_code == 201, response.text
    assert author.post(f"/api/v1/demos/{slug}/releases").status_code == 201
    assert author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"}).status_code == 200
    return response


def noise(side: int) -> Image.Image:
    return Image.fromarray(np.random.default_rng(0).integers(0, 256, (side, side, 3)).astype("uint8"))
