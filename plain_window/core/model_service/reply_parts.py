"""What explanations find out, as the parts of a reply."""

from ..contract.replies import CurveFound, FieldFound, OverallReply, PartFound
from ..explain.curves import Curve
from ..explain.overall import OverallState, Spread

__all__ = ["curve_found", "overall_reply"]


def overall_reply(state: OverallState) -> OverallReply:
    """What matters overall, as a reply.

    Parameters
    ----------
    state : OverallState
        As far as it has come.
    """
    fields = [
        FieldFound(
            one.name,
            (one.importance, one.importance_low, one.importance_high),
            one.shuffled,
            [
                PartFound(part.words, part.low, part.high, part.n_rows, _spread(part.contributions))
                for part in one.parts
            ],
            list(one.curve_x),
            [_spread(spread) for spread in one.curve],
        )
        for one in state.fields
    ]
    return OverallReply(fields, state.n_rows, state.n_known, state.share_done)


def _spread(spread: Spread) -> tuple[float, float, float]:
    return spread.middle, spread.low, spread.high


def curve_found(curve: Curve) -> CurveFound:
    """A curve as a part of a reply.

    Parameters
    ----------
    curve : Curve
    """
    return CurveFound(curve.shape, list(curve.x), list(curve.y), curve.thinned, curve.unknown)
