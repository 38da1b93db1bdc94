"""Whether a demo can be asked about films: frame by frame, one picture each."""

from collections.abc import Mapping

from ..answers import BoxesSetting, ClassSetting, LabelsSetting, NumberSetting, NumbersSetting
from ..fields import CheckedInputs, PictureField, check_inputs
from .document import DemoDocument

__all__ = ["check_frame", "film_field", "why_no_films"]


def film_field(document: DemoDocument) -> PictureField:
    """The field that a film's frames are put into.

    Parameters
    ----------
    document : DemoDocument
        Of a demo that can be asked about films.
    """
    (field,) = (field for field in document.fields if isinstance(field, PictureField))
    return field


def check_frame(document: DemoDocument, inputs: Mapping[str, object], content: bytes) -> CheckedInputs:
    """A frame as a case: it stands where the picture does, and everything else is the same for all frames.

    Parameters
    ----------
    document : DemoDocument
        Of a demo that can be asked about films.
    inputs : mapping of str to value
        What the other fields hold; for the picture's own, which part of each frame is cut out and how it is turned.
    content : bytes
        The frame as the file of a picture.

    Raises
    ------
    InputFaults
        As `check_inputs` does.
    """
    field = film_field(document).name
    return check_inputs(document.fields, {field: {}, **inputs}, {field: content})


def why_no_films(document: DemoDocument) -> str:
    """Why it cannot, in a sentence; empty if it can.

    Parameters
    ----------
    document : DemoDocument
    """
    n_pictures = sum(isinstance(field, PictureField) for field in document.fields)
    if n_pictures != 1:
        what = "looks at no picture" if not n_pictures else "takes several pictures at once"
        return f"This model {what}; a film has one picture at a time."
    if not isinstance(document.answer, BoxesSetting | ClassSetting | LabelsSetting | NumberSetting | NumbersSetting):
        return "This model answers with pictures; of a film it would make as many as there are frames."
    return ""
