"""Ids of answers: signed, so that what became of an answer can be said of one that was given, and of no other.

An id carries the demo, its release and the answer in short; nothing of what was asked. No table of ids is needed, and
a prediction stays without the database.
"""

import hashlib
import hmac
import os
from collections import Counter

import msgspec
from itsdangerous import BadData, Signer
from itsdangerous.encoding import base64_decode, base64_encode
from itsdangerous.signer import SigningAlgorithm

from ..core.answers import BoxesAnswer, MaskAnswer, PictureAnswer, TableAnswer, TextAnswer
from ..core.answers.kinds import AnyAnswer, ClassAnswer, LabelsAnswer, NumberAnswer
from ..store.outcomes import SaidOutcome

__all__ = ["AnswerIds"]

SALT = b"answer"
# As bytes, and as characters that stand for six bits each.
NONCE_BYTES, NONCE_LENGTH = 12, 16
MOST_CHARACTERS = 200
# Asked of the system for so many ids at once.
NONCES_AT_ONCE = 256
_CONTENT = msgspec.json.Decoder(tuple[int, int, str, str])


class _InOneCall(SigningAlgorithm):
    """HMAC with SHA-256, as the signer's own makes it, without an object for each signature."""

    def get_signature(self, key: bytes, value: bytes) -> bytes:
        return hmac.digest(key, value, "sha256")


class AnswerIds:
    """Makes ids and reads them back.

    Parameters
    ----------
    secret : bytes
        The server's own; what is signed with another is no id of ours.
    """

    def __init__(self, secret: bytes) -> None:
        # Derived once: every answer has an id, and deriving takes longer than signing.
        key = Signer(secret, salt=SALT, digest_method=hashlib.sha256).derive_key()
        self._signer = Signer(key, key_derivation="none", algorithm=_InOneCall())
        self._nonces: list[str] = []

    def make(self, demo_id: int, release_number: int, answer: AnyAnswer) -> str:
        """An id for an answer that is about to be given.

        Parameters
        ----------
        demo_id, release_number : int
        answer : answer
        """
        content = msgspec.json.encode((demo_id, release_number, self._nonce(), _in_short(answer)))
        return self._signer.sign(base64_encode(content)).decode("ascii")

    def _nonce(self) -> str:
        try:
            return self._nonces.pop()
        except IndexError:
            drawn = base64_encode(os.urandom(NONCE_BYTES * NONCES_AT_ONCE)).decode("ascii")
            # Twelve bytes are sixteen characters, so cut between them each has bytes of its own.
            cut = [drawn[at : at + NONCE_LENGTH] for at in range(0, len(drawn), NONCE_LENGTH)]
            self._nonces = cut[1:]
            return cut[0]

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
            content = self._signer.unsign(text)
            # The last character of a signature carries bits that mean nothing; only the spelling we gave out counts.
            if self._signer.sign(content).decode("ascii") != text:
                return None
            demo_id, release_number, nonce, answer = _CONTENT.decode(base64_decode(content))
        except (BadData, ValueError, msgspec.MsgspecError):
            return None
        return SaidOutcome(nonce, demo_id, release_number, answer, is_right, truth, comment)


def _in_short(answer: AnyAnswer) -> str:
    if isinstance(answer, ClassAnswer):
        return answer.class_[:MOST_CHARACTERS]
    if isinstance(answer, NumberAnswer):
        return repr(answer.value)
    if isinstance(answer, LabelsAnswer):
        return ", ".join(one.name for one in answer.labels if one.applies)[:MOST_CHARACTERS]
    if isinstance(answer, PictureAnswer):
        return f"a picture of {answer.width} by {answer.height}"
    if isinstance(answer, MaskAnswer):
        return ", ".join(f"{one.name} {one.share:.4f}" for one in answer.kinds)[:MOST_CHARACTERS]
    if isinstance(answer, BoxesAnswer):
        counts = Counter(box.name for box in answer.boxes)
        return (", ".join(f"{count} {name}" for name, count in counts.items()) or "nothing")[:MOST_CHARACTERS]
    if isinstance(answer, TextAnswer):
        return answer.text[:MOST_CHARACTERS]
    if isinstance(answer, TableAnswer):
        return f"a table of {len(answer.rows)} rows"
    return ", ".join(f"{one.name} {one.value!r}" for one in answer.values)[:MOST_CHARACTERS]
