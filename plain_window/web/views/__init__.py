"""The views, one module a subject. `api` collects what they offer under `/api/v1`."""

from ..operations import Api

__all__ = ["api"]

api = Api()

# Each module registers its views with `api` when it is imported.
from . import demos, describing, log, looking, outcomes, publishing, replacing, rows, samples, sessions, shelf, visiting  # noqa: E402, F401
