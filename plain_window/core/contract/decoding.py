"""Bytes to one of the contract's types, and back."""

import functools
from collections.abc import Hashable
from typing import TYPE_CHECKING, Any, TypeVar, cast

import msgspec

if TYPE_CHECKING:
    from typing_extensions import TypeForm

__all__ = ["ContractBroken", "decoded", "encoded"]

Type = TypeVar("Type")
# A message that nests deeper than its type allows is refused by the type; this is how much of a reason is repeated.
REASON_CHARACTERS = 200


def _plain(value: Any) -> Any:
    """A scalar of NumPy's as Python's own: what is computed ends up as these here and there."""
    if hasattr(value, "item"):
        return value.item()
    raise TypeError(f"{type(value).__name__} cannot be sent")


_encoder = msgspec.msgpack.Encoder(enc_hook=_plain)


class ContractBroken(Exception):
    """What came is not what the contract allows; the message says in what way."""


def encoded(message: object) -> bytes:
    """A message as bytes.

    Parameters
    ----------
    message : object
        One of the contract's structures.
    """
    return _encoder.encode(message)


def decoded(body: bytes, type_: "TypeForm[Type]") -> Type:
    """Bytes as a message of one type (or a union of tagged ones).

    Parameters
    ----------
    body : bytes
        Already known to be no longer than such a message may be.
    type_ : type
        Of the contract, or a union of tagged ones.

    Raises
    ------
    ContractBroken
        If they are not exactly that.
    """
    try:
        message: Type = _decoder(cast(Hashable, type_)).decode(body)
    except (msgspec.MsgspecError, RecursionError, ValueError, OverflowError) as error:
        raise ContractBroken(str(error)[:REASON_CHARACTERS] or type(error).__name__) from None
    return message


@functools.cache
def _decoder(type_: Any) -> msgspec.msgpack.Decoder[Any]:
    return msgspec.msgpack.Decoder(type_)
