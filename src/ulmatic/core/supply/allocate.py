"""Too little, too much: which ground gets what there is, what stays bare, what is over, and what one load more buys."""

from collections.abc import Hashable, Mapping, Sequence
from typing import Generic, TypeVar

import numpy as np
from pydantic import Field

from ulmatic.core.programmes import minimum, shared_rows
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.value import Value

Key = TypeVar("Key", bound=Hashable)


class Want(Value, Generic[Key]):
    """What one plot needs, in m³, and the materials it accepts.

    Attributes
    ----------
    worth : dict of str to float
        What a m³ of a material is worth here, where it settles more or less than the planned one; 1 where not said.
    """

    plot: Key
    needs_m3: float
    accepts: frozenset[str]
    worth: dict[str, float] = Field(default_factory=dict)


class Share(Value, Generic[Key]):
    """What one plot gets of what it needs: m³ by material, and in all in m³ of the planned one."""

    plot: Key
    needs_m3: float
    gets: dict[str, float]
    gets_m3: float

    @property
    def short_m3(self) -> float:
        """What stays missing."""
        return max(0.0, self.needs_m3 - self.gets_m3)

    @property
    def covered(self) -> bool:
        """Whether it gets all it needs."""
        return self.short_m3 <= 1e-6 * max(1.0, self.needs_m3)


class Allocation(Value, Generic[Key]):
    """Shares in the order of priority, and what is over of each material, in m³."""

    shares: tuple[Share[Key], ...]
    left_m3: dict[str, float]

    @property
    def over_m3(self) -> float:
        """What is over in all."""
        return sum(self.left_m3.values())


def allocate(wants: Sequence[Want[Key]], available_m3: Mapping[str, float]) -> Allocation[Key]:
    """Give what is there to plots: all of them whole where it can be done, else in the order of priority.

    Then whole plots come first, and the next one in part. A plot that what is left does not cover whole waits while
    later ones that it does cover are served; what then remains goes to the first plots still waiting. Of several
    materials a plot takes first the one that the fewest others accept, of those the one named first.

    Parameters
    ----------
    wants : sequence of Want
        The most important first.
    available_m3 : mapping of material to m³

    Returns
    -------
    Allocation
    """
    gets = _whole(wants, available_m3) or _in_turn(wants, available_m3)
    left = dict(available_m3)
    for got in gets:
        for material, amount in got.items():
            left[material] -= amount
    share_of = Share[Key]  # type: ignore[valid-type]
    shares = [
        share_of(
            plot=want.plot,
            needs_m3=want.needs_m3,
            gets=got,
            gets_m3=sum(amount * want.worth.get(material, 1.0) for material, amount in got.items()),
        )
        for want, got in zip(wants, gets, strict=True)
    ]
    return Allocation[Key](shares=tuple(shares), left_m3={key: max(0.0, volume) for key, volume in left.items()})


def _whole(wants: Sequence[Want[Key]], available_m3: Mapping[str, float]) -> list[dict[str, float]] | None:
    """Return what each plot gets where there is enough for all, whoever takes what; None where there is not.

    Returns
    -------
    list of dict of str to float or None
        m³ by key of `available_m3`, in the order of `wants`.
    """
    needed = sum(want.needs_m3 for want in wants)
    pairs = [
        (index, material) for index, want in enumerate(wants) for material in available_m3 if material in want.accepts
    ]
    if not pairs:
        return None
    materials = {material: number for number, material in enumerate(available_m3)}
    worth = np.array([wants[index].worth.get(material, 1.0) for index, material in pairs])
    lots = np.array([materials[material] for _, material in pairs])
    if needed > float(np.array(list(available_m3.values())).sum()) * float(worth.max()) + SPECK_M3:
        return None
    plots = np.array([index for index, _ in pairs])
    bounds = np.array([*available_m3.values(), *(want.needs_m3 for want in wants)])
    solution = minimum(-worth, shared_rows(lots, plots, worth, len(available_m3), bounds.size), -np.inf, bounds)
    if solution.point is None or -solution.value < needed - SPECK_M3 * max(1, len(wants)):
        return None
    gets: list[dict[str, float]] = [{} for _ in wants]
    for (index, material), amount in zip(pairs, solution.point.tolist(), strict=True):
        if amount > SPECK_M3:
            gets[index][material] = amount
    return gets


def _in_turn(wants: Sequence[Want[Key]], available_m3: Mapping[str, float]) -> list[dict[str, float]]:
    left = dict(available_m3)
    takers = {material: sum(material in want.accepts for want in wants) for material in left}
    order = {material: place for place, material in enumerate(available_m3)}
    gets: list[dict[str, float]] = [{} for _ in wants]

    def take(index: int, needs_m3: float) -> float:
        want = wants[index]
        for material in sorted(want.accepts & left.keys(), key=lambda key: (takers[key], order[key])):
            worth = want.worth.get(material, 1.0)
            part = min(needs_m3 / worth, left[material])
            if part > SPECK_M3:
                gets[index][material] = gets[index].get(material, 0.0) + part
                left[material] -= part
                needs_m3 -= part * worth
        return needs_m3

    rest = [want.needs_m3 for want in wants]
    for index, want in enumerate(wants):
        if want.needs_m3 <= sum(left[key] * want.worth.get(key, 1.0) for key in left if key in want.accepts) + SPECK_M3:
            rest[index] = take(index, want.needs_m3)
    for index, missing in enumerate(rest):
        take(index, missing)
    return gets


class OneMore(Value, Generic[Key]):
    """What one load more buys: plots then covered whole, one covered in part, and m³ over."""

    load_m3: float
    whole: tuple[Key, ...]
    part: Key | None
    over_m3: float


def one_more(
    wants: Sequence[Want[Key]], available_m3: Mapping[str, float], material: str, load_m3: float
) -> OneMore[Key] | None:
    """Say what one load more of a material buys; None where nothing is short of it.

    Parameters
    ----------
    wants : sequence of Want
    available_m3 : Mapping[str, float]
        m³ by material.
    material : str
        Key of the catalogue.
    load_m3 : float
        Loose, m³.

    Returns
    -------
    OneMore or None
    """
    before = allocate(wants, available_m3)
    after = allocate(wants, {**available_m3, material: available_m3.get(material, 0.0) + load_m3})
    gained = [
        (new, new.gets_m3 - old.gets_m3)
        for old, new in zip(before.shares, after.shares, strict=True)
        if new.gets_m3 > old.gets_m3 + 1e-6
    ]
    if not gained:
        return None
    part = next((new.plot for new, _ in gained if not new.covered), None)
    over_m3 = max(0.0, after.over_m3 - before.over_m3)
    return OneMore[Key](
        load_m3=load_m3, whole=tuple(new.plot for new, _ in gained if new.covered), part=part, over_m3=over_m3
    )
