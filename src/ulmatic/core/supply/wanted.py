"""What a season's layings want of mulch, and those that want the same."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date

from ulmatic.core.materials import Material
from ulmatic.core.recipe import Accepted


@dataclass(frozen=True)
class Wanted:
    """What one laying takes of mulch.

    Attributes
    ----------
    volume_m3 : float
        Loose, with spare, of the planned material.
    settling : callable
        Of a material on this ground.
    """

    plot: int
    on: date
    volume_m3: float
    material: Material
    accepts: Accepted
    settling: Callable[[Material], float]
    priority: int = 2

    def worth(self) -> Callable[[Material], float]:
        """Return what tells how much of the planned material a m³ of another one is worth.

        Returns
        -------
        callable
        """
        planned = 1 - self.settling(self.material)
        return lambda material: (1 - self.settling(material)) / planned


@dataclass(frozen=True)
class Group:
    """Layings that accept the same on the same day."""

    accepts: Accepted
    on: date
    material: Material
    worth: Callable[[Material], float]
    volume_m3: float
    plots: tuple[int, ...]


def groups_of(layings: Sequence[Wanted]) -> list[Group]:
    """Return layings that accept the same, of the same planned material and on the same day, added up.

    Parameters
    ----------
    layings : sequence of Wanted

    Returns
    -------
    list of Group
    """
    groups: dict[tuple[Accepted, date, str, float], list[Wanted]] = {}
    for want in layings:
        key = (want.accepts, want.on, want.material.key, want.settling(want.material))
        groups.setdefault(key, []).append(want)
    return [
        Group(
            accepts=accepts,
            on=on,
            material=wants[0].material,
            worth=wants[0].worth(),
            volume_m3=sum(want.volume_m3 for want in wants),
            plots=tuple(want.plot for want in wants),
        )
        for (accepts, on, _, _), wants in groups.items()
    ]
