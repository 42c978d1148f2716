"""The shipped catalogue. Figures are value, low, high; their source follows from the mark beside them."""

from collections.abc import Sequence

from ulmatic.core.figures import Mark, Parameter, Unit, parameter
from ulmatic.core.materials.material import Hazard, Kind, Material, Size
from ulmatic.core.materials.tissues import Tissue

Three = tuple[float, float, float]

_NRAES = "NRAES-54, On-Farm Composting Handbook, 1992"
_CORNELL = "Cornell Waste Management Institute, compost mixture calculation"
_FROM_MEMORY = {
    "nraes": _NRAES,
    "cornell": _CORNELL,
    "handling": "usual bulk densities of the compost and biomass trade",
    "fit": "Fitted to observed decay, with the scatter between places: docs/decay.md",
}
_JUDGED = {
    "density": "Usual loose density: the dry weight of a bucket",
    "moisture": "Usual moisture when delivered",
    "carbon": "Half of dry wood is carbon; less where there is ash",
    "cn": "A judgement from its parts: wood is poor in nitrogen, bark and leaves are richer",
    "settling": "Loss of depth within weeks",
    "rate": "A judgement from similar materials",
}
_BY_KIND = "By its kind and the order of practice, in the fit of docs/decay.md; no observation of this material alone."
_NAMES: dict[str, tuple[str, Unit]] = {
    "density": ("Loose dry density", "kg_m3"),
    "moisture": ("Moisture of wet mass", "1"),
    "carbon": ("Carbon of dry mass", "1"),
    "cn": ("Carbon to nitrogen", "ratio"),
    "settling": ("Settling, untrodden", "1"),
    "rate": ("Rate of decay", "factor"),
}
_WOOD: Three = (0.50, 0.47, 0.52)
_CHIPS: Three = (0.22, 0.20, 0.25)
_GREEN: Three = (0.45, 0.35, 0.55)


def _parameter(key: str, what: str, three: Three, source: str | None) -> Parameter:
    name, unit = _NAMES[what]
    value, low, high = three
    if source == "kind":
        text, mark = _BY_KIND, Mark.COMMON_PRACTICE
    elif source is None:
        text, mark = f"{_JUDGED[what]}; no published source.", Mark.COMMON_PRACTICE
    else:
        text, mark = f"{_FROM_MEMORY[source]}; from memory.", Mark.FROM_MEMORY
    return parameter(f"materials.{key}.{what}", name, value, unit, low, high, mark, text)


def _material(
    key: str,
    name: str,
    kind: Kind,
    size: Size,
    tissues: Sequence[tuple[Tissue, float]],
    *,
    density: Three,
    moisture: Three = _GREEN,
    carbon: Three = _WOOD,
    cn: Three,
    settling: Three = _CHIPS,
    rate: Three,
    what: str,
    hazards: tuple[Hazard, ...] = (),
    conifer: bool = False,
    sources: dict[str, str] | None = None,
) -> Material:
    figures = {"density": density, "moisture": moisture, "carbon": carbon, "cn": cn, "settling": settling, "rate": rate}
    parameters = {field: _parameter(key, field, three, (sources or {}).get(field)) for field, three in figures.items()}
    return Material(
        key=key, name=name, kind=kind, size=size, what=what, tissues=tuple(tissues), hazards=hazards, conifer=conifer,
        **parameters,
    )  # fmt: skip


_STEM, _CONIFER, _BARK, _LEAF, _NEEDLE = (
    Tissue.STEM_BROADLEAF, Tissue.STEM_CONIFER, Tissue.BARK, Tissue.LEAF, Tissue.NEEDLE,
)  # fmt: skip

