"""Ids of answers: signed, so that what became of an answer can be said of one that was given, and of no other.

An id carries the demo, its release and the answer in short; nothing of what was asked. No table of ids is needed, and
a prediction stays without the database.
"""

import secrets

from flask import current_app
from itsdangerous import BadSignature, URLSafeSerializer

from ..core.answers.kinds import AnyAnswer, ClassAnswer, LabelsAnswer, NumberAnswer
from ..store.outcomes import SaidOutcome

__all__ = ["answer_id", "read_answer_id"]

SALT = "answer"
NONCE_BYTES = 12
MOST_CHARACTERS = 200


def answer_id(demo_id: int, release_number: int, answer: AnyAnswer) -> str:
    """An id for an answer that is about to be given."""
    nonce = secrets.token_urlsafe(NONCE_BYTES)
    return _serializer().dumps([demo_id, release_number, nonce, _in_short(answer)])


def read_answer_id(text: str, *, is_right: bool, truth: str | None, comment: str | None) -> SaidOutcome | None:
    """What is said of the answer with this id; None if no answer of ours had it."""
    try:
        demo_id, release_number, nonce, answer = _serializer().loads(text)
    except (BadSignature, ValueError, TypeError):
        return None
    return SaidOutcome(nonce, demo_id, release_number, answer, is_right, truth, comment)


def _serializer() -> URLSafeSerializer:
    return URLSafeSerializer(current_app.config["SECRET_KEY"], salt=SALT)


def _in_short(answer: AnyAnswer) -> str:
    if isinstance(answer, ClassAnswer):
        return answer.class_[:MOST_CHARACTERS]
    if isinstance(answer, NumberAnswer):
        return repr(answer.value)
    if isinstance(answer, LabelsAnswer):
        return ", ".join(one.name for one in answer.labels if one.applies)[:MOST_CHARACTERS]
    return ", ".join(f"{one.name} {one.value!r}" for one in answer.values)[:MOST_CHARACTERS]
