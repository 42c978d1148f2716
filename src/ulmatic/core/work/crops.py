"""Crops that are grown in mulched ground: how long they take, how they bear frost, and how they are sown."""

from enum import StrEnum
from typing import Annotated, Literal, Self

from pydantic import ConfigDict, Field, model_validator

from ulmatic.core.figures import Mark, Source
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.tables import rows_of
from ulmatic.core.value import Value

MOST_DAYS = 400
PRACTICE = Source(
    mark=Mark.COMMON_PRACTICE,
    text="Common practice, no published source: figures as they stand on seed packets, from memory. Sorts differ.",
)


class Hardiness(StrEnum):
    """How a crop bears frost."""

    TENDER = "tender"
    HALF_HARDY = "half_hardy"
    HARDY = "hardy"


class CropFigures(Value):
    """The figures of a crop.

    Attributes
    ----------
    days_least, days, days_most : float
        From sowing, or planting, until the first harvest in good growing weather; of a cover crop until it covers.
    least_c : float
        Below this mean temperature it does not grow.
    seed_g_m, seed_g_m2 : float
        Of seed (or sets, or seed potatoes) for a metre of row, and for a m² sown broadcast; 0 for plants.
    sown_mm : float
        How deep.
    apart_mm : float
        In the row, once thinned.
    seeds_a_place : int
        How many are put in each place.
    emerges_days : float
    marker : str or None
        Key of a quick crop that is sown among it to mark the row.
    cover : str or None
        What keeps fine seed moist until it is up.
    again_days : int or None
        After so many days it is sown again, for a harvest that goes on.
    """

    model_config = ConfigDict(extra="forbid")
    kind: Literal["vegetable", "legume", "cover_crop", "flower"] = "vegetable"
    start: Literal["sow", "plant"] = "sow"
    days_least: Annotated[float, Field(ge=5, le=MOST_DAYS, allow_inf_nan=False)]
    days: Annotated[float, Field(ge=5, le=MOST_DAYS, allow_inf_nan=False)]
    days_most: Annotated[float, Field(ge=5, le=MOST_DAYS, allow_inf_nan=False)]
    hardiness: Hardiness = Hardiness.HALF_HARDY
    least_c: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] = 5.0
    seed_g_m: Annotated[float, Field(ge=0, le=1_000, allow_inf_nan=False)] = 0.0
    seed_g_m2: Annotated[float, Field(ge=0, le=1_000, allow_inf_nan=False)] = 0.0
    sown_mm: Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)] = 10.0
    apart_mm: Annotated[float, Field(ge=0, le=5_000, allow_inf_nan=False)] = 100.0
    seeds_a_place: Annotated[int, Field(ge=1, le=20)] = 1
    emerges_days: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 10.0
    marker: Annotated[str, Field(max_length=80)] | None = None
    cover: Literal["board", "sand"] | None = None
    again_days: Annotated[int, Field(ge=3, le=120)] | None = None

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if not self.days_least <= self.days <= self.days_most:
            raise wrong("The usual days lie between the fewest and the most.", "days")
        return self


class Crop(CropFigures):
    """A crop, shipped or of the workspace's own."""

    key: str
    name: str
    source: Source = PRACTICE

    @property
    def legume(self) -> bool:
        """Whether it fixes nitrogen: it is cut, and its roots stay in the soil."""
        return self.kind == "legume"


CROPS: dict[str, Crop] = {
    row["key"]: Crop.model_validate({column: cell for column, cell in row.items() if cell}) for row in rows_of("crops")
}
"""Shipped crops by key."""
