"""What was laid, dug in and taken off."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulmatic.core.log.log_record import LogRecord, MaterialKey
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Day, Depth, FieldType, Volume

QUARTERS = 4
LEAST_AREA_M2 = 0.01


class Laid(LogRecord):
    """Something was laid: so deep as it lies settled, or so many loose m³.

    Attributes
    ----------
    depth_mm, volume_m3 : float or None
        One of the two; neither for a sheet.
    chipped_on : date or None
        When it was made.
    quarter : int or None
        0 to 3, where a quarter of a ring was laid.
    round_number : int or None
        Of the rounds over grass, from 1.
    """

    changes_plan = True
    form_place = 20
    form_fields = ("material", "depth_mm", "volume_m3")
    either = ("depth_mm", "volume_m3")
    starts = (("material", "arborist_leafy"),)
    kind: Literal["laid"] = "laid"
    material: MaterialKey
    depth_mm: Annotated[Depth, Field(gt=0)] | None = None
    volume_m3: Volume | None = None
    chipped_on: Day | None = None
    quarter: Annotated[int, Field(ge=0, lt=QUARTERS), FieldType("quarter")] | None = None
    round_number: Annotated[int, Field(ge=1, le=12)] | None = None

    @model_validator(mode="after")
    def _one_amount(self) -> Self:
        if self.depth_mm is not None and self.volume_m3 is not None:
            raise wrong("Enter a depth or a volume, not both.", "volume_m3")
        return self

    @property
    def amountless(self) -> bool:
        """Whether it says neither how deep nor how much, as a sheet does not."""
        return self.depth_mm is None and self.volume_m3 is None

    @property
    def share(self) -> float:
        """Share of the ground on which it was laid."""
        return 1.0 if self.quarter is None else 1.0 / QUARTERS

    def loose_mm(self, area_m2: float, settling: float) -> float | None:
        """Return how deep it was spread; None where neither depth nor volume is told.

        Parameters
        ----------
        area_m2 : float
            Of the whole ground.
        settling : float
            Share of the loose depth that is lost.

        Returns
        -------
        float or None
            Loose mm.
        """
        if self.depth_mm is not None:
            return self.depth_mm / (1 - settling)
        if self.volume_m3 is None:
            return None
        return self.volume_m3 / max(LEAST_AREA_M2, area_m2 * self.share) * 1000

    def settled_mm(self, area_m2: float, settling: float) -> float | None:
        """Return how deep it is once settled, as if it lay on the whole ground; arguments as for `loose_mm`.

        Returns
        -------
        float or None
            Settled mm.
        """
        loose_mm = self.loose_mm(area_m2, settling)
        return None if loose_mm is None else loose_mm * (1 - settling) * self.share


class DugIn(LogRecord):
    """What lay there was dug in, or rototilled, or planted through."""

    changes_plan = True
    form_place = 50
    account_place = 40
    kind: Literal["dug_in"] = "dug_in"


class Removed(LogRecord):
    """So much of the chips was taken off, and so much of the humus beneath; all of the humus where None is said."""

    changes_plan = True
    form_place = 40
    form_fields = ("chips_mm", "humus_mm")
    kind: Literal["removed"] = "removed"
    chips_mm: Depth = 0.0
    humus_mm: Depth | None = None
