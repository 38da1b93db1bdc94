"""What goes along with a demo that is taken away as one file: gathered from its documents, its rows and its runner."""

import base64
import datetime as dt
import hashlib
import json
import math
import time
from collections.abc import Mapping
from typing import Any

from ..core.answers import ClassSetting
from ..core.answers.kinds import AnyAnswerSetting
from ..core.answers.wording import singular_label
from ..core.contract import Missing
from ..runners.client import RunnerClient
from .explanation_answers import changeable_fields, outcome_text, output_names, overall_answer
from .overall_known import known_overall
from .problems import ApiProblem
from .take_away_proof import reference_answers
from .take_away_wish import Wish, left_out, parts_in_browser
from .types.page import InBrowser, Page

__all__ = ["FORMAT", "content_of", "written"]

# Another one when what goes along is read otherwise; `frontend/inbrowser/content.ts` has it too.
FORMAT = 3
OVERALL_SECONDS, LOOK_SECONDS = 20.0, 0.2


def content_of(
    runners: RunnerClient, wish: Wish, page: Page, logo: bytes | None, report: object, model: bytes
) -> dict[str, object]:
    """All that a file carries but the model itself, ready to be written as JSON.

    Parameters
    ----------
    runners : RunnerClient
    wish : Wish
    page : Page
        As visitors of the server's page get it.
    logo : bytes or None
        The small picture beside the title, as PNG.
    report : dict or None
        How the model did on known cases, where the author shows it.
    model : bytes
        The compiled model's file.

    Raises
    ------
    RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
        As `RunnerClient.predict` does.
    """
    version, document = wish.version, wish.version.document
    overall = _overall(runners, wish) if page.parts.overall else {}
    sentences = left_out(wish)
    if page.parts.overall and not overall and wish.has_overall:
        sentences.append("What matters overall had not been worked out when the file was made.")
    proof, places = reference_answers(runners, wish)
    likeness, of_texts = _likeness(wish)
    alone = _offline_page(page, wish, logo, sentences, has_overall=bool(overall)) if wish.is_file else page
    return {
        "version": FORMAT,
        "page": alone.model_dump(mode="json", by_alias=True),
        "fields": [field.model_dump(mode="json") for field in document.fields],
        "answer": document.answer.model_dump(mode="json"),
        "facts": [
            {
                "name": one.name,
                "kind": one.kind,
                "low": one.low,
                "high": one.high,
                "options": list(one.options),
                "optional": one.optional,
            }
            for one in version.job.needed_facts.fields
        ],
        "singular": _singular(document.answer),
        "evidence": None if version.evidence is None else version.evidence.model_dump(mode="json"),
        "sample": wish.kept_rows.first(wish.n_sample) if wish.n_sample else None,
        "rows": _rows(wish) if wish.has_rows else None,
        "likeness": likeness,
        "likeness_of_texts": of_texts,
        "is_likeness_left_out": wish.loses_likeness,
        "places": places,
        "changeable": _changeable(wish) if wish.finds_changes else {},
        "overall": overall,
        "report": report,
        "proof": proof,
        "looks": _looks(wish) if wish.looks else None,
        "model_sum": hashlib.sha256(model).hexdigest() if wish.runs_graph else _stated_sum(model),
    }


def _stated_sum(model: bytes) -> str:
    # What reads models is loaded where it is needed, not at each start.
    from ..core.plan.container import stated_sum

    return stated_sum(model)


def _looks(wish: Wish) -> dict[str, Any]:
    """How a graph is asked, the demo's own pictures, and how others are compared with the known ones."""
    # NumPy is loaded where it is needed, not at each start.
    from ..core.takeaway.likeness import likeness_of_pictures_along

    version = wish.version
    (field,) = version.inspection.picture_inputs
    samples = {f"{at}.{field}": sample.inputs.get(field) for at, sample in enumerate(version.document.samples)}
    graph = version.inspection.graph if wish.runs_graph else None
    return {
        "graph": graph and graph.model_dump(),
        "samples": {name: value for name, value in samples.items() if isinstance(value, dict)},
        "likeness": likeness_of_pictures_along(wish.kept_rows, field),
    }


