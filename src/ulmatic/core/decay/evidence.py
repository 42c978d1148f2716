"""What was seen of decay: observations to which the rate factors are fitted, each with spread, source and trust."""

import math
from enum import StrEnum
from functools import cached_property
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ulmatic.core.climate import Normals
from ulmatic.core.decay.yasso import climate_factor
from ulmatic.core.figures import Mark, Source
from ulmatic.core.materials import CATALOGUE, FRACTIONS, Tissue


class Trust(StrEnum):
    """How far a row is trusted; the less, the wider its spread is taken."""

    HIGH = "high"
    MEDIUM = "medium"
    LOW = "low"
    ANECDOTE = "anecdote"


WIDENED = {Trust.HIGH: 1.0, Trust.MEDIUM: 1.0, Trust.LOW: 1.5, Trust.ANECDOTE: 2.0}
"""By what the spread of a row is multiplied: a judgement, no source."""


class EvidencePlace(BaseModel):
    """A climate: yearly mean and swing of the monthly means in °C, rain in mm a year; July is warmest."""

    model_config = ConfigDict(frozen=True)
    name: str
    mean_c: float
    swing_c: float
    rain_mm: float

    @cached_property
    def factor(self) -> float:
        """Return ξ there."""
        months = tuple(self.mean_c - self.swing_c * math.cos(2 * math.pi * (month - 0.5) / 12) for month in range(12))
        return climate_factor(Normals(temperatures_c=months, rain_mm=(self.rain_mm / 12,) * 12))


class FieldTrial(BaseModel):
    """One observation.

    Attributes
    ----------
    what : str
        In words.
    material : str
        Key of the catalogue, or of a tissue that is laid by itself.
    measure : {"mass", "depth"}
        Share of dry mass, or of settled depth.
    share_left, spread : float
        After so many years, with the standard deviation of what others would have found.
    in_pile : bool
        Whether it lay in a pile.
    """

    model_config = ConfigDict(frozen=True)
    what: str
    material: str
    place: EvidencePlace
    years: float
    measure: Literal["mass", "depth"]
    share_left: float
    spread: float
    source: Source
    trust: Trust
    in_pile: bool = False

    @property
    def widened(self) -> float:
        """Its spread as far as it is trusted."""
        return self.spread * WIDENED[self.trust]

    @property
    def fractions(self) -> tuple[float, float, float, float]:
        """The soluble and non-soluble shares of what was observed."""
        if self.material in CATALOGUE:
            return CATALOGUE[self.material].fractions()
        return FRACTIONS[Tissue(self.material)].as_tuple()


TEMPERATE = EvidencePlace(name="temperate", mean_c=9.5, swing_c=10, rain_mm=950)
FLORIDA = EvidencePlace(name="Florida", mean_c=20.5, swing_c=6.8, rain_mm=1250)
HOT_WET = EvidencePlace(name="hot and wet", mean_c=24, swing_c=5, rain_mm=1350)
DRY_SUMMER = EvidencePlace(name="dry summer", mean_c=17.5, swing_c=5, rain_mm=350)
_DURYEA = "Duryea, English & Hermansen 1999, Journal of Arboriculture 25(2): 88–97; from memory"


def _place(name: str, mean_c: float, swing_c: float, rain_mm: float) -> EvidencePlace:
    return EvidencePlace(name=name, mean_c=mean_c, swing_c=swing_c, rain_mm=rain_mm)


def _row(
    what: str,
    material: str,
    place: EvidencePlace,
    years: float,
    measure: Literal["mass", "depth"],
    share_left: float,
    spread: float,
    trust: Trust,
    source: str | None = None,
    *,
    in_pile: bool = False,
) -> FieldTrial:
    mark = Mark.COMMON_PRACTICE if source is None else Mark.FROM_MEMORY
    return FieldTrial(
        what=what,
        material=material,
        place=place,
        years=years,
        measure=measure,
        share_left=share_left,
        spread=spread,
        trust=trust,
        source=Source(mark=mark, text=source or "Common practice, no source"),
        in_pile=in_pile,
    )


_HIGH, _MEDIUM, _LOW, _ANECDOTE = Trust.HIGH, Trust.MEDIUM, Trust.LOW, Trust.ANECDOTE
_LITTER = "Litterbag studies of temperate broadleaf forest, many authors; from memory"
_STRAW = "Surface straw in conservation tillage, several authors; from memory"

