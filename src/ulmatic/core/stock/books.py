"""The books of a site's piles: every m³ from the load it came with, through piles, to the plot it lies on."""

from collections.abc import Callable, Hashable, Iterable
from datetime import date
from typing import Generic, Literal, TypeVar

from pydantic import Field

from ulmatic.core.value import Value

Key = TypeVar("Key", bound=Hashable)
EntryKind = Literal["receive", "lay", "move", "measure", "turn", "take_away"]
SPECK_M3 = 1e-6
"""A cubic centimetre: what binary fractions may leave over."""


class BookEntry(Value, Generic[Key]):
    """One line of the books.

    Attributes
    ----------
    kind : str
        `receive` puts a load on a pile, `lay` takes from a pile to a plot, `move` to another pile, `take_away` off the
        site; `measure` says what a pile holds now; `turn` changes nothing but its air.
    volume_m3 : float
        What was moved, or measured.
    """

    on: date = date.min
    kind: EntryKind
    pile: Key
    volume_m3: float = Field(default=0.0, ge=0)
    load: Key | None = None
    plot: Key | None = None
    to_pile: Key | None = None


class NotThere(ValueError):
    """More was taken from a pile than it holds; `available_m3` is what it does."""

    def __init__(self, pile: object, available_m3: float) -> None:
        super().__init__("more was taken than is there")
        self.pile, self.available_m3 = pile, available_m3


class Books(Generic[Key]):
    """What is where, by the load it came with.

    A pile is taken as mixed: what is drawn from it holds its loads in the shares in which they lie there. What a
    measurement finds less has settled or rotted, by the same shares; what it finds more was underestimated.
    Between measurements a pile shrinks as `left` says. As nobody knows that to the barrow, what was not yet measured
    to be gone may still be drawn; the rest is then taken to have rotted less.

    Parameters
    ----------
    left : callable, optional
        What is left of a m³ of a load between two dates; all of it where it is not given.

    Attributes
    ----------
    piles, plots : dict of key to dict of load to m³
    received, away, shrunk : dict of load to m³
        `shrunk` is negative where a load turned out to be more.
    """

    def __init__(self, share_left: Callable[[Key, date, date], float] | None = None) -> None:
        self._left = share_left
        self._as_of: dict[Key, date] = {}
        self._most: dict[Key, float] = {}
        self.piles: dict[Key, dict[Key, float]] = {}
        self.plots: dict[Key, dict[Key, float]] = {}
        self.received: dict[Key, float] = {}
        self.away: dict[Key, float] = {}
        self.shrunk: dict[Key, float] = {}

    def stock(self, pile: Key) -> float:
        """Return the m³ on a pile.

        Returns
        -------
        float
        """
        return sum(self.piles.get(pile, {}).values())

    def age(self, pile: Key, on: date) -> None:
        """Let a pile rot until a day."""
        as_of = self._as_of.get(pile, on)
        if self._left is not None and on > as_of:
            lots = self.piles.get(pile, {})
            shrunk_m3 = {load: amount * (1 - self._left(load, as_of, on)) for load, amount in lots.items()}
            self._add(self.shrunk, shrunk_m3)
            self.piles[pile] = {load: amount - shrunk_m3[load] for load, amount in lots.items()}
        self._as_of[pile] = max(as_of, on)

    def at_most(self, pile: Key) -> float:
        """Return the m³ that may be drawn from a pile: what was last measured, less what was drawn since.

        Returns
        -------
        float
        """
        return max(self.stock(pile), self._most.get(pile, 0.0))

    def laid_m3(self, plot: Key) -> float:
        """Return the m³ that were laid on a plot.

        Returns
        -------
        float
        """
        return sum(self.plots.get(plot, {}).values())

    def _draw(self, pile: Key, volume: float) -> dict[Key, float]:
        most = self.at_most(pile)
        if volume > most + SPECK_M3:
            raise NotThere(pile, most)
        stock_m3 = self.stock(pile)
        lots = self.piles.get(pile, {})
        if volume > stock_m3 > 0:
            more = {load: amount * (volume / stock_m3 - 1) for load, amount in lots.items()}
            self._add(self.shrunk, {load: -amount for load, amount in more.items()})
            lots = {load: amount + more[load] for load, amount in lots.items()}
            stock_m3 = volume
        share = min(1.0, volume / stock_m3) if stock_m3 > 0 else 0.0
        drawn = {load: amount * share for load, amount in lots.items()}
        self._most[pile] = max(0.0, most - volume)
        self.piles[pile] = {load: max(0.0, amount - drawn[load]) for load, amount in lots.items() if share < 1}
        return drawn

    @staticmethod
    def _add(to: dict[Key, float], lots: dict[Key, float]) -> None:
        for load, amount in lots.items():
            to[load] = to.get(load, 0.0) + amount

    def enter(self, entry: BookEntry[Key]) -> None:
        """Put one line into the books.

        Raises
        ------
        NotThere
            Where more is taken than the pile holds; the books are then unchanged.
        """
        pile, volume = entry.pile, entry.volume_m3
        for touched in (pile, entry.to_pile):
            if touched is not None:
                self.age(touched, entry.on)
        match entry.kind:
            case "receive" if entry.load is not None:
                self._most[pile] = self.at_most(pile) + volume
                self._add(self.piles.setdefault(pile, {}), {entry.load: volume})
                self._add(self.received, {entry.load: volume})
            case "lay" if entry.plot is not None:
                drawn = self._draw(pile, volume)
                self._add(self.plots.setdefault(entry.plot, {}), drawn)
            case "move" if entry.to_pile is not None:
                drawn = self._draw(pile, volume)
                self._most[entry.to_pile] = self.at_most(entry.to_pile) + volume
                self._add(self.piles.setdefault(entry.to_pile, {}), drawn)
            case "take_away":
                self._add(self.away, self._draw(pile, volume))
            case "measure":
                self._measure(pile, volume)

    def _measure(self, pile: Key, volume: float) -> None:
        lots, stock_m3 = self.piles.get(pile, {}), self.stock(pile)
        if stock_m3 <= 0 and volume > SPECK_M3:
            raise NotThere(pile, 0.0)
        self._most[pile] = volume
        if stock_m3 <= 0:
            return
        self._add(self.shrunk, {load: amount * (1 - volume / stock_m3) for load, amount in lots.items()})
        self.piles[pile] = {load: amount * volume / stock_m3 for load, amount in lots.items()}


def books_of(
    entries: Iterable[BookEntry[Key]], share_left: Callable[[Key, date, date], float] | None = None
) -> Books[Key]:
    """Return the books of entries in their order; `left` as for `Books`.

    Parameters
    ----------
    entries : iterable of BookEntry
    share_left : Callable[[Key, date, date], float] or None
        As for `Books`.

    Returns
    -------
    Books

    Raises
    ------
    NotThere
    """
    books: Books[Key] = Books(share_left)
    for entry in entries:
        books.enter(entry)
    return books
