"""One demo as a document: what its page says, its fields and its answer."""

import base64
from typing import Annotated, Any, Literal

from pydantic import AliasChoices, BaseModel, ConfigDict, field_validator
from pydantic import Field as Constrained

from ..answers import AnyAnswerSetting
from ..fields import AnyField, DrawingField, PictureField, Scalar

__all__ = [
    "BACKGROUND_ROWS",
    "CONTRIBUTIONS",
    "TITLE_CHARACTERS",
    "AnswersIn",
    "Asks",
    "BackgroundRows",
    "Confirmable",
    "DemoDocument",
    "FilmRate",
    "Logo",
    "PageParts",
    "Paragraphs",
    "RecordDays",
    "Sample",
    "SampleFilms",
    "Samples",
    "Sentence",
    "TableRows",
    "Title",
    "logo_type",
]

TITLE_CHARACTERS = 200
# Reference rows that contributions are counted against, unless the author sets another number.
BACKGROUND_ROWS = 100

# Unless the author sets another number.
RECORD_DAYS = 90
TABLE_ROWS = 10_000
# As often as an eye wants to look; a film has some 25 frames a second.
FILM_RATE = 5.0
# Of base64: about 300 KB of picture, which every visitor loads.
MOST_LOGO_CHARACTERS = 400_000
# Of base64: 2 MB of film.
MOST_FILM_CHARACTERS = 2_800_000
LOGO_HEADS = ((b"\x89PNG\r\n\x1a\n", "image/png"), (b"\xff\xd8\xff", "image/jpeg"))

Title = Annotated[str, Constrained(min_length=1, max_length=TITLE_CHARACTERS)]
Sentence = Annotated[str, Constrained(max_length=500)]
Paragraphs = Annotated[str, Constrained(max_length=20_000)]


# Folders, releases and programs of before say `pushes`.
CONTRIBUTIONS = AliasChoices("contributions", "pushes")


class PageParts(BaseModel):
    """Which parts of the visitor's page are shown. Those about reference rows show visitors rows of that table."""

    model_config = ConfigDict(extra="forbid")

    curves: bool = Constrained(True, description="The curve of the answer under each field.")
    contributions: bool = Constrained(
        True, validation_alias=CONTRIBUTIONS, description="What each value adds to the answer, or takes off it."
    )
    changes: bool = Constrained(True, description="What would change the answer.")
    similar: bool = Constrained(True, description="The reference rows most like the case, with what happened to them.")
    among: bool = Constrained(True, description="The case drawn among the reference rows.")
    overall: bool = Constrained(True, description="What matters overall.")
    compare: bool = Constrained(True, description="Keeping answers and comparing them.")
    report: bool = Constrained(False, description="How the model did on known cases, in full, with the worst of them.")
    outcomes: bool = Constrained(True, description="Visitors may say whether an answer was right; that is kept.")
    truth: bool = Constrained(False, description="They may also say what it really was.")
    tables: bool = Constrained(False, description="Visitors may have a whole table of cases answered.")
    films: bool = Constrained(
        False, description="Visitors may have a film answered frame by frame, or what their camera sees."
    )


class Sample(BaseModel):
    """A ready case that a visitor can press to see the demo work at once."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Constrained(min_length=1, max_length=TITLE_CHARACTERS)]
    inputs: dict[str, Scalar | dict[str, Any] | None]


class SampleFilm(BaseModel):
    """A ready film that a visitor can press."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Constrained(min_length=1, max_length=TITLE_CHARACTERS)]
    data: Annotated[str, Constrained(min_length=1, max_length=MOST_FILM_CHARACTERS)] = Constrained(
        description="The film's file in base64."
    )

    @field_validator("data")
    @classmethod
    def _is_base64(cls, data: str) -> str:
        try:
            base64.b64decode(data, validate=True)
        except ValueError:
            raise ValueError("a film is sent in base64") from None
        return data


