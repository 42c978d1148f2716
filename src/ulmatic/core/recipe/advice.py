"""Advice on a recipe: what goes wrong with it, why, who says so, and what to change."""

from collections.abc import Callable, Iterable
from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from ulmatic.core.materials import Hazard, Kind, Material, Size, Stage
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import Practice
from ulmatic.core.recipe.proposal import BEDS, PLANTED, TREES, LayerRole, Recipe
from ulmatic.core.survey import Cover
from ulmatic.core.survey.uses import Use
from ulmatic.core.working import Mark, Source


class Severity(StrEnum):
    """How much it matters: stop (do not do this), act (change it), watch (keep an eye on it), note (good to know)."""

    STOP = "stop"
    ACT = "act"
    WATCH = "watch"
    NOTE = "note"


class Fix(BaseModel):
    """A change that answers the advice: the recipe field and its new value, as it would be typed."""

    model_config = ConfigDict(frozen=True)
    field: str
    value: str | bool
    label: str


class Advice(BaseModel):
    """One piece of advice.

    `says`, `because` and `change` may hold lengths and depths as ``{75 mm}`` or ``{0.3 m}``, to be shown in the
    reader's units.
    """

    model_config = ConfigDict(frozen=True)
    rule: str
    severity: Severity
    says: str
    because: str
    change: str
    school: str | None
    source: Source
    fix: Fix | None


class Case(BaseModel):
    """What rules look at: the plot, its recipe, and what the site knows."""

    model_config = ConfigDict(frozen=True)
    plot: PlannedPlot
    recipe: Recipe
    material: Material
    stage: Stage
    fire_district: bool = False

    @property
    def practice(self) -> Practice:
        """The practice here."""
        return self.recipe.practice

    @property
    def use(self) -> Use:
        """The plot's use."""
        return self.plot.use

    @property
    def laid_mm(self) -> float:
        """Depth of mulch that is laid now."""
        return sum(layer.settled_mm for layer in self.recipe.layers if layer.role is LayerRole.MULCH)

    @property
    def lays(self) -> bool:
        """Whether anything is laid."""
        return self.laid_mm > 0

    @property
    def slope_deg(self) -> float:
        """The plot's slope."""
        return self.plot.slope.angle_deg if self.plot.slope else 0.0

    def has(self, role: LayerRole) -> bool:
        """Whether the recipe has a layer of that role."""
        return any(layer.role is role for layer in self.recipe.layers)

    def brings(self, hazard: Hazard) -> bool:
        """Whether the mulch may bring that."""
        return self.lays and hazard in self.material.hazards

    def near_building(self, metres: float) -> bool:
        """Whether a building is known to be nearer than that."""
        away = self.plot.found.to_building_m
        return away is not None and away < metres


Test = Callable[[Case], bool]


class Rule(BaseModel):
    """A rule: when it fires, and what it then says."""

    model_config = ConfigDict(frozen=True, arbitrary_types_allowed=True)
    key: str
    severity: Severity
    when: Test
    says: str
    because: str
    change: str
    source: Source
    school: str | None = None
    fix: Fix | None = None


_PRACTICE = Source(mark=Mark.COMMON_PRACTICE, text="Common practice, no published source.")


def _from_memory(text: str) -> Source:
    return Source(mark=Mark.FROM_MEMORY, text=f"{text}; from memory.")


_RULES: list[Rule] = []


def _rule(
    severity: Severity, key: str, says: str, because: str, change: str, *,
    source: Source = _PRACTICE, school: str | None = None, fix: Fix | None = None,
) -> Callable[[Test], Test]:  # fmt: skip
    def keep(when: Test) -> Test:
        _RULES.append(
            Rule(
                key=key, severity=severity, when=when, says=says, because=because, change=change, source=source,
                school=school, fix=fix,
            )
        )  # fmt: skip
        return when

    return keep


def _fix(field: str, value: str | bool, label: str) -> Fix:
    return Fix(field=field, value=value, label=label)


