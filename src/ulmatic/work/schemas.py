"""What the routes of work take and answer."""

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.figures import Figure
from ulmatic.core.planning import Now, SeasonFigures
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.units import Day, Share, Volume
from ulmatic.core.work import CarrierKind, Caution, TaskKind
from ulmatic.platform.typed import TypedEntry
from ulmatic.site.schemas import SeasonName


class LegOut(BaseModel):
    """So many m³ from a tip or pile to a plot."""

    place: str
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
    each_h: float
    trips: int
    walked_m: float
    second_tip: SecondTipOut | None


class TaskOut(BaseModel):
    """A task on a plot with what is left of it; `on` is the day on which it was put, `changed` if its hours were said.

    `own` is the id of one that was added by hand.
    """

    key: str
    kind: TaskKind
    words: str
    amount: float
    unit: str
    hours: Figure
    tools: list[str]
    cautions: list[str]
    material: str
    not_before: date | None
    own: UUID | None
    on: date | None
    changed: bool
    crew: str


class PlotTasks(BaseModel):
    """The tasks of a plot in their order."""

    plot_id: UUID
    plot: str
    tasks: list[TaskOut]


class LeftOut(BaseModel):
    """A task that was left out of a season."""

    plot_id: UUID
    plot: str
    task: TaskKind
    words: str


class TaskSheet(BaseModel):
    """The tasks of a season by plot, and their cautions; the calendar says on which days they are done."""

    seasons: list[SeasonName]
    season: str
    season_key: str
    closes: date
    plots: list[PlotTasks]
    hours: Figure
    cautions: list[Caution]
    people: int
    each_h: float
    left_out: list[LeftOut]


class TaskReport(TypedEntry):
    """A task that was done, or a share of it, as typed; `volume_m3` is what was laid of chips, from a pile or not."""

    id: UUID
    plot_id: UUID
    task: TaskKind
    season: Annotated[str, Field(min_length=1, max_length=40)]
    on: Day
    share: Annotated[Share, Field(gt=0)] = 1.0
    hours: Annotated[float, Field(gt=0, le=2_000, allow_inf_nan=False)] | None = None
    person: Annotated[str, Field(max_length=120)] = ""
    volume_m3: Volume | None = None
    pile_id: UUID | None = None
    own: UUID | None = None
    cautions_read: bool = False
    note: Annotated[str, Field(max_length=2_000)] = ""
