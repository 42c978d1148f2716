"""Mixing a pile: carbon to nitrogen and moisture of anything in the catalogue, and how much of one is still missing."""

from collections.abc import Sequence
from typing import Literal

from ulmatic.core.figures import Figure, Mark, Source, entered, formula
from ulmatic.core.materials.material import Material
from ulmatic.core.value import Value

CORNELL = Source(
    mark=Mark.FROM_MEMORY,
    text="C:N and moisture equations of compost mixtures, Cornell Waste Management Institute; from memory.",
)


class MixPart(Value):
    """A wet mass of something with its moisture (of wet mass), carbon and nitrogen (of dry mass), shares of one."""

    name: str
    kg: float
    moisture: float
    carbon: float
    nitrogen: float

    @property
    def dry_kg(self) -> float:
        """Dry mass."""
        return self.kg * (1 - self.moisture)


def portion(material: Material, amount: float, by: Literal["m3", "kg"]) -> MixPart:
    """Return `amount` of a material, by loose m³ or by wet kg.

    Parameters
    ----------
    material : Material
    amount : float
        In m³ or kg.
    by : {"m3", "kg"}

    Returns
    -------
    MixPart
    """
    kg = amount * material.wet_density().value if by == "m3" else amount
    return MixPart(
        name=material.name,
        kg=kg,
        moisture=material.moisture.value,
        carbon=material.carbon.value,
        nitrogen=material.carbon.value / material.cn.value,
    )


def _terms(portions: Sequence[MixPart]) -> dict[str, Figure]:
    terms: dict[str, Figure] = {}
    for number, portion in enumerate(portions, 1):
        terms[f"q{number}"] = entered(f"{portion.name}, as it comes", portion.kg, "kg")
        terms[f"m{number}"] = entered(f"{portion.name}, moisture", portion.moisture, "1")
        terms[f"c{number}"] = entered(f"{portion.name}, carbon of dry mass", portion.carbon, "1")
        terms[f"n{number}"] = entered(f"{portion.name}, nitrogen of dry mass", portion.nitrogen, "1")
    return terms


def carbon_to_nitrogen(portions: Sequence[MixPart]) -> Figure:
    """Carbon over nitrogen of the mixture.

    Parameters
    ----------
    portions : sequence of MixPart

    Returns
    -------
    Figure
        Without unit.

    References
    ----------
    Compost mixture calculation, Cornell Waste Management Institute; from memory.
    """
    numbers = range(1, len(portions) + 1)
    numerator = " + ".join(f"q{n} * c{n} * (1 - m{n})" for n in numbers)
    denominator = " + ".join(f"q{n} * n{n} * (1 - m{n})" for n in numbers)
    return formula(f"({numerator}) / ({denominator})").work("C:N of the mix", "ratio", _terms(portions), source=CORNELL)


def moisture(portions: Sequence[MixPart]) -> Figure:
    """Water as a share of the mixture's wet mass.

    Parameters
    ----------
    portions : sequence of MixPart

    Returns
    -------
    Figure
        Between 0 and 1.

    References
    ----------
    Compost mixture calculation, Cornell Waste Management Institute; from memory.
    """
    numbers = range(1, len(portions) + 1)
    numerator, denominator = " + ".join(f"q{n} * m{n}" for n in numbers), " + ".join(f"q{n}" for n in numbers)
    return formula(f"({numerator}) / ({denominator})").work(
        "Moisture of the mix", "1", _terms(portions), source=CORNELL
    )


def missing_for_ratio(portions: Sequence[MixPart], add: MixPart, ratio: float) -> float | None:
    """Wet kg of `add` (its own kg is ignored) that bring the mix to `ratio`; None where none of it can.

    Parameters
    ----------
    portions : sequence of MixPart
    add : MixPart
    ratio : float
        Carbon over nitrogen.

    Returns
    -------
    float or None
        kg.

    References
    ----------
    Compost mixture calculation, Cornell Waste Management Institute; from memory.
    """
    carbon = sum(portion.dry_kg * portion.carbon for portion in portions)
    nitrogen = sum(portion.dry_kg * portion.nitrogen for portion in portions)
    each = (1 - add.moisture) * (add.carbon - ratio * add.nitrogen)
    needed = (ratio * nitrogen - carbon) / each if each else -1.0
    return needed if needed >= 0 else None


def missing_for_moisture(portions: Sequence[MixPart], add: MixPart, target: float) -> float | None:
    """Wet kg of `add` that bring the mix to a moisture of `target`; None where none of it can.

    Parameters
    ----------
    portions : sequence of MixPart
    add : MixPart
    target : float
        Share of the wet mass.

    Returns
    -------
    float or None
        kg.

    References
    ----------
    Compost mixture calculation, Cornell Waste Management Institute; from memory.
    """
    water = sum(portion.kg * portion.moisture for portion in portions)
    mass = sum(portion.kg for portion in portions)
    each = target - add.moisture
    needed = (water - target * mass) / each if each else -1.0
    return needed if needed >= 0 else None