STOP, ACT, WATCH, NOTE = Severity.STOP, Severity.ACT, Severity.WATCH, Severity.NOTE
_SHREDDED = _fix("material", "bark_shredded", "Use shredded bark")
_CARDBOARD = _fix("cardboard", True, "Lay cardboard first")


# On slopes.


@_rule(ACT, "slope_slides", "This slides on the slope.", "Chips and nuggets float and roll downhill in the first heavy rain.",
       "Lay shredded material, which knits together.", fix=_SHREDDED)  # fmt: skip
def _slides(case: Case) -> bool:
    loose = case.material.size in (Size.COARSE, Size.MIXED, Size.NUGGETS)
    return case.lays and 14 <= case.slope_deg < 27 and loose


@_rule(WATCH, "slope_edging", "Set edging across the fall.", "Even shredded material creeps on a slope of 1 in 4 or more.",
       "Timber or logs on the level lines, staked. Ask for buried services before you drive stakes.")  # fmt: skip
def _edging(case: Case) -> bool:
    return case.lays and 14 <= case.slope_deg < 27


@_rule(STOP, "slope_too_steep", "Too steep for mulch.", "From about 1 in 2 on nothing loose stays.",
       "Plant it, with a woven jute net until roots hold.", fix=_fix("wanted_mm", "0", "Lay nothing here"))  # fmt: skip
def _steep(case: Case) -> bool:
    return case.lays and case.slope_deg >= 27


# The material for the job.


@_rule(STOP, "fine_too_deep", "Far too deep for fine material.", "It packs, sheds water and keeps air out above about {12 mm}.",
       "Lay {12 mm} at most, or something coarser.", fix=_fix("wanted_mm", "12 mm", "Lay 12 mm"))  # fmt: skip
def _fine(case: Case) -> bool:
    return case.material.kind is Kind.SAWDUST and case.laid_mm > 15


@_rule(ACT, "mats", "This mats into a skin.", "Wet leaves and clippings in a thick layer shed water and turn sour.",
       "Thin layers, dried first, or shredded and mixed with chips.")  # fmt: skip
def _mats(case: Case) -> bool:
    grass, leaves = case.material.kind is Kind.GRASS, case.material.key == "leaves_whole"
    return (grass and case.laid_mm > 25) or (leaves and case.laid_mm > 100)


@_rule(ACT, "manure_as_mulch", "This is a dressing, not a mulch.", "So much manure burns roots and washes into water.",
       "A thin layer beneath, and chips on top.")  # fmt: skip
def _manure_deep(case: Case) -> bool:
    return case.material.kind is Kind.MANURE and case.laid_mm > 30


@_rule(WATCH, "path_too_fine", "Soft under feet.", "Fine, leafy or fibrous material turns to mud on a path within a season.",
       "Coarse chips drain and last; heartwood lasts longest.", fix=_fix("material", "clean_coarse", "Use coarse chips"))  # fmt: skip
def _soft_path(case: Case) -> bool:
    soft = case.material.size in (Size.FINE, Size.FIBROUS) or case.material.key == "arborist_much_leaf"
    return case.lays and case.use in (Use.FOOT_PATH, Use.VEHICLE_PATH) and soft


@_rule(NOTE, "path_coarse_lasts", "Coarse chips last longer here.", "Mixed arborist chips do on a path, and are refilled sooner.",
       "Keep the coarsest load for paths; what has rotted is dug out as compost.")  # fmt: skip
def _mixed_path(case: Case) -> bool:
    return case.lays and case.use in (Use.FOOT_PATH, Use.VEHICLE_PATH) and case.material.size is Size.MIXED


@_rule(WATCH, "path_thin", "Thin for feet and wheels.", "Under {75 mm} mud works through.",
       "{100 mm} on foot paths, {200 mm} under wheels.")  # fmt: skip
def _thin_path(case: Case) -> bool:
    paths = {Use.FOOT_PATH: 75, Use.VEHICLE_PATH: 150}
    return case.lays and case.recipe.target_mm < paths.get(case.use, 0)


