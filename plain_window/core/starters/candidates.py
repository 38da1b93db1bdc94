"""The models that are tried on a table, the plainest first, and the settings that each is tried with."""

from .shapes import CandidateSettings

__all__ = ["CANDIDATES", "settings_of"]

CANDIDATES = ("linear", "tree", "neighbours", "boosted")

# By candidate, and where that matters by what is predicted.
_SETTINGS: dict[str, dict[str, list[CandidateSettings]]] = {
    "linear": {
        "class": [{"C": 0.03}, {"C": 0.3}, {"C": 3.0}],
        "number": [{"alpha": 0.1}, {"alpha": 10.0}, {"alpha": 300.0}],
    },
    "tree": {"": [{"max_leaf_nodes": 4}, {"max_leaf_nodes": 8}, {"max_leaf_nodes": 16}]},
    "neighbours": {"": [{"n_neighbors": 7}, {"n_neighbors": 21}, {"n_neighbors": 51}]},
    "boosted": {
        "": [
            {"max_iter": 60, "learning_rate": 0.08, "max_leaf_nodes": 6},
            {"max_iter": 120, "learning_rate": 0.08, "max_leaf_nodes": 15},
        ]
    },
}
# Whose settings say how much rare classes count.
_WEIGHTED = ("linear", "tree", "boosted")


def settings_of(candidate: str, *, answer: str, weights: str, fewest_rows: int) -> list[CandidateSettings]:
    """The settings that are tried.

    Parameters
    ----------
    candidate : str
    answer : "class" or "number"
    weights : "none", "balanced" or "both"
        Whether rare classes are made to count as much as frequent ones.
    fewest_rows : int
        On how many rows it is ever fitted; nearest neighbours are no more than that.
    """
    if candidate == "guess":
        return [{}]
    by_answer = _SETTINGS[candidate]
    tried = by_answer.get(answer) or by_answer[""]
    if candidate == "neighbours":
        most = max(1, fewest_rows // 2)
        tried = [one for one in tried if one["n_neighbors"] <= most] or [{"n_neighbors": most}]
    if answer == "number" or candidate not in _WEIGHTED or weights == "none":
        return tried
    balanced = [{**one, "class_weight": "balanced"} for one in tried]
    return balanced if weights == "balanced" else [*tried, *balanced]
