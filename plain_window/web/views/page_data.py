"""The page and its schema, as a visitor's browser asks for them."""

import base64
import hashlib
import json
from pathlib import Path
from typing import Literal

import nh3
from flask import Response
from markdown_it import MarkdownIt

from ...core.answers import AnyAnswerSetting, BoxesSetting
from ...core.answers.in_picture import IN_PICTURE
from ...core.answers.wording import one_of, several_of
from ...core.answers.written import WRITTEN
from ...core.documents import DemoDocument, PageParts, Sample
from ...core.documents.document import logo_type
from ...core.documents.films import why_no_films
from ...core.fields import inputs_schema
from ..access import visible_version
from ..bridge_lines import bridge_state, since_of
from ..browser_answers import browser_answers
from ..lookups import ServedDemo, Version
from ..problems import not_found
from ..reporting import report_of
from ..state import state
from ..types.page import Page, PageAway, PageLogo
from ..usual import usual_of
from .api import api
from .asking import DRAFT_QUERY, asks_draft

__all__ = ["page_of"]

# With more fields than this, only the strongest are shown at first.
MOST_UNFOLDED, UNFOLDED_OF_MANY = 40, 20

_markdown = MarkdownIt("commonmark", {"html": False})


@api.operation("GET", "/demos/<slug>/page", answer=Page, query=DRAFT_QUERY, errors=(401, 404, 503))
def get_page(slug: str) -> Page:
    """All that a visitor's page needs."""
    return page_of(*visible_version(slug, draft=asks_draft()))


def page_of(demo: ServedDemo, version: Version) -> Page:
    """A version's page.

    Parameters
    ----------
    demo : ServedDemo
    version : Version
        The release or the draft that is shown.
    """
    document, parts = version.document, _possible_parts(version)
    return Page(
        slug=demo.slug,
        title=document.title,
        purpose=document.purpose,
        description_html=nh3.clean(_markdown.render(document.description)) if document.description else "",
        not_for=document.not_for,
        licence=document.licence,
        fields=[field for field in document.fields if not field.hidden],
        fixed=[field for field in document.fields if field.hidden],
        answer=_with_nouns(document.answer),
        release=version.number,
        records_inputs=document.record_inputs,
        record_days=document.record_days,
        asks=_asks(version),
        logo=_logo(document),
        parts=parts,
        table_rows=document.table_rows,
        film_rate=document.film_rate,
        ignored=version.inspection.unused,
        folded=_folded(version),
        report=report_of(version.evidence, document.answer),
        outcome=version.inspection.target,
        sample_films=[film.title for film in document.sample_films],
        samples=[_light(at, sample) for at, sample in enumerate(document.samples)],
        usual=usual_of(document, version.inspection),
        away=_away(demo, version),
        browser=browser_answers(version, parts),
        unconfirmed=_unconfirmed(version),
    )


def _away(demo: ServedDemo, version: Version) -> PageAway | None:
    """Since when the process of the live release is away, and what answers meanwhile."""
    live = demo.live
    if version.number is None or live is None or live.number is None or live.job.bridge is None:
        return None
    found = bridge_state(state().services.settings, Path(live.job.bridge).stem)
    is_other = version is not live
    if found.is_connected and not is_other:
        return None
    return PageAway(since=since_of(found), release=live.number, published_at=version.published_at if is_other else None)


def _with_nouns(setting: AnyAnswerSetting) -> AnyAnswerSetting:
    """An answer of boxes with the words for one and for several: the page counts them by itself."""
    if not isinstance(setting, BoxesSetting):
        return setting
    labels = [
        label.model_copy(update={"label_many": several_of(label.label, label.label_many)}) for label in setting.labels
    ]
    return setting.model_copy(update={"noun_one": one_of(setting.noun, setting.noun_one), "labels": labels})


def _asks(version: Version) -> Literal["live", "button"]:
    """At each change, unless its author wants a button, or the model takes long and they have not said."""
    asks = version.document.asks
    if asks != "auto":
        return asks
    return "button" if state().speeds.is_slow(version.job.key) else "live"


def _logo(document: DemoDocument) -> PageLogo | None:
    if document.logo is None or not document.logo.data:
        return None
    mark = hashlib.sha256(document.logo.data.encode()).hexdigest()[:12]
    return PageLogo(path=f"logo?v={mark}", alt=document.logo.alt)


@api.operation("GET", "/demos/<slug>/logo", query=DRAFT_QUERY, errors=(401, 404, 503), content_type="image/png")
def get_logo(slug: str) -> Response:
    """The small picture beside the title."""
    _, version = visible_version(slug, draft=asks_draft())
    logo = version.document.logo
    kind = logo_type(logo.data) if logo is not None else None
    if logo is None or kind is None:
        raise not_found()
    return Response(base64.b64decode(logo.data), content_type=kind)


def _unconfirmed(version: Version) -> list[str]:
    """What the author of a draft has not confirmed; a release was published knowing it."""
    if version.number is not None:
        return []
    confirmed = version.document.confirmed
    return [question.text for question in version.inspection.questions if question.name not in confirmed]


def _possible_parts(version: Version) -> PageParts:
    """The parts that are switched on, but for those that need reference rows where there are none."""
    found = version.inspection
    impossible = [] if found.n_reference_rows else ["changes", "similar", "among", "overall"]
    if version.document.answer.kind in IN_PICTURE:
        # A box has its score, a pixel its class, and that is all there is to say of it.
        impossible += ["contributions", "curves"]
    if version.document.answer.kind in WRITTEN:
        # Nothing in it is a number that could be compared.
        impossible += ["contributions", "curves", "changes", "similar", "among", "overall", "tables"]
    if found.picture_inputs:
        # Every reference row would have to be asked about beside every picture.
        impossible += ["among", "overall", "tables"]
    if why_no_films(version.document):
        impossible.append("films")
    return version.document.parts.model_copy(update=dict.fromkeys(impossible, False))


def _light(at: int, sample: Sample) -> Sample:
    """A sample whose pictures are fetched when they are needed, by their names."""
    inputs = {
        name: {"sample": f"{at}.{name}"} if isinstance(value, dict) and "data" in value else value
        for name, value in sample.inputs.items()
    }
    return sample.model_copy(update={"inputs": inputs})


def _folded(version: Version) -> list[str]:
    """Of many fields those that are not among the strongest."""
    names = [field.name for field in version.document.fields if not field.hidden]
    if len(names) <= MOST_UNFOLDED:
        return []
    order = {name: at for at, name in enumerate(version.inspection.strength)}
    strongest = set(sorted(names, key=lambda name: order.get(name, len(order)))[:UNFOLDED_OF_MANY])
    return [name for name in names if name not in strongest]


@api.operation("GET", "/demos/<slug>/schema", query=DRAFT_QUERY, errors=(401, 404, 503))
def get_schema(slug: str) -> Response:
    """JSON Schema of the inputs."""
    _, version = visible_version(slug, draft=asks_draft())
    schema = inputs_schema(version.document.fields, title=version.document.title)
    return Response(json.dumps(schema), content_type="application/schema+json")
