"""What goes along with a demo that is taken away as one file: gathered from its documents, its rows and its runner."""

import base64
import datetime as dt
import math
import time
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from ..core.answers import ClassSetting
from ..core.answers.kinds import AnyAnswerSetting
from ..core.answers.wording import singular_label
from ..core.contract import Missing
from ..core.contract.kept_rows import KeptRows, read_kept_rows
from ..core.contract.requests import ExplainRequest
from ..core.errors import Faults
from ..core.fields import check_inputs
from ..core.takeaway.reference_cases import reference_cases
from ..runners.client import RunnerClient
from ..runners.failures import RunnerRaised
from .explanation_answers import changeable_fields, outcome_text, output_names, overall_answer
from .lookups import Version
from .types.page import InBrowser, Page

__all__ = ["Wish", "content_of", "kept_rows_of", "left_out", "obstacle_of"]

FORMAT = 1
N_REFERENCE, N_EXPLAINED = 200, 20
# More outputs than this have their overviews left out: each is worked out by itself.
MOST_OVERALL = 12
OVERALL_SECONDS, LOOK_SECONDS = 20.0, 0.2
# Unpacked, a browser holds it twice while it is opened.
MOST_MODEL_BYTES = 200 << 20
NUMERIC = ("class", "labels", "number", "numbers")
ELSEWHERE = "Host the page here, or send its folder along: the API and the page need a server then."


class Wish:
    """What is to go along.

    Parameters
    ----------
    version : Version
    has_rows : bool
        Whether rows of the reference table may.
    """

    def __init__(self, version: Version, *, has_rows: bool) -> None:
        self.version = version
        self.kept_rows = kept_rows_of(version)
        self.has_rows = has_rows and self.kept_rows.n_rows > 0

    @property
    def n_sample(self) -> int:
        """How many rows contributions are counted against."""
        return min(self.kept_rows.n_rows, self.version.document.background_rows) if self.explains else 0

    @property
    def explains(self) -> bool:
        """Whether the page says what each value adds."""
        return self.version.document.parts.contributions


def obstacle_of(version: Version) -> str | None:
    """Why a version cannot be one file, and what else there is; None if it can.

    Parameters
    ----------
    version : Version
    """
    if version.document.answer.kind not in NUMERIC:
        return f"Answers of this kind are made by the server: a file cannot make them. {ELSEWHERE}"
    if version.inspection.picture_inputs:
        return f"What looks at pictures needs its library, which does not fit into a file. {ELSEWHERE}"
    if version.job.bridge is not None:
        return (
            "The model is in a process of yours, so there is nothing to take along. Bring it as a file, or let the "
            "process answer."
        )
    if version.job.compiled is None:
        why = version.inspection.compiled.obstacle or "It was not compiled."
        return f"Only compiled models fit into a file; this one is asked through its library. {why} {ELSEWHERE}"
    n_bytes = Path(version.job.compiled).stat().st_size
    if n_bytes > MOST_MODEL_BYTES:
        return (
            f"The compiled model is {n_bytes >> 20} MB; browsers have trouble with more than {MOST_MODEL_BYTES >> 20}. "
            f"Fewer or shallower trees make it smaller. {ELSEWHERE}"
        )
    return None


def kept_rows_of(version: Version) -> KeptRows:
    """Its reference rows; none where it has none.

    Parameters
    ----------
    version : Version
    """
    path = version.job.kept_rows
    return read_kept_rows(Path(path).read_bytes()) if path else KeptRows(columns={})


def left_out(wish: Wish) -> list[str]:
    """What the file cannot do that the page can, in sentences.

    Parameters
    ----------
    wish : Wish
    """
    document, rows = wish.version.document, wish.kept_rows.n_rows
    parts = document.parts
    sentences = []
    if rows and not wish.has_rows and (parts.similar or parts.among):
        sentences.append("The reference table is not in it, so no similar cases are shown.")
    if _loses_likeness(wish):
        sentences.append(
            "It cannot tell whether a case is unlike those the model is known by, so nothing is said of how sure an "
            "answer is."
        )
    if parts.changes and rows and not _finds_changes(wish) and document.answer.kind in ("class", "number"):
        sentences.append("What would change the answer is not looked for.")
    if parts.overall and rows and _n_outputs(wish.version) > MOST_OVERALL:
        sentences.append("What matters overall is not in it: there are too many answers for that.")
    if parts.tables:
        sentences.append("Whole tables are answered by the server only.")
    return sentences


def _finds_changes(wish: Wish) -> bool:
    """Whether the file looks for what would change an answer: only where it can tell what is believable.

    Parameters
    ----------
    wish : Wish
    """
    return wish.has_rows and wish.version.document.answer.kind in ("class", "number")


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


def _loses_likeness(wish: Wish) -> bool:
    """Whether the server tells what is unlike anything seen, something hangs on it, and the file cannot tell."""
    has_rows = wish.kept_rows.n_rows > 0 and wish.version.job.needed_facts.has_evidence
    return has_rows and wish.version.document.answer.kind == "class" and not wish.has_rows


