"""What goes in.

- `kinds`       the kinds of field, as types
- `inference`   fields from a reference table and from what the model says of its columns
- `checking`    a visitor's values against the fields
- `schema`      the same rules as JSON Schema, for other programs
- `calendars`   numbers that stand for dates; `dated`, a number's field as a date's

`kinds`, `checking` and `schema` need neither NumPy nor pandas: the web tier imports them at every start.
"""

from .checking import CheckedInputs, Note, check_inputs
from .kinds import (
    AnyField,
    ChoiceField,
    DrawingField,
    NumberField,
    Option,
    PictureField,
    Scalar,
    Seen,
    TextField,
    YesNoField,
)
from .schema import inputs_schema

__all__ = [
    "AnyField",
    "CheckedInputs",
    "ChoiceField",
    "DrawingField",
    "Note",
    "NumberField",
    "Option",
    "PictureField",
    "Scalar",
    "Seen",
    "TextField",
    "YesNoField",
    "check_inputs",
    "inputs_schema",
]
