"""Does what was measured on known cases still say something of a demo as it is set now?"""

from collections.abc import Mapping
from typing import Any

from .demo import DemoDocument
from .pictures.settings import Preparation

__all__ = ["is_measured_as_set"]


def is_measured_as_set(document: DemoDocument, inspection: Mapping[str, Any]) -> bool:
    """Whether pictures are prepared as they were when known pictures were tried.

    Parameters
    ----------
    document : DemoDocument
    inspection : mapping
        With the fields as they were then.
    """
    measured = {field["name"]: field for field in inspection["fields"]}
    for field in document.fields:
        if field.kind not in ("picture", "drawing") or field.name not in measured:
            continue
        # Read as it is read now: documents of before say the same in other words.
        then = measured[field.name]
        if field.preparation != Preparation.model_validate(then["preparation"]) or field.behind != then["behind"]:
            return False
    return True
