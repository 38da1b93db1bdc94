"""A demo's draft, as its author sees and changes it."""

from typing import Annotated

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.contract.compilation import CompiledReport
from ...core.contract.inspection import BoxFindings, Found, LikenessFound, PictureFindings, Question
from ...core.documents import DemoChanges, DemoDocument
from ...core.documents.model_differences import Differences
from ...core.trust.evidence import Evidence
from .access import AccessState
from .bridges import BridgeView
from .environments import EnvironmentState
from .releases import ReleaseState
from .reporting import Report

__all__ = ["DemoState", "DraftChange", "Replaced"]


class DemoState(DemoDocument):
    """A demo's draft with all about it that its author sees. The settings are the keys of `demo.toml`."""

    slug: str
    target: str | None
    access: AccessState
    release: ReleaseState | None
    draft_differs: bool
    found: Found
    compiled: CompiledReport
    ignored: list[str] = Constrained(description="Columns of the reference table that the model never asks for.")
    n_reference_rows: int
    overall_by_all: bool = Constrained(
        False, description="Whether what matters overall has been worked out by all rows that are kept."
    )
    notes: list[str] = Constrained(description="What the author should check, because it was concluded.")
    targets: list[str] = Constrained(description="The outcome's column for each of several answers.")
    candidates: list[str] = Constrained(
        description="Columns that could be the outcome, if the author has to say which."
    )
    questions: list[Question] = Constrained(description="What publishing asks about, until it is confirmed.")
    has_labels: bool
    has_reference: bool
    has_preprocessor: bool
    requirements: str | None = None
    environment: EnvironmentState | None = None
    bridge: BridgeView | None = Constrained(
        None, description="Who answers, of a model that stays in a process of its author's."
    )
    release_while_away: int | None = Constrained(
        None, description="The release that answers while the process of the one that visitors see is away."
    )
    has_beside: bool = Constrained(False, description="Whether files lie beside the function.")
    has_known_cases: bool
    known_group: str | None = Constrained(None, description="The column that says what each known case is a case of.")
    known_groups: list[str] = Constrained(
        [], description="Columns that could: some known cases share a value of theirs, not all do."
    )
    has_expected: bool = Constrained(
        False, description="Whether outputs of the author's own are there to compare with."
    )
    evidence_is_stale: bool = Constrained(
        description="Whether known cases were measured with pictures prepared otherwise than now, or a field free."
    )
    evidence: Evidence | None = Constrained(description="What known cases say of the model.")
    strength: dict[str, float] = Constrained(
        description="How far each field moves answers on average, strongest first; 0 for one that never did."
    )
    unused: list[str] = Constrained(description="Fields that the model makes no use of.")
    pictures: PictureFindings = Constrained(PictureFindings(), description="What known pictures told.")
    boxes: BoxFindings | None = Constrained(
        None, description="How boxes may be read from the model's outputs, where its answer is boxes."
    )
    report: "Report | None" = Constrained(description="What known cases say of the model, as every page says it.")
    likeness: list[LikenessFound] = Constrained([], description="How cases unlike the known ones are told.")


class DraftChange(DemoChanges):
    """What an author changes of a draft, and of the demo's address."""

    slug: Annotated[str, Constrained(min_length=1, max_length=200)] | None = None


class Replaced(BaseModel):
    """What differs, and the demo as it is then."""

    differences: Differences
    demo: DemoState
