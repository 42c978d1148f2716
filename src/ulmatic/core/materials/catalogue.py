"""The shipped catalogue, from its table: figures as value, low and high, with a word for the source of each."""

from ulmatic.core.figures import Mark, Parameter, Unit, make_parameter
from ulmatic.core.materials.material import Hazard, Kind, Material, Size
from ulmatic.core.materials.tissues import Tissue
from ulmatic.core.tables import pairs_of, rows_of

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


def _parameter(key: str, what: str, three: str, source: str | None) -> Parameter:
    name, unit = _NAMES[what]
    value, low, high = map(float, three.split())
    if source == "kind":
        text, mark = _BY_KIND, Mark.COMMON_PRACTICE
    elif source is None:
        text, mark = f"{_JUDGED[what]}; no published source.", Mark.COMMON_PRACTICE
    else:
        text, mark = f"{_FROM_MEMORY[source]}; from memory.", Mark.FROM_MEMORY
    return make_parameter(f"materials.{key}.{what}", name, value, unit, low, high, mark, text)


def _material(row: dict[str, str]) -> Material:
    sources = pairs_of(row["sources"])
    return Material(
        **{what: _parameter(row["key"], what, row[what], sources.get(what)) for what in _NAMES},
        key=row["key"],
        name=row["name"],
        kind=Kind(row["kind"]),
        size=Size(row["size"]),
        what=row["what"],
        tissues=tuple((Tissue(tissue), float(share)) for tissue, share in pairs_of(row["tissues"]).items()),
        hazards=tuple(Hazard(hazard) for hazard in row["hazards"].split("; ") if hazard),
        conifer=row["conifer"] == "yes",
    )


CATALOGUE: dict[str, Material] = {row["key"]: _material(row) for row in rows_of("materials")}
"""Materials by key."""

USUAL_MATERIAL = "arborist_leafy"
"""What is laid where nothing else is said: what a chipping crew most often brings."""
