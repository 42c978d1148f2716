"""Practices: where practitioners disagree, each school with its argument, its counter-argument, and what it changes."""

from collections.abc import Sequence
from enum import StrEnum

from pydantic import ConfigDict

from ulmatic.core.tables import rows_of
from ulmatic.core.value import Value


class Rhythm(StrEnum):
    """How deep and how often."""

    DEEP_SELDOM = "deep_seldom"
    THIN_OFTEN = "thin_often"
    QUARTER = "quarter"


class Freshness(StrEnum):
    """How old chips are when they are laid."""

    AS_IT_COMES = "as_it_comes"
    AGE_FIRST = "age_first"
    AGED_FOR_VEGETABLES = "aged_for_vegetables"


class NitrogenView(StrEnum):
    """What chips on top do to the nitrogen beneath."""

    CAUTIOUS = "cautious"
    WHERE_IT_TOUCHES = "where_it_touches"
    RELAXED = "relaxed"


class Underlay(StrEnum):
    """What lies beneath the chips."""

    CARDBOARD = "cardboard"
    DEPTH_ALONE = "depth_alone"


class Planting(StrEnum):
    """What is planted into."""

    SOIL_BELOW = "soil_below"
    ONCE_DECOMPOSED = "once_decomposed"


class Living(StrEnum):
    """What stays green round a tree."""

    BARE_CIRCLE = "bare_circle"
    KEEP_GREEN = "keep_green"
    CONTINUOUS_STRIP = "continuous_strip"


class SeasonSchool(StrEnum):
    """When it is laid."""

    AFTER_LEAF_FALL = "after_leaf_fall"
    BEFORE_WEEDS = "before_weeds"
    BOTH_THIN = "both_thin"


class Vegetables(StrEnum):
    """What lies round vegetables."""

    PULLED_ASIDE = "pulled_aside"
    STRAW = "straw"
    PATHS_ONLY = "paths_only"


class DepthMeans(StrEnum):
    """What a depth that is typed means."""

    SETTLED = "settled"
    SPREAD = "spread"


class Trunks(StrEnum):
    """How much is kept clear at a trunk."""

    COUPLE_OF_INCHES = "couple_of_inches"
    HAND_AND_GUARD = "hand_and_guard"
    FOOT_WHILE_FRESH = "foot_while_fresh"


class Char(StrEnum):
    """How biochar is laid."""

    CHARGED = "charged"
    BARE = "bare"


class Practice(Value):
    """One school for each question."""

    rhythm: Rhythm = Rhythm.DEEP_SELDOM
    freshness: Freshness = Freshness.AGED_FOR_VEGETABLES
    nitrogen: NitrogenView = NitrogenView.WHERE_IT_TOUCHES
    cover: Underlay = Underlay.CARDBOARD
    planting: Planting = Planting.SOIL_BELOW
    living: Living = Living.BARE_CIRCLE
    season: SeasonSchool = SeasonSchool.AFTER_LEAF_FALL
    vegetables: Vegetables = Vegetables.PULLED_ASIDE
    depth: DepthMeans = DepthMeans.SETTLED
    trunks: Trunks = Trunks.FOOT_WHILE_FRESH
    char: Char = Char.CHARGED


class PracticeChoices(Value):
    """The questions that a workspace, a site or a plot answers for itself; None leaves it to the wider one."""

    model_config = ConfigDict(extra="forbid")
    rhythm: Rhythm | None = None
    freshness: Freshness | None = None
    nitrogen: NitrogenView | None = None
    cover: Underlay | None = None
    planting: Planting | None = None
    living: Living | None = None
    season: SeasonSchool | None = None
    vegetables: Vegetables | None = None
    depth: DepthMeans | None = None
    trunks: Trunks | None = None
    char: Char | None = None


def practice_of(choices: Sequence[PracticeChoices]) -> Practice:
    """Return the practice that follows from choices, the widest first; later ones go before earlier ones.

    Parameters
    ----------
    choices : sequence of PracticeChoices

    Returns
    -------
    Practice
    """
    answers: dict[str, object] = {}
    for choice in choices:
        answers |= {field: value for field, value in choice.model_dump().items() if value is not None}
    return Practice.model_validate(answers)


class School(Value):
    """One answer to a question."""

    value: str
    name: str
    argument: str
    counter: str
    changes: str


class SchoolQuestion(Value):
    """Something practitioners disagree about; `reason` says why the shipped answer is shipped."""

    field: str
    asks: str
    schools: tuple[School, ...]
    reason: str


QUESTIONS = tuple(
    SchoolQuestion.model_validate(
        question | {"schools": [school for school in rows_of("schools") if school["field"] == question["field"]]}
    )
    for question in rows_of("school_questions")
)
"""Questions, their schools and the reason of the shipped answer: common practice, no published source."""
