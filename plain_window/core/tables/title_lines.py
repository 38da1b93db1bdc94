"""Which row names the columns, where a title or remarks stand above it. Needs no pandas."""

from collections.abc import Sequence

from .number_words import parted

__all__ = ["header_row", "is_empty", "left_out"]

# So many rows are looked at; what is longer than that above a table is more than a title.
MOST_ABOVE = 30
# What begins a remark, in files that programs write.
REMARKS = ("#", "%", "//")


def header_row(rows: Sequence[Sequence[object]]) -> int:
    """The place of the row that names the columns: 0, unless what stands above it is plainly no part of the table.

    That is so where rows with one value at the most are followed by one of several different words, and either an empty
    row or a mark for remarks parts them from it, or numbers stand below the words.

    Parameters
    ----------
    rows : sequence of sequences
        The first rows, empty ones among them. A cell may be text, a number, or None.
    """
    filled = [[cell for cell in row if not is_empty(cell)] for row in rows]
    at = next((at for at, cells in enumerate(filled[: MOST_ABOVE + 1]) if len(cells) > 1), 0)
    above = filled[:at]
    if not any(above) or not _are_names(rows[at]):
        return 0
    below = [row for row, cells in zip(rows[at + 1 :], filled[at + 1 :], strict=True) if cells]
    if not below or any(_n_used(row) > _n_used(rows[at]) for row in below):
        return 0
    first_words = next(place for place, cells in enumerate(above) if cells)
    is_parted = not all(above[first_words:]) or all(_is_remark(cells[0]) for cells in above if cells)
    return at if is_parted or _has_numbers(below, len(rows[at])) else 0


def left_out(rows: Sequence[Sequence[object]], name: str) -> list[str]:
    """What an author should know of rows above the header; nothing where there are none.

    Parameters
    ----------
    rows : sequence of sequences
        Those above it.
    name : str
        What to call the table at the start of a sentence.
    """
    words = [str(cell).strip() for row in rows for cell in row if not is_empty(cell)]
    if not words:
        return []
    return [f'{name} has a title or remarks above its header; they were left out: "{words[0][:60]}".']


def is_empty(cell: object) -> bool:
    """Whether nothing stands in a cell but space.

    Parameters
    ----------
    cell : object
    """
    return cell is None or (isinstance(cell, str) and not cell.strip())


def _is_number(cell: object) -> bool:
    """Whether it is no word: what a spreadsheet does not hold as text is a number, a date or the like."""
    return not isinstance(cell, str) or parted(cell.strip()) is not None


def _is_remark(cell: object) -> bool:
    return isinstance(cell, str) and cell.lstrip().startswith(REMARKS)


def _n_used(row: Sequence[object]) -> int:
    return max((at + 1 for at, cell in enumerate(row) if not is_empty(cell)), default=0)


def _are_names(row: Sequence[object]) -> bool:
    """Whether cells may name columns: words, each once."""
    names = [cell.strip() if isinstance(cell, str) else cell for cell in row if not is_empty(cell)]
    return len(set(names)) == len(names) and all(isinstance(one, str) and not _is_number(one) for one in names)


def _has_numbers(below: Sequence[Sequence[object]], width: int) -> bool:
    """Whether some column holds nothing but numbers, where it holds anything."""
    for at in range(width):
        cells = [row[at] for row in below if at < len(row) and not is_empty(row[at])]
        if cells and all(_is_number(cell) for cell in cells):
            return True
    return False
