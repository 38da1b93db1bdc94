"""What each step of a plan does, on blocks of shape (n_rows, width).

- `registry`    what an operation is, and the list of them
- `columns`     from raw columns to blocks
- `words`       from texts to counts of terms; `sparse` holds them
- `arithmetic`  number by number, and row by row
- `shapes`      products, bins, pieces of polynomials, quantiles, powers; `normal` has the bell curve
- `distances`   kernel machines, nearest neighbours, bell curves around classes
- `votes`       classes against each other
- `trees`       single, averaged, added up

None of them needs a library but NumPy and, for trees, numba.
"""

from . import arithmetic, columns, distances, shapes, trees, votes, words  # noqa: F401 -- they register themselves
from .registry import OPERATIONS, ValueNotKnown

__all__ = ["OPERATIONS", "ValueNotKnown"]
