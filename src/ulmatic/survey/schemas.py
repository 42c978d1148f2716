"""What the site and plot routes take and answer."""

from datetime import date
from typing import Annotated, Any, Self
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ulmatic.core.climate import Climate, ClimateClass, Normals, Region
from ulmatic.core.figures import Figure
from ulmatic.core.log import Measured, Readings
from ulmatic.core.money import Currency
from ulmatic.core.planning import Now
from ulmatic.core.planning.plots import Gap, PlotFigures, PlotLaying, PlotWork
from ulmatic.core.planning.steps import Step
from ulmatic.core.recipe import Advice, PlannedPlot, PracticeChoices, Recipe, RecipeEdits
from ulmatic.core.recipe.practice import DepthMeans
from ulmatic.core.schedule import Decision
from ulmatic.core.stock import TipPlan
from ulmatic.core.stock.load_size import in_order
from ulmatic.core.survey import (
    Access,
    CutOut,
    Landmark,
    Location,
    Name,
    Outline,
    Place,
    Shape,
    SiteConditions,
    Slope,
    Use,
)
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.units import Depth, Share, Volume
from ulmatic.core.work import BARROW
from ulmatic.platform.typed import SCHEMA_OF_A_KIND, SCHEMA_OF_FIELDS, Entry, TimeZone, Typed, TypedEntry
from ulmatic.site.schemas import AcceptedOut, LandmarkOut, SeasonName, SiteOut


def _as_typed(schema: dict[str, Any]) -> None:
    """Describe in the JSON schema of a plot what follows from a kind, or holds fields that may each be left open."""
    cut_outs = {"type": "array", "items": SCHEMA_OF_A_KIND, "maxItems": 40, "default": []}
    schema["properties"] |= {"shape": SCHEMA_OF_A_KIND, "cut_outs": cut_outs}
    schema["properties"] |= {"found": SCHEMA_OF_FIELDS, "recipe": SCHEMA_OF_FIELDS}


class PlotEntry(TypedEntry, PlannedPlot):
    """A plot as typed; the existing depth is a measurement on the day on which it is typed, and settled already."""

    model_config = ConfigDict(frozen=False, json_schema_extra=_as_typed)
    existing_mm: Depth = 0.0
    readings_mm: Readings = ()
    lain_months: Annotated[int, Field(ge=0, le=120)] | None = None

    def measured(self) -> Measured:
        """Return the existing depth as an entry of the ledger."""
        return Measured(
            depth_mm=self.existing_mm, readings_mm=self.readings_mm, settled=True, lain_months=self.lain_months
        )


class NewPlot(PlotEntry):
    """A new plot; its id is chosen by the sender, so that sending it twice makes one plot."""

    id: UUID


class SiteEntry(TypedEntry):
    """A site as typed."""

    name: Name
    spare: Share | None = None
    load_m3: Volume
    load_least_m3: Volume | None = None
    load_most_m3: Volume | None = None
    barrow_m3: Volume = BARROW.value
    time_zone: TimeZone = "UTC"
    north_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    location_deg: Location = None
    climate: Climate | None = None
    material: Annotated[str, Field(max_length=80)] | None = None
    practice: PracticeChoices = PracticeChoices()
    fire_district: bool = False

    @model_validator(mode="after")
    def _load_in_order(self) -> Self:
        in_order(self.load_least_m3, self.load_m3, self.load_most_m3, "load_")
        return self


class NewSite(SiteEntry):
    """A new site; its id is chosen by the sender. It buys in `currency`, or in what is usual in its units."""

    id: UUID
    currency: Currency | None = None


class DepthToday(BaseModel):
    """Settled depth today, mm: 10th percentile, median, 90th."""

    low: float
    middle: float
    high: float