@_rule(NOTE, "blows", "Light: it blows about.", "Nuggets, straw, shells and dry leaves leave with the first storm.",
       "Wet it in, or cover it with a little of something heavier.")  # fmt: skip
def _blows(case: Case) -> bool:
    return case.brings(Hazard.BLOWS)


@_rule(NOTE, "dye_fades", "The colour fades.", "Dyed wood looks tired within a season or two and is re-covered sooner.",
       "Plan to top up for looks, or take undyed chips.")  # fmt: skip
def _dye(case: Case) -> bool:
    return case.brings(Hazard.DYE)


# Trunks, stems, crowns.


@_rule(STOP, "trunk_gap", "Too close to the trunk.", "Bark kept wet rots, and mice gnaw under cover.",
       "Keep at least {0.1 m} clear, root flare and graft union in sight.", fix=_fix("gap_m", "0.1 m", "Widen the gap"))  # fmt: skip
def _gap(case: Case) -> bool:
    gap = case.recipe.gap_m
    return case.recipe.target_mm > 0 and gap is not None and gap < 0.0999


@_rule(ACT, "fresh_near_trunk", "Fresh chips too near the trunk.", "Fresh leafy chips heat as they start to rot.",
       "Keep {0.3 m} clear while they are fresh.", fix=_fix("gap_m", "0.3 m", "Widen the gap"))  # fmt: skip
def _fresh_gap(case: Case) -> bool:
    gap = case.recipe.gap_m
    return (
        case.lays and case.stage is Stage.FRESH and case.material.woody and gap is not None and 0.0999 <= gap < 0.2999
    )


@_rule(ACT, "deep_round_annuals", "Deep round annuals.", "Over {100 mm} round small plants they stay cold and get buried.",
       "{75 mm} to {100 mm} round growing plants; more only between crops.", fix=_fix("wanted_mm", "90 mm", "Lay 90 mm"))  # fmt: skip
def _annuals(case: Case) -> bool:
    return case.use is Use.VEGETABLES and case.recipe.target_mm > 105


@_rule(WATCH, "deep_on_perennials", "Deep for perennials.", "Crowns rot and self-sown seedlings drown above about {100 mm}.",
       "{75 mm} is usual; pull it back from crowns.")  # fmt: skip
def _perennials(case: Case) -> bool:
    building = case.plot.found.soil == "clay" and case.plot.found.compacted
    return case.use is Use.PERENNIALS and case.recipe.target_mm > 105 and not building


@_rule(NOTE, "crowns_clear", "Keep stems and crowns clear.", "What is covered stays wet; tomatoes are the usual exception.",
       "Pull it back a hand’s breadth.")  # fmt: skip
def _crowns(case: Case) -> bool:
    return case.lays and case.use in BEDS


@_rule(NOTE, "bark_disease", "Keep chips of felled trees off trunks.", "Disease is rarely carried by chips, and hardly ever without touch.",
       "Where a quarantine holds for felled trees, follow its rules.")  # fmt: skip
def _disease(case: Case) -> bool:
    return case.lays and case.use in TREES and case.material.key.startswith("arborist")


# Seeds, bulbs, vegetables.


@_rule(STOP, "seedbed_covered", "Nothing comes up through this.", "Seeds need light ground; a seedbed is kept bare until it is up.",
       "Lay nothing now; bring chips back when plants stand.", fix=_fix("wanted_mm", "0", "Lay nothing here"))  # fmt: skip
def _seedbed(case: Case) -> bool:
    return case.use is Use.SEEDBED and case.lays


@_rule(WATCH, "bulbs_covered", "Bulbs and alliums under cover.", "Shoots bend round chips, and garlic rots in a wet winter.",
       "Wait until they are up; some keep garlic bare for good.", school="bare for good · once they are up")  # fmt: skip
def _bulbs(case: Case) -> bool:
    return case.use is Use.BULBS and case.lays


