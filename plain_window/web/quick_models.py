"""Small compiled models that this web process asks itself (decision 23); everything else is asked of runners."""

import logging
import threading
from collections import OrderedDict
from pathlib import Path
from typing import TYPE_CHECKING

from ..core.contract.jobs import RunnerJob
from ..core.contract.kept_rows import read_kept_rows
from ..core.contract.values import Row
from ..core.errors import ModelFailed
from .beside import beside

if TYPE_CHECKING:  # NumPy is loaded only where a model is
    from ..core.model_service.quick import QuickModel, QuickPrediction

__all__ = ["QuickModels"]

log = logging.getLogger("web")


# Files of all models together; those asked longest ago go first.
MOST_BYTES_TOGETHER = 64 << 20
# Jobs of which it is known that they are asked elsewhere.
MOST_ELSEWHERE = 4096


class QuickModels:
    """Loads models aside, and has those at hand that can be asked here.

    Parameters
    ----------
    kernels : Path
        The kernels' machine code. Without it nothing is asked here: compiling is not for a web process.
    """

    def __init__(self, kernels: Path) -> None:
        self._kernels = kernels
        self._models: OrderedDict[str, tuple[QuickModel, int]] = OrderedDict()
        self._elsewhere: OrderedDict[str, None] = OrderedDict()
        self._loading: set[str] = set()
        self._lock = threading.Lock()
        self._one_at_a_time = threading.Lock()

    def at_hand(self, job: RunnerJob) -> "QuickModel | None":
        """The model, if it can be asked here by now; if that is not known yet, it is found out aside.

        Parameters
        ----------
        job : RunnerJob
        """
        found = self._models.get(job.key)
        if found is not None:
            self._models.move_to_end(job.key)
            return found[0]
        if job.key not in self._elsewhere and job.key not in self._loading:
            threading.Thread(target=self.load, args=(job,), name="quick-model", daemon=True).start()
        return None

    def load(self, job: RunnerJob) -> None:
        """Find out whether the model can be asked here, and have it at hand from then on.

        Parameters
        ----------
        job : RunnerJob
        """
        with self._lock:
            if job.key in self._loading or job.key in self._models or job.key in self._elsewhere:
                return
            self._loading.add(job.key)
        try:
            with self._one_at_a_time:
                found = beside(lambda: _loaded(job, self._kernels)) if job.compiled else None
        except Exception:
            # Whatever is the matter with it, a runner says so, inside its walls.
            log.exception("a compiled model is not asked here")
            found = None
        with self._lock:
            self._loading.discard(job.key)
            if found is None:
                self._send_elsewhere(job.key)
            else:
                self._models[job.key] = found
                self._keep_to_budget()

    def predict(self, job: RunnerJob, row: Row) -> "QuickPrediction | None":
        """The model's outputs for one row; None if it is to be asked elsewhere.

        Parameters
        ----------
        job : RunnerJob
        row : mapping of str to value
            Checked against the fields.

        Raises
        ------
        ModelFailed
            If the model refuses the row.
        """
        model = self.at_hand(job)
        try:
            return None if model is None else model.predict(row)
        except ModelFailed:
            raise
        except Exception:
            # A model that does not fit its own facts; behind its walls a runner finds the words.
            log.exception("a compiled model is not asked here any more")
            with self._lock:
                self._models.pop(job.key, None)
                self._send_elsewhere(job.key)
            return None

    def _send_elsewhere(self, key: str) -> None:
        self._elsewhere[key] = None
        if len(self._elsewhere) > MOST_ELSEWHERE:
            self._elsewhere.popitem(last=False)

    def _keep_to_budget(self) -> None:
        while len(self._models) > 1 and sum(size for _, size in self._models.values()) > MOST_BYTES_TOGETHER:
            self._models.popitem(last=False)


def _loaded(job: RunnerJob, kernels: Path) -> "tuple[QuickModel, int] | None":
    from ..core.plan.machine_code import use_machine_code

    # Before anything that has kernels is imported.
    if not use_machine_code(kernels):
        return None
    from ..core.model_service.quick import MOST_BYTES, quick_model

    compiled, kept_rows = Path(job.compiled or ""), job.kept_rows
    size = compiled.stat().st_size
    if size > MOST_BYTES:
        return None
    rows = read_kept_rows(Path(kept_rows).read_bytes()) if kept_rows and job.needed_facts.has_evidence else None
    model = quick_model(compiled.read_bytes(), job.needed_facts, rows)
    return None if model is None else (model, size)
