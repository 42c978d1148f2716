"""Practices: where practitioners disagree, each school with its argument, its counter-argument, and what it changes."""

from collections.abc import Sequence
from enum import StrEnum
from typing import Literal

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


class Cover(StrEnum):
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


class Season(StrEnum):
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
    cover: Cover = Cover.CARDBOARD
    planting: Planting = Planting.SOIL_BELOW
    living: Living = Living.BARE_CIRCLE
    season: Season = Season.AFTER_LEAF_FALL
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
    cover: Cover | None = None
    planting: Planting | None = None
    living: Living | None = None
    season: Season | None = None
    vegetables: Vegetables | None = None
    depth: DepthMeans | None = None
    trunks: Trunks | None = None
    char: Char | None = None


Level = Literal["shipped", "workspace", "site", "plot"]


def practice_of(choices: Sequence[PracticeChoices]) -> Practice:
    """Return the practice that follows from choices, the widest first; later ones go before earlier ones.

    Parameters
    ----------
    choices : sequence of PracticeChoices
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


class Question(BaseModel):
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
    Question(
        field="rhythm", asks="How deep, and how often?",
        reason="One deep layer costs the fewest deliveries and keeps weeds down longest.",
        schools=_schools(
            ("deep_seldom", "Deep and seldom", "One deep layer smothers weeds and keeps water; each plot says how long it lasts.",
             "Too deep at once keeps air from shallow roots, and crowns rot.", "Usual depth for the use; topped up when thin."),
            ("thin_often", "Thin and often", "A thin layer twice a year always looks fresh and never smothers.",
             "Weeds come through sooner, and every visit costs a delivery.", "{40 mm} on planted beds, laid twice a year."),
            ("quarter", "A quarter of the ring a year", "Roots always keep three quarters undisturbed; the fungi move on.",
             "Four years until the whole ring was fed once.", "Tree rings: a quarter laid each autumn."),
        ),
    ),
    Question(
        field="freshness", asks="Fresh or aged?",
        reason="On top fresh chips harm nobody but seedlings, and vegetables are where seedlings stand.",
        schools=_schools(
            ("as_it_comes", "Spread it the day it comes", "Handled once, and what leaches out feeds the ground at once.",
             "Fresh leaf heats and can scorch young stems it touches.", "No waiting; wider gaps at trunks."),
            ("age_first", "Age it for months first", "Heat, tannins and pests are gone, and a fork goes in easily.",
             "It is moved twice, and part of it rots away in the heap.", "Advice to pile what is fresh."),
            ("aged_for_vegetables", "Aged for vegetables only", "Trees and paths take it raw; seedlings get it mild.",
             "Two kinds of heap to keep apart.", "Advice to keep fresh chips off vegetable beds."),
        ),
    ),
    Question(
        field="nitrogen", asks="Do chips rob the bed of nitrogen?",
        reason="Chips on top can draw only where they touch the soil.",
        schools=_schools(
            ("cautious", "They rob the bed", "Raw wood is poor in nitrogen, and beds with it have been seen to yellow.",
             "That was wood dug in; on top the draw is a few grams at most.", "{25 mm} of compost beneath on planted beds."),
            ("where_it_touches", "Only where they touch", "A few millimetres at the contact draw a little; roots below do not notice.",
             "Seedlings root in just those millimetres.", "A word of warning round seedlings; never dug in."),
            ("relaxed", "Never seen it", "Decades of chips on top and no yellow leaf.",
             "Rich soil forgives what poor sand does not.", "No advice about nitrogen unless chips are dug in."),
        ),
    ),
    Question(
        field="cover", asks="Anything under it?",
        reason="Over living grass paper saves a second round of chips; elsewhere it is left out.",
        schools=_schools(
            ("cardboard", "Cardboard over living cover", "Without light grass gives up beneath, and paper rots in a season.",
             "It sheds water while dry, and its seams let runners through.", "Cardboard over lawn and running grass."),
            ("depth_alone", "Nothing but depth", "Deep chips alone do it, and soil keeps breathing.",
             "It takes more chips and more rounds.", "No cardboard; more depth over grass."),
        ),
    ),
    Question(
        field="planting", asks="What is planted into?",
        reason="Roots want soil; chips that are not rotted dry out round them.",
        schools=_schools(
            ("soil_below", "Only the soil below", "Chips are pulled back to bare soil and returned when plants stand.",
             "Pulling back and forth takes time.", "Chips are kept out of planting holes."),
            ("once_decomposed", "Chips too, once rotted", "What a fork goes into like cake grows plants by itself.",
             "It is hard to tell ripe from half-ripe.", "Decomposed chips may be planted into."),
        ),
    ),
    Question(
        field="living", asks="All brown, or something green?",
        reason="A bare circle is what most tree care asks for, and it is the easiest to keep.",
        schools=_schools(
            ("bare_circle", "Bare chip circle", "No grass competes for water, and no mower comes near the bark.",
             "All brown leaves nothing living for insects and soil life.", "The whole ring is covered."),
            ("keep_green", "Keep some green", "A living part in each ring keeps roots, insects and fungi company.",
             "It has to be cut by hand.", "A quarter of each ring stays green."),
            ("continuous_strip", "Continuous strip", "One strip along the row saves a mower pass in every alley.",
             "It takes more chips than single rings.", "Advice to join rings that nearly touch."),
        ),
    ),
    Question(
        field="season", asks="When is it laid?",
        reason="After leaf fall there is time, leaves are covered with it, and loads are easy to get.",
        schools=_schools(
            ("after_leaf_fall", "After leaf fall", "Covers the leaves, and rain settles it before spring.",
             "In mild places winter weeds are already up.", "Autumn windows."),
            ("before_weeds", "Before weeds wake", "Just ahead of the flush it does the most good.",
             "Soil stays cold longer beneath it.", "Late winter and spring windows."),
            ("both_thin", "Both, thin", "Half at a time keeps the picture even.",
             "Twice the deliveries.", "Both windows, half the depth each."),
        ),
    ),
    Question(
        field="vegetables", asks="What lies round vegetables?",
        reason="Pulled aside for sowing, chips serve the same beds for years.",
        schools=_schools(
            ("pulled_aside", "Chips, pulled aside", "One material for the whole garden; pulled back to sow, returned when up.",
             "A handful left in the row keeps seedlings down.", "{100 mm} between crops, {75 mm} round growing plants."),
            ("straw", "Straw instead", "Light, clean and quickly moved.", "It may bring herbicide and seed, and blows about.",
             "Straw is proposed for vegetables."),
            ("paths_only", "Paths only", "Beds stay bare and warm; chips carry the feet.",
             "Bare soil dries and crusts.", "Nothing is laid on vegetable beds."),
        ),
    ),
    Question(
        field="depth", asks="What does a depth mean?",
        reason="What lies there after some weeks is what keeps weeds down, and what a ruler reads.",
        schools=_schools(
            ("settled", "As it settles", "It is what stays, and what is judged in the bed.",
             "Nobody sees it on the day of laying: more has to be raked out.", "Target and laid depths are typed as settled."),
            ("spread", "As it is spread", "It is what is raked out: a cubic yard covers 108 sq ft at 3 in.",
             "A fifth to a quarter of it is gone within weeks.", "Target and laid depths are typed as spread; readings never."),
        ),
    ),
    Question(
        field="trunks", asks="How much is kept clear at a trunk?",
        reason="Fresh chips heat and hold water; a foot keeps both off the bark until they have aged.",
        schools=_schools(
            ("couple_of_inches", "A couple of inches", "Bark stays dry and visible, and no ground is given away.",
             "It silts up within a season unless it is pulled back.", "{0.05 m} kept clear."),
            ("hand_and_guard", "A hand’s breadth and a guard", "A guard keeps mice and mower off as well.",
             "Guards cost money and have to be opened as the trunk grows.", "{0.1 m} kept clear, and a guard round young stems."),
            ("foot_while_fresh", "A foot while fresh", "Heat and mould stay away from the bark.",
             "Weeds come up in the bare ring.", "{0.3 m} while chips are fresh, {0.1 m} later."),
        ),
    ),
    Question(
        field="char", asks="How is biochar laid?",
        reason="Bare char takes up nitrogen before it gives any.",
        schools=_schools(
            ("charged", "Only charged", "Soaked in compost tea, urine or manure it brings nutrients with it.",
             "It takes weeks to charge.", "Advice to charge it first."),
            ("bare", "On the surface as it is", "Rain charges it beneath the chips in time.",
             "In its first year it may hold back nitrogen.", "No advice to charge it."),
        ),
    ),
)  # fmt: skip
"""Questions, their schools and the reason of the shipped answer: common practice, no published source."""
