"""Answers that are pictures: what a model makes of one, or a class for each of its pixels."""

import base64

from ..core.answers import MaskAnswer, MaskSetting, PictureAnswer, PictureSetting
from ..core.answers.in_picture import MaskedKind, ViewPart
from ..core.answers.rounding import share_100
from ..core.contract import PictureReply
from ..core.contract.requests import MakePictureRequest, MaskRequest
from ..core.fields import CheckedInputs, Note
from ..runners.client import RunnerClient
from .explained_answers import Wanted
from .in_picture_answers import answer_written
from .lookups import Version
from .plain_answers import WrittenAnswer

__all__ = ["made_file", "made_picture", "nothing_place"]


def made_picture(
    runners: RunnerClient,
    version: Version,
    checked: CheckedInputs,
    wanted: Wanted,
    *,
    most_side: int | None,
    caller: str,
    started: float,
) -> WrittenAnswer:
    """Ask for a picture that is made of another, or for a class for each of its pixels.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
        Of a demo whose answer is that.
    checked : CheckedInputs
    wanted : Wanted
        What else is to come along; here only how the model sees the picture can.
    most_side : int or None
        No side of the answer is longer, as for a page; None for all of it.
    caller : str
        Who asks, by which calls have their turns.
    started : float
        When the request came (`time.perf_counter`).

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.made_picture` does.
    """
    reply = made_file(
        runners, version, checked, most_side=most_side, laid_over=False, seen="seen" in wanted.parts, caller=caller
    )
    answer = _answer(version.document.answer, reply)
    return answer_written(answer, reply, [*checked.notes, *_notes(reply, wanted)], version, started=started)


def made_file(
    runners: RunnerClient,
    version: Version,
    checked: CheckedInputs,
    *,
    most_side: int | None,
    laid_over: bool,
    caller: str,
    seen: bool = False,
) -> PictureReply:
    """The picture itself; of a mask as it is, or laid over the picture that was given.

    Parameters
    ----------
    runners : RunnerClient
    version : Version
    checked : CheckedInputs
    most_side : int or None
    laid_over : bool
    caller : str
    seen : bool
        Whether the picture as the model sees it comes along.

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
        As `RunnerClient.made_picture` does.
    """
    setting = version.document.answer
    if isinstance(setting, PictureSetting):
        asked = MakePictureRequest(
            row=checked.values, reading=setting.reading.model_dump(), most_side=most_side, seen=seen
        )
        return runners.made_picture(version.job, asked, caller=caller)
    assert isinstance(setting, MaskSetting), "who asks for pictures has looked"
    mask = MaskRequest(
        row=checked.values,
        reading=setting.reading.model_dump(),
        n_classes=len(setting.labels),
        most_side=most_side,
        laid_over=laid_over,
        nothing=nothing_place(setting),
        seen=seen,
    )
    return runners.made_picture(version.job, mask, n_classes=len(setting.labels), caller=caller)


def nothing_place(setting: MaskSetting) -> int | None:
    """The place of the class that is nothing in particular; None if there is none.

    Parameters
    ----------
    setting : MaskSetting
    """
    names = [label.name for label in setting.labels]
    return names.index(setting.nothing) if setting.nothing in names else None


def _answer(setting: object, reply: PictureReply) -> PictureAnswer | MaskAnswer:
    data = base64.b64encode(reply.content).decode("ascii")
    left, top, width, height = reply.part
    part = ViewPart(left=left, top=top, width=width, height=height)
    if isinstance(setting, PictureSetting):
        return PictureAnswer(
            type=reply.type, data=data, width=reply.width, height=reply.height, part=part, is_full=reply.is_full
        )
    assert isinstance(setting, MaskSetting), "who asks for pictures has looked"
    marks = share_100(reply.shares)
    kinds = [
        MaskedKind(label=label.label, name=label.name, place=place, share=share, of_100=mark)
        for place, (label, share, mark) in enumerate(zip(setting.labels, reply.shares, marks, strict=True))
    ]
    kinds.sort(key=lambda kind: -kind.share)
    return MaskAnswer(kinds=kinds, type=reply.type, data=data, width=reply.width, height=reply.height, part=part)


def _notes(reply: PictureReply, wanted: Wanted) -> list[Note]:
    notes = [Note(field=field, level="info", message=message[:500]) for field, message in reply.notes]
    if wanted.parts - {"seen"}:
        message = "An answer that is a picture is not explained."
        notes.append(Note(field=None, level="warn", message=message, code="not-explained"))
    return notes
