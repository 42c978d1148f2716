"""The books of a site's piles: every m³ from the load it came with, through piles, to the plot it lies on."""

from collections.abc import Hashable, Iterable
from typing import Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field

Key = TypeVar("Key", bound=Hashable)
EntryKind = Literal["receive", "lay", "move", "measure", "turn", "take_away"]
SPECK_M3 = 1e-6
"""A cubic centimetre: what binary fractions may leave over."""


class Entry(BaseModel, Generic[Key]):
    """One line of the books.

    Attributes
    ----------
    kind : str
        `receive` puts a load on a pile, `lay` takes from a pile to a plot, `move` to another pile, `take_away` off the
        site; `measure` says what a pile holds now; `turn` changes nothing but its air.
    volume_m3 : float
        What was moved, or measured.
    """

    model_config = ConfigDict(frozen=True)
    kind: EntryKind
    pile: Key
    volume_m3: float = Field(default=0.0, ge=0)
    load: Key | None = None
    plot: Key | None = None
    to_pile: Key | None = None


class NotThere(ValueError):
    """More was taken from a pile than it holds; `there_m3` is what it does."""

    def __init__(self, pile: object, there_m3: float) -> None:
        super().__init__("more was taken than is there")
        self.pile, self.there_m3 = pile, there_m3


class Books(Generic[Key]):
    """What is where, by the load it came with.

    A pile is taken as mixed: what is drawn from it holds its loads in the shares in which they lie there. What a
    measurement finds less has settled or rotted, by the same shares; what it finds more was underestimated.

    Attributes
    ----------
    piles, plots : dict of key to dict of load to m³
    received, away, shrunk : dict of load to m³
        `shrunk` is negative where a load turned out to be more.
    """

    def __init__(self) -> None:
        self.piles: dict[Key, dict[Key, float]] = {}
        self.plots: dict[Key, dict[Key, float]] = {}
        self.received: dict[Key, float] = {}
        self.away: dict[Key, float] = {}
        self.shrunk: dict[Key, float] = {}

    def stock(self, pile: Key) -> float:
        """Return the m³ on a pile."""
        return sum(self.piles.get(pile, {}).values())

    def laid(self, plot: Key) -> float:
        """Return the m³ that were laid on a plot."""
        return sum(self.plots.get(plot, {}).values())

    def _draw(self, pile: Key, volume: float) -> dict[Key, float]:
        there = self.stock(pile)
        if volume > there + SPECK_M3:
            raise NotThere(pile, there)
        share = min(1.0, volume / there) if there > 0 else 0.0
        lots = self.piles.get(pile, {})
        drawn = {load: amount * share for load, amount in lots.items()}
        self.piles[pile] = {load: max(0.0, amount - drawn[load]) for load, amount in lots.items() if share < 1}
        return drawn

    @staticmethod
    def _add(to: dict[Key, float], lots: dict[Key, float]) -> None:
        for load, amount in lots.items():
            to[load] = to.get(load, 0.0) + amount

    def enter(self, entry: Entry[Key]) -> None:
        """Put one line into the books.

        Raises
        ------
        NotThere
            Where more is taken than the pile holds; the books are then unchanged.
        """
        pile, volume = entry.pile, entry.volume_m3
        match entry.kind:
            case "receive" if entry.load is not None:
                self._add(self.piles.setdefault(pile, {}), {entry.load: volume})
                self._add(self.received, {entry.load: volume})
            case "lay" if entry.plot is not None:
                drawn = self._draw(pile, volume)
                self._add(self.plots.setdefault(entry.plot, {}), drawn)
            case "move" if entry.to_pile is not None:
                drawn = self._draw(pile, volume)
                self._add(self.piles.setdefault(entry.to_pile, {}), drawn)
            case "take_away":
                self._add(self.away, self._draw(pile, volume))
            case "measure":
                self._measure(pile, volume)

    def _measure(self, pile: Key, volume: float) -> None:
        lots, there = self.piles.get(pile, {}), self.stock(pile)
        if there <= 0:
            if volume > SPECK_M3:
                raise NotThere(pile, 0.0)
            return
        self._add(self.shrunk, {load: amount * (1 - volume / there) for load, amount in lots.items()})
        self.piles[pile] = {load: amount * volume / there for load, amount in lots.items()}


def books_of(entries: Iterable[Entry[Key]]) -> Books[Key]:
    """Return the books of entries in their order.

    Raises
    ------
    NotThere
    """
    books: Books[Key] = Books()
    for entry in entries:
        books.enter(entry)
    return books
