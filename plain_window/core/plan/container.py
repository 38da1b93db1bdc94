"""The file of a compiled model: safetensors, whose metadata holds the inputs and steps as JSON.

safetensors is plain arrays behind a JSON header: opening one runs no code. A file is checked as a whole before it is
used; one that is damaged is refused, never misread.
"""

import hashlib
import json

import numpy as np
import safetensors.numpy
from pydantic import ValidationError
from safetensors import SafetensorError

from .checking import check_plan
from .plan import Plan, PlanDamaged

__all__ = ["read_plan", "stated_sum", "write_plan"]

KEY = "plain_window_plan"
SUM_KEY = "plain_window_sum"


def write_plan(plan: Plan) -> bytes:
    """The plan as a file's content.

    Parameters
    ----------
    plan : Plan
    """
    document = plan.model_dump_json(exclude={"arrays"})
    arrays = {name: np.ascontiguousarray(array) for name, array in plan.arrays.items()}
    return safetensors.numpy.save(arrays, metadata={KEY: document, SUM_KEY: _sum(document, arrays)})


def read_plan(content: bytes) -> Plan:
    """The plan in a file's content.

    Parameters
    ----------
    content : bytes
        The whole file.

    Raises
    ------
    PlanDamaged
        If it is damaged, or no compiled model.
    """
    try:
        arrays = safetensors.numpy.load(content)
        metadata = _metadata(content)
        document, stated = metadata[KEY], metadata[SUM_KEY]
        if _sum(document, arrays) != stated:
            raise PlanDamaged("its content is not what was written")
        plan = Plan(**json.loads(document), arrays=arrays)
    except (SafetensorError, KeyError, TypeError, ValueError, ValidationError, OverflowError) as error:
        raise PlanDamaged(f"this is no compiled model, or a damaged one: {str(error)[:200]}") from error
    check_plan(plan)
    return plan


def stated_sum(content: bytes) -> str:
    """What a file that was read before is known again by: the SHA-256 that it states over its plan and arrays.

    Parameters
    ----------
    content : bytes
    """
    return str(_metadata(content)[SUM_KEY])


def _metadata(content: bytes) -> dict[str, str]:
    # The header's length comes first, as eight bytes; whoever has opened the file has checked it.
    found: dict[str, str] = json.loads(content[8 : 8 + int.from_bytes(content[:8], "little")]).get("__metadata__", {})
    return found


def _sum(document: str, arrays: dict[str, np.ndarray]) -> str:
    digest = hashlib.sha256(document.encode())
    for name in sorted(arrays):
        array = arrays[name]
        digest.update(f"{name} {array.dtype} {array.shape}".encode())
        digest.update(array.tobytes())
    return digest.hexdigest()
