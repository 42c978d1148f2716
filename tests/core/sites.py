"""Small sites for plans worked by hand: a bed of 20 m², a tree, what is logged on them, who brings what."""

from datetime import UTC, date, datetime
from uuid import UUID

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.log import LedgerEntry
from ulmatic.core.recipe import PlannedPlot, RecipeEdits
from ulmatic.core.site import Site, SitePlot, Terms
from ulmatic.core.stock import BookLine, Delivery, LoadSize, Pile
from ulmatic.core.supply.suppliers import Arborist, Merchant, Supplier
from ulmatic.core.survey import Rectangle, Ring, Use
from ulmatic.core.units import UnitSystem

TODAY = date(2026, 11, 26)
TERMS = Terms(spare=0.1, load_m3=5, barrow_m3=0.1)
BED, TREE = Rectangle(length_m=10, width_m=2), Ring(canopy_m=4, trunk_m=0.4, gap_m=0.3)
COOL = GenericClimate(name=ClimateClass.COOL_MARITIME)


def plot(number=1, use=Use.PERENNIALS, shape=BED, target=75.0, rule=None, **more) -> SitePlot:
    edits = more.pop("recipe", RecipeEdits())
    planned = PlannedPlot(name=f"Plot {number}", use=use, shape=shape, wanted_mm=target, recipe=edits)
    return SitePlot(id=UUID(int=number), plot=planned, surveyed_on=TODAY, rule=rule, **more)


def entry(number: int, on: date, what, minute: int = 1) -> LedgerEntry:
    written = datetime(on.year, on.month, on.day, 12, minute % 60, tzinfo=UTC)
    return LedgerEntry(id=UUID(int=1000 + minute), plot_id=UUID(int=number), on=on, written_at=written, entry=what)


def site(*plots, ledger=(), climate=COOL, **more) -> Site:
    return Site(
        name="Trial",
        units=UnitSystem.METRIC,
        terms=TERMS,
        plots=tuple(plots),
        ledger=list(ledger),
        climate=climate,
        **more,
    )


def merchant(number: int, material="arborist_leafy", currency="EUR", **terms) -> Supplier:
    source = Merchant(**{"material": material, "truck_m3": 10.0, "per_m3": 40.0, "per_load": 60.0, **terms})
    return Supplier(id=UUID(int=100 + number), name=f"Merchant {number}", currency=currency, source=source)


def crew(number: int, least=7.0, likely=10.0, most=13.0, **terms) -> Supplier:
    source = Arborist(
        **{
            "material": "arborist_leafy",
            "least_m3": least,
            "likely_m3": likely,
            "most_m3": most,
            "chance": 0.95,
            **terms,
        }
    )
    return Supplier(id=UUID(int=200 + number), name=f"Crew {number}", currency="EUR", source=source)


def load(number: int, volume_m3: float, material="arborist_leafy", came: date | None = None, **more) -> Delivery:
    size = more.pop("size", LoadSize(least_m3=volume_m3, likely_m3=volume_m3, most_m3=volume_m3))
    return Delivery(
        id=UUID(int=300 + number),
        name=f"Load {number}",
        state="received" if came else "expected",
        material=material,
        size=size,
        received_on=came,
        volume_m3=volume_m3 if came else None,
        **more,
    )


def pile_of(delivery: Delivery, number: int = 1) -> dict:
    """What a site holds where a load lies on a pile: the pile, the load, and the line of its book."""
    pile = Pile(id=UUID(int=400 + number), name=f"Pile {number}")
    on = delivery.received_on or TODAY
    line = BookLine(
        id=UUID(int=500 + number),
        kind="receive",
        pile_id=pile.id,
        delivery_id=delivery.id,
        on=on,
        volume_m3=delivery.volume_m3 or 0.0,
        written_at=datetime(on.year, on.month, on.day, 9, tzinfo=UTC),
    )
    return {"piles": (pile,), "deliveries": (delivery,), "lines": [line]}
