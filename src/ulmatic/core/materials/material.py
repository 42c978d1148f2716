"""A material: what it is, and the numbers that everything after it is computed from."""

from enum import StrEnum
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import Field

from ulmatic.core.figures import Figure, Parameter, formula
from ulmatic.core.materials.tissues import FRACTIONS, Tissue
from ulmatic.core.parameters import Parameters
from ulmatic.core.value import Value

FIGURES = ("density", "moisture", "carbon", "cn", "settling", "rate")
"""A material's figures, in the order in which they are shown."""


class Kind(StrEnum):
    """What a material is, as far as it is handled differently."""

    WOOD_CHIPS = "wood_chips"
    BARK = "bark"
    SAWDUST = "sawdust"
    STRAW = "straw"
    LEAVES = "leaves"
    GRASS = "grass"
    SHELL = "shell"
    COMPOST = "compost"
    MANURE = "manure"
    BIOCHAR = "biochar"
    SHEET = "sheet"


class Size(StrEnum):
    """Its pieces: what decides draining, knitting, sliding, blowing."""

    COARSE = "coarse"
    MIXED = "mixed"
    SHREDDED = "shredded"
    NUGGETS = "nuggets"
    FINE = "fine"
    FIBROUS = "fibrous"
    SHEET = "sheet"


class Hazard(StrEnum):
    """What may come with it."""

    WEED_SEED = "weed_seed"
    HERBICIDE = "herbicide"
    JUGLONE = "juglone"
    DYE = "dye"
    THEOBROMINE = "theobromine"
    RAW_MANURE = "raw_manure"
    BLOWS = "blows"
    MATS = "mats"
    DISEASE = "disease"


Worry = Literal[Hazard.WEED_SEED, Hazard.HERBICIDE, Hazard.DISEASE]
"""What may be feared of one load, whatever its material."""


class Stage(StrEnum):
    """How far it has rotted."""

    FRESH = "fresh"
    AGEING = "ageing"
    AGED = "aged"
    DECOMPOSED = "decomposed"


@lru_cache(maxsize=1024)
def _fractions(tissues: tuple[tuple[Tissue, float], ...]) -> tuple[float, float, float, float]:
    total = sum(share for _, share in tissues)
    parts = [(FRACTIONS[tissue].as_tuple(), share / total) for tissue, share in tissues]
    acid, water, ethanol, rest = (sum(tissue[index] * share for tissue, share in parts) for index in range(4))
    return acid, water, ethanol, rest


class Material(Value):
    """A material.

    Attributes
    ----------
    key : str
        Of the catalogue, or the id of an own one.
    tissues : tuple of (Tissue, share of dry mass)
    density : Parameter
        Dry mass of the loose material, kg/m³.
    moisture : Parameter
        Water as a share of wet mass, as it comes.
    carbon : Parameter
        Share of dry mass.
    cn : Parameter
        Carbon to nitrogen by mass.
    settling : Parameter
        Share of loose depth that goes by itself on untrodden ground.
    rate : Parameter
        Multiplies the rate of decay.
    """

    key: str
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Kind
    size: Size
    what: str = ""
    tissues: tuple[tuple[Tissue, float], ...]
    density: Parameter
    moisture: Parameter
    carbon: Parameter
    cn: Parameter
    settling: Parameter
    rate: Parameter
    hazards: tuple[Hazard, ...] = ()
    conifer: bool = False

    def __hash__(self) -> int:
        """Return a hash of what tells materials apart; equality still compares everything.

        Returns
        -------
        int
        """
        return hash((self.key, self.name, self.density.value, self.rate.value))

    def parameters(self) -> tuple[Parameter, ...]:
        """Return its figures in the order in which they are shown.

        Returns
        -------
        tuple of Parameter
        """
        return self.density, self.moisture, self.carbon, self.cn, self.settling, self.rate

    def with_parameters(self, parameters: Parameters) -> "Material":
        """Return it with the figures that are set in place of the shipped ones.

        Returns
        -------
        Material
        """
        figures = parameters.figures({name: getattr(self, name) for name in FIGURES})
        return self.model_copy(update=figures) if figures else self

    def fractions(self) -> tuple[float, float, float, float]:
        """Return its acid-, water-, ethanol-soluble and non-soluble shares of dry mass.

        Returns
        -------
        (float, float, float, float)
            In the order A, W, E, N; they add up to 1.
        """
        return _fractions(self.tissues)

    def wet_density(self) -> Figure:
        """Mass of the loose material as it comes, kg/m³.

        Returns
        -------
        Figure
            kg/m³.
        """
        terms = {"p": self.density, "m": self.moisture}
        return formula("p / (1 - m)").work("Wet bulk density", "kg_m3", terms)

    def nitrogen(self) -> Figure:
        """Nitrogen as a share of dry mass.

        Returns
        -------
        Figure
            Between 0 and 1.
        """
        return formula("c / r").work("Nitrogen of dry mass", "1", {"c": self.carbon, "r": self.cn})

    @property
    def chips(self) -> bool:
        """Whether it comes by the truck load as wood chips."""
        return self.kind is Kind.WOOD_CHIPS

    @property
    def woody(self) -> bool:
        """Whether it is wood or bark."""
        return self.kind in (Kind.WOOD_CHIPS, Kind.BARK, Kind.SAWDUST)
