"""What the routes of opened rows and crops take and answer."""

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from ulmatic.core.log import LogEntry
from ulmatic.core.planning.opened_rows import OpenedRows, Watering
from ulmatic.core.units import Length
from ulmatic.core.work import Crop, CropFigures, TimeLeft
from ulmatic.platform.typed import Entry, TypedEntry


class PlotHolds(BaseModel):
    """A plot on which rows can be opened, and why it is to wait."""

    plot_id: UUID
    plot: str
    depth_mm: float
    growing_mm: float
    length_m: float
    width_m: float
    holds: list[str]


class RowSheet(BaseModel):
    """Opened ground of a site, `count` rows of it, crops, and what is watered until it has rooted."""

    today: date
    first_frost: date | None
    frost_observed: bool
    count: int
    rows: list[OpenedRows]
    plots: list[PlotHolds]
    crops: list[Crop]
    own: list[str]
    waterings: list[Watering]


class TimeSheet(BaseModel):
    """Whether there is time for a crop, and what can be sown instead."""

    time: TimeLeft
    in_time: bool
    instead: list[TimeLeft]


class RowTrial(TypedEntry):
    """Rows as they are typed, before they are opened: an entry of that kind, as the log takes it."""

    plot_id: UUID
    entry: LogEntry


class LaneEntry(TypedEntry):
    """A block that is opened in lanes for a cover crop, as typed."""

    crop: Annotated[str, Field(max_length=80)]
    length_m: Annotated[Length, Field(gt=0)]
    width_m: Annotated[Length, Field(gt=0)]
    apart_m: Annotated[Length, Field(gt=0)]
    lane_m: Annotated[Length, Field(gt=0)]


class CropEntry(Entry, CropFigures):
    """A crop of the workspace's own."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class NewCrop(CropEntry):
    """The same with the id that its sender chose."""

    id: UUID
