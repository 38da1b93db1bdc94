"""What stands in a row of a table, and in a case that a visitor asks about."""

from typing import Any

__all__ = ["Cell", "PictureCell", "Row", "Value", "picture_in"]

# None is a gap.
Value = str | bool | int | float | None
# A picture or a drawing with all that reading it needs, as `core.fields.pictures` puts it together.
PictureCell = dict[str, Any]
Cell = Value | PictureCell
Row = dict[str, Cell]


def picture_in(row: Row, field: str) -> PictureCell:
    """The picture or drawing that a row has in a field.

    Parameters
    ----------
    row : Row
    field : str
        One of the model's picture inputs.

    Raises
    ------
    TypeError
        If what stands there is none: whoever made the row did not check it.
    """
    cell = row[field]
    if not isinstance(cell, dict):
        raise TypeError(f"`{field}` must hold a picture. Got {type(cell).__name__}.")
    return cell
