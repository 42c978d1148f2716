"""What the routes of work answer."""

from uuid import UUID

from pydantic import BaseModel

from ulmatic.core.figures import Figure
from ulmatic.core.site import Now, SeasonFigures
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.work import CarrierKind
from ulmatic.survey.schemas import SeasonName


class LegOut(BaseModel):
    """So many m³ from a tip or pile to a plot."""

    heap: str
    volume_m3: float
    carrier: CarrierKind | None
    carrier_name: str
    trips: int
    walked_m: float
    hours: Figure
    known: bool


class TurnOut(BaseModel):
    """A plot in the order of laying, with the legs that bring its chips."""

    plot_id: UUID
    plot: str
    volume_m3: float
    walk_m: float | None
    before: list[str]
    over: list[str]
    legs: list[LegOut]


class SecondTipOut(BaseModel):
    """Where a second tip would pay."""

    at: XY
    hours_now: float
    hours_then: float
    saves: float | None


class MovingSheet(BaseModel):
    """How a season's chips are moved: legs in the order of laying, hours in all and with the people there are."""

    now: Now
    season: SeasonFigures
    seasons: list[SeasonName]
    turns: list[TurnOut]
    hours: Figure
    people: int
    trips: int
    walked_m: float
    second_tip: SecondTipOut | None
