"""Crops that are grown in mulched ground: how long they take, how they bear frost, and how they are sown."""

from enum import StrEnum
from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ulmatic.core.figures import Mark, Source
from ulmatic.core.survey.shapes.base import wrong

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


class CropFigures(BaseModel):
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

    model_config = ConfigDict(frozen=True, extra="forbid")
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


_NAMES = (
    "kind",
    "start",
    "days_least",
    "days",
    "days_most",
    "hardiness",
    "least_c",
    "seed_g_m",
    "seed_g_m2",
    "sown_mm",
    "apart_mm",
    "emerges_days",
)
_T, _F, _H = Hardiness.TENDER, Hardiness.HALF_HARDY, Hardiness.HARDY
_V, _L, _C, _O = "vegetable", "legume", "cover_crop", "flower"
_ROWS: tuple[tuple[object, ...], ...] = (
    # key, name, then as _NAMES, then what else there is
    ("radish", "Radish", _V, "sow", 22, 28, 40, _F, 4, 1.0, 5.0, 12, 30, 5, {"again_days": 14}),
    ("rocket", "Rocket", _V, "sow", 30, 38, 50, _H, 4, 0.3, 1.5, 6, 100, 6, {"again_days": 21}),
    ("lettuce", "Leaf lettuce", _V, "sow", 40, 50, 65, _F, 4, 0.1, 0.5, 5, 200, 8, {"cover": "sand", "again_days": 21}),
    ("spinach", "Spinach", _V, "sow", 38, 45, 60, _H, 4, 1.0, 4.0, 15, 80, 9, {"again_days": 21}),
    ("coriander", "Coriander", _V, "sow", 35, 45, 60, _F, 5, 1.0, 4.0, 12, 50, 12, {"again_days": 28}),
    ("turnip", "Turnip", _V, "sow", 40, 50, 65, _F, 4, 0.3, 1.0, 12, 100, 7, {"again_days": 28}),
    ("kale", "Kale", _V, "sow", 55, 65, 90, _H, 4, 0.1, 0.4, 12, 400, 8, {}),
    ("chard", "Chard", _V, "sow", 50, 58, 70, _F, 5, 1.0, 3.0, 20, 250, 10, {}),
    (
        "carrot",
        "Carrot",
        _V,
        "sow",
        60,
        75,
        95,
        _F,
        5,
        0.5,
        1.5,
        8,
        40,
        14,
        {"marker": "radish", "cover": "board", "again_days": 28},
    ),
    ("beetroot", "Beetroot", _V, "sow", 50, 60, 80, _F, 5, 1.5, 5.0, 20, 100, 10, {"again_days": 28}),
    ("onion", "Onion sets", _V, "plant", 85, 100, 120, _F, 5, 40.0, 150.0, 25, 100, 12, {}),
    ("pea", "Pea", _L, "sow", 60, 70, 90, _H, 4, 10.0, 30.0, 40, 50, 10, {"again_days": 21}),
    ("broad_bean", "Broad bean", _L, "sow", 80, 100, 130, _H, 3, 10.0, 30.0, 50, 150, 14, {}),
    ("bush_bean", "Bush bean", _L, "sow", 50, 58, 70, _T, 9, 4.0, 12.0, 40, 100, 9, {"again_days": 21}),
    ("pole_bean", "Pole bean", _L, "sow", 60, 70, 90, _T, 9, 3.0, 8.0, 40, 200, 9, {"seeds_a_place": 2}),
    ("courgette", "Courgette", _V, "sow", 45, 55, 65, _T, 10, 0.4, 0.5, 25, 900, 8, {"seeds_a_place": 2}),
    ("tomato", "Tomato plants", _V, "plant", 60, 75, 95, _T, 10, 0.0, 0.0, 0, 500, 0, {}),
    ("potato", "Seed potatoes", _V, "plant", 75, 95, 120, _T, 6, 200.0, 300.0, 120, 300, 20, {}),
    ("sweetcorn", "Sweet corn", _V, "sow", 65, 80, 100, _T, 10, 2.0, 4.0, 30, 250, 9, {"seeds_a_place": 2}),
    ("sunflower", "Sunflower", _O, "sow", 70, 85, 110, _F, 7, 0.3, 1.0, 25, 900, 10, {"seeds_a_place": 2}),
    ("rye", "Winter rye", _C, "sow", 22, 32, 45, _H, 2, 5.0, 24.0, 12, 20, 7, {}),
    ("crimson_clover", "Crimson clover", _L, "sow", 45, 60, 80, _F, 5, 0.5, 2.2, 10, 20, 8, {}),
    ("vetch", "Winter vetch", _L, "sow", 50, 65, 90, _H, 3, 2.0, 7.0, 25, 30, 12, {}),
    ("buckwheat", "Buckwheat", _C, "sow", 30, 38, 48, _T, 8, 2.0, 7.0, 15, 30, 5, {}),
    ("phacelia", "Phacelia", _C, "sow", 45, 55, 70, _F, 4, 0.3, 1.2, 8, 20, 9, {"cover": "sand"}),
)


def _crop(row: tuple[object, ...]) -> Crop:
    key, name, *figures, more = row
    return Crop.model_validate({"key": key, "name": name, **dict(zip(_NAMES, figures, strict=True)), **more})  # type: ignore[dict-item]


CROPS: dict[str, Crop] = {crop.key: crop for crop in map(_crop, _ROWS)}
"""Shipped crops by key."""
