"""Kernels as object code: the same results as numba's own, in a process that never loads numba."""

import json
import subprocess
import sys
from pathlib import Path

import numpy as np
from sklearn.ensemble import GradientBoostingClassifier, RandomForestRegressor

from plain_window.core.plan.container import write_plan
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.machine_code import KERNEL_MODULES, build_machine_code
from plain_window.core.plan.parity import columns_of_table

from .plans import NUMBERS, TABLE, proved

PROGRAM = """
import json, pathlib, sys
from plain_window.core.plan.machine_code import use_machine_code
assert use_machine_code(pathlib.Path(sys.argv[1]))
from plain_window.core.plan.container import read_plan
from plain_window.core.plan.engine import CompiledModel
columns = json.loads(sys.stdin.read())
said = [CompiledModel(read_plan(pathlib.Path(path).read_bytes())).predict(columns).tolist() for path in sys.argv[2:]]
print(json.dumps({"said": said, "loaded": [name for name in ("numba", "scipy") if name in sys.modules]}))
"""


def test_object_code_gives_the_very_same_answers_without_numba(tmp_path: Path):
    models = [
        RandomForestRegressor(7, random_state=0).fit(TABLE[NUMBERS], TABLE["kwh"]),
        GradientBoostingClassifier(n_estimators=9, random_state=0).fit(TABLE[NUMBERS], TABLE["outcome"]),
    ]
    build_machine_code(tmp_path, KERNEL_MODULES)
    rows = TABLE[NUMBERS].head(21)
    expected, paths = [], []
    for at, model in enumerate(models):
        plan, _ = proved(model, TABLE[NUMBERS])
        expected.append(CompiledModel(plan).predict(columns_of_table(rows)))
        paths.append(tmp_path / f"{at}.plan")
        paths[-1].write_bytes(write_plan(plan))
    columns = json.dumps({name: rows[name].tolist() for name in NUMBERS})
    command = [sys.executable, "-c", PROGRAM, str(tmp_path), *map(str, paths)]
    ended = subprocess.run(command, input=columns, capture_output=True, text=True, check=False)
    assert ended.returncode == 0, ended.stderr
    done = json.loads(ended.stdout)
    assert done["loaded"] == []
    for said, wanted in zip(done["said"], expected, strict=True):
        np.testing.assert_array_equal(said, wanted)
