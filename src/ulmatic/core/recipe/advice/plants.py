"""Rules on trunks, crowns, seeds and vegetables."""

from ulmatic.core.materials import Hazard, Stage
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, from_memory, rule
from ulmatic.core.recipe.proposal import BEDS, GAPS_M, PLANTED, TREES, builds_up
from ulmatic.core.survey.uses import Use

# Trunks, stems, crowns.


@rule(STOP, "trunk_gap", "Too close to the trunk.", "Bark kept wet rots, and mice gnaw under cover.",
       "Keep at least {0.1 m} clear, root flare and graft union in sight; {0.05 m} where that is your practice.",
       fix=fix_of("gap_m", "0.1 m", "Widen the gap"))  # fmt: skip
def _gap(case: Case) -> bool:
    gap, least = case.recipe.gap_m, GAPS_M[case.practice.trunks][0]
    return case.recipe.target_mm > 0 and gap is not None and gap < least - 1e-4


@rule(ACT, "fresh_near_trunk", "Fresh chips too near the trunk.", "Fresh leafy chips heat as they start to rot.",
       "Keep {0.3 m} clear while they are fresh.", fix=fix_of("gap_m", "0.3 m", "Widen the gap"))  # fmt: skip
def _fresh_gap(case: Case) -> bool:
    gap, (least, fresh) = case.recipe.gap_m, GAPS_M[case.practice.trunks]
    return (
        case.lays
        and case.stage is Stage.FRESH
        and case.material.woody
        and gap is not None
        and least <= gap < fresh - 1e-4
    )


@rule(ACT, "deep_round_annuals", "Deep round annuals.", "Over {100 mm} round small plants they stay cold and get buried.",
       "{75 mm} to {100 mm} round growing plants; more only between crops.", fix=fix_of("growing_mm", "75 mm", "Lay {75 mm} round plants"))  # fmt: skip
def _annuals(case: Case) -> bool:
    return case.use is Use.VEGETABLES and case.recipe.growing_mm > 105 and not case.recipe.builds_up


@rule(WATCH, "deep_between_crops", "Deep between crops.", "Over {150 mm} has to be pulled far aside before anything is sown.",
       "{100 mm} to {150 mm} between crops.", fix=fix_of("wanted_mm", "125 mm", "Lay {125 mm}"))  # fmt: skip
def _between_crops(case: Case) -> bool:
    return case.use is Use.VEGETABLES and case.recipe.target_mm > 155


@rule(WATCH, "deep_on_perennials", "Deep for perennials.", "Crowns rot and self-sown seedlings drown above about {100 mm}.",
       "{75 mm} is usual; pull it back from crowns.")  # fmt: skip
def _perennials(case: Case) -> bool:
    return case.use is Use.PERENNIALS and case.recipe.target_mm > 105 and not builds_up(case.plot)


@rule(NOTE, "crowns_clear", "Keep stems and crowns clear.", "What is covered stays wet; tomatoes are the usual exception.",
       "Pull it back a hand’s breadth.")  # fmt: skip
def _crowns(case: Case) -> bool:
    return case.lays and case.use in BEDS


@rule(NOTE, "bark_disease", "Keep chips of felled trees off trunks.", "Disease is rarely carried by chips, and hardly ever without touch.",
       "Where a quarantine holds for felled trees, follow its rules.")  # fmt: skip
def _disease(case: Case) -> bool:
    return case.lays and case.use in TREES and case.material.key.startswith("arborist")


# Seeds, bulbs, vegetables.


@rule(STOP, "seedbed_covered", "Nothing comes up through this.", "Seeds need light ground; a seedbed is kept bare until it is up.",
       "Lay nothing now; bring chips back when plants stand.", fix=fix_of("wanted_mm", "0", "Lay nothing here"))  # fmt: skip
def _seedbed(case: Case) -> bool:
    return case.use is Use.SEEDBED and case.lays


@rule(WATCH, "bulbs_covered", "Bulbs and alliums under cover.", "Shoots bend round chips, and garlic rots in a wet winter.",
       "Wait until they are up; some keep garlic bare for good.", school="bare for good · once they are up")  # fmt: skip
def _bulbs(case: Case) -> bool:
    return case.use is Use.BULBS and case.lays


