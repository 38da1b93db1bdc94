"""A demo, its releases and its access, as its author is told of them."""

import json

from flask import Response, after_this_request

from ..core.contract.inspection import Inspection, Question
from ..core.documents import DemoDocument
from ..core.documents.measured import is_measured_as_set
from ..store.demos import draft_of, draft_tag, model_inspection
from ..store.environments import environment_of
from ..store.records import Demo, Release
from ..store.releases import draft_differs
from ..store.secret_links import secret_link_of
from .access import link_path
from .bridge_lines import bridge_state, bridge_view
from .new_reference_jobs import is_overall_by_all
from .reporting import report_of
from .state import state
from .types.access import AccessState
from .types.bridges import BridgeView
from .types.demos import DemoState
from .types.environments import EnvironmentPackage, EnvironmentState
from .types.releases import ReleaseState

__all__ = ["access_state", "demo_state", "open_questions", "release_state"]


def demo_state(demo: Demo) -> DemoState:
    """All about a demo that its author sees; the answer carries the draft's tag.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    tag = draft_tag(demo)

    @after_this_request
    def with_tag(response: Response) -> Response:
        response.set_etag(tag)
        return response

    document, inspection = draft_of(demo), model_inspection(demo.model)
    release = Release.get_or_none(Release.id == demo.live_release_id) if demo.live_release_id else None
    is_measured = is_measured_as_set(document, inspection)
    evidence = inspection.evidence if is_measured else None
    return DemoState(
        **document.model_dump(),
        slug=demo.slug,
        target=inspection.target,
        access=access_state(demo),
        release=release_state(release, demo) if release else None,
        draft_differs=draft_differs(demo, release),
        found=inspection.found,
        compiled=inspection.compiled,
        ignored=inspection.ignored,
        n_reference_rows=inspection.n_reference_rows,
        overall_by_all=is_overall_by_all(demo.model_id, document),
        notes=inspection.notes,
        targets=inspection.targets,
        candidates=inspection.candidates,
        questions=open_questions(document, inspection),
        has_labels=demo.model.labels is not None,
        has_reference=demo.model.reference_file_id is not None,
        has_preprocessor=demo.model.preprocessor_file_id is not None,
        has_beside=demo.model.beside_file_id is not None,
        requirements=demo.model.requirements,
        environment=_environment_state(demo),
        bridge=_bridge_state(demo),
        release_while_away=_number_of(demo.away_release_id),
        has_known_cases=demo.known_file_id is not None,
        known_group=inspection.told.known_group,
        known_groups=inspection.known_groups,
        has_expected=demo.expected_file_id is not None,
        evidence=evidence,
        report=report_of(evidence, document.answer),
        likeness=inspection.likeness,
        evidence_is_stale=inspection.evidence is not None and not is_measured,
        strength=inspection.strength,
        unused=inspection.unused,
        pictures=inspection.pictures,
        boxes=inspection.boxes,
    )


def _environment_state(demo: Demo) -> EnvironmentState | None:
    """The libraries that its model has of its own."""
    hash_ = demo.model.environment_id
    if hash_ is None:
        return None
    packages = [EnvironmentPackage(name=one.name, version=one.version) for one in environment_of(hash_)]
    return EnvironmentState(id=hash_, packages=packages, is_here=state().services.environments.is_there(hash_))


def _bridge_state(demo: Demo) -> BridgeView | None:
    """Who answers for it, where its model stays in a process of its author's."""
    key = demo.model.bridge
    return None if key is None else bridge_view(demo.slug, bridge_state(state().services.settings, key))


def _number_of(release_id: int | None) -> int | None:
    return None if release_id is None else Release.get_by_id(release_id).number


def release_state(release: Release, demo: Demo) -> ReleaseState:
    """A release as its author sees it listed.

    Parameters
    ----------
    release : Release
    demo : Demo
        Whose it is.
    """
    return ReleaseState(
        number=release.number,
        created=release.created,
        published_at=release.created,
        note=release.note,
        despite=json.loads(release.despite) if release.despite else {},
        is_live=release.id == demo.live_release_id,
        is_bridged=release.model.bridge is not None,
    )


def open_questions(document: DemoDocument, inspection: Inspection) -> list[Question]:
    """What was concluded and neither known cases nor the author have confirmed.

    Parameters
    ----------
    document : DemoDocument
        What the demo says of itself.
    inspection : Inspection
        What was found in the model.
    """
    every = inspection.questions
    return [one for one in every if one.name not in document.confirmed]


def access_state(demo: Demo) -> AccessState:
    """Who may open a demo, and how.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    link = secret_link_of(demo) if demo.access == "link" else None
    return AccessState(
        access=demo.access,
        link=link_path(link) if link else None,
        link_expires=link.expires if link else None,
        sites=json.loads(demo.sites) if demo.sites else [],
    )
