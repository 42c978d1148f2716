"""Rules on nitrogen, and on what grows or lies there."""

from ulmatic.core.materials import Kind, Stage
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, from_memory, rule
from ulmatic.core.recipe.practice import Char
from ulmatic.core.recipe.proposal import LayerRole, builds_up
from ulmatic.core.survey import ExistingCover
from ulmatic.core.survey.uses import Use

CARDBOARD = fix_of("cardboard", True, "Lay cardboard first")


# Nitrogen.


@rule(
    STOP,
    "dug_in",
    "Never dig it in.",
    "Mixed into soil, all of it ties up nitrogen at once, and plants lack nitrogen until it has decayed.",
    "Leave it on the surface. If it was dug in, the nitrogen page says what to give and for how long.",
    source=from_memory("Incorporation trials, USDA Technical Bulletin 1332, Allison 1965"),
    fix=fix_of("dug_in", False, "Leave it on top"),
)
def _dug_in(case: Case) -> bool:
    rotted = case.stage is Stage.DECOMPOSED
    return case.plot.recipe.dug_in and case.lays and case.material.cn.value > 30 and not rotted


@rule(
    WATCH,
    "nitrogen_cautious",
    "Watch for pale leaves.",
    "Your practice expects fresh chips to tie up nitrogen, and there is no compost beneath them.",
    "Lay {25 mm} of compost beneath.",
    school="chips take nitrogen from the bed",
    fix=fix_of("compost_mm", "25 mm", "Lay compost beneath"),
)
def _cautious(case: Case) -> bool:
    poor = case.lays and case.material.cn.value > 60 and case.stage in (Stage.FRESH, Stage.AGEING)
    return poor and case.use.record.bed and case.practice.nitrogen == "cautious" and not case.has(LayerRole.COMPOST)


@rule(
    NOTE,
    "nitrogen_touch",
    "Nitrogen is tied up only where chips touch the soil.",
    "A few millimetres tie up a little. Deeper roots are not affected; seedlings may be.",
    "Keep chips on the surface and sown rows bare.",
    school="only where they touch the soil",
)
def _touch(case: Case) -> bool:
    poor = case.lays and case.material.cn.value > 60
    return poor and case.use.record.bed and case.practice.nitrogen == "where_it_touches"


@rule(
    WATCH,
    "biochar_raw",
    "Charge the biochar first.",
    "Uncharged biochar takes up nitrogen before it gives any.",
    "Mix it with compost or soak it in liquid feed for some weeks.",
    school="only charged",
)
def _biochar(case: Case) -> bool:
    bare = case.has(LayerRole.BIOCHAR) and not case.has(LayerRole.COMPOST)
    return bare and case.practice.char is Char.CHARGED


@rule(
    WATCH,
    "feed_near_water",
    "Compost or manure near water.",
    "Nutrients wash out into the water.",
    "Keep the distance that local rules require, and do not lay before heavy rain.",
)
def _water(case: Case) -> bool:
    rich = case.has(LayerRole.COMPOST) or (case.lays and case.material.kind in (Kind.MANURE, Kind.GRASS))
    distance_m = case.plot.site_conditions.to_water_m
    return rich and distance_m is not None and distance_m < 10


@rule(
    NOTE,
    "soak_first",
    "Soak it before laying.",
    "Sunny ground dries out first, and dry mulch keeps light rain from the soil.",
    "Water thoroughly, then lay; rinse the leaves afterwards.",
)
def _soak(case: Case) -> bool:
    ground = case.plot.site_conditions
    return case.lays and case.use.record.planted and ground.sun == "full" and not ground.irrigated


# What grows there, what lies there.


@rule(
    ACT,
    "runners_thin",
    "Too thin for running grass.",
    "Runners push through anything under about {150 mm}.",
    "{200 mm} over cardboard, and again when it comes through.",
    fix=fix_of("wanted_mm", "200 mm", "Lay {200 mm}"),
)
def _runners_thin(case: Case) -> bool:
    return case.lays and case.plot.site_conditions.cover is ExistingCover.RUNNING_GRASS and case.recipe.target_mm < 150


@rule(
    ACT,
    "runners_uncovered",
    "Running grass without cardboard.",
    "Chips alone let light through, and the grass keeps growing.",
    "Cardboard beneath, overlapped by {150 mm} to {200 mm}.",
    school="cardboard · depth only",
    fix=CARDBOARD,
)
def _runners_uncovered(case: Case) -> bool:
    return (
        case.lays and case.plot.site_conditions.cover is ExistingCover.RUNNING_GRASS and not case.has(LayerRole.SHEET)
    )


