"""Rules on people, animals and houses, and answers to what people say."""

from ulmatic.core.materials import Hazard, Stage
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, from_memory, rule
from ulmatic.core.survey.uses import Use

# People, animals, houses.


@rule(STOP, "cocoa_dogs", "Poisonous to dogs.", "Cocoa shell carries theobromine and smells of food.",
       "Use another material where dogs go.", source=from_memory("Theobromine poisoning of dogs, veterinary handbooks"),
       fix=fix_of("material", "arborist_leafy", "Use chips instead"))  # fmt: skip
def _cocoa(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.found.pets is True


@rule(WATCH, "cocoa_ask", "Do dogs come here?", "Cocoa shell is poisonous to them.",
       "Note whether pets use this ground; if in doubt use something else.")  # fmt: skip
def _cocoa_ask(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.found.pets is None


@rule(ACT, "play_surface", "Under play equipment local rules decide.", "Depth depends on the fall height, and material must be certified for it.",
       "Ask who certifies play surfaces where you are; this computes volume only.",
       source=from_memory("US CPSC Publication 325, Public Playground Safety Handbook"))  # fmt: skip
def _play(case: Case) -> bool:
    return case.use is Use.PLAY


@rule(NOTE, "children_here", "Children come here: look through the load.", "Wire, thorns, treated wood and toxic prunings come with mixed loads.",
       "Take only untreated wood, and pick out what pricks before you leave the bed.")  # fmt: skip
def _children(case: Case) -> bool:
    return case.lays and case.plot.found.children is True and case.material.woody


@rule(ACT, "against_walls", "Keep clear of the wall.", "Mulch against walls and timber holds damp and hides termites.",
       "Leave {0.15 m} bare along the wall, and stay under the damp course; local rules go further.")  # fmt: skip
def _walls(case: Case) -> bool:
    return case.lays and case.near_building(0.15)


@rule(ACT, "fire_near_building", "Nothing that burns beside the house.", "In a fire district embers light dry mulch, and the wall after it.",
       "Gravel or bare ground next to buildings, as far as your local fire rules say.")  # fmt: skip
def _fire(case: Case) -> bool:
    return case.lays and case.fire_district and case.near_building(1.5)


@rule(WATCH, "fire_unknown", "How far is the next building?", "In a fire district the first metres beside a house stay free of mulch.",
       "Note the distance, and follow your local fire rules.")  # fmt: skip
def _fire_ask(case: Case) -> bool:
    return case.lays and case.fire_district and case.plot.found.to_building_m is None


@rule(NOTE, "spores", "Old heaps smoke with spores.", "Opening a mouldy heap throws spores and dust.",
       "Damp it, wear a close mask, stay upwind. People with lung disease or weak immunity, and children, keep away.")  # fmt: skip
def _spores(case: Case) -> bool:
    return case.lays and case.material.woody and case.stage in (Stage.AGEING, Stage.AGED)


# What people say.


@rule(NOTE, "myth_acid", "No, it does not turn the soil sour.", "Chips and needles on top do not acidify soil in a measurable way.",
       "Lime or sulphur only by a soil test.", school="any chip is fine")  # fmt: skip
def _acid(case: Case) -> bool:
    return case.lays and case.material.conifer


@rule(NOTE, "myth_conifers", "Conifers are fine.", "They last longer than broadleaf chips; needles speed them up again.",
       "Use them like any other, longest on paths and round shrubs.", school="any chip is fine · avoid evergreens")  # fmt: skip
def _conifers(case: Case) -> bool:
    return case.lays and case.material.conifer and case.material.chips
