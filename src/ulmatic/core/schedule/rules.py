"""When to lay again: a rule for each plot, as its practice proposes or as it was chosen. Rules name seasons."""

from functools import lru_cache
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from ulmatic.core.recipe import Practice
from ulmatic.core.recipe.practice import Rhythm
from ulmatic.core.recipe.practice import SeasonSchool as SeasonChoice
from ulmatic.core.schedule.seasons import WindowKey
from ulmatic.core.survey.uses import Use
from ulmatic.core.value import Value


class _Rule(Value):
    model_config = ConfigDict(extra="forbid")


class Keep(_Rule):
    """Keep the recipe: laid up to the target when it would fall below the least depth before the next season."""

    kind: Literal["keep"] = "keep"


class Thin(_Rule):
    """A part of the target in each season, spring and autumn, never beyond the target."""

    kind: Literal["thin"] = "thin"
    part: Annotated[float, Field(gt=0, le=1)] = 1.0


class Every(_Rule):
    """Up to the target every so many years, whatever is left."""

    kind: Literal["every"] = "every"
    years: Annotated[int, Field(ge=1, le=20)]
    window: WindowKey | None = None


class Quarter(_Rule):
    """A quarter of the ring each year, and on to the next: a round of four years."""

    kind: Literal["quarter"] = "quarter"
    window: WindowKey | None = None


class Harvest(_Rule):
    """Dig the humus out as compost every so many years, and refill to the target."""

    kind: Literal["harvest"] = "harvest"
    years: Annotated[int, Field(ge=1, le=20)]
    window: WindowKey | None = None


class Rounds(_Rule):
    """Several rounds over running grass, until it gives up; then the recipe is kept."""

    kind: Literal["rounds"] = "rounds"
    rounds: Annotated[int, Field(ge=1, le=12)]
    months_apart: Annotated[int, Field(ge=1, le=36)]


class Once(_Rule):
    """Laid once; never again."""

    kind: Literal["once"] = "once"


Rule = Annotated[Keep | Thin | Every | Quarter | Harvest | Rounds | Once, Field(discriminator="kind")]

ROUNDS, ROUNDS_APART = 3, 8
"""Usual figures: common practice, no source."""


@lru_cache(maxsize=1024)
def proposed_rule(use: Use, practice: Practice, target_mm: float) -> Rule:
    """Return the rule that follows from a plot's use and practice.

    The recipe is kept; half of it in each season where the practice is both, thin; thin and often where that is the
    practice; round trees by quarters where that is; several rounds over turf; nothing over ground that is kept bare.

    Parameters
    ----------
    use : Use
    practice : Practice
    target_mm : float

    Returns
    -------
    Rule
    """
    if target_mm <= 0 or use in (Use.BULBS, Use.SEEDBED):
        return Once()
    if use is Use.LAWN_TO_CONVERT:
        return Rounds(rounds=ROUNDS, months_apart=ROUNDS_APART)
    if practice.rhythm is Rhythm.QUARTER and use in (Use.YOUNG_TREE, Use.ESTABLISHED_TREE):
        return Quarter()
    if practice.rhythm is Rhythm.THIN_OFTEN:
        return Thin()
    if practice.season is SeasonChoice.BOTH_THIN:
        return Thin(part=0.5)
    return Keep()


RULE_WORDS: dict[str, str] = {
    "keep": "Keep the recipe",
    "thin": "Thin, in spring and autumn",
    "every": "Fill to the target every few years",
    "quarter": "A quarter of the ring each year",
    "harvest": "Harvest the humus and refill",
    "rounds": "Several rounds on grass",
    "once": "Once only",
}
