"""The same model asked in one process: through its library, and compiled. No HTTP, no sockets."""

import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path

import joblib
import pandas as pd

from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import columns_of_table, rows_around
from plain_window.samples.will_it_crack.pieces import TARGET

__all__ = ["InProcess", "measure_in_process", "median_ms"]

SAMPLE = Path(__file__).resolve().parents[1] / "plain_window/samples/will_it_crack/demo"
MANY_ROWS = 100_000


@dataclass(frozen=True)
class InProcess:
    """Times of one call, in milliseconds."""

    library_one_row_ms: float
    compiled_one_row_ms: float
    library_many_rows_ms: float
    compiled_many_rows_ms: float

    def words(self) -> dict[str, str]:
        """For a table."""
        one = self.library_one_row_ms / self.compiled_one_row_ms
        many = self.library_many_rows_ms / self.compiled_many_rows_ms
        return {
            "one row, library": f"{self.library_one_row_ms:.2f} ms",
            "one row, compiled": f"{self.compiled_one_row_ms:.3f} ms ({one:.0f} times as fast)",
            f"{MANY_ROWS:,} rows, library": f"{self.library_many_rows_ms:.0f} ms",
            f"{MANY_ROWS:,} rows, compiled": f"{self.compiled_many_rows_ms:.0f} ms ({many:.2f} times as fast)",
        }

    def to_dict(self) -> dict[str, float]:
        """For JSON."""
        return asdict(self)


def measure_in_process() -> InProcess:
    """Time the sample's 300-tree forest behind one-hot and scaling, both ways; medians of several calls."""
    model = joblib.load(SAMPLE / "model.joblib")
    reference = pd.read_csv(SAMPLE / "reference.csv").drop(columns=TARGET)
    compiled = CompiledModel(compile_sklearn(model, list(reference.columns), wanted="probabilities"))
    one, many = reference.iloc[[0]], rows_around(reference, n_rows=MANY_ROWS)
    one_columns, many_columns = columns_of_table(one), columns_of_table(many)
    return InProcess(
        library_one_row_ms=median_ms(lambda: model.predict_proba(one), 30),
        compiled_one_row_ms=median_ms(lambda: compiled.predict(one_columns), 2000),
        library_many_rows_ms=median_ms(lambda: model.predict_proba(many), 3),
        compiled_many_rows_ms=median_ms(lambda: compiled.predict(many_columns), 3),
    )


def median_ms(call: Callable[[], object], times: int) -> float:
    """The median time of several calls, after one that is not counted."""
    call()
    spent = []
    for _ in range(times):
        begun = time.perf_counter()
        call()
        spent.append(time.perf_counter() - begun)
    return sorted(spent)[times // 2] * 1000
