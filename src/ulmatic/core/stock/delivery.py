"""Loads that are expected or came, piles, and the lines of their book."""

from datetime import date
from typing import Literal
from uuid import UUID

from pydantic import AwareDatetime

from ulmatic.core.materials import Worry
from ulmatic.core.stock.books import EntryKind
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.value import Value


class Delivery(Value):
    """A load.

    Attributes
    ----------
    supplier_id : UUID or None
        None where nobody of the suppliers brings it.
    size : LoadSize
        As it was promised.
    volume_m3 : float or None
        As it was found when it came.
    worries : tuple of Worry
        What is feared of it, such as a diseased tree among it.
    """

    id: UUID
    name: str
    state: Literal["expected", "received", "cancelled"]
    material: str
    size: LoadSize
    supplier_id: UUID | None = None
    expected_on: date | None = None
    received_on: date | None = None
    chipped_on: date | None = None
    volume_m3: float | None = None
    cost: float = 0.0
    currency: str = "EUR"
    worries: tuple[Worry, ...] = ()

    @property
    def born(self) -> date | None:
        """When it was chipped, or came."""
        return self.chipped_on or self.received_on


class Pile(Value):
    """A pile, on a tip or pile place where that is known."""

    id: UUID
    name: str
    landmark_id: UUID | None = None


class BookLine(Value):
    """A line of the book of a site's piles."""

    id: UUID
    kind: EntryKind
    pile_id: UUID
    delivery_id: UUID | None = None
    plot_id: UUID | None = None
    to_pile_id: UUID | None = None
    volume_m3: float = 0.0
    on: date
    written_at: AwareDatetime