_ALL = (
    _material(
        "arborist_leafy", "Arborist chips, leafy", Kind.WOOD_CHIPS, Size.MIXED,
        [(_STEM, 0.55), (_BARK, 0.20), (_LEAF, 0.25)],
        density=(180, 140, 240), cn=(100, 60, 150), rate=(0.54, 0.35, 0.85), sources={"rate": "fit"},
        what="Twigs, leaves and wood of broadleaf trees in leaf, as it comes out of a chipper.",
    ),
    _material(
        "arborist_much_leaf", "Arborist chips, much leaf", Kind.WOOD_CHIPS, Size.MIXED,
        [(_STEM, 0.45), (_BARK, 0.17), (_LEAF, 0.38)],
        density=(170, 120, 230), moisture=(0.50, 0.40, 0.60), cn=(70, 40, 110), rate=(0.71, 0.41, 1.3),
        sources={"rate": "fit"},
        what="Summer cuttings of oak and the like, more leaf and twig than wood.",
    ),
    _material(
        "arborist_bare", "Arborist chips, no leaf", Kind.WOOD_CHIPS, Size.MIXED, [(_STEM, 0.77), (_BARK, 0.23)],
        density=(190, 150, 240), cn=(250, 120, 450), rate=(0.48, 0.27, 0.86), sources={"rate": "fit"},
        what="Winter cuttings of broadleaf trees: twigs, bark and wood.",
    ),
    _material(
        "conifer_needles", "Conifer chips with needles", Kind.WOOD_CHIPS, Size.MIXED,
        [(_CONIFER, 0.55), (_BARK, 0.20), (_NEEDLE, 0.25)],
        density=(170, 130, 220), cn=(150, 80, 300), rate=(0.48, 0.28, 0.83), sources={"rate": "fit"}, conifer=True,
        what="Hedge and tree cuttings with green needles.",
    ),
    _material(
        "conifer_bare", "Conifer chips, resinous, no needles", Kind.WOOD_CHIPS, Size.MIXED,
        [(_CONIFER, 0.80), (_BARK, 0.20)],
        density=(180, 140, 230), cn=(641, 212, 1313), rate=(0.3, 0.17, 0.53), conifer=True,
        sources={"rate": "fit", "cn": "nraes"},
        what="Pine or spruce stems; resin slows decay.",
    ),
    _material(
        "palm", "Palm chips", Kind.WOOD_CHIPS, Size.FIBROUS, [(Tissue.PALM, 1.0)],
        density=(120, 90, 160), moisture=(0.55, 0.45, 0.65), cn=(100, 50, 150), rate=(1.6, 0.9, 2.8),
        sources={"rate": "fit"},
        what="Fronds and trunk: fibrous; the fastest of all chips to decay in warm, wet places.",
    ),
    _material(
        "eucalyptus", "Eucalyptus chips", Kind.WOOD_CHIPS, Size.MIXED, [(_STEM, 0.65), (_BARK, 0.20), (_LEAF, 0.15)],
        density=(200, 150, 260), cn=(250, 120, 450), rate=(0.37, 0.22, 0.64), sources={"rate": "fit"},
        what="Dense and oily; some keep it off seedlings.",
    ),
    _material(
        "walnut", "Walnut chips", Kind.WOOD_CHIPS, Size.MIXED, [(_STEM, 0.60), (_BARK, 0.20), (_LEAF, 0.20)],
        density=(190, 150, 240), cn=(120, 70, 250), rate=(0.59, 0.33, 1.1),
        sources={"rate": "kind"}, hazards=(Hazard.JUGLONE,),
        what="Contains juglone, which harms mostly seedlings and disappears after some years of decay.",
    ),
    _material(
        "ramial", "Branch-wood chips", Kind.WOOD_CHIPS, Size.SHREDDED, [(_STEM, 0.65), (_BARK, 0.35)],
        density=(200, 150, 250), moisture=(0.48, 0.40, 0.55), cn=(90, 50, 170), rate=(0.61, 0.37, 1),
        sources={"rate": "fit"},
        what="Thin live branches up to about 7 cm, richer in bark and buds than stem wood.",
    ),
    _material(
        "clean_coarse", "Clean wood chips, coarse", Kind.WOOD_CHIPS, Size.COARSE, [(_STEM, 1.0)],
        density=(170, 140, 210), moisture=(0.35, 0.20, 0.50), cn=(560, 451, 819), rate=(0.39, 0.24, 0.63),
        sources={"rate": "fit", "cn": "nraes"},
        what="Stem wood without bark or leaves; drains and lasts, the usual choice for paths.",
    ),
    _material(
        "heartwood", "Heartwood chips, coarse", Kind.WOOD_CHIPS, Size.COARSE, [(_STEM, 1.0)],
        density=(210, 170, 260), moisture=(0.30, 0.20, 0.45), cn=(600, 450, 900), rate=(0.19, 0.11, 0.33),
        sources={"rate": "fit"},
        what="The slowest wood to decay; used on paths.",
    ),
    _material(
        "dyed", "Dyed wood chips", Kind.WOOD_CHIPS, Size.SHREDDED, [(_STEM, 1.0)],
        density=(180, 140, 230), moisture=(0.25, 0.15, 0.40), cn=(560, 400, 819), rate=(0.39, 0.21, 0.7),
        sources={"rate": "kind"},
        hazards=(Hazard.DYE,), what="Coloured scrap wood; the dye fades within a season or two.",
    ),
    _material(
        "bark_shredded", "Shredded bark", Kind.BARK, Size.SHREDDED, [(_BARK, 0.95), (_STEM, 0.05)],
        density=(200, 150, 260), moisture=(0.50, 0.40, 0.60), cn=(223, 116, 436), settling=(0.25, 0.20, 0.30),
        rate=(0.49, 0.28, 0.87), sources={"rate": "fit", "cn": "nraes"},
        what="Long fibres that interlock, so that it stays on slopes.",
    ),
    _material(
        "bark_conifer", "Shredded conifer bark", Kind.BARK, Size.SHREDDED, [(_BARK, 1.0)],
        density=(190, 140, 250), moisture=(0.50, 0.40, 0.60), cn=(496, 131, 1285), settling=(0.25, 0.20, 0.30),
        rate=(0.42, 0.22, 0.8), conifer=True,
        sources={"rate": "kind", "cn": "nraes"}, what="Of pine or spruce; a little slower than other shredded bark.",
    ),
    _material(
        "bark_nuggets", "Bark nuggets", Kind.BARK, Size.NUGGETS, [(_BARK, 1.0)],
        density=(180, 140, 220), moisture=(0.40, 0.25, 0.55), cn=(496, 131, 1285), settling=(0.12, 0.08, 0.20),
        rate=(0.26, 0.15, 0.44), conifer=True, hazards=(Hazard.BLOWS,), sources={"rate": "fit", "cn": "nraes"},
        what="Rounded pieces that float and roll; slow to decay.",
    ),
    _material(
        "sawdust", "Sawdust", Kind.SAWDUST, Size.FINE, [(_CONIFER, 0.5), (_STEM, 0.5)],
        density=(160, 120, 220), moisture=(0.40, 0.20, 0.60), cn=(442, 200, 750), settling=(0.20, 0.15, 0.30),
        rate=(0.54, 0.3, 0.99), sources={"rate": "kind", "cn": "nraes"}, hazards=(Hazard.MATS,),
        what="Packs; deeper than about 12 mm it sheds water.",
    ),
    _material(
        "straw", "Straw", Kind.STRAW, Size.FIBROUS, [(Tissue.STRAW, 1.0)],
        density=(60, 40, 100), moisture=(0.12, 0.08, 0.20), carbon=(0.45, 0.42, 0.48), cn=(80, 48, 150),
        settling=(0.40, 0.30, 0.50), rate=(2.2, 1.4, 3.5), sources={"rate": "fit", "cn": "nraes"},
        hazards=(Hazard.HERBICIDE, Hazard.WEED_SEED, Hazard.BLOWS),
        what="Light and clean round vegetables; decays in one season.",
    ),
    _material(
        "hay", "Old hay", Kind.STRAW, Size.FIBROUS, [(Tissue.STRAW, 0.6), (Tissue.GRASS, 0.4)],
        density=(70, 45, 110), moisture=(0.15, 0.08, 0.30), carbon=(0.45, 0.42, 0.48), cn=(25, 15, 32),
        settling=(0.45, 0.35, 0.55), rate=(2.8, 1.6, 5),
        sources={"rate": "kind"}, hazards=(Hazard.HERBICIDE, Hazard.WEED_SEED),
        what="Feeds more than straw, but brings seed.",
    ),
    _material(
        "leaves_whole", "Leaves, whole", Kind.LEAVES, Size.FIBROUS, [(_LEAF, 1.0)],
        density=(40, 25, 70), moisture=(0.35, 0.20, 0.55), cn=(54, 40, 80), settling=(0.60, 0.50, 0.80),
        rate=(1.5, 0.85, 2.5), sources={"rate": "fit", "cn": "nraes", "moisture": "cornell", "carbon": "cornell"},
        hazards=(Hazard.MATS, Hazard.BLOWS), what="Bulky as they fall; they take far less room once they are shredded.",
    ),
    _material(
        "leaves_shredded", "Leaves, shredded", Kind.LEAVES, Size.SHREDDED, [(_LEAF, 1.0)],
        density=(120, 80, 180), moisture=(0.40, 0.25, 0.60), cn=(54, 40, 80), settling=(0.40, 0.30, 0.50),
        rate=(1.8, 1, 3.1),
        sources={"rate": "fit", "cn": "nraes"},
        what="Cut with a mower; they pack closer and blow away less than whole leaves.",
    ),
    _material(
        "sugar_cane", "Sugar-cane mulch", Kind.STRAW, Size.FIBROUS, [(Tissue.STRAW, 1.0)],
        density=(65, 45, 100), moisture=(0.15, 0.08, 0.30), carbon=(0.45, 0.42, 0.48), cn=(90, 60, 130),
        settling=(0.40, 0.30, 0.50), rate=(2.2, 1.2, 3.8), sources={"rate": "kind"}, hazards=(Hazard.BLOWS,),
        what="Chopped leaves and tops of cane; light, even, decays in one season.",
    ),
    _material(
        "lucerne", "Lucerne mulch", Kind.STRAW, Size.FIBROUS, [(Tissue.STRAW, 0.5), (Tissue.GRASS, 0.5)],
        density=(70, 45, 110), moisture=(0.15, 0.08, 0.30), carbon=(0.45, 0.42, 0.48), cn=(16, 12, 22),
        settling=(0.45, 0.35, 0.55), rate=(3, 1.7, 5.3), sources={"rate": "kind"}, hazards=(Hazard.WEED_SEED,),
        what="Alfalfa, cut and dried; feeds as it decays, within months.",
    ),
    _material(
        "crop_residues", "Crop residues", Kind.STRAW, Size.FIBROUS, [(Tissue.STRAW, 0.7), (Tissue.GRASS, 0.3)],
        density=(60, 35, 100), moisture=(0.40, 0.15, 0.70), carbon=(0.44, 0.40, 0.48), cn=(50, 25, 80),
        settling=(0.50, 0.35, 0.60), rate=(2.3, 1.3, 4.2), sources={"rate": "kind"}, hazards=(Hazard.WEED_SEED,),
        what="Chopped stalks and vines from your own beds; leave out diseased plants.",
    ),
    _material(
        "mown_greens", "Own mown greens", Kind.GRASS, Size.FIBROUS, [(Tissue.GRASS, 0.8), (_LEAF, 0.2)],
        density=(80, 50, 120), moisture=(0.75, 0.65, 0.85), carbon=(0.45, 0.42, 0.48), cn=(20, 12, 30),
        settling=(0.60, 0.45, 0.75), rate=(3.7, 2.1, 6.7), sources={"rate": "kind"}, hazards=(Hazard.MATS,),
        what="Comfrey, clover, green manure or meadow that you cut yourself; in thin layers, often.",
    ),
    _material(
        "grass_clippings", "Grass clippings", Kind.GRASS, Size.FINE, [(Tissue.GRASS, 1.0)],
        density=(90, 60, 130), moisture=(0.77, 0.70, 0.85), carbon=(0.45, 0.42, 0.48), cn=(17, 9, 25),
        settling=(0.60, 0.45, 0.75), rate=(4.3, 2.4, 7.7),
        sources={"rate": "kind", "cn": "nraes", "moisture": "cornell", "carbon": "cornell"},
        hazards=(Hazard.MATS, Hazard.HERBICIDE), what="Wet and rich; thin layers only, or they turn slimy.",
    ),
    _material(
        "cocoa_shell", "Cocoa shell", Kind.SHELL, Size.FINE, [(Tissue.STRAW, 0.5), (_BARK, 0.5)],
        density=(150, 120, 190), moisture=(0.10, 0.05, 0.15), carbon=(0.46, 0.42, 0.50), cn=(22, 15, 30),
        settling=(0.25, 0.15, 0.35), rate=(2.2, 1.3, 4),
        sources={"rate": "kind"}, hazards=(Hazard.THEOBROMINE, Hazard.BLOWS),
        what="Poisonous to dogs: it contains theobromine and smells of food.",
    ),
    _material(
        "compost", "Compost, ripe", Kind.COMPOST, Size.FINE, [(Tissue.ROTTED, 1.0)],
        density=(350, 280, 450), moisture=(0.45, 0.35, 0.55), carbon=(0.25, 0.15, 0.35), cn=(15, 10, 20),
        settling=(0.20, 0.15, 0.30), rate=(0.6, 0.4, 0.9), sources={"density": "handling"},
        what="Lies under chips and feeds the contact zone.",
    ),
    _material(
        "manure_cattle", "Cattle manure", Kind.MANURE, Size.FIBROUS, [(Tissue.DUNG, 0.8), (Tissue.STRAW, 0.2)],
        density=(180, 130, 250), moisture=(0.75, 0.65, 0.85), carbon=(0.40, 0.32, 0.45), cn=(19, 11, 30),
        settling=(0.30, 0.20, 0.40), rate=(2.0, 1.4, 2.8), sources={"cn": "nraes"},
        hazards=(Hazard.RAW_MANURE, Hazard.WEED_SEED, Hazard.HERBICIDE), what="With its straw, stacked or fresh.",
    ),
    _material(
        "litter_broiler", "Poultry litter", Kind.MANURE, Size.FINE, [(Tissue.DUNG, 0.6), (_CONIFER, 0.4)],
        density=(330, 260, 420), moisture=(0.37, 0.22, 0.46), carbon=(0.38, 0.30, 0.44), cn=(14, 12, 15),
        settling=(0.20, 0.15, 0.30), rate=(2.5, 1.8, 3.4), sources={"cn": "nraes"},
        hazards=(Hazard.RAW_MANURE,), what="Very rich in nitrogen: a thin dressing, never a mulch.",
    ),
    _material(
        "biochar", "Biochar", Kind.BIOCHAR, Size.FINE, [(Tissue.CHAR, 1.0)],
        density=(150, 100, 250), moisture=(0.25, 0.10, 0.40), carbon=(0.75, 0.60, 0.90), cn=(200, 50, 400),
        settling=(0.15, 0.05, 0.25), rate=(0.02, 0.01, 0.05),
        what="Hardly decays; charge it with compost or liquid feed before laying.",
    ),
    _material(
        "cardboard", "Cardboard, plain", Kind.SHEET, Size.SHEET, [(Tissue.PAPER, 1.0)],
        density=(130, 100, 170), moisture=(0.08, 0.05, 0.12), carbon=(0.44, 0.40, 0.47), cn=(563, 200, 800),
        settling=(0.0, 0.0, 0.1), rate=(1.2, 0.8, 1.8), sources={"cn": "nraes"},
        what="Smothers grass until it has decayed; without tape and glossy print.",
    ),
)  # fmt: skip

CATALOGUE: dict[str, Material] = {material.key: material for material in _ALL}
"""Materials by key."""

USUAL_MATERIAL = "arborist_leafy"
"""What is laid where nothing else is said: what a chipping crew most often brings."""