@rule(
    NOTE,
    "runners_rounds",
    "It takes several rounds.",
    "Each layer weakens running grass; no single layer kills it.",
    "Top up as soon as it shows, and pull what grows in at the edge.",
)
def _runners_rounds(case: Case) -> bool:
    return case.lays and case.plot.site_conditions.cover is ExistingCover.RUNNING_GRASS


@rule(
    WATCH,
    "lawn_uncovered",
    "Lawn without cardboard.",
    "Depth alone works, but needs more chips.",
    "Cardboard beneath, or {200 mm} of chips.",
    school="cardboard · depth only",
    fix=CARDBOARD,
)
def _lawn(case: Case) -> bool:
    lawn = case.plot.site_conditions.cover is ExistingCover.LAWN or case.use is Use.LAWN_TO_CONVERT
    return case.lays and lawn and not case.has(LayerRole.SHEET) and case.recipe.target_mm < 200


@rule(
    ACT,
    "lawn_thin",
    "Too thin over lawn.",
    "With less than about {125 mm}, grass grows through.",
    "Lay {150 mm} over cardboard, and again where grass shows.",
    fix=fix_of("wanted_mm", "150 mm", "Lay {150 mm}"),
)
def _lawn_thin(case: Case) -> bool:
    lawn = case.plot.site_conditions.cover is ExistingCover.LAWN or case.use is Use.LAWN_TO_CONVERT
    return case.lays and lawn and case.recipe.target_mm < 115


@rule(
    NOTE,
    "cardboard_how",
    "Lay plain cardboard wet and overlapped.",
    "Tape and glossy print do not decay, and gaps let runners through.",
    "Peel tape off, overlap by {150 mm} to {200 mm}, soak, then cover at once.",
)
def _cardboard(case: Case) -> bool:
    return case.has(LayerRole.SHEET)


@rule(
    ACT,
    "fabric_below",
    "Take the old fabric off first.",
    "It keeps humus out of the soil, and roots grow into it.",
    "Lift it before anything is laid.",
    school="never fabric",
)
def _fabric(case: Case) -> bool:
    return case.lays and case.plot.site_conditions.cover is ExistingCover.OLD_FABRIC


@rule(
    WATCH,
    "weeds_through",
    "Weeds will come through.",
    "Under less than about {50 mm}, annual weeds get light.",
    "{75 mm} stops them; pull existing weeds first.",
)
def _weeds(case: Case) -> bool:
    thin = 0 < case.recipe.target_mm < 50
    return case.lays and thin and case.plot.site_conditions.cover is ExistingCover.ANNUAL_WEEDS


@rule(
    NOTE,
    "enough_there",
    "There is already enough.",
    "The existing depth reaches the target depth.",
    "Loosen it with a rake if it sheds water. Lay nothing.",
)
def _enough(case: Case) -> bool:
    return not case.lays and 0 < case.recipe.target_mm <= case.existing_mm


@rule(
    ACT,
    "poor_ground",
    "Build poor ground up before planting.",
    "Under a thin layer, sand, clay and poor soil hold too little water and air.",
    "{125 mm} to {150 mm}, left for some months until there is humus to plant into. Do not mix chips into the soil.",
    fix=fix_of("wanted_mm", "125 mm", "Lay {125 mm}"),
)
def _poor_ground(case: Case) -> bool:
    return case.lays and builds_up(case.plot) and case.recipe.target_mm < 115


@rule(
    NOTE,
    "poor_ground_ask",
    "Is this ground to be built up first?",
    "Sand and clay take plants better once there is humus on them.",
    "If so, select “Build up before planting” in the site conditions: the layer is deeper, and Ulmatic says when you can plant.",
)
def _poor_ground_ask(case: Case) -> bool:
    ground = case.plot.site_conditions
    open_question = ground.build_up is None and not ground.compacted
    return case.lays and case.use.record.bed and ground.soil in ("sand", "clay") and open_question


@rule(
    WATCH,
    "all_brown",
    "No living part round the tree.",
    "Your practice keeps a living part in each ring.",
    "Leave a quarter green.",
    school="keep some green",
    fix=fix_of("laid_share", "75 %", "Keep a quarter green"),
)
def _brown(case: Case) -> bool:
    part = getattr(case.plot.shape, "part", 1.0) * case.recipe.laid_share
    return case.lays and case.use.record.trees and part > 0.95 and case.practice.living == "keep_green"


@rule(
    NOTE,
    "join_rings",
    "These rings nearly touch.",
    "One continuous strip saves a mower pass in each alley.",
    "Measure it as a strip along the row.",
    school="continuous strip",
)
def _join(case: Case) -> bool:
    shape = case.plot.shape
    spacing, outer = getattr(shape, "spacing_m", None), getattr(shape, "outer_radius_m", None)
    is_near = spacing is not None and outer is not None and 2 * outer < spacing < 2 * outer + 1.5
    return case.lays and bool(is_near) and case.practice.living == "continuous_strip"
