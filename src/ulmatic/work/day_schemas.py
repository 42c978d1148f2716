"""What the routes of the calendar take and answer."""

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.planning.occasions import Occasion
from ulmatic.core.planning.several import SharedDay
from ulmatic.core.schedule import Closure
from ulmatic.core.schedule.closures import MOST_CLOSURES
from ulmatic.core.work.task_changes import TaskWish
from ulmatic.platform.typed import Entry

People = Annotated[int, Field(ge=0, le=100)]


class CalendarDay(BaseModel):
    """A day: the person-hours there are and those that are planned, what closes it, and what the weather warns of.

    It is `full` where more is planned than can be done.
    """

    on: date
    capacity_h: float
    hours: float
    full: bool
    closed: str | None
    warnings: list[str]


class CalendarSheet(BaseModel):
    """What falls on the days of a span; `crew` people work `day_hours` each, but where `people` says otherwise."""

    today: date
    first: date
    last: date
    occasions: list[Occasion]
    days: list[CalendarDay]
    closures: tuple[Closure, ...]
    people: dict[date, int]
    crew: int
    day_hours: float
    outlook_heard_at: datetime | None


class SiteToday(BaseModel):
    """What falls on the coming days at a site, and what the weather warns of."""

    site_id: UUID
    name: str
    today: date
    occasions: list[Occasion]
    warnings: dict[date, list[str]]


class TodaySheet(BaseModel):
    """What falls on the coming days at each site, and the days that several sites want people on."""

    sites: list[SiteToday]
    shared: list[SharedDay]


class TaskChanges(Entry):
    """Changes to tasks, made together."""

    changes: Annotated[tuple[TaskWish, ...], Field(min_length=1, max_length=200)]


class ChangesMade(BaseModel):
    """What changes break, and what the weather warns of on the days to which tasks were put."""

    breaks: list[str]
    warnings: list[str]


class CrewEntry(Entry):
    """Days on which no work is done, and how many people work on a day; what is left out stays as it is."""

    closures: Annotated[tuple[Closure, ...], Field(max_length=MOST_CLOSURES)] = ()
    people: Annotated[dict[date, People], Field(max_length=400)] = Field(default_factory=dict)
