"""Ids of answers: signed, so that what became of an answer can be said of one that was given, and of no other.

An id carries the demo, its release and the answer in short; nothing of what was asked. No table of ids is needed, and
a prediction stays without the database.
"""

import base64
import hashlib
import hmac
import secrets

import msgspec

from ..core.answers.kinds import AnyAnswer, ClassAnswer, LabelsAnswer, NumberAnswer
from ..store.outcomes import SaidOutcome

__all__ = ["AnswerIds"]

SALT = b"plain window answer"
NONCE_BYTES, SIGNATURE_BYTES = 12, 20
MOST_CHARACTERS = 200
_CONTENT = msgspec.json.Decoder(tuple[int, int, str, str])


class AnswerIds:
    """Makes ids and reads them back.

    Parameters
    ----------
    secret : bytes
        The server's own; what is signed with another is no id of ours.
    """

    def __init__(self, secret: bytes) -> None:
        self._key = hashlib.blake2b(SALT, key=secret[: hashlib.blake2b.MAX_KEY_SIZE]).digest()

    def make(self, demo_id: int, release_number: int, answer: AnyAnswer) -> str:
        """An id for an answer that is about to be given.

        Parameters
        ----------
        demo_id, release_number : int
        answer : answer
        """
        content = msgspec.json.encode((demo_id, release_number, secrets.token_urlsafe(NONCE_BYTES), _in_short(answer)))
        return _text(self._signature(content) + content)

    def read(self, text: str, *, is_right: bool, truth: str | None, comment: str | None) -> SaidOutcome | None:
        """What is said of the answer with this id; None if no answer of ours had it.

        Parameters
        ----------
        text : str
            The id.
        is_right : bool
        truth, comment : str, optional
        """
        try:
            signed = base64.b64decode(text + "=" * (-len(text) % 4), altchars=b"-_", validate=True)
            signature, content = signed[:SIGNATURE_BYTES], signed[SIGNATURE_BYTES:]
            # The last character may carry bits that mean nothing; only the one spelling we gave out counts.
            if not hmac.compare_digest(signature, self._signature(content)) or _text(signed) != text:
                return None
            demo_id, release_number, nonce, answer = _CONTENT.decode(content)
        except (ValueError, msgspec.MsgspecError):
            return None
        return SaidOutcome(nonce, demo_id, release_number, answer, is_right, truth, comment)

    def _signature(self, content: bytes) -> bytes:
        """By BLAKE2's own keyed mode, which is a MAC (RFC 7693, section 2.9)."""
        return hashlib.blake2b(content, key=self._key, digest_size=SIGNATURE_BYTES).digest()


def _text(signed: bytes) -> str:
    return base64.urlsafe_b64encode(signed).rstrip(b"=").decode("ascii")


def _in_short(answer: AnyAnswer) -> str:
    if isinstance(answer, ClassAnswer):
        return answer.class_[:MOST_CHARACTERS]
    if isinstance(answer, NumberAnswer):
        return repr(answer.value)
    if isinstance(answer, LabelsAnswer):
        return ", ".join(one.name for one in answer.labels if one.applies)[:MOST_CHARACTERS]
    return ", ".join(f"{one.name} {one.value!r}" for one in answer.values)[:MOST_CHARACTERS]