class Logo(BaseModel):
    """A small picture beside the title."""

    model_config = ConfigDict(extra="forbid")

    data: Annotated[str, Constrained(max_length=MOST_LOGO_CHARACTERS)] = Constrained(
        description="A PNG, JPEG or WebP picture in base64; empty for none."
    )
    alt: Annotated[str, Constrained(max_length=200)] = Constrained(
        "", description="What it shows, for who does not see it; empty where it only adorns."
    )

    @field_validator("data")
    @classmethod
    def _is_a_picture(cls, data: str) -> str:
        if data and logo_type(data) is None:
            raise ValueError("a logo is a PNG, JPEG or WebP picture in base64")
        return data


def logo_type(data: str) -> str | None:
    """The media type of a picture in base64, by its first bytes; None for what is none that is taken.

    Parameters
    ----------
    data : str
    """
    try:
        content = base64.b64decode(data, validate=True)
    except ValueError:
        return None
    for head, kind in LOGO_HEADS:
        if content.startswith(head):
            return kind
    return "image/webp" if content[:4] == b"RIFF" and content[8:12] == b"WEBP" else None


SampleFilms = Annotated[list[SampleFilm], Constrained(max_length=4)]
Samples = Annotated[list[Sample], Constrained(max_length=20)]
RecordDays = Annotated[int, Constrained(ge=1, le=3650)]
Asks = Literal["auto", "live", "button"]
AnswersIn = Literal["server", "browser"]
FilmRate = Annotated[float, Constrained(ge=0.1, le=30, allow_inf_nan=False)]
TableRows = Annotated[int, Constrained(ge=1, le=100_000_000)]
BackgroundRows = Annotated[int, Constrained(ge=1, le=1000)]
# Checks whose finding was concluded, and which the author may confirm.
Confirmable = Literal["features", "class-order", "preparation", "reading"]


class DemoDocument(BaseModel):
    """All that an author can set about a demo. `fields` stand in the order visitors read them."""

    title: Title
    purpose: Sentence = Constrained("", description="One sentence in the visitor's words.")
    description: Paragraphs = Constrained("", description="Markdown.")
    not_for: Sentence = Constrained("", description="What the demo is not for.")
    licence: Sentence = ""
    record_inputs: bool = Constrained(False, description="Keep what visitors enter; the page then says so.")
    record_days: RecordDays = Constrained(
        RECORD_DAYS, description="For so many days what visitors enter is kept, where it is kept."
    )
    parts: PageParts = PageParts()
    samples: Samples = Constrained([], description="Ready cases; each needs a value for every field.")
    sample_films: SampleFilms = Constrained([], description="Ready films, where visitors may have films answered.")
    background_rows: BackgroundRows = Constrained(
        BACKGROUND_ROWS, description="Reference rows that contributions are counted against, at the most."
    )
    table_rows: TableRows = Constrained(TABLE_ROWS, description="How many rows a visitor's table may have.")
    film_rate: FilmRate = Constrained(FILM_RATE, description="About how many frames of a film's second it is asked.")
    confirmed: list[Confirmable] = Constrained([], description="What was concluded and the author has confirmed.")
    asks: Asks = Constrained(
        "auto",
        description="Whether the page asks for an answer at each change (`live`), by a button (`button`), or as the "
        "model's own time allows (`auto`).",
    )
    answers_in: AnswersIn = Constrained(
        "server",
        description="Whether this server answers visitors of the page (`server`), or their own browser, to which the "
        "model goes then (`browser`; only models with a compiled form).",
    )
    browser_rows: bool | None = Constrained(
        None,
        description="Whether the rows of the reference table go to browsers along with the model; where it is left "
        "open they do if the page shows rows anyway.",
    )
    logo: Logo | None = None
    fields: list[AnyField]
    answer: AnyAnswerSetting

    @property
    def has_pictures(self) -> bool:
        """Whether something is to be shown or drawn."""
        return any(isinstance(field, PictureField | DrawingField) for field in self.fields)
