"""Another model, table, outcome or list of names for a demo that is there: compared first, then taken over."""

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Any

from ..core.contract.inspection import Inspection
from ..core.documents import DemoChanges, DemoDocument, apply_changes
from ..core.documents.model_differences import Differences, differences
from ..core.documents.replacing import carried_over
from ..core.errors import ModelNotOpened
from ..core.fields import AnyField, DrawingField, PictureField
from ..core.formats.network_files import network_kind
from ..core.pictures.settings import Preparation
from ..store.database import advisory_lock
from ..store.demos import draft_of, find_demo, model_inspection, replace_draft
from ..store.records import Demo, Model
from .comparing import compare_models
from .model_intake import MOST_OPENINGS, START_SECONDS, all_or_nothing, model_of, take_back
from .own_libraries import EnvironmentWanted, with_environment
from .services import Services
from .submission import ModelSubmission

__all__ = ["Replacement", "replace_model"]


@dataclass(frozen=True)
class Replacement:
    """What is sent in place of what a demo has. What is not named stays; None takes it away."""

    files: Mapping[str, str | None] = field(default_factory=dict)
    words: Mapping[str, Any] = field(default_factory=dict)
    # How pictures are prepared, where that is said rather than kept or guessed; and what is set of the draft with it.
    preparations: Mapping[str, dict[str, Any]] | None = None
    changes: DemoChanges | None = None
    # Of features that only have another name now: the one each had, by the one it has.
    renames: Mapping[str, str] = field(default_factory=dict)
    # Whether the model that is sent is a function: what lies beside the one before stays.
    is_function: bool = False


def replace_model(services: Services, demo: Demo, sent: Replacement, *, try_only: bool) -> tuple[Differences, Demo]:
    """Compare a demo's model with what would replace it, and make that the draft's unless it is only tried.

    Visitors keep the live release. Nothing sent at all measures again, as the draft stands.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record.
    sent : Replacement
        What was sent in the old one's place.
    try_only : bool
        Compare, and change nothing.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        With the reason; the demo is then as before.
    EnvironmentWanted
        If libraries that the model asks for must be built first; nothing has been done then.
    RunnerUnavailable
        If no runner can be had now.
    """
    before = model_inspection(demo.model)
    new_files = [hash_ for hash_ in sent.files.values() if hash_]
    try:
        submission = with_environment(services, _merged(services, demo, before, sent))
    except EnvironmentWanted:
        # They wait with it.
        raise
    except BaseException:
        services.files.let_go(new_files)
        raise
    services.files.hold([hash_ for hash_ in submission.files if hash_ not in new_files])
    seconds = MOST_OPENINGS * services.settings.limits.open_seconds + 2 * START_SECONDS
    with (
        advisory_lock(f"plain_window_{submission.key}", seconds=seconds),
        all_or_nothing(services, submission, submission.key, keep=not try_only),
    ):
        model = model_of(services, submission)
        after = model_inspection(model)
        found = differences(before, after)
        renames = sent.renames or {now: was for was, now in found.features.renamed}
        has_same_known = submission.known_file == demo.known_file_id
        found.answers = compare_models(services, demo, model, renames, has_same_known=has_same_known)
        if not try_only:
            carry = partial(_carried, sent=sent, old=before, new=after)
            replace_draft(demo, carry, model, submission.known_file, services.stamp)
    if not try_only:
        _clear_away(services, demo.model, seconds)
    return found, find_demo(demo.slug) or demo


def _carried(draft: DemoDocument, *, sent: Replacement, old: Inspection, new: Inspection) -> DemoDocument:
    """The draft about the new model, with what was set along with it."""
    carried = carried_over(draft, old=old, new=new, renames=sent.renames)
    return apply_changes(carried, sent.changes) if sent.changes else carried


def _clear_away(services: Services, former: Model, seconds: float) -> None:
    """Leave nothing of a model that was replaced, unless a draft or a release is about it."""
    with advisory_lock(f"plain_window_{former.runner_key}", seconds=seconds):
        take_back(services, former.runner_key)
    services.files.sweep()


def _merged(services: Services, demo: Demo, before: Inspection, sent: Replacement) -> ModelSubmission:
    """All that the demo would be made of."""
    model, document = demo.model, draft_of(demo)
    files = {
        "model": model.model_file_id,
        "reference": model.reference_file_id,
        "preprocessor": model.preprocessor_file_id,
        "beside": model.beside_file_id,
        "known": demo.known_file_id,
        **sent.files,
    }
    if not files["model"]:
        raise ModelNotOpened("A demo needs a model. Send another in its place, or delete the demo.")
    words: dict[str, Any] = {
        "target": before.told.target,
        "labels": json.loads(model.labels) if model.labels else None,
        "answer_kind": before.told.answer_kind,
        "numbers": before.told.numbers,
        "dates": before.told.dates,
        "function_name": before.told.function_name,
        "known_group": before.told.known_group,
        "requirements": model.requirements,
        "bridge": model.bridge,
        **sent.words,
    }
    if not files["known"]:
        words |= {"known_group": None}
    if "model" in sent.files and not sent.is_function and not _is_network(services, files["model"]):
        # They were the function's, or the network's.
        files |= {"beside": sent.files.get("beside")}
        words |= {"function_name": sent.words.get("function_name")}
    if "model" in sent.files:
        # What is sent is here, unless it is a process that sends it.
        words |= {"bridge": sent.words.get("bridge")}
    inferred = {one.name: one for one in before.fields}
    # What the author set is measured as it is set; another model is guessed anew.
    preparations = {
        one.name: one.preparation.model_dump(mode="json")
        for one in document.fields
        if isinstance(one, PictureField | DrawingField)
        and "model" not in sent.files
        and (one.name in before.told.preparations or one.preparation != _preparation_of(inferred[one.name]))
    }
    return ModelSubmission(
        model_file=files["model"],
        reference_file=files["reference"],
        preprocessor_file=files["preprocessor"],
        beside_file=files["beside"],
        known_file=files["known"],
        preparations=preparations if sent.preparations is None else dict(sent.preparations),
        **words,
    )


def _is_network(services: Services, model: str) -> bool:
    """Whether it is a network's file: its class is the same after another training."""
    with open(services.files.path(model), "rb") as file:
        return network_kind(file) is not None


def _preparation_of(field: AnyField) -> Preparation | None:
    """How its pictures are prepared; None for a field of another kind."""
    return field.preparation if isinstance(field, PictureField | DrawingField) else None
