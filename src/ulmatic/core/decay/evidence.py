"""What was seen of decay: observations to which the rate factors are fitted, each with spread, source and trust."""

import math
from enum import StrEnum
from functools import cached_property
from typing import Literal

from ulmatic.core.climate import Normals
from ulmatic.core.decay.yasso import climate_factor
from ulmatic.core.figures import Mark, Source
from ulmatic.core.materials import CATALOGUE, FRACTIONS, Tissue
from ulmatic.core.tables import rows_of
from ulmatic.core.value import Value


class Trust(StrEnum):
    """How far a row is trusted; the less, the wider its spread is taken."""

    HIGH = "high"
    MEDIUM = "medium"
    LOW = "low"
    ANECDOTE = "anecdote"


WIDENED = {Trust.HIGH: 1.0, Trust.MEDIUM: 1.0, Trust.LOW: 1.5, Trust.ANECDOTE: 2.0}
"""By what the spread of a row is multiplied: a judgement, no source."""


class EvidencePlace(Value):
    """A climate: yearly mean and swing of the monthly means in °C, rain in mm a year; July is warmest."""

    name: str
    mean_c: float
    swing_c: float
    rain_mm: float

    @cached_property
    def factor(self) -> float:
        """Return ξ there."""
        months = tuple(self.mean_c - self.swing_c * math.cos(2 * math.pi * (month - 0.5) / 12) for month in range(12))
        return climate_factor(Normals(temperatures_c=months, rain_mm=(self.rain_mm / 12,) * 12))


class FieldTrial(Value):
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


_PLACES = {row["name"]: EvidencePlace.model_validate(row) for row in rows_of("trial_places")}


def _trial(row: dict[str, str]) -> FieldTrial:
    mark, text = Mark.FROM_MEMORY if row["source"] else Mark.COMMON_PRACTICE, row["source"]
    source = Source(mark=mark, text=text or "Common practice, no source")
    place, in_pile = _PLACES[row["place"]], row["in_pile"] == "yes"
    return FieldTrial.model_validate(row | {"place": place, "in_pile": in_pile, "source": source})


EVIDENCE: tuple[FieldTrial, ...] = tuple(_trial(row) for row in rows_of("field_trials"))
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
