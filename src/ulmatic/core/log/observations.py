"""What is seen and done on a plot that moves no mulch: it is kept, compared over the years, and teaches."""

from typing import Annotated, ClassVar, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Depth, Girth, Length, Offset, Share, Temperature, Volume

MOST_HOURS = 2_000.0
LoggedAs = Literal["laying", "moving", "preparing", "weeding", "strimming", "mowing", "watering", "other"]
"""What person-hours are logged as."""
Words = Annotated[str, Field(max_length=120)]


class LogRecord(BaseModel):
    """What every kind of entry says of itself.

    Attributes
    ----------
    changes_plan : bool
        Whether another plan, or another figure that is learned, may follow from it.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")
    changes_plan: ClassVar[bool] = False


class Observed(LogRecord):
    """What weeds do.

    Attributes
    ----------
    weeds : bool
        Whether they are coming through: that makes a plot due.
    sort : str or None
        Seedlings are sown by the wind, on top: they are pulled before they root through into the soil.
    cover : float or None
        Share of the ground.
    pull : str or None
        How they pull.
    """

    changes_plan = True
    kind: Literal["observed"] = "observed"
    weeds: bool = True
    sort: Literal["annual", "grass", "perennial", "seedlings"] | None = None
    cover: Share | None = None
    pull: Literal["easy", "firm", "breaks"] | None = None


class Moisture(LogRecord):
    """How moist the soil under the mulch is after so many days without rain."""

    changes_plan = True
    kind: Literal["moisture"] = "moisture"
    days_without_rain: Annotated[int, Field(ge=0, le=365)]
    feel: Literal["dry", "damp", "moist", "wet"]


class Worms(LogRecord):
    """Worms in so many dug holes."""

    kind: Literal["worms"] = "worms"
    count: Annotated[int, Field(ge=0, le=1_000)]
    holes: Annotated[int, Field(ge=1, le=100)] = 1

    @property
    def per_hole(self) -> float:
        """Worms in one hole, on the mean."""
        return self.count / self.holes


class SoilTest(LogRecord):
    """What a laboratory or a kit found: pH, organic matter, and N, P, K in dry soil."""

    kind: Literal["soil_test"] = "soil_test"
    ph: Annotated[float, Field(ge=2, le=11)] | None = None
    organic: Share | None = None
    nitrogen_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None
    phosphorus_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None
    potassium_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None

    @model_validator(mode="after")
    def _something(self) -> "SoilTest":
        minerals = (self.nitrogen_mg_kg, self.phosphorus_mg_kg, self.potassium_mg_kg)
        if all(value is None for value in (self.ph, self.organic, *minerals)):
            raise wrong("Enter at least one result.", "ph")
        return self


class Ripeness(LogRecord):
    """Whether chips have become humus that can be planted in: common practice, no source."""

    changes_plan = True
    kind: Literal["ripeness"] = "ripeness"
    fork: Literal["easy", "firm", "no"]
    squeeze: Literal["crumbles", "holds", "springs"]
    smell: Literal["earth", "wood", "sour"]
    cress: Literal["up", "weak", "none"] | None = None

    @property
    def plantable(self) -> bool:
        """Whether it may be planted in: a fork goes in easily, it crumbles, smells of earth, and cress comes up."""
        ripe = self.fork == "easy" and self.squeeze != "springs" and self.smell == "earth"
        return ripe and self.cress in (None, "up")


class Planted(LogRecord):
    """Plants that were put in, lost, replaced or watered; litres of water where they were."""

    changes_plan = True
    kind: Literal["plants"] = "plants"
    action: Literal["put_in", "lost", "replaced", "watered"]
    count: Annotated[int, Field(ge=1, le=100_000)] = 1
    name: Words = ""
    water_m3: Volume | None = None


class TreeMeasured(LogRecord):
    """Trunk girth and canopy; a ring grows with the canopy. Guards that were put on, taken off or looked at."""

    changes_plan = True
    kind: Literal["tree"] = "tree"
    girth_m: Girth | None = None
    canopy_m: Length | None = None
    guard: Literal["on", "off", "checked"] | None = None

    @model_validator(mode="after")
    def _something(self) -> "TreeMeasured":
        if self.girth_m is None and self.canopy_m is None and self.guard is None:
            raise wrong("Enter the girth, the canopy or the guard.", "girth_m")
        return self


class PileChecked(LogRecord):
    """A heap looked at: temperature inside, height, whether it was turned, smell, and what sieving brought."""

    kind: Literal["pile"] = "pile"
    temperature_c: Temperature | None = None
    height_m: Length | None = None
    turned: bool = False
    smell: Literal["earth", "wood", "sour", "ammonia", "mould", "smoke"] | None = None
    sieved_m3: Volume | None = None


class HoursWorked(LogRecord):
    """Person-hours of a task; tasks of upkeep are compared before and after mulching."""

    changes_plan = True
    kind: Literal["hours"] = "hours"
    task: LoggedAs
    hours: Annotated[float, Field(gt=0, le=MOST_HOURS, allow_inf_nan=False)]
    person: Words = ""
    volume_m3: Volume | None = None


UPKEEP = ("weeding", "strimming", "mowing", "watering")
"""Tasks that mulch saves."""


class TaskDone(LogRecord):
    """A task of a season that was done on a plot, or a share of it; chips that were laid are entries of their own.

    Attributes
    ----------
    own : UUID or None
        Of a task that was added by hand.
    cautions_read : bool
        Whether the cautions that it raises were read before.
    """

    changes_plan = True
    kind: Literal["task"] = "task"
    task: Literal[
        "prune",
        "clear",
        "weed",
        "strim",
        "fabric",
        "edge",
        "soak",
        "sheet",
        "compost",
        "biochar",
        "chips",
        "pull_back",
        "guard",
        "crisp",
        "water_in",
        "own",
    ]
    season: Annotated[str, Field(min_length=1, max_length=40)]
    share: Annotated[Share, Field(gt=0)] = 1.0
    own: UUID | None = None
    cautions_read: bool = False


CropKey = Annotated[str, Field(min_length=1, max_length=80)]


class Opened(LogRecord):
    """Chips were pulled aside to bare soil: they stay beside the rows, and are not taken off.

    Attributes
    ----------
    opening : UUID
        By which what is done there later names it.
    form : str
        Rows and strips lie along the plot's long side, so many, each so long and so wide; a patch is one.
    apart_m : float or None
        From the middle of one row to that of the next; spread evenly where None.
    in_m, along_m : float or None
        From the plot's long edge to the middle of the first, and from its short edge to where they begin; in the
        middle of the plot where None.
    crop : str or None
        Key of what is to grow there.
    """

    changes_plan = True
    kind: Literal["opened"] = "opened"
    opening: UUID
    form: Literal["rows", "strip", "patch"] = "rows"
    count: Annotated[int, Field(ge=1, le=500)] = 1
    length_m: Annotated[Length, Field(gt=0)]
    width_m: Annotated[Length, Field(gt=0)]
    apart_m: Annotated[Length, Field(gt=0)] | None = None
    in_m: Offset | None = None
    along_m: Offset | None = None
    crop: CropKey | None = None
    name: Words = ""


class RowWorked(LogRecord):
    """What was done on opened ground.

    Attributes
    ----------
    opening : UUID
    step : str
    crop : str or None
        What was sown or planted.
    depth_mm : float or None
        Settled depth to which chips were put back; that for growing plants where None.
    roots_left : bool or None
        Whether a crop was cut and its roots stayed in the soil, as is usual with legumes.
    """

    changes_plan = True
    kind: Literal["row"] = "row"
    opening: UUID
    step: Literal["loosened", "sown", "planted", "up", "closed", "cleared"]
    crop: CropKey | None = None
    depth_mm: Depth | None = None
    roots_left: bool | None = None


class WateredIn(LogRecord):
    """Mulch was watered in."""

    kind: Literal["watered_in"] = "watered_in"


class Noted(LogRecord):
    """A note or a photo alone."""

    kind: Literal["note"] = "note"


class LearningRestarted(LogRecord):
    """What was learned on this plot is forgotten: readings before this day teach nothing any more."""

    changes_plan = True
    kind: Literal["learning_restarted"] = "learning_restarted"