@rule(ACT, "fresh_on_vegetables", "Fresh chips on vegetables.", "Your practice keeps raw chips for trees and paths: seedlings root where they touch.",
       "Use chips that have aged some months.", school="aged for vegetables only", fix=fix_of("stage", "aged", "Use aged chips"))  # fmt: skip
def _fresh_vegetables(case: Case) -> bool:
    raw = case.lays and case.material.chips and case.stage is Stage.FRESH
    return raw and case.use is Use.VEGETABLES and case.practice.freshness == "aged_for_vegetables"


@rule(ACT, "fresh_at_all", "Your practice ages chips first.", "Heat and tannins are gone after some months in a heap.",
       "Pile this load and use an older one.", school="age it first", fix=fix_of("stage", "aged", "Use aged chips"))  # fmt: skip
def _fresh_anywhere(case: Case) -> bool:
    planted = case.use in PLANTED
    return (
        case.lays
        and case.material.chips
        and case.stage is Stage.FRESH
        and planted
        and case.practice.freshness == "age_first"
    )


@rule(NOTE, "plant_in_soil", "Plant and sow into soil, not into chips.", "Chips that are not rotted dry out round roots.",
       "Pull back to bare soil, plant, and return {75 mm} when plants stand.", school="only in the soil below")  # fmt: skip
def _plant_below(case: Case) -> bool:
    return case.lays and case.use is Use.VEGETABLES and case.practice.planting == "soil_below"


@rule(WATCH, "not_ripe_to_plant", "Not ripe to plant into.", "Your practice plants into chips once they are rotted; these are not yet.",
       "Plant into the soil below, or wait until a fork goes in like into cake.", school="chips too, once rotted")  # fmt: skip
def _not_ripe(case: Case) -> bool:
    unripe = case.lays and case.material.woody and case.stage is not Stage.DECOMPOSED
    return unripe and case.use in BEDS and case.practice.planting == "once_decomposed"


@rule(WATCH, "herbicide", "May carry weedkiller.", "Broadleaf herbicide in straw, hay and manure survives for months and cripples beans and tomatoes.",
       "Grow beans in a pot of it first, or ask for a written word on spraying.")  # fmt: skip
def _herbicide(case: Case) -> bool:
    return case.brings(Hazard.HERBICIDE) and case.use in BEDS


@rule(WATCH, "weed_seed", "May bring weed seed.", "Hay, manure and council heaps carry seed.",
       "Lay it beneath something clean, or heat it through in a heap first.")  # fmt: skip
def _seed(case: Case) -> bool:
    return case.brings(Hazard.WEED_SEED)


@rule(ACT, "raw_manure_on_food", "Raw manure on food.", "Germs need time to die.",
       "Leave 120 days to harvest where the crop touches soil, 90 where it does not; follow your local rules.",
       source=from_memory("US National Organic Program, 7 CFR 205.203"))  # fmt: skip
def _raw_manure(case: Case) -> bool:
    return case.brings(Hazard.RAW_MANURE) and case.use is Use.VEGETABLES


@rule(ACT, "walnut_seedlings", "Walnut harms seedlings.", "Juglone checks tomatoes, potatoes and many seedlings while it is fresh.",
       "Keep it for paths and old trees, or let it rot for some years.", school="avoid walnut, eucalyptus",
       fix=fix_of("material", "arborist_leafy", "Use other chips"))  # fmt: skip
def _walnut_beds(case: Case) -> bool:
    sown = case.use in (Use.VEGETABLES, Use.SEEDBED) or len(case.plot.recipe.hold_backs) > 0
    return case.brings(Hazard.JUGLONE) and sown and case.stage is not Stage.DECOMPOSED


@rule(NOTE, "walnut_elsewhere", "Walnut does little harm here.", "Juglone matters mostly to seedlings and is gone after years of rot.",
       "Keep it off places where you sow.", school="any chip is fine")  # fmt: skip
def _walnut(case: Case) -> bool:
    return case.brings(Hazard.JUGLONE) and not _walnut_beds(case) and case.stage is not Stage.DECOMPOSED


@rule(NOTE, "eucalyptus_seedlings", "Some keep eucalyptus off seedlings.", "Its oils are gone after some weeks in the open.",
       "Age it, or use it round trees.", school="avoid walnut, eucalyptus · any chip is fine")  # fmt: skip
def _eucalyptus(case: Case) -> bool:
    return case.lays and case.material.key == "eucalyptus" and case.use in (Use.VEGETABLES, Use.PERENNIALS)
