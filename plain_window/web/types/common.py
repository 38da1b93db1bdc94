"""What several types share."""

import datetime as dt
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict

__all__ = ["AccessWord", "Body", "UtcTime"]

# Times are stored in UTC without a zone; what goes out carries it.
UtcTime = Annotated[
    dt.datetime, AfterValidator(lambda time: time.replace(tzinfo=dt.UTC) if time.tzinfo is None else time)
]
AccessWord = Literal["private", "link", "passcode", "everyone"]


class Body(BaseModel):
    """What is sent: a setting that is none is refused."""

    model_config = ConfigDict(extra="forbid")
