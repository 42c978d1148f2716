"""The user's own choice of loads for a season."""

from datetime import date

from pydantic import ConfigDict, Field

from ulmatic.core.value import Value


class ChosenLine(Value):
    """What was decided to be had of one source in a season: loads, or m³ of one that brings any amount."""

    model_config = ConfigDict(extra="forbid")
    source: str = Field(max_length=80)
    loads: int = Field(ge=0, le=10_000)
    volume_m3: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)


class ChosenLoads(Value):
    """The user's own choice for a season: its total by source.

    Attributes
    ----------
    season : str or None
        Key of the season; None for the one whose account ran when it was chosen.
    """

    model_config = ConfigDict(extra="forbid")
    season: str | None = Field(default=None, max_length=40)
    chosen_on: date
    lines: tuple[ChosenLine, ...] = Field(max_length=220)
