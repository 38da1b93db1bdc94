"""Does what was measured on known cases still say something of a demo as it is set now?"""

from ..contract.inspection import Inspection
from ..fields import DrawingField, PictureField
from .document import DemoDocument

__all__ = ["is_measured_as_set"]


def is_measured_as_set(document: DemoDocument, inspection: Inspection) -> bool:
    """Whether pictures are prepared as they were when known pictures were tried, and no field is fixed that was free.

    Parameters
    ----------
    document : DemoDocument
    inspection : Inspection
        With the fields as they were then.
    """
    measured = {field.name: field for field in inspection.fields}
    for field in document.fields:
        if field.hidden:
            # Known cases had values of their own in it; what they say is not about the page's cases.
            return False
        then = measured.get(field.name)
        if not isinstance(field, PictureField | DrawingField) or not isinstance(then, PictureField | DrawingField):
            continue
        if field.preparation != then.preparation or field.behind != then.behind:
            return False
    return True
