"""Cases that a model and the one that would replace it can both be asked about, out of the rows kept beside them."""

import math
from collections.abc import Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from typing import Any

from ..answers import AnyAnswerSetting
from ..contract.kept_rows import KeptRows
from .model_differences import AnswerDifferences, NotCompared, Said, compare_answers, matched_class_names

__all__ = ["SharedCases", "compare_known_pictures", "shared_cases"]

# Cases that both models are asked about.
MOST_CASES = 200


@dataclass(frozen=True)
class SharedCases:
    """The same cases as each of the two takes them, and what happened where that is known."""

    old_rows: list[dict[str, Any]]
    new_rows: list[dict[str, Any]]
    truths: list[Said] | None


def shared_cases(
    kept: tuple[KeptRows | None, KeptRows | None],
    features: tuple[AbstractSet[str], AbstractSet[str]],
    settings: tuple[AnyAnswerSetting, AnyAnswerSetting],
    renames: Mapping[str, str],
) -> SharedCases | NotCompared:
    """Cases that both can answer: of the new one's rows, or where the old one takes more, of its own; or why not.

    Parameters
    ----------
    kept : tuple of KeptRows or None
        Of the old model, and of the new one.
    features : tuple of set of str
        What each takes.
    settings : tuple of AnyAnswerSetting
        How the answers of each are said.
    renames : mapping of str to str
        Of features that only have another name now: the one each had, by the one it has.
    """
    class_names = matched_class_names(settings)
    why_not: NotCompared = "rows"
    to_old, to_new = dict(renames), {was: now for now, was in renames.items()}
    for which in (1, 0):
        rows_kept = kept[which]
        if rows_kept is None or not (rows_kept.n_known or rows_kept.n_rows):
            continue
        why_not = "features"
        rows, places = _spread(rows_kept)
        old = [_named(row, to_old if which == 1 else {}) for row in rows]
        new = [_named(row, to_new if which == 0 else {}) for row in rows]
        if features[0] <= set(old[0]) and features[1] <= set(new[0]):
            return SharedCases(
                [{name: row[name] for name in features[0]} for row in old],
                [{name: row[name] for name in features[1]} for row in new],
                _truths(rows_kept, places, settings[which], class_names[which]) if rows_kept.n_known else None,
            )
    return why_not


def compare_known_pictures(
    old: KeptRows | None, new: KeptRows | None, settings: tuple[AnyAnswerSetting, AnyAnswerSetting]
) -> AnswerDifferences:
    """What both said of the same known pictures when they were opened; cases by their places in the archive.

    Parameters
    ----------
    old, new : KeptRows or None
        Of models that were asked about one archive.
    settings : tuple of AnyAnswerSetting
        How the answers of each are said.
    """
    if old is None or new is None or old.known_names != new.known_names or not new.known_outputs:
        return AnswerDifferences(why_not="pictures")
    class_names = matched_class_names(settings)[1]
    counted = [at for at, (truth, *_) in enumerate(new.known_truths) if math.isfinite(truth)]
    truths = [new.known_truths[at][0] for at in counted]
    found = compare_answers(
        [old.known_outputs[at] for at in counted],
        [new.known_outputs[at] for at in counted],
        [[class_names[int(truth)] if class_names else truth] for truth in truths],
        settings=settings,
    )
    for example in found.examples:
        example.at = new.known_places[counted[example.at]]
    return found


def _spread(kept: KeptRows) -> tuple[list[dict[str, Any]], list[int]]:
    """Cases from all over the table, which may be sorted, and where each stands."""
    columns = kept.known_columns if kept.n_known else kept.columns
    n_rows = kept.n_known or kept.n_rows
    n_cases = min(MOST_CASES, n_rows)
    places = [at * n_rows // n_cases for at in range(n_cases)]
    return [{name: values[at] for name, values in columns.items()} for at in places], places


def _named(row: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """A row with features by other names, also by those they have: a name may be another feature's by now."""
    return {**row, **{names[name]: value for name, value in row.items() if name in names}}


def _truths(
    kept: KeptRows, places: Sequence[int], setting: AnyAnswerSetting, class_names: Sequence[str]
) -> list[Said] | None:
    """What happened in known cases, as answers say it."""
    if setting.kind == "class":
        return [[class_names[int(kept.known_outcomes[at])]] for at in places]
    if setting.kind == "number":
        return [[kept.known_outcomes[at]] for at in places]
    if not kept.known_truths:
        return None
    return [[bool(one) if setting.kind == "labels" else one for one in kept.known_truths[at]] for at in places]
