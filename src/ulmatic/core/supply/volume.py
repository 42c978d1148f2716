"""Loose volume to order for a settled depth."""

from ulmatic.core.survey.uses import Use
from ulmatic.core.working import Figure, Mark, Parameter, Source, formula, parameter

_PRACTICE = "Common practice, no published source"

SETTLING: dict[bool, Parameter] = {
    False: parameter(
        "supply.settling.beds",
        "Settling, untrodden ground",
        0.22,
        "1",
        0.20,
        0.25,
        Mark.COMMON_PRACTICE,
        f"{_PRACTICE}: loose chips sink by a fifth to a quarter within weeks.",
    ),
    True: parameter(
        "supply.settling.trodden",
        "Settling, trodden ground",
        0.35,
        "1",
        0.25,
        0.40,
        Mark.COMMON_PRACTICE,
        f"{_PRACTICE}: more under feet and wheels. The lower end is the least compression of loose-fill surfacing "
        "in US CPSC Publication 325 (from memory); the upper end is a judgement.",
    ),
}
"""Loose-to-settled loss, by whether the ground is trodden."""

SPARE = parameter(
    "supply.spare",
    "Spare",
    0.10,
    "1",
    0.05,
    0.15,
    Mark.COMMON_PRACTICE,
    f"{_PRACTICE}: edges, spills and soft ground take some.",
)
BARROW = parameter(
    "supply.barrow",
    "Barrow, heaped",
    0.10,
    "m3",
    0.07,
    0.17,
    Mark.COMMON_PRACTICE,
    f"{_PRACTICE}: a garden barrow holds 70 to 100 L of chips heaped, a large one 170 L (6 cu ft).",
)

_LOOSE = Source(
    mark=Mark.COMMON_PRACTICE,
    text="Order by loose volume, judge by settled depth: common practice, no published source.",
)


def settling_for(use: Use) -> Parameter:
    """Return the loose-to-settled loss for ground of this use."""
    return SETTLING[use.trodden]


def loose_volume(area: Figure, wanted: Figure, existing: Figure, settling: Figure, spare: Figure) -> Figure:
    """Loose volume that brings ground from its existing to its wanted settled depth.

    Parameters
    ----------
    area : Figure
        m².
    wanted, existing : Figure
        Settled depths, mm.
    settling, spare : Figure
        Shares of one; settling below 1.

    Returns
    -------
    Figure
        m³, with the range that follows from the settling; never negative.
    """
    return formula("A * max(0, d - d0) / (1 - s) * (1 + w)").work(
        "Loose volume",
        "m3",
        {"A": area, "d": wanted, "d0": existing, "s": settling, "w": spare.brief()},
        source=_LOOSE,
        note="What lies there already covers the wanted depth." if existing.value >= wanted.value > 0 else "",
    )