EVIDENCE: tuple[FieldTrial, ...] = (
    _row("Utility chips of mixed trees", "arborist_leafy", FLORIDA, 1, "mass", 0.68, 0.07, _MEDIUM, _DURYEA),
    _row("Eucalyptus mulch", "eucalyptus", FLORIDA, 1, "mass", 0.79, 0.08, _MEDIUM, _DURYEA),
    _row("Pine bark", "bark_nuggets", FLORIDA, 1, "mass", 0.88, 0.08, _MEDIUM, _DURYEA),
    _row("Cypress, as heartwood", "heartwood", FLORIDA, 1, "mass", 0.94, 0.06, _LOW, _DURYEA),
    _row("Utility chips, how far they sank", "arborist_leafy", FLORIDA, 1, "depth", 0.60, 0.15, _LOW, _DURYEA),
    _row("Pine bark, how far it sank", "bark_nuggets", FLORIDA, 1, "depth", 0.78, 0.12, _LOW, _DURYEA),
    _row("Leaves in litterbags", "leaves_whole", TEMPERATE, 1, "mass", 0.60, 0.10, _HIGH, _LITTER),
    _row(
        "Pine needles in litterbags",
        "needle",
        _place("Jädraås, Sweden", 3.8, 10.5, 609),
        1,
        "mass",
        0.72,
        0.07,
        _MEDIUM,
        "Berg and others 1982, Scots pine needles at Jädraås; from memory",
    ),
    _row("Straw on the surface", "straw", TEMPERATE, 1, "mass", 0.45, 0.10, _MEDIUM, _STRAW),
    _row("Straw on the surface", "straw", _place("cool and dry", 10, 9, 450), 1, "mass", 0.58, 0.10, _MEDIUM, _STRAW),
    _row("Twigs", "ramial", TEMPERATE, 1, "mass", 0.82, 0.07, _MEDIUM, _LITTER),
    _row("Twigs", "ramial", TEMPERATE, 3, "mass", 0.56, 0.12, _MEDIUM, _LITTER),
    _row(
        "Hardwood dowels",
        "clean_coarse",
        TEMPERATE,
        5,
        "mass",
        0.45,
        0.15,
        _MEDIUM,
        "LIDET, Long-term Intersite Decomposition Experiment; from memory",
    ),
    _row(
        "Hemlock blocks",
        "conifer_bare",
        _place("cool and wet", 9, 10, 1200),
        6,
        "mass",
        0.70,
        0.15,
        _LOW,
        "CIDET, Canadian Intersite Decomposition Experiment; from memory",
    ),
    _row(
        "Tree trimmings",
        "arborist_bare",
        _place("mild and dry", 17.5, 5, 700),
        1,
        "mass",
        0.75,
        0.10,
        _LOW,
        "Valenzuela-Solano & Crohn 2006; from memory",
    ),
    _row(
        "Chipped forest fuels",
        "conifer_needles",
        _place("cold and dry", 6, 9, 450),
        3,
        "mass",
        0.86,
        0.08,
        _LOW,
        "Mastication studies of western forests, several authors; from memory",
    ),
    _row("Shredded bark wants about 25 mm a year on 75 mm", "bark_shredded", TEMPERATE, 1, "depth", 0.67, 0.12, _HIGH),
    _row("Arborist chips", "arborist_leafy", TEMPERATE, 1, "depth", 0.65, 0.12, _MEDIUM),
    _row("Arborist chips", "arborist_leafy", TEMPERATE, 2, "depth", 0.45, 0.12, _MEDIUM),
    _row("Bark nuggets last two to four years", "bark_nuggets", TEMPERATE, 2, "depth", 0.68, 0.12, _MEDIUM),
    _row(
        "Coarse paths are refilled every two or three years",
        "clean_coarse",
        TEMPERATE,
        2.5,
        "depth",
        0.50,
        0.12,
        _MEDIUM,
    ),
    _row("Straw over a season", "straw", TEMPERATE, 0.5, "depth", 0.35, 0.15, _LOW),
    _row("Shredded leaves over a season", "leaves_shredded", TEMPERATE, 0.6, "depth", 0.35, 0.15, _LOW),
    _row("Chips of oak with much leaf", "arborist_much_leaf", HOT_WET, 0.58, "depth", 0.25, 0.15, _ANECDOTE),
    _row("Palm chips", "palm", HOT_WET, 0.25, "depth", 0.45, 0.20, _ANECDOTE),
    _row(
        "A pile of clean coarse chips, half rotted",
        "clean_coarse",
        DRY_SUMMER,
        2,
        "depth",
        0.50,
        0.20,
        _ANECDOTE,
        in_pile=True,
    ),
)

KINDS: dict[str, dict[str, float]] = {
    "wood": {
        "arborist_bare": 1.2,
        "clean_coarse": 1.0,
        "dyed": 1.0,
        "sawdust": 1.4,
        "eucalyptus": 0.95,
        "conifer_bare": 0.8,
        "heartwood": 0.5,
    },
    "wood with leaf": {
        "arborist_much_leaf": 1.15,
        "arborist_leafy": 1.0,
        "walnut": 1.0,
        "ramial": 0.95,
        "conifer_needles": 0.85,
    },
    "bark": {"bark_shredded": 1.15, "bark_conifer": 1.0, "bark_nuggets": 0.65},
    "leaf and stalk": {
        "grass_clippings": 2.3,
        "mown_greens": 2.0,
        "lucerne": 1.6,
        "hay": 1.5,
        "crop_residues": 1.25,
        "cocoa_shell": 1.2,
        "straw": 1.15,
        "sugar_cane": 1.15,
        "leaves_shredded": 0.95,
        "palm": 0.85,
        "needle": 0.8,
        "leaves_whole": 0.75,
    },
}
"""Materials that share a mean rate, with the order in which practice puts them, as multiples of that mean."""
