"""When to lay again: a rule for each plot, as its practice proposes or as it was chosen."""

from functools import lru_cache
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.recipe import Practice
from ulmatic.core.recipe.practice import Rhythm
from ulmatic.core.recipe.proposal import LEAST
from ulmatic.core.survey.uses import Use
from ulmatic.core.units import Depth

MonthNumber = Annotated[int, Field(ge=1, le=12)]
Layer = Annotated[Depth, Field(gt=0)]


class _Rule(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Hold(_Rule):
    """Keep it above a depth: lay up to `to_mm`, or more where it takes more to last until it may be laid again."""

    kind: Literal["hold"] = "hold"
    least_mm: Depth
    to_mm: Layer


class Thin(_Rule):
    """So much in fixed months, every year."""

    kind: Literal["thin"] = "thin"
    months: Annotated[tuple[MonthNumber, ...], Field(min_length=1, max_length=12)]
    layer_mm: Layer


class Every(_Rule):
    """Up to a depth every so many years, whatever is left."""

    kind: Literal["every"] = "every"
    years: Annotated[int, Field(ge=1, le=20)]
    month: MonthNumber
    to_mm: Layer


class Quarter(_Rule):
    """A quarter of the ring each autumn, and on to the next: a round of four years."""

    kind: Literal["quarter"] = "quarter"
    month: MonthNumber = 11
    layer_mm: Layer


class Harvest(_Rule):
    """Dig the crumb out as compost every so many years, and refill."""

    kind: Literal["harvest"] = "harvest"
    years: Annotated[int, Field(ge=1, le=20)]
    month: MonthNumber
    to_mm: Layer


class Rounds(_Rule):
    """Several rounds over running grass, until it gives up; then it is let be."""

    kind: Literal["rounds"] = "rounds"
    rounds: Annotated[int, Field(ge=1, le=12)]
    months_apart: Annotated[int, Field(ge=1, le=36)]
    to_mm: Layer


class Once(_Rule):
    """Laid once; never again."""

    kind: Literal["once"] = "once"


Rule = Annotated[Hold | Thin | Every | Quarter | Harvest | Rounds | Once, Field(discriminator="kind")]

THIN_MM, THIN_MONTHS = 40.0, (4, 10)
AUTUMN = 11
ROUNDS, ROUNDS_APART = 3, 8
"""Usual figures: common practice, no source."""


@lru_cache(maxsize=1024)
def proposed_rule(use: Use, practice: Practice, wanted_mm: float) -> Rule:
    """Return the rule that follows from a plot's use and practice.

    Held above a depth; thin and often where that is the practice; round trees by quarters where that is; several
    rounds over turf; nothing over ground that is kept bare.
    """
    if wanted_mm <= 0 or use in (Use.BULBS, Use.SEEDBED):
        return Once()
    if use is Use.LAWN_TO_CONVERT:
        return Rounds(rounds=ROUNDS, months_apart=ROUNDS_APART, to_mm=wanted_mm)
    if practice.rhythm is Rhythm.QUARTER and use in (Use.YOUNG_TREE, Use.ESTABLISHED_TREE):
        return Quarter(month=AUTUMN, layer_mm=wanted_mm)
    if practice.rhythm is Rhythm.THIN_OFTEN:
        return Thin(months=THIN_MONTHS, layer_mm=min(THIN_MM, wanted_mm))
    return Hold(least_mm=min(LEAST.value, wanted_mm * 0.7), to_mm=wanted_mm)


RULE_WORDS: dict[str, str] = {
    "hold": "Hold above a depth", "thin": "Thin, in fixed months", "every": "Up to a depth every few years",
    "quarter": "A quarter of the ring each autumn", "harvest": "Harvest the crumb and refill",
    "rounds": "Several rounds over running grass", "once": "Once only",
}  # fmt: skip