@_rule(ACT, "fresh_on_vegetables", "Fresh chips on vegetables.", "Your practice keeps raw chips for trees and paths: seedlings root where they touch.",
       "Use chips that have aged some months.", school="aged for vegetables only", fix=_fix("stage", "aged", "Use aged chips"))  # fmt: skip
def _fresh_vegetables(case: Case) -> bool:
    raw = case.lays and case.material.chips and case.stage is Stage.FRESH
    return raw and case.use is Use.VEGETABLES and case.practice.freshness == "aged_for_vegetables"


@_rule(ACT, "fresh_at_all", "Your practice ages chips first.", "Heat and tannins are gone after some months in a heap.",
       "Pile this load and use an older one.", school="age it first", fix=_fix("stage", "aged", "Use aged chips"))  # fmt: skip
def _fresh_anywhere(case: Case) -> bool:
    planted = case.use in PLANTED
    return (
        case.lays
        and case.material.chips
        and case.stage is Stage.FRESH
        and planted
        and case.practice.freshness == "age_first"
    )


@_rule(NOTE, "plant_in_soil", "Plant and sow into soil, not into chips.", "Chips that are not rotted dry out round roots.",
       "Pull back to bare soil, plant, and return {75 mm} when plants stand.", school="only in the soil below")  # fmt: skip
def _plant_below(case: Case) -> bool:
    return case.lays and case.use is Use.VEGETABLES and case.practice.planting == "soil_below"


@_rule(WATCH, "herbicide", "May carry weedkiller.", "Broadleaf herbicide in straw, hay and manure survives for months and cripples beans and tomatoes.",
       "Grow beans in a pot of it first, or ask for a written word on spraying.")  # fmt: skip
def _herbicide(case: Case) -> bool:
    return case.brings(Hazard.HERBICIDE) and case.use in BEDS


@_rule(WATCH, "weed_seed", "May bring weed seed.", "Hay, manure and council heaps carry seed.",
       "Lay it beneath something clean, or heat it through in a heap first.")  # fmt: skip
def _seed(case: Case) -> bool:
    return case.brings(Hazard.WEED_SEED)


@_rule(ACT, "raw_manure_on_food", "Raw manure on food.", "Germs need time to die.",
       "Leave 120 days to harvest where the crop touches soil, 90 where it does not; follow your local rules.",
       source=_from_memory("US National Organic Program, 7 CFR 205.203"))  # fmt: skip
def _raw_manure(case: Case) -> bool:
    return case.brings(Hazard.RAW_MANURE) and case.use is Use.VEGETABLES


@_rule(ACT, "walnut_seedlings", "Walnut harms seedlings.", "Juglone checks tomatoes, potatoes and many seedlings while it is fresh.",
       "Keep it for paths and old trees, or let it rot for some years.", school="avoid walnut, eucalyptus",
       fix=_fix("material", "arborist_leafy", "Use other chips"))  # fmt: skip
def _walnut_beds(case: Case) -> bool:
    sown = case.use in (Use.VEGETABLES, Use.SEEDBED) or len(case.plot.recipe.hold_backs) > 0
    return case.brings(Hazard.JUGLONE) and sown


@_rule(NOTE, "walnut_elsewhere", "Walnut does little harm here.", "Juglone matters mostly to seedlings and is gone after years of rot.",
       "Keep it off places where you sow.", school="any chip is fine")  # fmt: skip
def _walnut(case: Case) -> bool:
    return case.brings(Hazard.JUGLONE) and not _walnut_beds(case)


@_rule(NOTE, "eucalyptus_seedlings", "Some keep eucalyptus off seedlings.", "Its oils are gone after some weeks in the open.",
       "Age it, or use it round trees.", school="avoid walnut, eucalyptus · any chip is fine")  # fmt: skip
def _eucalyptus(case: Case) -> bool:
    return case.lays and case.material.key == "eucalyptus" and case.use in (Use.VEGETABLES, Use.PERENNIALS)


# Nitrogen.


