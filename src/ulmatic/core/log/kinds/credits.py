"""What brings nitrogen of its own."""

from typing import Annotated, Literal

from pydantic import Field

from ulmatic.core.log.log_record import LogRecord, MaterialKey
from ulmatic.core.units import Depth, Share
from ulmatic.core.units.fields import OnGround


class Fed(LogRecord):
    """A dressing by its label: N in percent, and how many grams of product on a m²; `soluble` by its kind."""

    changes_plan = True
    account_place = 10
    starts = (("n", 0.1),)
    form_fields = ("product", "n", "p", "k", "grams_m2", "soluble")
    kind: Literal["fed"] = "fed"
    product: Annotated[str, Field(min_length=1, max_length=80)] = "Dressing"
    n: Annotated[Share, Field(gt=0)]
    p: Share = 0.0
    k: Share = 0.0
    grams_m2: Annotated[OnGround, Field(gt=0, le=5_000, allow_inf_nan=False)]
    soluble: bool = True


class Spread(LogRecord):
    """Compost, manure, clippings or leaves from the catalogue, so deep."""

    changes_plan = True
    account_place = 20
    starts = (("material", "compost"), ("depth_mm", 25.4))
    form_fields = ("material", "depth_mm")
    kind: Literal["spread"] = "spread"
    material: MaterialKey
    depth_mm: Annotated[Depth, Field(gt=0)]


class Grown(LogRecord):
    """A legume or cover crop that was cut; g N/m² where it is known."""

    changes_plan = True
    account_place = 30
    starts = (("crop", "legume"),)
    form_fields = ("crop", "grams_n_m2")
    kind: Literal["grown"] = "grown"
    crop: Literal["legume", "cover_crop"]
    grams_n_m2: Annotated[OnGround, Field(ge=0, le=60, allow_inf_nan=False)] | None = None


Credit = Fed | Spread | Grown
"""What brings nitrogen of its own."""
