"""What is seen on a plot, tested in its soil, or found in a pile: it is compared over the years."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulmatic.core.log.log_record import LogRecord
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Length, Share, Temperature, Volume


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
    form_place = 70
    form_fields = ("weeds", "sort", "cover", "pull")
    followed = True
    kind: Literal["observed"] = "observed"
    weeds: bool = True
    sort: Literal["annual", "grass", "perennial", "seedlings"] | None = None
    cover: Share | None = None
    pull: Literal["easy", "firm", "breaks"] | None = None


class Moisture(LogRecord):
    """How moist the soil under the mulch is after so many days without rain."""

    changes_plan = True
    form_place = 80
    form_fields = ("days_without_rain", "feel")
    followed = True
    kind: Literal["moisture"] = "moisture"
    days_without_rain: Annotated[int, Field(ge=0, le=365)]
    feel: Literal["dry", "damp", "moist", "wet"]


class Worms(LogRecord):
    """Worms in so many dug holes."""

    form_place = 90
    form_fields = ("count", "holes")
    followed = True
    kind: Literal["worms"] = "worms"
    count: Annotated[int, Field(ge=0, le=1_000)]
    holes: Annotated[int, Field(ge=1, le=100)] = 1

    @property
    def per_hole(self) -> float:
        """Worms in one hole, on the mean."""
        return self.count / self.holes


class SoilTest(LogRecord):
    """What a laboratory or a kit found: pH, organic matter, and N, P, K in dry soil."""

    form_place = 100
    form_fields = ("ph", "organic", "nitrogen_mg_kg", "phosphorus_mg_kg", "potassium_mg_kg")
    followed = True
    kind: Literal["soil_test"] = "soil_test"
    ph: Annotated[float, Field(ge=2, le=11)] | None = None
    organic: Share | None = None
    nitrogen_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None
    phosphorus_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None
    potassium_mg_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None

    @model_validator(mode="after")
    def _something(self) -> Self:
        minerals = (self.nitrogen_mg_kg, self.phosphorus_mg_kg, self.potassium_mg_kg)
        if all(value is None for value in (self.ph, self.organic, *minerals)):
            raise wrong("Enter at least one result.", "ph")
        return self


class Ripeness(LogRecord):
    """Whether chips have become humus that can be planted in: common practice, no source."""

    changes_plan = True
    form_place = 110
    form_fields = ("fork", "squeeze", "smell", "cress")
    followed = True
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


class PileChecked(LogRecord):
    """A pile looked at: temperature inside, height, whether it was turned, smell, and what sieving brought."""

    form_place = 140
    form_fields = ("temperature_c", "height_m", "turned", "smell", "sieved_m3")
    subject = "pile"
    kind: Literal["pile"] = "pile"
    temperature_c: Temperature | None = None
    height_m: Length | None = None
    turned: bool = False
    smell: Literal["earth", "wood", "sour", "ammonia", "mould", "smoke"] | None = None
    sieved_m3: Volume | None = None
