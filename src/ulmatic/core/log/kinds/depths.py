"""How deep mulch was found to lie."""

import math
from typing import Annotated, Literal

from pydantic import Field

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, entered, formula
from ulmatic.core.log.log_record import LogRecord
from ulmatic.core.units import DEPTH, Depth, FieldType, several

Readings = Annotated[
    tuple[Depth, ...],
    several(DEPTH, r"\s*(?:;|\+|\band\b|\n|,(?=\s)|,(?=\d))\s*"),
    Field(max_length=60),
    FieldType("readings"),
]
Cause = Literal["raked", "topped_up", "washed_away"]


class DepthFound(LogRecord):
    """What every kind of entry has that says how deep the mulch lies: it teaches the rate of decay.

    Attributes
    ----------
    confirmed : bool
        An unlikely reading was looked at again and is right: it teaches.
    cause : str or None
        What happened to the mulch besides decay: the depth holds from now on, and the reading does not teach.
    """

    changes_plan = True
    confirmed: bool = False
    cause: Cause | None = None

    @property
    def read_mm(self) -> float:
        """The depth of chips that was found, mm."""
        raise NotImplementedError

    @property
    def points_mm(self) -> tuple[float, ...]:
        """What was read at several points, where it was."""
        return ()

    @property
    def settled_already(self) -> bool:
        """Whether the depth is settled; a ruler reading soon after a laying is not."""
        return False

    @property
    def guessed_months(self) -> int | None:
        """How long what lies there has lain, at a guess, where nothing was logged before."""
        return None

    def depth(self) -> Figure:
        """Return the depth of chips that was found, mm, with its working.

        Returns
        -------
        Figure
        """
        return entered("Existing depth, settled", self.read_mm, "mm")


class Measured(DepthFound):
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
    """

    form_place = 10
    form_fields = ("depth_mm",)
    needed = ("depth_mm",)
    kind: Literal["measured"] = "measured"
    depth_mm: Depth = 0.0
    readings_mm: Readings = ()
    settled: bool = False
    lain_months: Annotated[int, Field(ge=0, le=120)] | None = None

    @property
    def read_mm(self) -> float:
        """The mean of the readings, else what was given, mm."""
        return sum(self.readings_mm) / len(self.readings_mm) if self.readings_mm else self.depth_mm

    @property
    def points_mm(self) -> tuple[float, ...]:
        """The readings."""
        return self.readings_mm

    @property
    def settled_already(self) -> bool:
        """As it was said."""
        return self.settled

    @property
    def guessed_months(self) -> int | None:
        """As it was said."""
        return self.lain_months

    def depth(self) -> Figure:
        """Return the depth that was found, mm: the readings' mean with its standard error, else what was given.

        Returns
        -------
        Figure
        """
        readings = self.readings_mm
        if not readings:
            return super().depth()
        count = len(readings)
        mean = self.read_mm
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


class Profile(DepthFound):
    """What a hand dug down found: dry chips, moist chips beneath them, and humus down to the soil."""

    form_place = 30
    form_fields = ("dry_mm", "moist_mm", "humus_depth_mm")
    kind: Literal["profile"] = "profile"
    dry_mm: Depth
    moist_mm: Depth
    humus_depth_mm: Depth

    @property
    def read_mm(self) -> float:
        """Dry and moist chips together, mm."""
        return self.dry_mm + self.moist_mm

    def depth(self) -> Figure:
        """Return the depth of chips that was found, mm: dry and moist together.

        Returns
        -------
        Figure
        """
        terms = {
            "d": entered("Dry chips", self.dry_mm, "mm"),
            "w": entered("Moist chips", self.moist_mm, "mm"),
        }
        return formula("d + w").work("Existing depth, settled", "mm", terms)
