"""Who can be asked for chips in a season, within which limits, and what stands in where nobody brings them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date

from ulmatic.core.decay import DecayClock
from ulmatic.core.materials import Material, Stage
from ulmatic.core.stock import LoadSize
from ulmatic.core.supply.choice import NO_LIMIT, Limits, SupplySource
from ulmatic.core.supply.suppliers import UNNAMED, Supplier


@dataclass(frozen=True)
class Offered:
    """A supplier as a source for one season, or a source without a name.

    Attributes
    ----------
    supplier : Supplier or None
        None where nobody is named.
    material : Material
        That it brings.
    unfit : str or None
        Why it is not reckoned with.
    stage : Stage or None
        How far rotted its chips have to come, where not fresh.
    """

    supplier: Supplier | None
    source: SupplySource
    material: Material
    unfit: str | None = None
    stage: Stage | None = None

    @property
    def name(self) -> str:
        """The supplier's name; empty where nobody is named."""
        return self.supplier.name if self.supplier else ""

    @property
    def kind(self) -> str:
        """Of supplier."""
        return self.supplier.source.kind if self.supplier else UNNAMED


@dataclass(frozen=True)
class Market:
    """Who can be asked, and within which limits.

    Attributes
    ----------
    months : tuple of int
        Months (1 to 12) in which loads may come, in order.
    load_m3, load_size
        Of the site's usual load, and its range where nobody knows it.
    step_m3 : float
        What bulk is measured out by.
    """

    suppliers: Sequence[Supplier]
    material: Callable[[str], Material]
    clock: DecayClock
    today: date
    months: tuple[int, ...]
    currency: str
    sure: float
    load_m3: float
    load_size: LoadSize | None
    tip_m3: float | None = None
    budget: float | None = None
    step_m3: float = 0.0

    @property
    def limits(self) -> Limits:
        """The limits of the choice."""
        return Limits(
            months=tuple(month - 1 for month in self.months), tip_m3=self.tip_m3, budget=self.budget, sure=self.sure
        )

    def source(self, supplier: Supplier) -> SupplySource:
        """Return a supplier as a source in these months.

        Returns
        -------
        SupplySource
        """
        density = self.material(supplier.source.material).wet_density().value
        source = supplier.source.offer(str(supplier.id), self.months, density)
        return source.model_copy(
            update={"step_m3": self.step_m3 if source.exact else 0.0, "currency": supplier.currency}
        )

    def usual(self, material: Material, stage: Stage | None = None) -> Offered:
        """Return a source without a name: loads of the site's usual size, as many as are wanted.

        Returns
        -------
        Offered
        """
        key = f"{UNNAMED}:{material.key}" + (f":{stage}" if stage else "")
        size = self.load_size
        source = SupplySource(
            key=key, material=key, size=size, load_m3=size.mean_m3 if size else self.load_m3, arrivals=(NO_LIMIT,) * 12
        )
        return Offered(None, source, material, stage=stage)