def content_of(
    runners: RunnerClient, wish: Wish, page: Page, logo: bytes | None, report: Any, model: bytes
) -> dict[str, Any]:
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
    if page.parts.overall and not overall and _n_outputs(version) <= MOST_OVERALL:
        sentences.append("What matters overall had not been worked out when the file was made.")
    proof, places = _proof(runners, wish)
    likeness, of_texts = _likeness(wish)
    # What reads models is loaded where it is needed, not at each start.
    from ..core.plan.container import stated_sum

    return {
        "version": FORMAT,
        "page": _offline_page(page, wish, logo, sentences, has_overall=bool(overall)).model_dump(
            mode="json", by_alias=True
        ),
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
        "is_likeness_left_out": _loses_likeness(wish),
        "places": places,
        "changeable": _changeable(wish) if _finds_changes(wish) else {},
        "overall": overall,
        "report": report,
        "proof": proof,
        "model_sum": stated_sum(model),
    }


def _offline_page(page: Page, wish: Wish, logo: bytes | None, sentences: list[str], *, has_overall: bool) -> Page:
    parts = page.parts.model_copy(
        update={
            "changes": page.parts.changes and _finds_changes(wish),
            "similar": page.parts.similar and wish.has_rows,
            "among": page.parts.among and wish.has_rows,
            "overall": has_overall,
            "contributions": page.parts.contributions and wish.n_sample > 0,
            "outcomes": False,
            "truth": False,
            "tables": False,
            "films": False,
        }
    )
    made = InBrowser(made_at=dt.datetime.now(dt.UTC), n_reference=N_REFERENCE, left_out=sentences)
    own = None
    if logo is not None and page.logo is not None:
        address = "data:image/png;base64," + base64.b64encode(logo).decode("ascii")
        own = page.logo.model_copy(update={"path": address})
    update = {"parts": parts, "logo": own, "records_inputs": False, "away": None, "asks": "live", "in_browser": made}
    return page.model_copy(update=update)


def _singular(setting: AnyAnswerSetting) -> dict[str, str]:
    if not isinstance(setting, ClassSetting):
        return {}
    return {one.name: singular_label(one.label, one.label_one) for one in setting.classes}


def _rows(wish: Wish) -> dict[str, Any]:
    kept_rows, setting = wish.kept_rows, wish.version.document.answer
    outcomes = kept_rows.outcomes
    texts = None if outcomes is None else [outcome_text(setting, outcome) for outcome in outcomes]
    return {"columns": kept_rows.columns, "outcomes": outcomes, "outcome_texts": texts}


def _likeness(wish: Wish) -> tuple[dict[str, Any] | None, dict[str, Any]]:
    # NumPy is loaded where it is needed, not at each start.
    from ..core.takeaway.likeness import likeness_along

    return likeness_along(wish.kept_rows, wish.version.job.needed_facts) if wish.has_rows else (None, {})


def _n_outputs(version: Version) -> int:
    return len(output_names(version.document.answer))


def _overall(runners: RunnerClient, wish: Wish) -> dict[str, Any]:
    """What matters overall by output, once it is worked out; nothing if that takes too long."""
    version, deadline, found = wish.version, time.monotonic() + OVERALL_SECONDS, {}
    names = output_names(version.document.answer)
    if len(names) > MOST_OVERALL:
        return {}
    for at, name in enumerate(names):
        while True:
            reply = runners.overall(version.job, of=at)
            if isinstance(reply, Missing) or (reply.share_done < 1 and time.monotonic() > deadline):
                return {}
            if reply.share_done >= 1:
                break
            time.sleep(LOOK_SECONDS)
        found[name] = overall_answer(version, reply, at).model_dump(mode="json", by_alias=True)
    return found


def _proof(runners: RunnerClient, wish: Wish) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    """Reference answers, and where curves of numbers jump or are asked: that is the same for every case."""
    version = wish.version
    rows = [row for row in _rows_to_ask(wish) if row is not None]
    outputs = _answered(runners, wish, rows)
    places: dict[str, Any] = {}
    proof = []
    for at, (row, own) in enumerate(outputs):
        one = {"row": row, "outputs": own, "of": None, "method": None, "baseline": None, "contributions": None}
        if at < N_EXPLAINED:
            asked = ExplainRequest(row=row, explanation=wish.explains, curves=True, full=True)
            reply = runners.explain(version.job, asked)
            for name, curve in (reply.curves or {}).items():
                if curve.shape != "options":
                    places.setdefault(name, {"shape": curve.shape, "x": list(curve.x)})
            if reply.explanation is not None and not reply.explanation.errors:
                told = reply.explanation
                one |= {
                    "of": reply.of,
                    "method": told.method,
                    "baseline": told.baseline,
                    "contributions": told.contributions,
                }
        proof.append(one)
    return proof, places


def _answered(runners: RunnerClient, wish: Wish, rows: list[Mapping[str, Any]]) -> list[tuple[Any, list[float]]]:
    """Rows with what the model says of each; without those that it refuses."""
    try:
        found = runners.predict(wish.version.job, [dict(row) for row in rows])
        return [(row, own) for row, own in zip(rows, found.outputs, strict=True) if all(map(math.isfinite, own))]
    except (RunnerRaised, Faults):
        if len(rows) <= 1:
            return []
    half = len(rows) // 2
    return _answered(runners, wish, rows[:half]) + _answered(runners, wish, rows[half:])


def _rows_to_ask(wish: Wish) -> list[Mapping[str, Any] | None]:
    fields = wish.version.document.fields
    texts = {
        field.name: [
            text for sample in wish.version.document.samples if isinstance(text := sample.inputs.get(field.name), str)
        ]
        for field in fields
    }
    rows: list[Mapping[str, Any] | None] = []
    for case in reference_cases(fields, texts, N_REFERENCE):
        try:
            rows.append(check_inputs(fields, case).values)
        except Faults:
            # A document may say of a field what its own checks refuse.
            rows.append(None)
    return rows
