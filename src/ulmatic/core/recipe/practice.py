"""Practices: where practitioners disagree, each school with its argument, its counter-argument, and what it changes."""

from collections.abc import Sequence
from enum import StrEnum

from pydantic import BaseModel, ConfigDict


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


class Practice(BaseModel):
    """One school for each question."""

    model_config = ConfigDict(frozen=True)
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


class PracticeChoices(BaseModel):
    """The questions that a workspace, a site or a plot answers for itself; None leaves it to the wider one."""

    model_config = ConfigDict(frozen=True, extra="forbid")
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


class School(BaseModel):
    """One answer to a question."""

    model_config = ConfigDict(frozen=True)
    value: str
    name: str
    argument: str
    counter: str
    changes: str


class SchoolQuestion(BaseModel):
    """Something practitioners disagree about; `reason` says why the shipped answer is shipped."""

    model_config = ConfigDict(frozen=True)
    field: str
    asks: str
    schools: tuple[School, ...]
    reason: str


def _schools(*rows: tuple[str, str, str, str, str]) -> tuple[School, ...]:
    return tuple(
        School(value=value, name=name, argument=argument, counter=counter, changes=changes)
        for value, name, argument, counter, changes in rows
    )


QUESTIONS = (
    SchoolQuestion(
        field="rhythm",
        asks="How deep, and how often?",
        reason="One deep layer costs the fewest deliveries and keeps weeds down longest.",
        schools=_schools(
            (
                "deep_seldom",
                "Deep and seldom",
                "One deep layer smothers weeds and keeps water; each plot says how long it lasts.",
                "Too deep at once keeps air from shallow roots and rots crowns.",
                "Usual depth for the use; topped up when thin.",
            ),
            (
                "thin_often",
                "Thin and often",
                "A thin layer twice a year always looks fresh and never smothers plants.",
                "Weeds come through sooner, and every visit costs a delivery.",
                "{40 mm} on planted beds, laid twice a year.",
            ),
            (
                "quarter",
                "A quarter of the ring a year",
                "Three quarters of the roots stay undisturbed; fungi spread from there.",
                "The whole ring takes four years.",
                "Tree rings: a quarter laid each autumn.",
            ),
        ),
    ),
    SchoolQuestion(
        field="freshness",
        asks="Fresh or aged?",
        reason="On the surface fresh chips harm only seedlings, and seedlings stand in vegetable beds.",
        schools=_schools(
            (
                "as_it_comes",
                "Spread it the day it comes",
                "Chips are moved once, and nutrients wash into the ground at once.",
                "Fresh leaves heat up and can scorch young stems.",
                "No waiting; wider gaps at trunks.",
            ),
            (
                "age_first",
                "Age it for months first",
                "Heat, tannins and pests are gone, and a fork goes in easily.",
                "Chips are moved twice, and part of them decays in the pile.",
                "Advice to put fresh chips on a pile.",
            ),
            (
                "aged_for_vegetables",
                "Aged for vegetables only",
                "Fresh chips for trees and paths, aged chips for seedlings.",
                "Two kinds of pile to keep apart.",
                "Advice to keep fresh chips off vegetable beds.",
            ),
        ),
    ),
    SchoolQuestion(
        field="nitrogen",
        asks="Do chips take nitrogen from the bed?",
        reason="Chips on the surface tie up nitrogen only where they touch the soil the soil.",
        schools=_schools(
            (
                "cautious",
                "Chips take nitrogen",
                "Wood is poor in nitrogen, and plants in beds with fresh wood have turned yellow.",
                "That was wood dug in; on the surface it ties up a few grams at most.",
                "{25 mm} of compost beneath on planted beds.",
            ),
            (
                "where_it_touches",
                "Only where they touch the soil",
                "The contact zone of a few millimetres ties up a little; deeper roots are not affected.",
                "Seedlings root in exactly this zone.",
                "A caution for seedlings; never dug in.",
            ),
            (
                "relaxed",
                "No effect seen",
                "Decades of chips on the surface and no yellow leaves.",
                "Rich soil hides an effect that poor sand would show.",
                "No nitrogen advice unless chips are dug in.",
            ),
        ),
    ),
    SchoolQuestion(
        field="cover",
        asks="Cardboard beneath?",
        reason="Over living grass cardboard saves a second round of chips; elsewhere it is not needed.",
        schools=_schools(
            (
                "cardboard",
                "Cardboard over living cover",
                "Without light the grass dies, and cardboard decays in one season.",
                "It sheds water while dry, and gaps let runners through.",
                "Cardboard over lawn and running grass.",
            ),
            (
                "depth_alone",
                "Depth only",
                "Deep chips alone are enough, and air reaches the soil.",
                "It takes more chips and more rounds.",
                "No cardboard; more depth over grass.",
            ),
        ),
    ),
    SchoolQuestion(
        field="planting",
        asks="What do you plant into?",
        reason="Roots need soil; chips that have not decayed dry out round them.",
        schools=_schools(
            (
                "soil_below",
                "Only the soil below",
                "Chips are pulled back to bare soil and returned when plants stand.",
                "Pulling back and forth takes time.",
                "Chips are kept out of planting holes.",
            ),
            (
                "once_decomposed",
                "Chips too, once decayed",
                "Plants grow in decayed chips that a fork enters easily.",
                "Ripe and half-ripe chips are hard to tell apart.",
                "Decomposed chips may be planted into.",
            ),
        ),
    ),
    SchoolQuestion(
        field="living",
        asks="A bare ring, or a living part?",
        reason="Most tree care recommends a bare ring, and it is the easiest to maintain.",
        schools=_schools(
            (
                "bare_circle",
                "Bare chip circle",
                "No grass competes for water, and no mower comes near the bark.",
                "A bare ring has no living plants for insects and soil life.",
                "The whole ring is covered.",
            ),
            (
                "keep_green",
                "Keep some green",
                "A living part in each ring supports roots, insects and fungi.",
                "It must be cut by hand.",
                "A quarter of each ring stays green.",
            ),
            (
                "continuous_strip",
                "Continuous strip",
                "One strip along the row saves a mower pass in every alley.",
                "It takes more chips than single rings.",
                "Advice to join rings that nearly touch.",
            ),
        ),
    ),
    SchoolQuestion(
        field="season",
        asks="When do you lay?",
        reason="After leaf fall there is time, leaves are covered, and loads are easy to get.",
        schools=_schools(
            (
                "after_leaf_fall",
                "After leaf fall",
                "It covers the leaves, and rain settles it before spring.",
                "In mild places winter weeds have already started.",
                "Autumn windows.",
            ),
            (
                "before_weeds",
                "Before weeds wake",
                "Just before the spring weeds it has the most effect.",
                "Soil beneath stays cold longer.",
                "Late winter and spring windows.",
            ),
            (
                "both_thin",
                "Both, thin",
                "Half at a time keeps the depth even.",
                "Twice the deliveries.",
                "Both windows, half the depth each.",
            ),
        ),
    ),
    SchoolQuestion(
        field="vegetables",
        asks="What do you lay round vegetables?",
        reason="Pulled aside for sowing, chips serve the same beds for years.",
        schools=_schools(
            (
                "pulled_aside",
                "Chips, pulled aside",
                "One material for the whole garden; pulled back for sowing, returned when plants are up.",
                "A handful left in the row smothers seedlings.",
                "{100 mm} between crops, {75 mm} round growing plants.",
            ),
            (
                "straw",
                "Straw instead",
                "Light, clean and quickly moved.",
                "It may contain herbicide and seed, and blows away.",
                "Straw is proposed for vegetables.",
            ),
            (
                "paths_only",
                "Paths only",
                "Beds stay bare and warm; chips make the paths.",
                "Bare soil dries out and forms a crust.",
                "Nothing is laid on vegetable beds.",
            ),
        ),
    ),
    SchoolQuestion(
        field="depth",
        asks="Which depth do you type?",
        reason="The settled depth is what stops weeds and what a ruler reads.",
        schools=_schools(
            (
                "settled",
                "Settled depth",
                "This depth stays and is what you see in the bed.",
                "It is not visible on the day of laying: the loose layer is deeper.",
                "Target and laid depths are typed as settled depth.",
            ),
            (
                "spread",
                "Loose depth",
                "It is the depth you rake out: one cubic yard covers 108 sq ft at 3 in.",
                "It loses a fifth to a quarter within weeks.",
                "Target and laid depths are typed as loose depth; readings are not.",
            ),
        ),
    ),
    SchoolQuestion(
        field="trunks",
        asks="How much is kept clear at a trunk?",
        reason="Fresh chips heat up and hold water; {0.3 m} keeps both away from the bark until they have aged.",
        schools=_schools(
            (
                "couple_of_inches",
                "Small gap",
                "Bark stays dry and visible, and little ground stays bare.",
                "Chips fill the gap within a season unless they are pulled back.",
                "{0.05 m} kept clear.",
            ),
            (
                "hand_and_guard",
                "Medium gap and a guard",
                "A guard keeps mice and mower off as well.",
                "Guards cost money and have to be opened as the trunk grows.",
                "{0.1 m} kept clear, and a guard round young stems.",
            ),
            (
                "foot_while_fresh",
                "Wide gap while fresh",
                "Heat and mould stay away from the bark.",
                "Weeds grow in the bare ring.",
                "{0.3 m} while chips are fresh, {0.1 m} later.",
            ),
        ),
    ),
    SchoolQuestion(
        field="char",
        asks="How do you lay biochar?",
        reason="Uncharged biochar takes up nitrogen before it gives any.",
        schools=_schools(
            (
                "charged",
                "Only charged",
                "Charged with compost tea, urine or manure, it brings nutrients.",
                "It takes weeks to charge.",
                "Advice to charge it first.",
            ),
            (
                "bare",
                "Uncharged, on the surface",
                "Rain charges it beneath the chips over time.",
                "In its first year it may hold back nitrogen.",
                "No advice to charge it.",
            ),
        ),
    ),
)
"""Questions, their schools and the reason of the shipped answer: common practice, no published source."""
