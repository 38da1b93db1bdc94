"""What lies in wait in a table beside leaks: names of rows, groups, order in time, rows met twice, odd values."""

import re

import numpy as np
import pandas as pd
from scipy import stats

from .by_hand import dates, words
from .columns import NAMES_ROWS
from .sheet import ColumnLook, Finding, Sheet
from .wording import unit_text

__all__ = ["find_all", "find_groups"]

# Of the groups' other columns so many are the same within a group for it to be one thing with several rows.
SAME_WITHIN = 0.95
FEWEST_GROUPS, MOST_GROUP_SHARE = 8, 0.7
# How surely what happens changes with time for rows to be parted by time.
SURE = 1e-3
# Whole numbers that name things are more than those of a scale; pairs within a thing are alike so much more often.
FEWEST_NUMBERED, MOST_OF_TOKEN, ALIKE = 20, 10, 0.1
TOKEN = re.compile(r"[A-Za-z]{1,6}[-_ ]?\d{2,}")
LOOKED_AT = 20_000
# A value has to be met in so many rows to be learned of, and such values in so much of a table to be worth a field.
FEWEST_MET, MOST_MET = 8, 0.1


def find_all(table: pd.DataFrame, sheet: Sheet, outcome: pd.Series) -> list[Finding]:
    """All of it; what is suggested of groups, time and rows met twice is noted on the sheet.

    Parameters
    ----------
    table : DataFrame
        As it is written.
    sheet : Sheet
        With its columns and outcome.
    outcome : Series
        What happened, as numbers or words.
    """
    found = [*_identifiers(sheet)]
    groups = find_groups(table, sheet, outcome)
    if groups:
        sheet.group = groups[0].columns[0]
    found += [*groups, *_rare_values(table, sheet)]
    if (in_time := _in_time(table, sheet, outcome)) is not None:
        found.append(in_time)
    return [*found, *_duplicates(table, sheet), *_odd_values(sheet)]


def _identifiers(sheet: Sheet) -> list[Finding]:
    return [
        Finding(
            kind="identifier",
            columns=[column.name],
            sentence=f"`{column.name}` has {column.n_distinct:,} different values in "
            f"{sheet.n_rows - column.n_gaps:,} rows: it names rows, and nothing can be learned from a name.",
            suggestion="Left out.",
            leaves_out=True,
        )
        for column in sheet.columns
        if column.kind == "identifier" and column.name != sheet.target
    ]


def _rare_values(table: pd.DataFrame, sheet: Sheet) -> list[Finding]:
    """Categories of which hardly any value is met often enough to learn of it: models count them all as one."""
    found = []
    for column in sheet.columns:
        if column.kind != "category" or column.name in (sheet.target, sheet.group):
            continue
        counts = words(table[column.name], column.spelled).value_counts()
        met = int(counts[counts >= FEWEST_MET].sum())
        if met < MOST_MET * int(counts.sum()):
            found.append(
                Finding(
                    kind="rare",
                    columns=[column.name],
                    sentence=f"`{column.name}` has {len(counts):,} different values in {int(counts.sum()):,} rows, "
                    f"{'hardly any' if met else 'none'} of them in {FEWEST_MET} or more: too few to learn of one.",
                    suggestion="Left out.",
                    leaves_out=True,
                )
            )
    return found


def find_groups(table: pd.DataFrame, sheet: Sheet, outcome: pd.Series) -> list[Finding]:
    """Columns that name a thing which several rows are of, the surest first.

    Parameters
    ----------
    table : DataFrame
        As it is written.
    sheet : Sheet
    outcome : Series
        What happened.
    """
    found = []
    for column in sheet.columns:
        if column.name == sheet.target or not _may_name_groups(column, sheet.n_rows):
            continue
        all_codes, _ = pd.factorize(words(table[column.name]))
        rows = _rows_of_some(all_codes)
        codes = all_codes[rows]
        same = [
            other.name
            for other in sheet.columns
            if other.name not in (column.name, sheet.target)
            and other.kind not in ("constant", "empty", "identifier")
            and _is_same_within(codes, table[other.name].iloc[rows])
        ]
        pairs = _agreement(codes, outcome.iloc[rows])
        # A town is the same within a postcode, and no thing for that: measures that are the same show one, or what
        # happens to its rows.
        has_measures = any(sheet.column(name).kind in ("number", "date") for name in same)
        is_alike = pairs[0] - pairs[1] > ALIKE
        if not (_is_name(column, sheet.n_rows) or (same and (has_measures or is_alike))):
            continue
        found.append((len(same), pairs[0] - pairs[1], _group_finding(column, all_codes, same, pairs)))
    return [finding for _, _, finding in sorted(found, key=lambda one: (-one[0], -one[1]))]


