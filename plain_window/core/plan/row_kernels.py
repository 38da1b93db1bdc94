"""The hot loop of a single row's simple steps: cells moved and scaled. A kernel as in `kernels`."""

import math

import numpy as np

from .machine_code import kernel

__all__ = ["ADD", "COPY", "DIVIDE", "FILL", "IS_MISSING", "LOOKUP", "MULTIPLY", "ONE_HOT", "SINGLE", "SUBTRACT", "TAKE"]
__all__ += ["run_simple_steps"]

COPY, TAKE, ONE_HOT, LOOKUP, ADD, SUBTRACT, MULTIPLY, DIVIDE, FILL, IS_MISSING, SINGLE = range(11)


@kernel(lambda t: t.void(t.int64[:, ::1], t.float64[::1], t.float64[::1]))
def run_simple_steps(program, constants, cells):
    """Run steps on the cells of one row. Each gives the very numbers of the operation it stands for.

    Parameters
    ----------
    program : ndarray of shape (n_steps, 6)
        What is done; the first cell that is read, the first that is written, and how many are; where its constants
        begin, and for codes how many are known.
    constants : ndarray
        Vectors, tables and places of all steps.
    cells : ndarray
        Blocks behind each other; filled in place. A step reads what lies before what it writes.
    """
    for step in range(program.shape[0]):
        what, source, target = program[step, 0], program[step, 1], program[step, 2]
        width, given, n_known = program[step, 3], program[step, 4], program[step, 5]
        if what in (ONE_HOT, LOOKUP):
            code = cells[source]
            # A code that is NaN compares as none that is known.
            at = int(code) if (code >= 0) & (code < n_known) else n_known
            if what == LOOKUP:
                for place in range(width):
                    cells[target + place] = constants[given + at * width + place]
            else:
                hot = int(constants[given + at])
                for place in range(width):
                    cells[target + place] = 1.0 if place == hot else 0.0
            continue
        for place in range(width):
            value = cells[source + place] if what != TAKE else cells[source + int(constants[given + place])]
            if what == ADD:
                value = value + constants[given + place]
            elif what == SUBTRACT:
                value = value - constants[given + place]
            elif what == MULTIPLY:
                value = value * constants[given + place]
            elif what == DIVIDE:
                value = value / constants[given + place]
            elif what == FILL:
                value = constants[given + place] if math.isnan(value) else value
            elif what == IS_MISSING:
                value = 1.0 if math.isnan(value) else 0.0
            elif what == SINGLE:
                value = np.float64(np.float32(value))
            cells[target + place] = value
