"""What of a demo is to go along in one file that needs no server: whether it can, and what would be missing."""

from pathlib import Path

from ..core.contract.events import COMPILED_BYTES
from ..core.contract.kept_rows import KeptRows, read_kept_rows
from ..core.documents import PageParts
from ..core.fields import DrawingField, PictureField
from .explanation_answers import output_names
from .lookups import Version

__all__ = ["Wish", "left_out", "model_file", "obstacle_of", "parts_in_browser", "sends_rows", "shows_rows"]

# More outputs than this have their overviews left out: each is worked out by itself.
MOST_OVERALL = 12
NUMERIC = ("class", "labels", "number", "numbers")
# Only one class or one number can be brought somewhere.
CHANGED = ("class", "number")
ELSEWHERE = "Host the page here, or send its folder along: the API and the page need a server then."


class Wish:
    """What is to go along.

    Parameters
    ----------
    version : Version
    has_rows : bool
        Whether rows of the reference table may.
    is_file : bool, optional
        Whether it is to be a file that asks nobody, rather than what a page of this server answers by.
    """

    def __init__(self, version: Version, *, has_rows: bool, is_file: bool = True) -> None:
        self.version, self.is_file = version, is_file
        self.kept_rows = _kept_rows(version)
        self.has_rows = has_rows and self.kept_rows.n_rows > 0

    @property
    def n_sample(self) -> int:
        """How many rows contributions are counted against."""
        return min(self.kept_rows.n_rows, self.version.document.background_rows) if self.explains else 0

    @property
    def finds_changes(self) -> bool:
        """Whether the file looks for what would change an answer: only where it can tell what is believable."""
        return self.has_rows and self.version.document.answer.kind in CHANGED

    @property
    def loses_likeness(self) -> bool:
        """Whether known cases speak for certainty, and the file cannot tell whether a case is like any of them."""
        return self.kept_rows.n_rows > 0 and self.version.job.needed_facts.has_evidence and not self.has_rows

    @property
    def looks(self) -> bool:
        """Whether the model looks at pictures: what runs it in a browser goes along then."""
        return bool(self.version.inspection.picture_inputs)

    @property
    def runs_graph(self) -> bool:
        """Whether that is an ONNX graph, which needs an engine of its own; else it is compiled."""
        return self.looks and self.version.job.compiled is None

    @property
    def has_overall(self) -> bool:
        """Whether what matters overall goes along: a file has it of few outputs, a page of this server asks for it."""
        return self.is_file and len(output_names(self.version.document.answer)) <= MOST_OVERALL

    @property
    def explains(self) -> bool:
        """Whether the page says what each value adds."""
        return self.version.document.parts.contributions


def obstacle_of(version: Version, *, is_file: bool = True) -> str | None:
    """Why a version cannot be one file, or be asked in its visitor's browser, and what else there is; None if it can.

    Parameters
    ----------
    version : Version
    is_file : bool, optional
        Whether it is to be a file, for which there are other ways.
    """
    elsewhere, place = (f" {ELSEWHERE}", "a file") if is_file else ("", "a browser")
    if version.document.answer.kind not in NUMERIC:
        return f"Answers of this kind are made by the server: {place} cannot make them.{elsewhere}"
    if version.job.bridge is not None:
        return (
            "The model is in a process of yours, so there is nothing to take along. Bring it as a file, or let the "
            "process answer."
        )
    if version.inspection.picture_inputs:
        why = _obstacle_of_pictures(version)
        return why and f"{why}{elsewhere}"
    if version.job.compiled is None:
        why = version.inspection.compiled.obstacle or "It was not compiled."
        return f"Only compiled models fit into {place}; this one is asked through its library. {why}{elsewhere}"
    return None


def _obstacle_of_pictures(version: Version) -> str | None:
    """Why what looks at pictures cannot be asked in a browser; None if it can."""
    if version.job.compiled is not None:
        return None
    if version.inspection.found.format != "onnx" and version.job.converted is None:
        return _why_not_compiled(version)
    n_bytes = model_file(version).stat().st_size
    if n_bytes > COMPILED_BYTES:
        return f"Its graph is {n_bytes >> 20} MB; {COMPILED_BYTES >> 20} MB are the most that a browser is given."
    if version.inspection.graph is not None:
        return None
    if len(version.inspection.fields) > 1:
        return "In a browser a model looks at one picture and nothing else; this one takes more."
    return (
        "How its graph is asked outside of this server was not noted when it was brought, or its answers are no row of "
        "numbers in single or double precision. Replace the model by the same file: if that was all, browsers can ask "
        "it then."
    )


def _why_not_compiled(version: Version) -> str:
    """Of a model that looks at pictures and is no graph."""
    (first, *_) = version.document.fields
    if isinstance(first, PictureField | DrawingField) and first.preparation.layout == "flat":
        why = version.inspection.compiled.obstacle or "It was not compiled."
        return (
            f"Its pixels are asked about through its library. {why} Replacing the model by the same file has it tried "
            "again."
        )
    return (
        "Of models that look at pictures browsers run ONNX graphs, and compiled ones of flattened pixels; this one "
        "needs its own library."
    )


def model_file(version: Version) -> Path:
    """The model as a browser asks it: compiled, or of what looks at pictures its graph.

    Parameters
    ----------
    version : Version
        One without an obstacle.
    """
    job = version.job
    return Path(job.compiled or job.converted or job.model)


def shows_rows(version: Version) -> bool:
    """Whether its page hands rows of the reference table out already.

    Parameters
    ----------
    version : Version
    """
    parts = version.document.parts
    return version.inspection.n_reference_rows > 0 and (parts.similar or parts.among)


def sends_rows(version: Version) -> bool:
    """Whether rows of the reference table go to browsers that answer: by the author's word, or as its page has it.

    Parameters
    ----------
    version : Version
    """
    own = version.document.browser_rows
    return shows_rows(version) if own is None else own


def parts_in_browser(parts: PageParts, wish: Wish) -> PageParts:
    """The parts of a page that its visitor's browser can do by itself, or that have nothing to do with a case.

    Parameters
    ----------
    parts : PageParts
        Those of the server's page.
    wish : Wish
    """
    return parts.model_copy(
        update={
            "changes": parts.changes and wish.finds_changes,
            "similar": parts.similar and wish.has_rows,
            "contributions": parts.contributions and (wish.n_sample > 0 or wish.looks),
            "outcomes": False,
            "truth": False,
            "tables": False,
            "films": False,
        }
    )


def _kept_rows(version: Version) -> KeptRows:
    """Its reference rows; none where it has none."""
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
    if rows and not wish.has_rows and (parts.similar or (parts.among and wish.is_file)):
        sentences.append("The reference table is not in it, so no similar cases are shown.")
    if wish.loses_likeness:
        sentences.append(
            "It cannot tell whether a case is unlike those the model is known by, so nothing is said of how sure an "
            "answer is, or how far off it may be."
        )
    if parts.changes and rows and not wish.finds_changes and document.answer.kind in CHANGED:
        sentences.append("What would change the answer is not looked for.")
    if parts.overall and rows and wish.is_file and not wish.has_overall:
        sentences.append("What matters overall is not in it: there are too many answers for that.")
    if wish.runs_graph:
        sentences.append(
            "It is slower than the server: a large network takes over ten times as long to look at a picture."
        )
    if any(isinstance(field, PictureField) for field in document.fields):
        sentences.append("Links to pictures are not opened; pictures are chosen, dropped or taken.")
    if parts.films:
        sentences.append("Films are looked at by the server only.")
    if parts.tables:
        sentences.append("Whole tables are answered by the server only.")
    return sentences