@_rule(STOP, "dug_in", "Never dig it in.", "Mixed into soil all of it draws nitrogen at once, and the bed starves for a season.",
       "Leave it on top. If it has happened, give nitrogen and wait.",
       source=_from_memory("Incorporation trials, USDA Technical Bulletin 1332, Allison 1965"),
       fix=_fix("dug_in", False, "Leave it on top"))  # fmt: skip
def _dug_in(case: Case) -> bool:
    return case.plot.recipe.dug_in and case.lays and case.material.cn.value > 30


@_rule(WATCH, "nitrogen_cautious", "Watch for pale leaves.", "Your practice expects raw chips to draw nitrogen, and nothing lies beneath them.",
       "{25 mm} of compost beneath makes it up.", school="they rob the bed", fix=_fix("compost_mm", "25 mm", "Lay compost beneath"))  # fmt: skip
def _cautious(case: Case) -> bool:
    poor = case.lays and case.material.cn.value > 60 and case.stage in (Stage.FRESH, Stage.AGEING)
    return poor and case.use in BEDS and case.practice.nitrogen == "cautious" and not case.has(LayerRole.COMPOST)


@_rule(NOTE, "nitrogen_touch", "Nitrogen is drawn only where chips touch soil.", "A few millimetres draw a little; roots below do not notice, seedlings may.",
       "Keep them on top, and sown rows bare.", school="only where they touch")  # fmt: skip
def _touch(case: Case) -> bool:
    poor = case.lays and case.material.cn.value > 60
    return poor and case.use in BEDS and case.practice.nitrogen == "where_it_touches"


@_rule(WATCH, "biochar_raw", "Charge the biochar first.", "Raw char takes up nitrogen before it gives any.",
       "Mix it with compost or soak it in liquid feed for some weeks.")  # fmt: skip
def _biochar(case: Case) -> bool:
    return case.has(LayerRole.BIOCHAR) and not case.has(LayerRole.COMPOST)


@_rule(WATCH, "feed_near_water", "Compost or manure near water.", "What washes out feeds the water instead.",
       "Keep your local distance, and lay none before heavy rain.")  # fmt: skip
def _water(case: Case) -> bool:
    rich = case.has(LayerRole.COMPOST) or (case.lays and case.material.kind in (Kind.MANURE, Kind.GRASS))
    away = case.plot.found.to_water_m
    return rich and away is not None and away < 10


# What grows there, what lies there.


@_rule(ACT, "runners_thin", "Too thin for running grass.", "Runners push through anything under about {150 mm}.",
       "{200 mm} over cardboard, and again when it comes through.", fix=_fix("wanted_mm", "200 mm", "Lay 200 mm"))  # fmt: skip
def _runners_thin(case: Case) -> bool:
    return case.lays and case.plot.found.cover is Cover.RUNNING_GRASS and case.recipe.target_mm < 150


@_rule(ACT, "runners_uncovered", "Running grass without cardboard.", "Light reaches it through chips alone, and it grows on.",
       "Cardboard beneath, overlapped by {150 mm} to {200 mm}.", school="cardboard · nothing but depth", fix=_CARDBOARD)  # fmt: skip
def _runners_uncovered(case: Case) -> bool:
    return case.lays and case.plot.found.cover is Cover.RUNNING_GRASS and not case.has(LayerRole.SHEET)


@_rule(NOTE, "runners_rounds", "It takes several rounds.", "Each layer weakens running grass; none ends it at once.",
       "Top up as soon as it shows, and pull what comes at the edge.")  # fmt: skip
def _runners_rounds(case: Case) -> bool:
    return case.lays and case.plot.found.cover is Cover.RUNNING_GRASS


@_rule(WATCH, "lawn_uncovered", "Lawn without cardboard.", "It can be done with depth alone, and takes more of it.",
       "Cardboard beneath, or {200 mm} of chips.", school="cardboard · nothing but depth", fix=_CARDBOARD)  # fmt: skip
