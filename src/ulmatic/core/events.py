"""What is seen and done on plots."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.nitrogen import Fed, Grown, MixedIn, Spread
from ulmatic.core.units import Day, Depth


class LaidEvent(BaseModel):
    """So much was laid, as it lies settled; `chipped_on` is when it was made."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: Literal["laid"] = "laid"
    material: Annotated[str, Field(max_length=80)]
    depth_mm: Annotated[Depth, Field(gt=0)]
    chipped_on: Day | None = None


class ReadEvent(BaseModel):
    """So deep it was found to be."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: Literal["read"] = "read"
    depth_mm: Depth


Event = Annotated[LaidEvent | ReadEvent | Fed | Spread | Grown | MixedIn, Field(discriminator="kind")]
