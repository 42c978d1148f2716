"""Too little, too much: which ground gets what there is, what stays bare, what is over, and what one load more buys."""

from collections.abc import Hashable, Mapping, Sequence
from typing import Generic, TypeVar

from pydantic import BaseModel, ConfigDict

from ulmatic.core.stock.books import SPECK_M3

Key = TypeVar("Key", bound=Hashable)


class Want(BaseModel, Generic[Key]):
    """What one plot needs, in m³, and the materials it accepts."""

    model_config = ConfigDict(frozen=True)
    plot: Key
    needs_m3: float
    accepts: frozenset[str]


class Share(BaseModel, Generic[Key]):
    """What one plot gets of what it needs, in m³, by material."""

    model_config = ConfigDict(frozen=True)
    plot: Key
    needs_m3: float
    gets: dict[str, float]

    @property
    def gets_m3(self) -> float:
        """What it gets in all."""
        return sum(self.gets.values())

    @property
    def short_m3(self) -> float:
        """What stays missing."""
        return max(0.0, self.needs_m3 - self.gets_m3)

    @property
    def whole(self) -> bool:
        """Whether it gets all it needs."""
        return self.short_m3 <= 1e-6 * max(1.0, self.needs_m3)


class Allocation(BaseModel, Generic[Key]):
    """Shares in the order of priority, and what is over of each material, in m³."""

    model_config = ConfigDict(frozen=True)
    shares: tuple[Share[Key], ...]
    over: dict[str, float]

    @property
    def over_m3(self) -> float:
        """What is over in all."""
        return sum(self.over.values())


def allocate(wants: Sequence[Want[Key]], there: Mapping[str, float]) -> Allocation[Key]:
    """Give what is there to plots in the order of priority: whole plots first, then the next one in part.

    A plot that what is left does not cover whole waits while later ones that it does cover are served; what then
    remains goes to the first plots still waiting. Of several materials a plot takes first the one that the fewest
    others accept, of those the one named first.

    Parameters
    ----------
    wants : sequence of Want
        The most important first.
    there : mapping of material to m³
    """
    left = dict(there)
    takers = {material: sum(material in want.accepts for want in wants) for material in left}
    order = {material: place for place, material in enumerate(there)}
    gets: list[dict[str, float]] = [{} for _ in wants]

    def take(index: int, amount: float) -> None:
        for material in sorted(wants[index].accepts & left.keys(), key=lambda key: (takers[key], order[key])):
            part = min(amount, left[material])
            if part > SPECK_M3:
                gets[index][material] = gets[index].get(material, 0.0) + part
                left[material] -= part
                amount -= part

    for index, want in enumerate(wants):
        if want.needs_m3 <= sum(left[key] for key in want.accepts & left.keys()) + SPECK_M3:
            take(index, want.needs_m3)
    for index, want in enumerate(wants):
        take(index, want.needs_m3 - sum(gets[index].values()))
    shares = [
        Share[Key](plot=want.plot, needs_m3=want.needs_m3, gets=got) for want, got in zip(wants, gets, strict=True)
    ]
    return Allocation[Key](shares=tuple(shares), over={key: max(0.0, volume) for key, volume in left.items()})


class OneMore(BaseModel, Generic[Key]):
    """What one load more buys: plots then covered whole, one covered in part, and m³ over."""

    model_config = ConfigDict(frozen=True)
    load_m3: float
    whole: tuple[Key, ...]
    part: Key | None
    over_m3: float


def one_more(
    wants: Sequence[Want[Key]], there: Mapping[str, float], material: str, load_m3: float
) -> OneMore[Key] | None:
    """Say what one load more of a material buys; None where nothing is short of it.

    Parameters
    ----------
    wants : sequence of Want
    there : Mapping[str, float]
        m³ by material.
    material : str
        Key of the catalogue.
    load_m3 : float
        Loose, m³.
    """
    before = allocate(wants, there)
    after = allocate(wants, {**there, material: there.get(material, 0.0) + load_m3})
    gained = [
        (new, new.gets_m3 - old.gets_m3)
        for old, new in zip(before.shares, after.shares, strict=True)
        if new.gets_m3 > old.gets_m3 + 1e-6
    ]
    if not gained:
        return None
    part = next((new.plot for new, _ in gained if not new.whole), None)
    over = max(0.0, after.over_m3 - before.over_m3)
    return OneMore[Key](
        load_m3=load_m3, whole=tuple(new.plot for new, _ in gained if new.whole), part=part, over_m3=over
    )
