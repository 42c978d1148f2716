"""Rules on the material for the job, and on slopes."""

from ulmatic.core.materials import Hazard, Kind, Size
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, rule
from ulmatic.core.survey.uses import Use

SHREDDED = fix_of("material", "bark_shredded", "Use shredded bark")


# On slopes.


@rule(
    ACT,
    "slope_slides",
    "This material slides on a slope.",
    "Chips and nuggets float and roll downhill in the first heavy rain.",
    "Lay shredded bark: its fibres interlock.",
    fix=SHREDDED,
)
def _slides(case: Case) -> bool:
    loose = case.material.size in (Size.COARSE, Size.MIXED, Size.NUGGETS)
    return case.lays and 14 <= case.slope_deg < 27 and loose


@rule(
    WATCH,
    "slope_edging",
    "Set edging across the fall.",
    "Even shredded material creeps on a slope of 1 in 4 or more.",
    "Timber or logs on the level lines, staked. Ask for buried services before you drive stakes.",
)
def _edging(case: Case) -> bool:
    return case.lays and 14 <= case.slope_deg < 27


@rule(
    STOP,
    "slope_too_steep",
    "Too steep for mulch.",
    "On slopes steeper than about 1 in 2, loose mulch does not stay.",
    "Plant the slope and hold the soil with a jute net until roots do.",
    fix=fix_of("wanted_mm", "0", "Lay nothing here"),
)
def _steep(case: Case) -> bool:
    return case.lays and case.slope_deg >= 27


# The material for the job.


@rule(
    STOP,
    "fine_too_deep",
    "Too deep for fine material.",
    "Deeper than about {12 mm} it packs, sheds water and keeps air out.",
    "Lay {12 mm} at most, or something coarser.",
    fix=fix_of("wanted_mm", "12 mm", "Lay {12 mm}"),
)
def _fine(case: Case) -> bool:
    return case.material.kind is Kind.SAWDUST and case.laid_mm > 15


@rule(
    ACT,
    "mats",
    "This material mats.",
    "Wet leaves and clippings in a thick layer shed water and turn sour.",
    "Thin layers, dried first, or shredded and mixed with chips.",
)
def _mats(case: Case) -> bool:
    grass, leaves = case.material.kind is Kind.GRASS, case.material.key == "leaves_whole"
    return (grass and case.laid_mm > 25) or (leaves and case.laid_mm > 100)


@rule(
    ACT,
    "manure_as_mulch",
    "This is a dressing, not a mulch.",
    "This much manure burns roots and washes into water.",
    "Lay a thin layer beneath, and chips on top.",
)
def _manure_deep(case: Case) -> bool:
    return case.material.kind is Kind.MANURE and case.laid_mm > 30


@rule(
    WATCH,
    "path_too_fine",
    "Soft under feet.",
    "Fine, leafy or fibrous material turns to mud on a path within a season.",
    "Coarse chips drain and last; heartwood lasts longest.",
    fix=fix_of("material", "clean_coarse", "Use coarse chips"),
)
def _soft_path(case: Case) -> bool:
    soft = case.material.size in (Size.FINE, Size.FIBROUS) or case.material.key == "arborist_much_leaf"
    return case.lays and case.use in (Use.FOOT_PATH, Use.VEHICLE_PATH) and soft


@rule(
    NOTE,
    "path_coarse_lasts",
    "Coarse chips last longer here.",
    "Mixed arborist chips work on a path but need refilling sooner.",
    "Keep the coarsest load for paths. Dig out decayed chips as compost.",
)
def _mixed_path(case: Case) -> bool:
    return case.lays and case.use in (Use.FOOT_PATH, Use.VEHICLE_PATH) and case.material.size is Size.MIXED


@rule(
    WATCH,
    "path_thin",
    "Thin for feet and wheels.",
    "With less than {75 mm}, mud works through.",
    "{100 mm} on foot paths, {200 mm} under wheels.",
)
def _thin_path(case: Case) -> bool:
    paths = {Use.FOOT_PATH: 75, Use.VEHICLE_PATH: 150}
    return case.lays and case.recipe.target_mm < paths.get(case.use, 0)


@rule(
    NOTE,
    "blows",
    "Light: it blows about.",
    "Nuggets, straw, shells and dry leaves blow away in the first storm.",
    "Wet it in, or cover it with a little of something heavier.",
)
def _blows(case: Case) -> bool:
    return case.brings(Hazard.BLOWS)


@rule(
    NOTE,
    "dye_fades",
    "The colour fades.",
    "Dyed wood fades within a season or two and needs covering sooner.",
    "Plan to top up for appearance, or use undyed chips.",
)
def _dye(case: Case) -> bool:
    return case.brings(Hazard.DYE)


# What is feared of a load that was laid.


@rule(
    ACT,
    "load_disease",
    "A load with diseased wood was laid here.",
    "Most diseases die in chips and hardly any spread without contact; some are under quarantine.",
    "Keep these chips away from trunks and wounds, do not move them to another place, and follow local quarantine rules.",
)
def _load_disease(case: Case) -> bool:
    return Hazard.DISEASE in case.worries


@rule(
    ACT,
    "load_herbicide",
    "A load that may contain weedkiller was laid here.",
    "Broadleaf herbicide persists for months and damages beans, tomatoes and many flowers.",
    "Grow beans in a pot of it before you sow or plant here; otherwise use it round grasses and trees.",
)
def _load_herbicide(case: Case) -> bool:
    return Hazard.HERBICIDE in case.worries and case.use.record.planted


@rule(
    WATCH,
    "load_weed_seed",
    "A load that may contain weed seed was laid here.",
    "Roadside and council piles contain seed and pieces of root that grow again.",
    "Check every two weeks in the first summer, and pull seedlings before they root into the soil.",
)
def _load_weed_seed(case: Case) -> bool:
    return Hazard.WEED_SEED in case.worries
