"""Materials made from others: copies with own figures, and mixes by volume."""

from collections.abc import Mapping, Sequence

from ulmatic.core.figures import Mark, Parameter, Source
from ulmatic.core.materials.material import FIGURES, Material, Size
from ulmatic.core.materials.tissues import Tissue


def with_figures(material: Material, key: str, name: str, figures: Mapping[str, float]) -> Material:
    """Return a copy under another name in which `own` figures (by attribute, in their units) replace the shipped ones.

    Ranges that no longer hold the value are widened to it.

    Parameters
    ----------
    material : Material
    key : str
        Identifier.
    name : str
        As it is shown.
    figures : Mapping[str, float]
        By attribute, in their units.

    Returns
    -------
    Material
    """
    changed = {}
    for field, value in figures.items():
        before: Parameter = getattr(material, field)
        if value == before.value:
            continue
        changed[field] = before.model_copy(
            update={
                "key": f"materials.{key}.{field}",
                "value": value,
                "low": min(value, before.low if before.low is not None else value),
                "high": max(value, before.high if before.high is not None else value),
                "source": Source(mark=Mark.ENTERED, text=f"You entered this instead of {before.value:g}."),
            }
        )
    return material.model_copy(update={"key": key, "name": name, **changed})


def mix(parts: Sequence[tuple[Material, float]], key: str, name: str) -> Material:
    """Return the mixture of `parts`, each a material with its share by loose volume.

    Densities, and whatever belongs to dry mass, are averaged by volume and by dry mass; C:N is all carbon over all
    nitrogen. Ranges are mixed alike, as if all parts erred to the same side. The size is that of the largest part.

    Parameters
    ----------
    parts : sequence of tuple[Material, float]
        Each with its share by loose volume.
    key : str
        Identifier.
    name : str
        As it is shown.

    Returns
    -------
    Material

    Raises
    ------
    ValueError
        Where there is nothing to mix.
    """
    volume = sum(share for _, share in parts)
    if volume <= 0:
        raise ValueError("nothing to mix")
    shares = [(material, share / volume) for material, share in parts if share > 0]

    def mixed(field: str) -> Parameter:
        ends = [_average(field, shares, end) for end in ("value", "low", "high")]
        model: Parameter = getattr(shares[0][0], field)
        words = ", ".join(f"{material.name} {share:.0%}" for material, share in shares)
        return model.model_copy(
            update={
                "key": f"materials.{key}.{field}",
                "value": ends[0],
                "low": min(ends),
                "high": max(ends),
                "source": Source(mark=Mark.COMPUTED, text=f"Mixed by volume from {words}."),
            }
        )

    tissues: dict[Tissue, float] = {}
    for material, share in _by_mass(shares, "value"):
        total = sum(part for _, part in material.tissues)
        for tissue, part in material.tissues:
            tissues[tissue] = tissues.get(tissue, 0.0) + share * part / total
    first = max(shares, key=lambda part: part[1])[0]
    return Material(
        key=key,
        name=name,
        kind=first.kind,
        size=first.size if first.size is not Size.SHEET else Size.MIXED,
        what="A mix of " + " and ".join(material.name.lower() for material, _ in shares) + ".",
        tissues=tuple(sorted(tissues.items())),
        hazards=tuple(sorted({hazard for material, _ in shares for hazard in material.hazards})),
        conifer=any(material.conifer for material, _ in shares),
        **{field: mixed(field) for field in FIGURES},
    )


def _end(parameter: Parameter, end: str) -> float:
    value: float | None = getattr(parameter, end)
    return parameter.value if value is None else value


def _by_mass(shares: Sequence[tuple[Material, float]], end: str) -> list[tuple[Material, float]]:
    masses = [(material, share * _end(material.density, end)) for material, share in shares]
    total = sum(mass for _, mass in masses)
    return [(material, mass / total) for material, mass in masses]


def _average(field: str, shares: Sequence[tuple[Material, float]], end: str) -> float:
    if field in ("density", "settling"):
        return sum(share * _end(getattr(material, field), end) for material, share in shares)
    by_mass = _by_mass(shares, "value")
    if field == "cn":
        carbon = sum(share * _end(material.carbon, "value") for material, share in by_mass)
        return carbon / sum(
            share * _end(material.carbon, "value") / _end(material.cn, end) for material, share in by_mass
        )
    if field == "moisture":
        # Of wet mass: water over water and dry matter.
        water = sum(
            share * _end(material.moisture, end) / (1 - _end(material.moisture, end)) for material, share in by_mass
        )
        return water / (1 + water)
    return sum(share * _end(getattr(material, field), end) for material, share in by_mass)
