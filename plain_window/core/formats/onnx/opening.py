"""From a graph to its model: one of a table, or one that looks at pictures."""

from typing import TYPE_CHECKING

from .session import OpenedGraph, wants_pictures

if TYPE_CHECKING:
    from ..adapter import ModelAdapter
    from ..picture_input import PictureModel

__all__ = ["model_of_graph"]


def model_of_graph(graph: OpenedGraph) -> "ModelAdapter | PictureModel":
    """The model of a graph.

    Parameters
    ----------
    graph : OpenedGraph

    Raises
    ------
    ModelNotOpened
        If what it takes or gives is nothing that can be shown.
    """
    if wants_pictures(graph.document):
        from .pictures import OnnxPictureModel

        return OnnxPictureModel(graph)
    from .adapter import OnnxModel

    return OnnxModel(graph)
