"""Libraries of a model's own."""

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["EnvironmentList", "EnvironmentPackage", "EnvironmentState", "EnvironmentView", "NewEnvironment"]


class NewEnvironment(BaseModel):
    """The part that an environment is built from."""

    requirements: str = Constrained(description="A `requirements.txt`: packages by name and version, one a line.")


class EnvironmentPackage(BaseModel):
    """One package of an environment."""

    name: str
    version: str


class EnvironmentState(BaseModel):
    """The libraries that a demo's model has of its own."""

    id: str
    packages: list[EnvironmentPackage]
    is_here: bool


class EnvironmentView(BaseModel):
    """An environment."""

    id: str
    requirements: str = Constrained(description="What was asked for when it was built.")
    packages: list[EnvironmentPackage] = Constrained(description="What that came to, locked by hash.")
    bytes: int
    demos: list[str] = Constrained(description="Those of your demos that use it.")
    is_here: bool = Constrained(description="False where it was cleaned away; it is built again when it is needed.")


class EnvironmentList(BaseModel):
    """Environments, the newest first."""

    environments: list[EnvironmentView]
