"""Codes into sentences: what visitors and authors read of what a runner cannot say or do."""

from ..core.contract import Reason
from ..runners.failures import RunnerUnavailable, Unavailable

__all__ = ["missing_sentence", "unavailable_sentence"]

MISSING: dict[Reason, str] = {
    "no-reference-rows": "There are no reference rows to compare with.",
    "reference-not-answered": "The model does not answer the reference rows it would be compared with.",
    "reference-without-numbers": "The model gives no number for some of the reference rows it would be compared with.",
    "mixtures-not-answered": "The model fails for some of the cases that an explanation compares this one with.",
    "too-slow": "The model takes too long for the many questions an explanation asks of it.",
    "no-picture": "This model looks at no picture.",
    "not-for-pictures": "What matters overall is not worked out for models that look at pictures.",
    "no-score": "This model has no score behind its answer. Ask without `scale`.",
}
UNAVAILABLE: dict[Unavailable, str] = {
    "starting": "The model is starting. Try again in a moment.",
    "opening": "The model is still being opened. Try again in a moment.",
    "restarted": "The model stopped and is being started again. Try again in a moment.",
    "overran": "The model took more than {seconds:g} seconds for this and was stopped.",
    "memory": "The model took more memory than it may and was stopped. Try again in a moment.",
    "crowded": "The model has much to do just now. Try again in a moment.",
    "no-answer": (
        "The model's process answered with something that is no answer and was stopped. Try again in a moment."
    ),
    "away": "This model runs in a process of its author's, which is not connected just now. Try again later.",
    "keeper-gone": "The models are starting. Try again in a moment.",
}


def missing_sentence(reason: Reason) -> str:
    """Why there is nothing of what was asked for.

    Parameters
    ----------
    reason : str
    """
    return MISSING[reason]


def unavailable_sentence(error: RunnerUnavailable) -> str:
    """Why there is no answer now.

    Parameters
    ----------
    error : RunnerUnavailable
    """
    return UNAVAILABLE[error.why].format(seconds=error.seconds)
