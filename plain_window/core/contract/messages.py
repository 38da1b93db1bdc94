"""What messages between our own processes have in common: a tag each, and nothing that is not known."""

import msgspec

__all__ = ["Ask", "Said"]


class Ask(msgspec.Struct, frozen=True, forbid_unknown_fields=True, tag_field="ask"):
    """A message to one of them."""


class Said(msgspec.Struct, frozen=True, forbid_unknown_fields=True, tag_field="said"):
    """A message of one of them."""
