"""What validation finds, as faults that name the setting."""

from pydantic import ValidationError

from ..errors import Fault

__all__ = ["faults_of"]


def faults_of(error: ValidationError, *, prefix: str = "") -> list[Fault]:
    """What pydantic found, as faults: one each, named by its path.

    Parameters
    ----------
    error : ValidationError
    prefix : str, optional
        What the paths stand below.
    """
    faults = []
    for item in error.errors(include_url=False):
        path = ".".join(str(part) for part in item["loc"])
        name = f"{prefix}{path}".removesuffix(".") or "body"
        # What our own checks say needs no word on whose it is.
        own = item["msg"].removeprefix("Value error, ")
        if item["type"] == "extra_forbidden":
            message = f"`{name}` is not a setting. Leave it out."
        else:
            message = f"`{name}`: {own[:1].lower()}{own[1:]}."
        faults.append(Fault(name, message))
    return faults
