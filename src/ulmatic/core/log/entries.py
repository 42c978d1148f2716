"""What is seen and done on plots, each on the day on which it happened."""

import math
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, entered, formula
from ulmatic.core.log.observations import (
    HoursWorked,
    LearningRestarted,
    LogRecord,
    Moisture,
    Noted,
    Observed,
    Opened,
    PileChecked,
    Planted,
    Ripeness,
    RowWorked,
    SoilTest,
    TaskDone,
    TreeMeasured,
    WateredIn,
    Worms,
)
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import DEPTH, Day, Depth, Share, Volume, several

MaterialKey = Annotated[str, Field(max_length=80)]
QUARTERS = 4
LEAST_AREA_M2 = 0.01
Readings = Annotated[
    tuple[Depth, ...], several(DEPTH, r"\s*(?:;|\+|\band\b|\n|,(?=\s)|,(?=\d))\s*"), Field(max_length=60)
]


class Measured(LogRecord):
    """So deep the mulch was found to be; several readings go before one depth.

    Attributes
    ----------
    depth_mm : float
    readings_mm : tuple of float
        At several points; their mean is what lies there.
    settled : bool
        Whether the depth is settled already; a ruler reading soon after a laying is not.
    lain_months : int or None
        How long what lies there has lain, at a guess, where nothing was logged before.
    confirmed : bool
        An unlikely reading was looked at again and is right: it teaches.
    cause : str or None
        What happened to the mulch besides decay: the depth holds from now on, and the reading does not teach.
    """

    changes_plan = True
    kind: Literal["measured"] = "measured"
    depth_mm: Depth = 0.0
    readings_mm: Readings = ()
    settled: bool = False
    lain_months: Annotated[int, Field(ge=0, le=120)] | None = None
    confirmed: bool = False
    cause: Literal["raked", "topped_up", "washed_away"] | None = None

    def depth(self) -> Figure:
        """Return the depth that was found, mm: the readings' mean with its standard error, else what was given."""
        readings = self.readings_mm
        if not readings:
            return entered("Existing depth, settled", self.depth_mm, "mm")
        count = len(readings)
        mean = sum(readings) / count
        spread = math.sqrt(sum((reading - mean) ** 2 for reading in readings) / (count - 1)) if count > 1 else 0.0
        error = spread / math.sqrt(count)
        return Figure(
            name="Existing depth, settled",
            value=mean,
            unit="mm",
            low=max(0.0, mean - error) if count > 1 else None,
            high=mean + error if count > 1 else None,
            source=Source(
                mark=Mark.COMPUTED, text="Mean of the readings; the range is one standard error of the mean."
            ),
            working=Working(
                formula=("Σ readings ÷ n",),
                terms=tuple(
                    Term(symbol=f"z{number}", figure=entered(f"Reading {number}", reading, "mm"))
                    for number, reading in enumerate(readings, 1)
                ),
                note=f"{count} readings; they differ by {spread:.0f} mm (standard deviation)."
                if count > 1
                else "One reading.",
            ),
        )


class Profile(LogRecord):
    """What a hand dug down found: dry chips, moist chips beneath them, and humus down to the soil."""

    changes_plan = True
    kind: Literal["profile"] = "profile"
    dry_mm: Depth
    moist_mm: Depth
    humus_depth_mm: Depth
    confirmed: bool = False
    cause: Literal["raked", "topped_up", "washed_away"] | None = None
    settled: ClassVar[bool] = False
    readings_mm: ClassVar[tuple[float, ...]] = ()
    lain_months: ClassVar[int | None] = None

    def depth(self) -> Figure:
        """Return the depth of chips that was found, mm: dry and moist together."""
        terms = {
            "d": entered("Dry chips", self.dry_mm, "mm"),
            "w": entered("Moist chips", self.moist_mm, "mm"),
        }
        return formula("d + w").work("Existing depth, settled", "mm", terms)


DepthFound = Measured | Profile
"""Entries that say how deep the mulch lies."""


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
    kind: Literal["laid"] = "laid"
    material: MaterialKey
    depth_mm: Annotated[Depth, Field(gt=0)] | None = None
    volume_m3: Volume | None = None
    chipped_on: Day | None = None
    quarter: Annotated[int, Field(ge=0, lt=QUARTERS)] | None = None
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
        """
        if self.depth_mm is not None:
            return self.depth_mm / (1 - settling)
        if self.volume_m3 is None:
            return None
        return self.volume_m3 / max(LEAST_AREA_M2, area_m2 * self.share) * 1000

    def settled_mm(self, area_m2: float, settling: float) -> float | None:
        """Return how deep it is once settled, as if it lay on the whole ground; arguments as for `loose_mm`."""
        loose_mm = self.loose_mm(area_m2, settling)
        return None if loose_mm is None else loose_mm * (1 - settling) * self.share


class DugIn(LogRecord):
    """What lay there was dug in, or rototilled, or planted through."""

    changes_plan = True
    kind: Literal["dug_in"] = "dug_in"


class Removed(LogRecord):
    """So much of the chips was taken off, and so much of the humus beneath; all of the humus where None is said."""

    changes_plan = True
    kind: Literal["removed"] = "removed"
    chips_mm: Depth = 0.0
    humus_mm: Depth | None = None


class Fed(LogRecord):
    """A dressing by its label: N in percent, and how many grams of product on a m²; `soluble` by its kind."""

    changes_plan = True
    kind: Literal["fed"] = "fed"
    product: Annotated[str, Field(min_length=1, max_length=80)] = "Dressing"
    n: Annotated[Share, Field(gt=0)]
    p: Share = 0.0
    k: Share = 0.0
    grams_m2: Annotated[float, Field(gt=0, le=5_000, allow_inf_nan=False)]
    soluble: bool = True


class Spread(LogRecord):
    """Compost, manure, clippings or leaves from the catalogue, so deep."""

    changes_plan = True
    kind: Literal["spread"] = "spread"
    material: MaterialKey
    depth_mm: Annotated[Depth, Field(gt=0)]


class Grown(LogRecord):
    """A legume or cover crop that was cut; g N/m² where it is known."""

    changes_plan = True
    kind: Literal["grown"] = "grown"
    crop: Literal["legume", "cover_crop"]
    grams_n_m2: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] | None = None


LogEntry = Annotated[
    Measured
    | Profile
    | Laid
    | DugIn
    | Removed
    | Fed
    | Spread
    | Grown
    | Observed
    | Moisture
    | Worms
    | SoilTest
    | Ripeness
    | Planted
    | TreeMeasured
    | PileChecked
    | HoursWorked
    | TaskDone
    | Opened
    | RowWorked
    | WateredIn
    | Noted
    | LearningRestarted,
    Field(discriminator="kind"),
]
Credit = Fed | Spread | Grown
"""What brings nitrogen of its own."""
