"""Does what was measured on known cases still say something of a demo as it is set now?"""

from collections.abc import Mapping
from typing import Any

from .demo import DemoDocument

__all__ = ["is_measured_as_set"]

# Settings of a picture's field that decide what the model sees of a picture.
SEEN_SETTINGS = ("preparation", "behind")


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
        now = field.model_dump(mode="json")
        if any(now[key] != _as_written(measured[field.name].get(key)) for key in SEEN_SETTINGS):
            return False
    return True


def _as_written(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value
