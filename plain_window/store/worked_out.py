"""What was worked out about a model once and holds for as long as the model is there."""

from typing import Any

from .database import now, unlocked
from .queries import tuples_of
from .records import WorkedOut

__all__ = ["find_worked_out", "keep_worked_out", "names_worked_out"]


def find_worked_out(model_id: int, name: str) -> str | None:
    """What was kept of a model under a name.

    Parameters
    ----------
    model_id : int
    name : str
    """
    found = WorkedOut.select(WorkedOut.content).where((WorkedOut.model == model_id) & (WorkedOut.name == name))
    content: str | None = found.scalar()
    return content


def names_worked_out(model_id: int) -> set[str]:
    """Under which names something is kept of a model.

    Parameters
    ----------
    model_id : int
    """
    return {
        name for (name,) in tuples_of(WorkedOut.select(WorkedOut.name).where(WorkedOut.model == model_id), tuple[str])
    }


def keep_worked_out(model_id: int, name: str, content: str) -> None:
    """Keep something of a model under a name, in place of what was there.

    Parameters
    ----------
    model_id : int
    name : str
    content : str
    """

    def keep() -> Any:
        kept = {"model": model_id, "name": name, "content": content, "created": now()}
        return WorkedOut.replace(**kept).execute()  # type: ignore[no-untyped-call]

    unlocked(keep)
