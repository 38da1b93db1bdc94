"""Parts of a page that its author may switch off."""

from ..core.documents import DemoDocument
from .problems import ApiProblem

__all__ = ["require_part"]


def require_part(document: DemoDocument, name: str) -> None:
    """Refuse what the author has switched off.

    Parameters
    ----------
    document : DemoDocument
    name : str
        Of the part.

    Raises
    ------
    ApiProblem
        403.
    """
    if not getattr(document.parts, name):
        detail = f"The author of this demo has switched `{name}` off."
        raise ApiProblem(403, "Switched off", detail)
