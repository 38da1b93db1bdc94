"""What the training script reads. It knows none of our types: to it these are JSON."""

from typing import Any

__all__ = ["CandidateSettings", "HowRead", "Recipe"]

# How a table is read, what of it is told to the model, what it answers, and by which candidate.
Recipe = dict[str, Any]
# A recipe's `table`.
HowRead = dict[str, Any]
# What a candidate is fitted with.
CandidateSettings = dict[str, Any]
