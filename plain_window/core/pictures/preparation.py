"""Pixels as exactly what a model was trained on: size and fit, colour, scale, channel order, layout.

Every step is stated, none is guessed here; what the model will see can be looked at before the numbers are scaled.
"""

from typing import Annotated, Literal

import numpy as np
from PIL import Image
from pydantic import BaseModel, ConfigDict, model_validator
from pydantic import Field as Constrained

__all__ = ["Preparation", "as_input", "as_seen"]

Side = Annotated[int, Constrained(ge=1, le=4096)]
# Weights of red, green and blue for grey, as ITU-R BT.601 has them; what most training scripts use.
GREY_WEIGHTS = np.array([0.299, 0.587, 0.114])


class Preparation(BaseModel):
    """How a picture becomes a model's input."""

    model_config = ConfigDict(extra="forbid")

    width: Side
    height: Side
    fit: Literal["stretch", "border", "crop"] = Constrained(
        "stretch", description="Stretched to the size, whole inside a border, or the middle of it."
    )
    border: tuple[int, int, int] = Constrained((0, 0, 0), description="The border's colour.")
    colour: Literal["colour", "grey"] = "colour"
    invert: bool = Constrained(False, description="Light for dark: a model of white strokes on black.")
    scale: Literal["0..255", "0..1", "-1..1", "spread"] = "0..1"
    mean: list[float] = Constrained([], description="For `spread`, of values from 0 to 1: one number a channel.")
    spread: list[float] = Constrained([], description="For `spread`: what is divided by, one number a channel.")
    order: Literal["rgb", "bgr"] = "rgb"
    layout: Literal["channels first", "channels last", "flat"] = "channels first"
    batch: bool = Constrained(True, description="Whether a batch dimension of one stands in front.")

    @property
    def n_channels(self) -> int:
        """Three for colour, one for grey."""
        return 3 if self.colour == "colour" else 1

    @model_validator(mode="after")
    def _has_a_number_a_channel(self) -> "Preparation":
        if self.scale == "spread":
            if len(self.mean) != self.n_channels or len(self.spread) != self.n_channels:
                raise ValueError(f"mean and spread need {self.n_channels} numbers each, one a channel")
            if any(not number > 0 for number in self.spread):
                raise ValueError("spread must be above 0")
        return self


def as_seen(pixels: np.ndarray, preparation: Preparation) -> np.ndarray:
    """The picture as the model will see it: uint8 of shape (height, width, n_channels).

    Parameters
    ----------
    pixels : ndarray of uint8, shape (any height, any width, 3)
    preparation : Preparation
    """
    fitted = _fitted(Image.fromarray(pixels), preparation)
    seen = np.asarray(fitted)
    if preparation.colour == "grey":
        seen = np.rint(seen @ GREY_WEIGHTS).astype("uint8")[:, :, None]
    return 255 - seen if preparation.invert else seen


def as_input(seen: np.ndarray, preparation: Preparation) -> np.ndarray:
    """What `as_seen` gave, as the model's input: float32 in the layout that is stated.

    Parameters
    ----------
    seen : ndarray of uint8, shape (height, width, n_channels)
    preparation : Preparation

    Returns
    -------
    ndarray of float32
        (n_channels, height, width), (height, width, n_channels) or (height · width · n_channels,), behind a batch
        dimension of one if that is stated.
    """
    # In the order the model knows before the numbers that go by channel.
    values = seen[:, :, ::-1] if preparation.order == "bgr" and preparation.n_channels == 3 else seen
    scaled = _scaled(values.astype("float64"), preparation).astype("float32")
    if preparation.layout == "channels first":
        scaled = scaled.transpose(2, 0, 1)
    elif preparation.layout == "flat":
        scaled = scaled.reshape(-1)
    return np.ascontiguousarray(scaled[None] if preparation.batch else scaled)


def _scaled(values: np.ndarray, preparation: Preparation) -> np.ndarray:
    if preparation.scale == "0..255":
        return values
    if preparation.scale == "-1..1":
        return values / 127.5 - 1
    if preparation.scale == "spread":
        return (values / 255 - np.array(preparation.mean)) / np.array(preparation.spread)
    return values / 255


def _fitted(image: Image.Image, preparation: Preparation) -> Image.Image:
    """The picture in the size that is stated; a picture that has it already is not touched."""
    width, height = preparation.width, preparation.height
    if image.size == (width, height):
        return image
    if preparation.fit == "stretch":
        return image.resize((width, height), Image.Resampling.BILINEAR)
    shares = (width / image.width, height / image.height)
    share = min(shares) if preparation.fit == "border" else max(shares)
    size = (max(1, round(image.width * share)), max(1, round(image.height * share)))
    if preparation.fit == "border":
        inside = image.resize((min(size[0], width), min(size[1], height)), Image.Resampling.BILINEAR)
        out = Image.new("RGB", (width, height), preparation.border)
        out.paste(inside, ((width - inside.width) // 2, (height - inside.height) // 2))
        return out
    # Only what will be seen is resized: a strip of 20,000 pixels must not become a picture of millions.
    across, down = width / share, height / share
    left, top = (image.width - across) / 2, (image.height - down) / 2
    box = (max(0.0, left), max(0.0, top), min(image.width, left + across), min(image.height, top + down))
    return image.resize((width, height), Image.Resampling.BILINEAR, box=box)
