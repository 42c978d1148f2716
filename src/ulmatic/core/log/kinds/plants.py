"""Plants and trees."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulmatic.core.log.log_record import LogRecord, Words
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Girth, Length, Volume


class Planted(LogRecord):
    """Plants that were put in, lost, replaced or watered; litres of water where they were."""

    changes_plan = True
    form_place = 120
    form_fields = ("action", "count", "name", "water_m3")
    followed = True
    kind: Literal["plants"] = "plants"
    action: Literal["put_in", "lost", "replaced", "watered"]
    count: Annotated[int, Field(ge=1, le=100_000)] = 1
    name: Words = ""
    water_m3: Volume | None = None


class TreeMeasured(LogRecord):
    """Trunk girth and canopy; a ring grows with the canopy. Guards that were put on, taken off or looked at."""

    changes_plan = True
    form_place = 130
    form_fields = ("girth_m", "canopy_m", "guard")
    subject = "tree"
    followed = True
    kind: Literal["tree"] = "tree"
    girth_m: Girth | None = None
    canopy_m: Length | None = None
    guard: Literal["on", "off", "checked"] | None = None

    @model_validator(mode="after")
    def _something(self) -> Self:
        if self.girth_m is None and self.canopy_m is None and self.guard is None:
            raise wrong("Enter the girth, the canopy or the guard.", "girth_m")
        return self
