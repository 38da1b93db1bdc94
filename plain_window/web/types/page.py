"""What a visitor's page needs."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.answers import AnyAnswerSetting
from ...core.documents import PageParts, Sample
from ...core.documents.document import FILM_RATE, RECORD_DAYS, TABLE_ROWS
from ...core.fields import AnyField
from .common import UtcTime
from .reporting import Report

__all__ = ["BrowserAnswers", "InBrowser", "Page", "PageAway", "PageLogo", "Usual", "UsualPart"]


class UsualPart(BaseModel):
    """One output of the usual answer."""

    name: str = Constrained(description="The class, the label or the number.")
    label: str
    value: float
    text: str = Constrained(description="As it is said: marks of 100, or a rounded number.")
    unit: str = ""


class Usual(BaseModel):
    """The average answer over the reference sample, from which contributions are counted."""

    n_rows: int
    parts: list[UsualPart] = Constrained(description="Classes and labels the likeliest first.")


class PageLogo(BaseModel):
    """A small picture beside the title."""

    path: str
    alt: str


class PageAway(BaseModel):
    """The process that holds the model of what was published is not connected."""

    since: UtcTime | None
    release: int = Constrained(description="What it answers when it is there.")
    published_at: UtcTime | None = Constrained(
        description="When the release was published that answers meanwhile; None where none does."
    )


class InBrowser(BaseModel):
    """Of a page that answers in its visitor's browser."""

    made_at: UtcTime | None = Constrained(description="When the file was made; None for a page of a server.")
    mark: str = Constrained("", description="The SHA-256 of what is in it; empty where it was not read from its file.")
    left_out: list[str] = Constrained(description="What it cannot do that the server's page can, in sentences.")


class BrowserAnswers(BaseModel):
    """How a page answers in its visitor's browser: what is fetched for that, and what is otherwise then."""

    mark: str = Constrained(description="Another one when what is fetched is another.")
    bytes: int = Constrained(description="About what is fetched.")
    runs_graph: bool = Constrained(
        description="Whether the model is an ONNX graph: what runs one is fetched along, under `/assets`."
    )
    parts: PageParts
    left_out: list[str] = Constrained(description="What it cannot do that the server can, in sentences.")


class Page(BaseModel):
    """All that a visitor's page needs."""

    slug: str
    title: str
    purpose: str
    description_html: str = Constrained(description="Sanitised.")
    not_for: str
    licence: str
    fields: list[AnyField]
    fixed: list[AnyField] = Constrained([], description="Fields that every case has its start value in.")
    answer: AnyAnswerSetting
    release: int | None = Constrained(description="None for a draft.")
    records_inputs: bool
    record_days: int = Constrained(RECORD_DAYS, description="For so many days it is kept, where it is.")
    asks: Literal["live", "button"] = Constrained(
        "live", description="Whether the page asks at each change, or when its visitor says so."
    )
    logo: PageLogo | None = None
    parts: PageParts
    table_rows: int = Constrained(TABLE_ROWS, description="How many rows a visitor's table may have.")
    film_rate: float = Constrained(FILM_RATE, description="How many frames of a film's second it is asked about.")
    ignored: list[str] = Constrained(description="Fields that the model makes no use of.")
    folded: list[str] = Constrained(description="Where there are many fields, those that move answers the least.")
    report: Report | None = Constrained(description="None without known cases.")
    outcome: str | None = Constrained(description="The reference table's column of outcomes, if it has one.")
    samples: list[Sample] = Constrained(description="Ready cases to press.")
    sample_films: list[str] = Constrained([], description="Ready films to press, by their titles.")
    usual: Usual | None = Constrained(None, description="None where answers are not explained.")
    away: PageAway | None = Constrained(None, description="None while its model answers as it should.")
    in_browser: InBrowser | None = Constrained(None, description="None for a page that asks this server.")
    browser: BrowserAnswers | None = Constrained(
        None, description="Where its author has it answer in its visitor's browser; None where this server does."
    )
    unconfirmed: list[str] = Constrained([], description="Of a draft: what was concluded and is not confirmed yet.")
