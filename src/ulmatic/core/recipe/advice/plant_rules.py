"""Rules on trunks, crowns, seeds and vegetables."""

from ulmatic.core.materials import Hazard, Stage
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, from_memory, rule
from ulmatic.core.recipe.proposal import GAPS_M, builds_up
from ulmatic.core.survey.uses import Use

# Trunks, stems, crowns.


@rule(
    STOP,
    "trunk_gap",
    "Too close to the trunk.",
    "Wet bark rots, and mice gnaw under mulch.",
    "Keep at least {0.1 m} clear, with root flare and graft union visible; {0.05 m} if that is your practice.",
    fix=fix_of("gap_m", "0.1 m", "Widen the gap"),
)
def _gap(case: Case) -> bool:
    gap, least = case.recipe.gap_m, GAPS_M[case.practice.trunks][0]
    return case.recipe.target_mm > 0 and gap is not None and gap < least - 1e-4


@rule(
    ACT,
    "fresh_near_trunk",
    "Fresh chips too near the trunk.",
    "Fresh leafy chips heat up as they start to decay.",
    "Keep {0.3 m} clear while they are fresh.",
    fix=fix_of("gap_m", "0.3 m", "Widen the gap"),
)
def _fresh_gap(case: Case) -> bool:
    gap, (least, fresh) = case.recipe.gap_m, GAPS_M[case.practice.trunks]
    return (
        case.lays
        and case.stage is Stage.FRESH
        and case.material.woody
        and gap is not None
        and least <= gap < fresh - 1e-4
    )


@rule(
    ACT,
    "deep_round_annuals",
    "Too deep round annuals.",
    "With more than {100 mm}, small plants stay cold and get buried.",
    "Use {75 mm} to {100 mm} round growing plants; more only between crops.",
    fix=fix_of("growing_mm", "75 mm", "Lay {75 mm} round plants"),
)
def _annuals(case: Case) -> bool:
    return case.use is Use.VEGETABLES and case.recipe.growing_mm > 105 and not case.recipe.builds_up


@rule(
    WATCH,
    "deep_between_crops",
    "Deep between crops.",
    "More than {150 mm} must be pulled far aside before sowing.",
    "{100 mm} to {150 mm} between crops.",
    fix=fix_of("wanted_mm", "125 mm", "Lay {125 mm}"),
)
def _between_crops(case: Case) -> bool:
    return case.use is Use.VEGETABLES and case.recipe.target_mm > 155


@rule(
    WATCH,
    "deep_on_perennials",
    "Deep for perennials.",
    "With more than about {100 mm}, crowns rot and self-sown seedlings are smothered.",
    "{75 mm} is usual. Pull it back from crowns.",
)
def _perennials(case: Case) -> bool:
    return case.use is Use.PERENNIALS and case.recipe.target_mm > 105 and not builds_up(case.plot)


@rule(
    NOTE,
    "crowns_clear",
    "Keep stems and crowns clear.",
    "Covered stems stay wet; tomatoes are the usual exception.",
    "Pull mulch back by {0.1 m}.",
)
def _crowns(case: Case) -> bool:
    return case.lays and case.use.record.bed


@rule(
    NOTE,
    "bark_disease",
    "Keep chips of felled trees away from trunks.",
    "Chips rarely spread disease, and hardly ever without contact.",
    "Follow quarantine rules for felled trees.",
)
def _disease(case: Case) -> bool:
    return case.lays and case.use.record.trees and case.material.key.startswith("arborist")


# Seeds, bulbs, vegetables.


@rule(
    STOP,
    "seedbed_covered",
    "Seedlings cannot come up through this.",
    "Keep a seedbed bare until the seedlings are up.",
    "Lay nothing now; return chips when plants are established.",
    fix=fix_of("wanted_mm", "0", "Lay nothing here"),
)
def _seedbed(case: Case) -> bool:
    return case.use is Use.SEEDBED and case.lays


@rule(
    WATCH,
    "bulbs_covered",
    "Bulbs and alliums under mulch.",
    "Shoots bend under chips, and garlic rots in a wet winter.",
    "Wait until they are up; some growers keep garlic always bare.",
    school="always bare · once they are up",
)
def _bulbs(case: Case) -> bool:
    return case.use is Use.BULBS and case.lays