def _lawn(case: Case) -> bool:
    lawn = case.plot.found.cover is Cover.LAWN or case.use is Use.LAWN_TO_CONVERT
    return case.lays and lawn and not case.has(LayerRole.SHEET) and case.recipe.target_mm < 200


@_rule(ACT, "lawn_thin", "Too thin over lawn.", "Under about {125 mm} grass lifts the layer and grows through its seams.",
       "{150 mm} over cardboard, and again where it shows.", fix=_fix("wanted_mm", "150 mm", "Lay 150 mm"))  # fmt: skip
def _lawn_thin(case: Case) -> bool:
    lawn = case.plot.found.cover is Cover.LAWN or case.use is Use.LAWN_TO_CONVERT
    return case.lays and lawn and case.recipe.target_mm < 115


@_rule(NOTE, "cardboard_how", "Lay cardboard wet, plain and overlapped.", "Tape and gloss stay behind, and seams let runners through.",
       "Peel tape off, overlap by {150 mm} to {200 mm}, soak, then cover at once.")  # fmt: skip
def _cardboard(case: Case) -> bool:
    return case.has(LayerRole.SHEET)


@_rule(ACT, "fabric_below", "Take the old fabric off first.", "It starves the soil of what rots above, and roots grow into it.",
       "Lift it before anything is laid.", school="never fabric")  # fmt: skip
def _fabric(case: Case) -> bool:
    return case.lays and case.plot.found.cover is Cover.OLD_FABRIC


@_rule(WATCH, "weeds_through", "Weeds will come through.", "Under about {50 mm} annual weeds find light.",
       "{75 mm} holds them; pull what stands there first.")  # fmt: skip
def _weeds(case: Case) -> bool:
    thin = 0 < case.recipe.target_mm < 50
    return case.lays and thin and case.plot.found.cover is Cover.ANNUAL_WEEDS


@_rule(NOTE, "enough_there", "Enough lies there already.", "What is there covers the wanted depth.",
       "Loosen it with a rake if it sheds water; lay nothing.")  # fmt: skip
def _enough(case: Case) -> bool:
    return not case.lays and 0 < case.recipe.target_mm <= case.plot.existing().value


@_rule(ACT, "compacted_clay", "Build compacted clay up before planting.", "A thin layer on sealed clay lets water stand.",
       "{125 mm} to {150 mm}, left some months; loosen with a fork, never mixing chips in.",
       fix=_fix("wanted_mm", "125 mm", "Lay 125 mm"))  # fmt: skip
def _clay(case: Case) -> bool:
    found = case.plot.found
    clay = found.soil == "clay" and bool(found.compacted)
    return case.lays and clay and case.use is Use.PERENNIALS and case.recipe.target_mm < 115


@_rule(WATCH, "all_brown", "All brown round the tree.", "Your practice keeps a living part in each ring.",
       "Leave a quarter green.", school="keep some green", fix=_fix("laid_share", "75 %", "Keep a quarter green"))  # fmt: skip
def _brown(case: Case) -> bool:
    part = getattr(case.plot.shape, "part", 1.0) * case.recipe.laid_share
    return case.lays and case.use in TREES and part > 0.95 and case.practice.living == "keep_green"


@_rule(NOTE, "join_rings", "These rings nearly touch.", "One continuous strip saves a mower pass in every alley.",
       "Measure it as a strip along the row.", school="continuous strip")  # fmt: skip
def _join(case: Case) -> bool:
    shape = case.plot.shape
    spacing, outer = getattr(shape, "spacing_m", None), getattr(shape, "outer_radius_m", None)
    near = spacing is not None and outer is not None and 2 * outer < spacing < 2 * outer + 1.5
    return case.lays and bool(near) and case.practice.living == "continuous_strip"


# People, animals, houses.


@_rule(STOP, "cocoa_dogs", "Poisonous to dogs.", "Cocoa shell carries theobromine and smells of food.",
       "Use another material where dogs go.", source=_from_memory("Theobromine poisoning of dogs, veterinary handbooks"),
       fix=_fix("material", "arborist_leafy", "Use chips instead"))  # fmt: skip
