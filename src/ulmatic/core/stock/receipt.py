"""What came, or was taken, as it was measured: a pile, barrows, a weight, or what somebody says."""

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.materials import Material
from ulmatic.core.stock.pile_shape import measured_pile
from ulmatic.core.units import Length, Mass, Offset, Volume
from ulmatic.core.value import Value


class _Way(Value):
    model_config = ConfigDict(extra="forbid")


class MeasuredPile(_Way):
    """By tape: width at the foot, height, and the length of the ridge where it is none of a cone."""

    kind: Literal["heap"] = "heap"
    width_m: Length
    height_m: Length
    ridge_m: Offset = 0.0


class CountedBarrows(_Way):
    """By barrows, each of so much."""

    kind: Literal["barrows"] = "barrows"
    barrows: Annotated[int, Field(ge=1, le=100_000)]
    barrow_m3: Volume


class Weighed(_Way):
    """By a weighbridge or scale, as it comes."""

    kind: Literal["weight"] = "weight"
    mass_kg: Annotated[Mass, Field(gt=0)]


class Stated(_Way):
    """As the driver says, or by the truck's box."""

    kind: Literal["stated"] = "stated"
    volume_m3: Volume


MeasuredVolume = Annotated[MeasuredPile | CountedBarrows | Weighed | Stated, Field(discriminator="kind")]


def measured_volume(measured: MeasuredVolume, material: Material) -> Figure:
    """Return the loose m³ of what was measured.

    Parameters
    ----------
    measured : MeasuredVolume
    material : Material
        Its wet density turns a weight into a volume.

    Returns
    -------
    Figure
    """
    match measured:
        case MeasuredPile():
            return measured_pile(measured.width_m, measured.height_m, measured.ridge_m)
        case CountedBarrows():
            terms = {
                "n": entered("Barrows", measured.barrows, "trips"),
                "b": entered("Barrow, heaped", measured.barrow_m3, "m3"),
            }
            return formula("n * b").work("Barrows counted", "m3", terms)
        case Weighed():
            terms = {"m": entered("Weighed", measured.mass_kg, "kg"), "p": material.wet_density()}
            return formula("m / p").work("Volume by weight", "m3", terms)
        case Stated():
            return entered("As stated", measured.volume_m3, "m3")
