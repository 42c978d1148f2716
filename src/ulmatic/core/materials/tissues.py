"""What plant matter is made of, as the decay model sees it: acid-, water-, ethanol-soluble and non-soluble shares."""

from enum import StrEnum

from ulmatic.core.figures import Mark, Source
from ulmatic.core.value import Value

_YASSO = Source(
    mark=Mark.FROM_MEMORY,
    text="Chemical fractions as used with Yasso07 (Tuomi et al. 2009, Ecological Modelling 220: 3362–3371); "
    "from memory.",
)
_JUDGED = Source(mark=Mark.COMMON_PRACTICE, text="A judgement by likeness to measured tissues; no source.")


class Tissue(StrEnum):
    """Kinds of plant matter."""

    STEM_BROADLEAF = "stem_broadleaf"
    STEM_CONIFER = "stem_conifer"
    BARK = "bark"
    LEAF = "leaf"
    NEEDLE = "needle"
    PALM = "palm"
    STRAW = "straw"
    GRASS = "grass"
    ROTTED = "rotted"
    DUNG = "dung"
    PAPER = "paper"
    CHAR = "char"


class Fractions(Value):
    """Shares of dry mass: acid-soluble, water-soluble, ethanol-soluble, non-soluble; they add up to 1."""

    acid: float
    water: float
    ethanol: float
    non_soluble: float
    source: Source

    def as_tuple(self) -> tuple[float, float, float, float]:
        """Return the four shares in the order A, W, E, N.

        Returns
        -------
        (float, float, float, float)
        """
        return self.acid, self.water, self.ethanol, self.non_soluble


def _tissue(acid: float, water: float, ethanol: float, non_soluble: float, source: Source = _YASSO) -> Fractions:
    return Fractions(acid=acid, water=water, ethanol=ethanol, non_soluble=non_soluble, source=source)


FRACTIONS: dict[Tissue, Fractions] = {
    Tissue.STEM_BROADLEAF: _tissue(0.65, 0.03, 0.01, 0.31),
    Tissue.STEM_CONIFER: _tissue(0.66, 0.03, 0.01, 0.30),
    Tissue.BARK: _tissue(0.42, 0.06, 0.09, 0.43),
    Tissue.LEAF: _tissue(0.41, 0.20, 0.10, 0.29),
    Tissue.NEEDLE: _tissue(0.51, 0.17, 0.09, 0.23),
    Tissue.PALM: _tissue(0.72, 0.13, 0.03, 0.12),
    Tissue.STRAW: _tissue(0.70, 0.08, 0.04, 0.18),
    Tissue.GRASS: _tissue(0.46, 0.30, 0.09, 0.15, _JUDGED),
    Tissue.ROTTED: _tissue(0.30, 0.05, 0.05, 0.60, _JUDGED),
    Tissue.DUNG: _tissue(0.50, 0.15, 0.10, 0.25, _JUDGED),
    Tissue.PAPER: _tissue(0.80, 0.02, 0.01, 0.17, _JUDGED),
    Tissue.CHAR: _tissue(0.0, 0.0, 0.0, 1.0, _JUDGED),
}
"""Fractions by tissue."""
