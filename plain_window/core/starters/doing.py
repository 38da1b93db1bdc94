"""What is done about what was found in a table, as its author has chosen: said once, wherever it is read."""

from .choices import Choices
from .recipe import drops_duplicates, group_of, time_of, used_columns, year_counts
from .sheet import Finding, Sheet

__all__ = ["what_is_done"]


def what_is_done(sheet: Sheet, choices: Choices) -> list[str]:
    """Of each finding what is done about it.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    used = set(used_columns(sheet, choices))
    return [_done(one, sheet, choices, used) for one in sheet.findings]


def _done(finding: Finding, sheet: Sheet, choices: Choices, used: set[str]) -> str:
    is_used = bool(used.intersection(finding.columns))
    if finding.kind == "group" and finding.columns[0] != group_of(sheet, choices):
        return (
            "Told to the model like any other column." if is_used else "Left out; rows are parted without regard to it."
        )
    if finding.kind == "time" and finding.columns[0] != time_of(sheet, choices):
        return "Rows are parted without regard to it."
    if finding.kind == "time" and is_used and year_counts(sheet.column(finding.columns[0])):
        return f"{finding.suggestion} The model is told its year."
    if finding.kind == "duplicates":
        return "Each counts once." if drops_duplicates(sheet, choices) else "Kept, each as a case of its own."
    if finding.kind != "group" and finding.leaves_out and is_used:
        return "Used all the same, as you chose."
    if finding.kind == "strong" and not is_used:
        return "Left out, as you chose."
    return finding.suggestion
