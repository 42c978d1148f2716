"""Too little, too much: which ground gets what there is, and what is over."""

from collections.abc import Hashable, Sequence
from typing import Generic, TypeVar

from pydantic import BaseModel, ConfigDict

Key = TypeVar("Key", bound=Hashable)


class Share(BaseModel, Generic[Key]):
    """What one plot gets of what it needs, in m³."""

    model_config = ConfigDict(frozen=True)
    plot: Key
    needs_m3: float
    gets_m3: float

    @property
    def short_m3(self) -> float:
        """What stays missing."""
        return self.needs_m3 - self.gets_m3


class Allocation(BaseModel, Generic[Key]):
    """Shares in the order of priority, and what is over, in m³."""

    model_config = ConfigDict(frozen=True)
    shares: tuple[Share[Key], ...]
    over_m3: float


def allocate(needs: Sequence[tuple[Key, float]], there_m3: float) -> Allocation[Key]:
    """Give what is there to plots in the order of priority: whole plots first, then the next one in part.

    A plot that what is left does not cover whole waits while later ones that it does cover are served; what then
    remains goes to the first plot still waiting.

    Parameters
    ----------
    needs : sequence of (plot, m³)
        The most important first.
    there_m3 : float
        What there is.
    """
    left = there_m3
    gets = [0.0] * len(needs)
    for index, (_, need) in enumerate(needs):
        if need <= left + 1e-9:
            gets[index] = min(need, left)
            left -= gets[index]
    for index, (_, need) in enumerate(needs):
        part = min(need - gets[index], left)
        if part > 1e-12:
            gets[index] += part
            left -= part
    shares = [Share[Key](plot=plot, needs_m3=need, gets_m3=got) for (plot, need), got in zip(needs, gets, strict=True)]
    return Allocation[Key](shares=tuple(shares), over_m3=max(0.0, left))
