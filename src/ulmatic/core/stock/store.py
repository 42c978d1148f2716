"""What lies on piles on a day, and what is coming: every m³ with its material and age."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property
from uuid import UUID

from ulmatic.core.decay import DecayClock, pile_left, pile_stage, reaches
from ulmatic.core.materials import Material, Stage
from ulmatic.core.stock.books import SPECK_M3, BookEntry, Books, books_of
from ulmatic.core.stock.delivery import BookLine, Delivery, Pile
from ulmatic.core.stock.load_size import LoadSize


@dataclass(frozen=True)
class Lot:
    """So many m³ of one material, as they are on a day.

    Attributes
    ----------
    lies : bool
        Whether it lies here, or is still to come.
    pile_id : UUID or None
        None where it is still to come, or nobody knows yet on which pile it will lie.
    born : date
        When it was chipped.
    size : LoadSize or None
        Where nobody knows how much a load still to come holds.
    comes_as : Stage or None
        Of a load that is to come rotted so far.
    """

    material: Material
    born: date
    volume_m3: float
    as_of: date
    pile_id: UUID | None = None
    delivery_id: UUID | None = None
    size: LoadSize | None = None
    comes_as: Stage | None = None
    lies: bool = False

    def on(self, day: date, clock: DecayClock) -> "Lot":
        """Return it as it will be on a later day.

        Returns
        -------
        Lot
        """
        if day <= self.as_of:
            return self
        left = pile_left(self.material, self.born, clock, self.as_of, day)
        return replace(self, volume_m3=self.volume_m3 * left, as_of=day)

    def stage(self, day: date, clock: DecayClock) -> Stage:
        """Return its stage on a day.

        Returns
        -------
        Stage
        """
        return self.comes_as or pile_stage(self.material, self.born, clock, max(day, self.as_of))

    def fit_from(self, stages: frozenset[Stage], clock: DecayClock) -> date | None:
        """Return the first day on which it is in one of some stages.

        Returns
        -------
        date or None
            None where it never is.
        """
        return reaches(self.material, self.born, clock, stages, self.as_of)

    def less(self, volume_m3: float) -> "Lot":
        """Return it with less.

        Returns
        -------
        Lot
        """
        return replace(self, volume_m3=max(0.0, self.volume_m3 - volume_m3))


@dataclass(frozen=True)
class Store:
    """The piles, loads and book of a site.

    Attributes
    ----------
    material : callable
        Of a key; never None.
    clock : DecayClock
        By which piles rot.
    """

    piles: Sequence[Pile]
    deliveries: Sequence[Delivery]
    lines: Sequence[BookLine]
    material: Callable[[str], Material]
    clock: DecayClock

    @cached_property
    def by_id(self) -> dict[UUID, Delivery]:
        """Loads by id."""
        return {delivery.id: delivery for delivery in self.deliveries}

    def share_left(self, load: UUID, first_day: date, last_day: date) -> float:
        """Return what is left of a m³ of a load between two dates in a pile.

        Returns
        -------
        float
            Between 0 and 1.
        """
        delivery = self.by_id[load]
        return pile_left(self.material(delivery.material), delivery.born or first_day, self.clock, first_day, last_day)

    def books(self, until: date) -> Books[UUID]:
        """Return the book of what happened until a day, with every pile as it is then.

        Returns
        -------
        Books

        Raises
        ------
        NotThere
        """
        entries, latest = [], date.min
        for line in self.lines:
            if line.on > until:
                continue
            # Lines stand in the order in which they were written; a day typed late does not go back in time.
            latest = max(latest, line.on)
            entries.append(book_entry(line, latest))
        books = books_of(entries, self.share_left)
        for pile in self.piles:
            if pile.id in books.piles:
                books.age(pile.id, until)
        return books

    def lots(self, day: date, books: Books[UUID] | None = None) -> list[Lot]:
        """Return what lies on piles on a day.

        Returns
        -------
        list of Lot
        """
        books = books or self.books(day)
        return [
            Lot(
                material=self.material(self.by_id[load].material),
                born=self.by_id[load].born or day,
                volume_m3=volume,
                as_of=day,
                pile_id=pile.id,
                delivery_id=load,
                lies=True,
            )
            for pile in self.piles
            for load, volume in books.piles.get(pile.id, {}).items()
            if volume > SPECK_M3
        ]

    def expected(self, day: date) -> list[Lot]:
        """Return the loads that are still to come, at their mean; those that are late are taken to come today.

        Returns
        -------
        list of Lot
        """
        lots = []
        for delivery in self.deliveries:
            late = delivery.state == "received" and delivery.received_on is not None and delivery.received_on > day
            if delivery.state == "expected" or late:
                comes = max(day, delivery.expected_on or day)
                known = delivery.size.most_m3 - delivery.size.least_m3 < SPECK_M3
                lots.append(
                    Lot(
                        material=self.material(delivery.material),
                        born=delivery.chipped_on or comes,
                        as_of=comes,
                        volume_m3=delivery.size.mean_m3,
                        delivery_id=delivery.id,
                        size=None if known else delivery.size,
                    )
                )
        return lots


def book_entry(line: BookLine, on: date) -> BookEntry[UUID]:
    """Return a line as the book reads it, on a day.

    Parameters
    ----------
    line : BookLine
    on : date

    Returns
    -------
    BookEntry
    """
    return BookEntry[UUID](
        on=on,
        kind=line.kind,
        pile=line.pile_id,
        volume_m3=line.volume_m3,
        load=line.delivery_id,
        plot=line.plot_id,
        to_pile=line.to_pile_id,
    )