@rule(
    ACT,
    "fresh_on_vegetables",
    "Fresh chips on vegetables.",
    "Your practice uses fresh chips for trees and paths only: seedlings root in the contact zone.",
    "Use chips that have aged some months.",
    school="aged for vegetables only",
    fix=fix_of("stage", "aged", "Use aged chips"),
)
def _fresh_vegetables(case: Case) -> bool:
    raw = case.lays and case.material.chips and case.stage is Stage.FRESH
    return raw and case.use is Use.VEGETABLES and case.practice.freshness == "aged_for_vegetables"


@rule(
    ACT,
    "fresh_at_all",
    "Your practice is to age chips first.",
    "Heat and tannins are gone after some months in a pile.",
    "Put this load on a pile and use an older one.",
    school="age it first",
    fix=fix_of("stage", "aged", "Use aged chips"),
)
def _fresh_anywhere(case: Case) -> bool:
    planted = case.use.record.planted
    return (
        case.lays
        and case.material.chips
        and case.stage is Stage.FRESH
        and planted
        and case.practice.freshness == "age_first"
    )


@rule(
    NOTE,
    "plant_in_soil",
    "Plant and sow into soil, not into chips.",
    "Chips that have not decayed dry out round roots.",
    "Pull chips back to bare soil, plant, and return {75 mm} when plants are established.",
    school="only in the soil below",
)
def _plant_below(case: Case) -> bool:
    return case.lays and case.use is Use.VEGETABLES and case.practice.planting == "soil_below"


@rule(
    WATCH,
    "not_ripe_to_plant",
    "Not ready to plant into.",
    "Your practice plants into decayed chips; these have not decayed yet.",
    "Plant into the soil below, or wait until a fork goes in easily.",
    school="chips too, once decayed",
)
def _not_ripe(case: Case) -> bool:
    unripe = case.lays and case.material.woody and case.stage is not Stage.DECOMPOSED
    return unripe and case.use.record.bed and case.practice.planting == "once_decomposed"


@rule(
    WATCH,
    "herbicide",
    "May contain weedkiller.",
    "Broadleaf herbicide in straw, hay and manure persists for months and damages beans and tomatoes.",
    "Grow beans in a pot of it first, or ask for a written statement on spraying.",
)
def _herbicide(case: Case) -> bool:
    return case.brings(Hazard.HERBICIDE) and case.use.record.bed


@rule(
    WATCH,
    "weed_seed",
    "May bring weed seed.",
    "Hay, manure and council piles contain seed.",
    "Lay it beneath clean material, or compost it hot in a pile first.",
)
def _seed(case: Case) -> bool:
    return case.brings(Hazard.WEED_SEED)


@rule(
    ACT,
    "raw_manure_on_food",
    "Raw manure on food.",
    "Germs need time to die.",
    "Leave 120 days to harvest where the crop touches soil, 90 where it does not; follow your local rules.",
    source=from_memory("US National Organic Program, 7 CFR 205.203"),
)
def _raw_manure(case: Case) -> bool:
    return case.brings(Hazard.RAW_MANURE) and case.use is Use.VEGETABLES


@rule(
    ACT,
    "walnut_seedlings",
    "Walnut harms seedlings.",
    "Juglone in fresh chips stunts tomatoes, potatoes and many seedlings.",
    "Use it on paths and round old trees, or let it decay for some years.",
    school="avoid walnut, eucalyptus",
    fix=fix_of("material", "arborist_leafy", "Use other chips"),
)
def _walnut_beds(case: Case) -> bool:
    sown = case.use in (Use.VEGETABLES, Use.SEEDBED) or len(case.plot.recipe.hold_backs) > 0
    return case.brings(Hazard.JUGLONE) and sown and case.stage is not Stage.DECOMPOSED


@rule(
    NOTE,
    "walnut_elsewhere",
    "Walnut does little harm here.",
    "Juglone harms mostly seedlings and is gone after years of decay.",
    "Do not use it where you sow.",
    school="any chips",
)
def _walnut(case: Case) -> bool:
    return case.brings(Hazard.JUGLONE) and not _walnut_beds(case) and case.stage is not Stage.DECOMPOSED


@rule(
    NOTE,
    "eucalyptus_seedlings",
    "Some growers keep eucalyptus away from seedlings.",
    "Its oils are gone after some weeks in the open.",
    "Age it, or use it round trees.",
    school="avoid walnut, eucalyptus · any chips",
)
def _eucalyptus(case: Case) -> bool:
    return case.lays and case.material.key == "eucalyptus" and case.use in (Use.VEGETABLES, Use.PERENNIALS)
