"""What the routes of links take and answer."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from ulmatic.core.survey import Outline, Place
from ulmatic.money.schemas import QuoteOut
from ulmatic.platform.typed import Entry
from ulmatic.site.ledger_schemas import PhotoOut

MOST_DAYS = 366
Token = Annotated[str, StringConstraints(min_length=20, max_length=100, pattern=r"^[A-Za-z0-9_-]+$")]


class LinkEntry(Entry):
    """A link to be made; a client's ends after so many days."""

    kind: Literal["calendar", "client"]
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 30


class LinkOut(BaseModel):
    """A link as kept; its secret is told once, when it is made."""

    id: UUID
    kind: Literal["calendar", "client"]
    expires_at: datetime
    token: str | None = None


class ClientPlot(BaseModel):
    """A plot as a client sees it."""

    name: str
    outline: Outline
    place: Place
    area_m2: float


class ClientSheet(BaseModel):
    """A site as a client sees it: plan, quote, dates and photos, and nothing else."""

    site: str
    units: Literal["metric", "us"]
    plots: list[ClientPlot]
    season: str
    opens: date
    closes: date
    days: list[date]
    quote: QuoteOut | None
    photos: list[PhotoOut]


class QuoteAcceptance(Entry):
    """A quote that is accepted, by its id, and who accepts it."""

    quote_id: UUID
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