def _is_name(column: ColumnLook, n_rows: int) -> bool:
    """Whether its header or its values say that it names things: `customer_id`; B101, if it has but a few rows."""
    if column.n_distinct < FEWEST_NUMBERED:
        return False
    has_few = n_rows <= MOST_OF_TOKEN * column.n_distinct
    return bool(NAMES_ROWS.search(column.name)) or (has_few and all(TOKEN.fullmatch(one) for one in column.examples))


def _rows_of_some(codes: np.ndarray) -> np.ndarray:
    """Rows of some of the groups, whole ones; all of them where they are few."""
    if len(codes) <= LOOKED_AT:
        return np.arange(len(codes))
    sizes = np.bincount(codes[codes >= 0])
    order = np.random.default_rng(0).permutation(len(sizes))
    some = order[np.cumsum(sizes[order]) <= LOOKED_AT]
    return np.flatnonzero(np.isin(codes, some))


def _may_name_groups(column: ColumnLook, n_rows: int) -> bool:
    is_amount = column.kind == "number" and ("." in "".join(column.examples) or column.n_distinct < FEWEST_NUMBERED)
    if column.kind not in ("category", "number", "text", "date") or is_amount:
        return False
    n_known = n_rows - column.n_gaps
    return (
        FEWEST_GROUPS <= column.n_distinct <= MOST_GROUP_SHARE * n_known
        and n_known / column.n_distinct <= n_rows / FEWEST_GROUPS
    )


def _is_same_within(codes: np.ndarray, other: pd.Series) -> bool:
    """Whether it hardly ever changes within a group that has several rows, though it does between groups."""
    values, _ = pd.factorize(other, use_na_sentinel=True)
    frame = pd.DataFrame({"group": codes, "value": values}).query("group >= 0 and value >= 0")
    sizes = frame.groupby("group")["value"].agg(["size", "nunique", "first"])
    several = sizes[sizes["size"] > 1]
    if len(several) < FEWEST_GROUPS or several["first"].nunique() < 2:
        return False
    # By chance a group would have it so often: a column that is nearly always the same is no evidence.
    shares = frame["value"].value_counts(normalize=True)
    by_chance = float((shares.to_numpy() ** 2).sum())
    return bool((several["nunique"] == 1).mean() >= SAME_WITHIN and by_chance < SAME_WITHIN - 0.15)


def _agreement(codes: np.ndarray, outcome: pd.Series) -> tuple[float, float]:
    """Of 100 pairs of rows, in how many what happened is alike: within a group, and of any two rows."""
    values = outcome.reset_index(drop=True)
    if pd.api.types.is_numeric_dtype(outcome):
        values = pd.Series(pd.qcut(values, 4, labels=False, duplicates="drop"))
    frame = pd.DataFrame({"group": codes, "value": pd.factorize(values)[0]}).query("group >= 0 and value >= 0")
    counts = frame.groupby(["group", "value"]).size()
    sizes = frame.groupby("group").size()
    pairs = float((sizes * (sizes - 1)).sum())
    within = float((counts * (counts - 1)).sum()) / pairs if pairs else 0.0
    overall = frame["value"].value_counts()
    return within, float((overall * (overall - 1)).sum()) / max(1.0, len(frame) * (len(frame) - 1.0))


def _group_finding(column: ColumnLook, codes: np.ndarray, same: list[str], pairs: tuple[float, float]) -> Finding:
    n_rows = int((codes >= 0).sum())
    listed = ", ".join(f"`{name}`" for name in same[:4]) + (f" and {len(same) - 4} more" if len(same) > 4 else "")
    alike = ""
    if pairs[0] > pairs[1] + 0.05:
        alike = (
            f" Two rows of one have the same outcome in {100 * pairs[0]:.0f} of 100, any two rows in "
            f"{100 * pairs[1]:.0f}: a model that had seen one of them would seem to know the other."
        )
    within = f"; within one, {listed} {'is' if len(same) == 1 else 'are'} the same" if same else ""
    return Finding(
        kind="group",
        columns=[column.name],
        sentence=f"{n_rows:,} rows are of {int(codes.max()) + 1:,} `{column.name}`{within}.{alike}",
        suggestion="Rows of one are kept together when models are tried, and it is left out of the form.",
        leaves_out=True,
    )


