"""What the routes of money take and answer."""

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from ulmatic.core.money import Buying, Hire, Quote
from ulmatic.core.planning import Now, SeasonFigures
from ulmatic.core.survey import Name
from ulmatic.platform.typed import Entry, Typed, TypedEntry
from ulmatic.site.schemas import Note, SeasonName


class BuyingEntry(TypedEntry, Buying):
    """How a site buys, as typed."""

    model_config = ConfigDict(frozen=False)


class HireEntry(TypedEntry, Hire):
    """What hiring a machine costs a day, as typed."""

    model_config = ConfigDict(frozen=False)


class BuyingOut(Buying):
    """The same as kept, with the version of the site it belongs to."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)
    typed: Typed
    version: int


class QuoteEntry(Entry):
    """A quote to be kept: for whom, for which season (the running one where null), and words to go with it."""

    id: UUID
    client: Name
    words: Note = ""
    season: str | None = None


class QuoteOut(BaseModel):
    """A quote as kept."""

    id: UUID
    number: int
    client: str
    words: str
    quote: Quote
    created_at: datetime
    accepted_at: datetime | None = None
    accepted_by: str | None = None


class QuoteSheet(BaseModel):
    """The quote of a season as it would be today, with why there is none, and those kept.

    `beside` names what is laid beneath the mulch and is not in the quote, as nobody's price is known.
    """

    now: Now
    season: SeasonFigures
    seasons: list[SeasonName]
    today: Quote | None
    wanting: str | None
    beside: list[str]
    kept: list[QuoteOut]