class PlotOut(BaseModel):
    """A plot as kept, with where it is drawn, how deep it is today, and what is planned.

    `existing_mm` is what was measured last, `depth` what is left of it today; `planned_m3` is for the season that runs.
    `open_rows` are drawn in metres about its middle. `wanted_mm` is settled, `spread_mm` the same as it is spread;
    `depth_means` is how depths are typed here.
    """

    id: UUID
    name: str
    use: Use
    shape: Shape
    cut_outs: tuple[CutOut, ...]
    slope: Slope | None
    found: SiteConditions
    recipe: RecipeEdits
    existing_mm: float
    readings_mm: tuple[float, ...]
    lain_months: int | None
    measured_on: date | None
    wanted_mm: float
    spread_mm: float
    depth_means: DepthMeans
    typed: Typed
    version: int
    outline: Outline
    place: Place
    placed_by_hand: bool
    priority: int
    access: Access
    area_m2: float
    depth: DepthToday
    least_mm: float
    growing_mm: float
    growing_spread_mm: float
    builds_up: bool
    open_rows: tuple[tuple[XY, ...], ...]
    plant_from: date | None = Field(description="For ground that is built up: when there is enough humus to plant into")
    planned_m3: float
    laying: PlotLaying | None
    below_least_from: date | None
    gap: Gap | None
    decision: Decision | None = Field(description="For the season that runs")
    accepts: AcceptedOut
    material: str
    advice: Advice | None = Field(description="The gravest of it, where it asks for a change")


class LandmarkEntry(TypedEntry):
    """A tip, a pile place or a way, as typed."""

    name: Name
    landmark: Landmark


class NewLandmark(LandmarkEntry):
    """A new landmark; its id is chosen by the sender."""

    id: UUID


class LandmarkEstimate(BaseModel):
    """A landmark being typed, and how long it is if it is a way, or how much ground it is."""

    landmark: Landmark
    size: Figure


class SiteSummary(BaseModel):
    """A site in the list of sites."""

    site: SiteOut
    plots: int
    area_m2: float
    now: Now


class SiteSheet(BaseModel):
    """A site with all of its plots and its season.

    `today` is the site's; `usual_spare` is the share that is ordered more where the site says nothing.
    """

    site: SiteOut
    usual_spare: float
    today: date
    now: Now
    seasons: list[SeasonName]
    climate_assumed: bool
    steps: tuple[Step, ...]
    depth_means: DepthMeans
    plots: list[PlotOut]
    plots_in_all: int
    landmarks: list[LandmarkOut]
    tips: list[TipPlan]


class PlotSaved(BaseModel):
    """A plot that was saved, and its version."""

    id: UUID
    version: int


class PlotSheet(BaseModel):
    """One plot with its figures and their working."""

    plot: PlotOut
    figures: PlotFigures
    now: Now


class EstimateRequest(Entry):
    """What is being typed: a plot, new (`plot_id` null) or in place of a kept one."""

    plot_id: UUID | None = None
    plot: PlotEntry


class Estimate(BaseModel):
    """What the plot being typed, and with it the whole site, would need in the season that runs.

    `work` is None where nothing is laid there in it.
    """

    shape: Shape
    slope: Slope | None
    found: SiteConditions
    existing: Figure
    wanted_mm: float
    spread_mm: float
    growing_spread_mm: float
    depth_means: DepthMeans
    proposed_mm: float = Field(description="The depth that is proposed, as it would be typed here")
    plant_from: date | None
    outline: Outline
    access: Access
    recipe: Recipe
    advice: tuple[Advice, ...]
    plot: PlotFigures
    laying: PlotLaying | None
    gap: Gap | None
    work: PlotWork | None
    accepts: AcceptedOut
    now: Now


class Places(Entry):
    """Places on the plan by plot; null returns a plot to automatic placing."""

    places: Annotated[dict[UUID, Place | None], Field(max_length=5_000)]


class PlotChanges(TypedEntry):
    """The same change for several plots; what is left out stays as it is."""

    plots: Annotated[list[UUID], Field(min_length=1, max_length=2_000)]
    use: Use | None = None
    existing_mm: Depth | None = None
    wanted_mm: Depth | None = None


class DecisionEntry(Entry):
    """What is decided for a plot and a season; null takes it back."""

    season: Annotated[str, Field(max_length=40)]
    decision: Decision | None


class PlotOrder(Entry):
    """Plots in the order wanted; those left out follow in the order they had."""

    plots: Annotated[list[UUID], Field(max_length=2_000)]


class RegionList(BaseModel):
    """The regions to choose from, that of a time zone where it is known, and where their climates come from."""

    regions: tuple[Region, ...]
    guess: str | None
    climate_source: str


class ClimateClassOut(BaseModel):
    """A generic climate with its months."""

    name: ClimateClass
    label: str
    source: str
    normals: Normals


class UseOut(BaseModel):
    """A use of ground."""

    use: Use
    label: str
    trodden: bool


class UsualDepthOut(BaseModel):
    """The target depths usual for a use at a site, mm, in the words of its practice: settled, or as spread."""

    use: Use
    means: DepthMeans
    least_mm: float
    proposed_mm: float
    most_mm: float
    source: str