def _in_time(table: pd.DataFrame, sheet: Sheet, outcome: pd.Series) -> Finding | None:
    """Whether what happens changes with time; noted on the sheet if so."""
    found: list[tuple[float, str, str]] = []
    for name in sheet.dates:
        read = dates(table[name], sheet.column(name).day_first)
        there = read.notna() & outcome.notna()
        if there.sum() < 60:
            continue
        third = pd.Series(pd.qcut(read[there].rank(method="first"), 3, labels=False)).to_numpy()
        p, sentence = _changes(third, outcome[there], sheet)
        found.append((p, name, sentence))
    if not found or min(found)[0] > SURE:
        return None
    _, name, sentence = min(found)
    sheet.time = name
    return Finding(
        kind="time",
        columns=[name],
        sentence=f"What happens changes with `{name}`: {sentence}. A page answers for what comes later.",
        suggestion="Models are tried on later rows than those they learned from, and the latest are kept back.",
    )


def _changes(third: np.ndarray, outcome: pd.Series, sheet: Sheet) -> tuple[float, str]:
    if sheet.answer == "number":
        parts = [outcome.to_numpy(dtype="float64")[third == at] for at in range(3)]
        p = float(stats.kruskal(*parts).pvalue) if len(np.unique(outcome)) > 1 else 1.0
        return (
            p,
            f"in the first third the middle of `{sheet.target}` is {np.median(parts[0]):.4g}, "
            f"in the last {np.median(parts[2]):.4g}",
        )
    counts = pd.crosstab(outcome.to_numpy(), third)
    if counts.shape[0] < 2 or counts.shape[1] < 3:
        return 1.0, ""
    shares = counts / counts.sum()
    name = (shares[2] - shares[0]).abs().idxmax()
    p = float(stats.chi2_contingency(counts).pvalue)
    return (
        p,
        f"`{name}` is {100 * shares.loc[name, 0]:.0f} of 100 in the first third and "
        f"{100 * shares.loc[name, 2]:.0f} of 100 in the last",
    )


def _duplicates(table: pd.DataFrame, sheet: Sheet) -> list[Finding]:
    n_same = int(table.duplicated().sum())
    if not n_same:
        return []
    names = [column.name for column in sheet.columns if column.kind == "identifier"]
    names += [sheet.group] if sheet.group and not names else []
    # What has a name of its own and is met again is the same row, not another like it.
    sheet.drops_duplicates = bool([column for column in sheet.columns if column.kind == "identifier"])
    rows = "row is" if n_same == 1 else "rows are"
    sentence = f"{n_same:,} {rows} met twice, the same in every column."
    if sheet.drops_duplicates:
        return [
            Finding(
                kind="duplicates",
                columns=names,
                sentence=f"{sentence[:-1]}, `{names[0]}` included.",
                suggestion="Each counts once.",
            )
        ]
    return [
        Finding(
            kind="duplicates",
            columns=[],
            sentence=sentence,
            suggestion="Kept: nothing says that it is not another case.",
        )
    ]


def _odd_values(sheet: Sheet) -> list[Finding]:
    found = []
    for column in sheet.columns:
        if column.kind == "constant":
            found.append(
                _plain("constant", column, f"`{column.name}` is the same in all rows.", "Left out.", leaves_out=True)
            )
        if column.odd:
            first, n_odd = column.odd[0], sum(one.rows for one in column.odd)
            what = "no date" if column.kind == "date" else "no number"
            are = "value that is" if n_odd == 1 else "values that are"
            sentence = f'`{column.name}` has {n_odd:,} {are} {what}, as "{first.value[:40]}" in row {first.row}.'
            found.append(_plain("odd", column, sentence, "Counted as gaps."))
        if column.unit:
            sentence = f'`{column.name}` says its unit in each cell, as "{column.examples[0][:40]}".'
            found.append(_plain("unit", column, sentence, f"Read as numbers, in {unit_text(column.unit)}."))
        if column.stand_ins:
            shown = " and ".join(f"{value:g}" for value in column.stand_ins)
            sentence = (
                f"`{column.name}` has {shown}, far from all other values: it seems to stand for what was not measured."
            )
            found.append(_plain("stand-in", column, sentence, "Counted as a gap."))
        if column.spelled:
            odd, usual = next(iter(column.spelled.items()))
            which = "a value" if len(column.spelled) == 1 else "values"
            sentence = f'`{column.name}` writes {which} in several ways, as "{odd[:40]}" and "{usual[:40]}".'
            found.append(
                _plain(
                    "spellings", column, sentence, f"Taken for the same{' each' if len(column.spelled) > 1 else ''}."
                )
            )
    return found


def _plain(kind: str, column: ColumnLook, sentence: str, suggestion: str, *, leaves_out: bool = False) -> Finding:
    return Finding.model_validate(
        {
            "kind": kind,
            "columns": [column.name],
            "sentence": sentence,
            "suggestion": suggestion,
            "leaves_out": leaves_out,
        }
    )
