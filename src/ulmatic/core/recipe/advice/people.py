"""Rules on people, animals and houses, and answers to what people say."""

from ulmatic.core.materials import Hazard, Stage
from ulmatic.core.recipe.advice.model import ACT, NOTE, STOP, WATCH, Case, fix_of, from_memory, rule
from ulmatic.core.survey.uses import Use

# People, animals, houses.


@rule(
    STOP,
    "cocoa_dogs",
    "Poisonous to dogs.",
    "Cocoa shell contains theobromine and smells of food.",
    "Use another material where there are dogs.",
    source=from_memory("Theobromine poisoning of dogs, veterinary handbooks"),
    fix=fix_of("material", "arborist_leafy", "Use chips instead"),
)
def _cocoa(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.site_conditions.pets is True


@rule(
    WATCH,
    "cocoa_ask",
    "Are there dogs here?",
    "Cocoa shell is poisonous to them.",
    "Note in the site conditions whether pets use this ground. If in doubt, use another material.",
)
def _cocoa_ask(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.site_conditions.pets is None


@rule(
    ACT,
    "play_surface",
    "Under play equipment local rules decide.",
    "Depth depends on the fall height, and material must be certified for it.",
    "Ask a local certifier of play surfaces. Ulmatic calculates the volume only.",
    source=from_memory("US CPSC Publication 325, Public Playground Safety Handbook"),
)
def _play(case: Case) -> bool:
    return case.use is Use.PLAY


@rule(
    NOTE,
    "children_here",
    "Children use this ground: check the load.",
    "Mixed loads may contain wire, thorns, treated wood and toxic prunings.",
    "Use only untreated wood, and pick out sharp pieces.",
)
def _children(case: Case) -> bool:
    return case.lays and case.plot.site_conditions.children is True and case.material.woody


@rule(
    ACT,
    "against_walls",
    "Keep mulch away from the wall.",
    "Mulch against walls and timber keeps them damp and hides termites.",
    "Leave {0.15 m} bare along the wall and stay below the damp course. Local rules may require more.",
)
def _walls(case: Case) -> bool:
    return case.lays and case.near_building(0.15)


@rule(
    ACT,
    "fire_near_building",
    "Nothing that burns next to the house.",
    "In a fire district embers ignite dry mulch and then the wall.",
    "Use gravel or bare ground next to buildings, as far as local fire rules require.",
)
def _fire(case: Case) -> bool:
    return case.lays and case.fire_district and case.near_building(1.5)


@rule(
    WATCH,
    "fire_unknown",
    "How far is the next building?",
    "In a fire district the first metres next to a house stay free of mulch.",
    "Note the distance, and follow your local fire rules.",
)
def _fire_ask(case: Case) -> bool:
    return case.lays and case.fire_district and case.plot.site_conditions.to_building_m is None


@rule(
    NOTE,
    "spores",
    "Old piles release spores.",
    "Opening a mouldy pile releases spores and dust.",
    "Dampen it, wear a close-fitting mask, stay upwind. Children and people with lung disease or weak immunity keep away.",
)
def _spores(case: Case) -> bool:
    return case.lays and case.material.woody and case.stage in (Stage.AGEING, Stage.AGED)


# What people say.


@rule(
    NOTE,
    "myth_acid",
    "Chips do not make the soil acid.",
    "Chips and needles on the surface do not acidify soil measurably.",
    "Use lime or sulphur only after a soil test.",
    school="any chips",
)
def _acid(case: Case) -> bool:
    return case.lays and case.material.conifer


@rule(
    NOTE,
    "myth_conifers",
    "Conifer chips are suitable.",
    "They last longer than broadleaf chips; needles decay faster.",
    "Use them like other chips; they last well on paths and round shrubs.",
    school="any chips · avoid evergreens",
)
def _conifers(case: Case) -> bool:
    return case.lays and case.material.conifer and case.material.chips