def written(content: dict[str, object]) -> bytes:
    """What goes along, as JSON.

    Parameters
    ----------
    content : dict

    Raises
    ------
    ApiProblem
        409 for numbers that JSON has no way to write.
    """
    try:
        return json.dumps(content, ensure_ascii=False, allow_nan=False, separators=(",", ":")).encode()
    except ValueError as error:
        detail = (
            "The reference table holds numbers without end, which cannot be carried along. Bring the table without "
            "them, or leave its rows out."
        )
        raise ApiProblem(409, "It does not fit into a file", detail) from error


def _offline_page(page: Page, wish: Wish, logo: bytes | None, sentences: list[str], *, has_overall: bool) -> Page:
    parts = parts_in_browser(page.parts, wish).model_copy(
        update={"among": page.parts.among and wish.has_rows, "overall": has_overall}
    )
    made = InBrowser(made_at=dt.datetime.now(dt.UTC), left_out=sentences)
    own = None
    if logo is not None and page.logo is not None:
        address = "data:image/png;base64," + base64.b64encode(logo).decode("ascii")
        own = page.logo.model_copy(update={"path": address})
    told: dict[str, Any] = {"parts": parts, "logo": own, "in_browser": made, "browser": None}
    return page.model_copy(update={**told, "records_inputs": False, "away": None, "asks": "live"})


def _singular(setting: AnyAnswerSetting) -> dict[str, str]:
    if not isinstance(setting, ClassSetting):
        return {}
    return {one.name: singular_label(one.label, one.label_one) for one in setting.classes}


def _changeable(wish: Wish) -> dict[str, Any]:
    """The fields that may change, with the values worth trying."""
    # NumPy is loaded where it is needed, not at each start.
    from ..core.explain.changes import Changeable

    facts = {one.name: one for one in wish.version.job.needed_facts.fields}
    found: dict[str, Any] = {}
    for name, setting in changeable_fields(wish.version.document.fields).items():
        met = [value for value in wish.kept_rows.columns[name] if value is not None]
        if not met:
            continue
        if facts[name].kind == "number":
            numbers = [float(value) for value in met]
            one = Changeable.number(name, math.nan, numbers, step=setting.step)
            found[name] = {"is_number": True, "values": list(one.values), "spread": one.spread, "step": one.step}
        else:
            known = set(met)
            options = [option for option in facts[name].options if option in known]
            found[name] = {"is_number": False, "values": options, "spread": 1.0, "step": 0.0}
        found[name]["direction"] = setting.direction
    return found


def _rows(wish: Wish) -> dict[str, Any]:
    kept_rows, setting = wish.kept_rows, wish.version.document.answer
    outcomes = kept_rows.outcomes
    texts = None if outcomes is None else [outcome_text(setting, outcome) for outcome in outcomes]
    return {"columns": kept_rows.columns, "outcomes": outcomes, "outcome_texts": texts}


def _likeness(wish: Wish) -> tuple[dict[str, object] | None, Mapping[str, object]]:
    # NumPy is loaded where it is needed, not at each start.
    from ..core.takeaway.likeness import likeness_along

    return likeness_along(wish.kept_rows, wish.version.job.needed_facts) if wish.has_rows else (None, {})


def _overall(runners: RunnerClient, wish: Wish) -> dict[str, Any]:
    """What matters overall by output, once it is worked out; nothing if that takes too long."""
    version, deadline, found = wish.version, time.monotonic() + OVERALL_SECONDS, {}
    for at, name in enumerate(output_names(version.document.answer) if wish.has_overall else []):
        while True:
            reply = known_overall(runners, version, at)
            if isinstance(reply, Missing) or (reply.share_done < 1 and time.monotonic() > deadline):
                return {}
            if reply.share_done >= 1:
                break
            time.sleep(LOOK_SECONDS)
        found[name] = overall_answer(version, reply, at).model_dump(mode="json", by_alias=True)
    return found