def _cocoa(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.found.pets is True


@_rule(WATCH, "cocoa_ask", "Do dogs come here?", "Cocoa shell is poisonous to them.",
       "Note whether pets use this ground; if in doubt use something else.")  # fmt: skip
def _cocoa_ask(case: Case) -> bool:
    return case.brings(Hazard.THEOBROMINE) and case.plot.found.pets is None


@_rule(ACT, "play_surface", "Under play equipment local rules decide.", "Depth depends on the fall height, and material must be certified for it.",
       "Ask who certifies play surfaces where you are; this computes volume only.",
       source=_from_memory("US CPSC Publication 325, Public Playground Safety Handbook"))  # fmt: skip
def _play(case: Case) -> bool:
    return case.use is Use.PLAY


@_rule(ACT, "against_walls", "Keep clear of the wall.", "Mulch against walls and timber holds damp and hides termites.",
       "Leave {0.15 m} bare along the wall, and stay under the damp course; local rules go further.")  # fmt: skip
def _walls(case: Case) -> bool:
    return case.lays and case.near_building(0.15)


@_rule(ACT, "fire_near_building", "Nothing that burns beside the house.", "In a fire district embers light dry mulch, and the wall after it.",
       "Gravel or bare ground next to buildings, as far as your local fire rules say.")  # fmt: skip
def _fire(case: Case) -> bool:
    return case.lays and case.fire_district and case.near_building(1.5)


@_rule(WATCH, "fire_unknown", "How far is the next building?", "In a fire district the first metres beside a house stay free of mulch.",
       "Note the distance, and follow your local fire rules.")  # fmt: skip
def _fire_ask(case: Case) -> bool:
    return case.lays and case.fire_district and case.plot.found.to_building_m is None


@_rule(NOTE, "spores", "Old heaps smoke with spores.", "Opening a mouldy heap throws spores and dust.",
       "Damp it, wear a close mask, stay upwind. People with lung disease or weak immunity, and children, keep away.")  # fmt: skip
def _spores(case: Case) -> bool:
    return case.lays and case.material.woody and case.stage in (Stage.AGEING, Stage.AGED)


# What people say.


@_rule(NOTE, "myth_acid", "No, it does not turn the soil sour.", "Chips and needles on top do not acidify soil in a measurable way.",
       "Lime or sulphur only by a soil test.", school="any chip is fine")  # fmt: skip
def _acid(case: Case) -> bool:
    return case.lays and case.material.conifer


@_rule(NOTE, "myth_conifers", "Conifers are fine.", "They last longer than broadleaf chips; needles speed them up again.",
       "Use them like any other, longest on paths and round shrubs.", school="any chip is fine · avoid evergreens")  # fmt: skip
def _conifers(case: Case) -> bool:
    return case.lays and case.material.conifer and case.material.chips


RULES: tuple[Rule, ...] = tuple(_RULES)
"""All rules, in the order in which they are looked at."""

_WEIGHT = {STOP: 0, ACT: 1, WATCH: 2, NOTE: 3}


def advise(case: Case, rules: Iterable[Rule] = RULES) -> tuple[Advice, ...]:
    """Return the advice that fits, the gravest first."""
    fired = [rule for rule in rules if rule.when(case)]
    fired.sort(key=lambda rule: _WEIGHT[rule.severity])
    return tuple(
        Advice(
            rule=rule.key, severity=rule.severity, says=rule.says, because=rule.because, change=rule.change,
            school=rule.school, source=rule.source, fix=rule.fix,
        )
        for rule in fired
    )  # fmt: skip


def advice_table() -> str:
    """Return every rule as a Markdown table."""
    rows = ["| rule | weight | says | because | source | school |", "|---|---|---|---|---|---|"]
    rows += [
        f"| {one.key} | {one.severity.value} | {one.says} | {one.because} | {one.source.text} | {one.school or ''} |"
        for one in RULES
    ]
    return "\n".join(rows).replace("{", "").replace("}", "") + "\n"
