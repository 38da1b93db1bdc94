"""The file that both readers' tests read."""

import base64
import json
import math
from pathlib import Path
from typing import Any

import numpy as np

from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.engine import CompiledModel

from .cases import Case, cases

__all__ = ["PLACE", "written_vectors"]

PLACE = Path(__file__).with_name("operations.json")


def written_vectors() -> str:
    """All cases with what the engine says of them; numbers that JSON has no word for are written as text."""
    lines = [json.dumps(_written(case), ensure_ascii=False) for case in cases()]
    return "[\n" + ",\n".join(lines) + "\n]\n"


def _written(case: Case) -> dict[str, Any]:
    content = write_plan(case.plan)
    with np.errstate(all="ignore"):
        outputs = CompiledModel(read_plan(content)).predict(case.columns)
    return {
        "name": case.name,
        "op": case.plan.steps[-1].op,
        "model": base64.b64encode(content).decode("ascii"),
        "columns": {name: [_plain(value) for value in values] for name, values in case.columns.items()},
        "outputs": [[_plain(value) for value in row] for row in outputs.tolist()],
    }


def _plain(value: Any) -> Any:
    if isinstance(value, float) and not math.isfinite(value):
        return "NaN" if math.isnan(value) else "Infinity" if value > 0 else "-Infinity"
    return value
