"""The views under `/api/v1`, collected: each module registers its own when it is imported."""

from ..operations import Api

__all__ = ["api"]

api = Api()
