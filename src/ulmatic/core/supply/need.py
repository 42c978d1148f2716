"""What a site needs, plot by plot and together."""

from collections.abc import Mapping, Sequence
from functools import lru_cache

from pydantic import BaseModel, ConfigDict

from ulmatic.core.supply.loads import Order, barrow_trips, whole_loads
from ulmatic.core.supply.volume import loose_volume, settling_for
from ulmatic.core.survey.plot import Plot
from ulmatic.core.units import Share, Volume
from ulmatic.core.working import Figure, Mark, Source, Term, Working, entered


class Terms(BaseModel):
    """What a site orders by: spare, the size of a load and of a barrow in m³, and loads chosen by hand."""

    model_config = ConfigDict(frozen=True)
    spare: Share
    load_m3: Volume
    barrow_m3: Volume
    loads_chosen: int | None = None


class PlotNeed(BaseModel):
    """Area, outer edge, cardboard and loose volume of one plot."""

    model_config = ConfigDict(frozen=True)
    area: Figure
    edge: Figure
    cardboard: Figure
    volume: Figure


class SiteNeed(BaseModel):
    """All plots together, and the order that follows."""

    model_config = ConfigDict(frozen=True)
    area: Figure
    volume: Figure
    order: Order
    trips: Figure


@lru_cache(maxsize=4096)
def plot_need(plot: Plot, spare: float) -> PlotNeed:
    """Return what `plot` needs, with `spare` (share of one) on top.

    Remembered, because while one plot is being typed all others of its site are asked for again and again.
    """
    ground = plot.ground()
    return PlotNeed(
        area=ground.area,
        edge=ground.edge,
        cardboard=ground.cardboard,
        volume=loose_volume(
            ground.area,
            wanted=entered("Wanted settled depth", plot.wanted_mm, "mm"),
            existing=plot.existing(),
            settling=settling_for(plot.use),
            spare=entered("Spare", spare, "1"),
        ),
    )


def site_need(needs: Mapping[str, PlotNeed] | Sequence[tuple[str, PlotNeed]], terms: Terms) -> SiteNeed:
    """Add up what plots need, given with their names, and choose the order."""
    named = list(needs.items()) if isinstance(needs, Mapping) else list(needs)
    area = _total("Area of all plots", [(name, need.area) for name, need in named], "m2")
    volume = _total("Loose volume of all plots", [(name, need.volume) for name, need in named], "m3")
    return SiteNeed(
        area=area,
        volume=volume,
        order=whole_loads(volume, entered("One load", terms.load_m3, "m3"), terms.loads_chosen),
        trips=barrow_trips(volume, entered("Barrow, heaped", terms.barrow_m3, "m3")),
    )


def _total(name: str, parts: list[tuple[str, Figure]], unit: str) -> Figure:
    symbols = [f"{'A' if unit == 'm2' else 'V'}{number}" for number in range(1, len(parts) + 1)]
    return Figure.model_validate(
        {
            "name": name,
            "value": sum(figure.value for _, figure in parts),
            "unit": unit,
            "low": sum(figure.low if figure.low is not None else figure.value for _, figure in parts),
            "high": sum(figure.high if figure.high is not None else figure.value for _, figure in parts),
            "source": Source(mark=Mark.COMPUTED, text="The sum of its plots; the range assumes all settle alike."),
            "working": Working(
                formula=tuple(piece for symbol in symbols for piece in (" + ", symbol))[1:] or ("0",),
                terms=tuple(
                    Term(symbol=symbol, figure=figure.brief(plot))
                    for symbol, (plot, figure) in zip(symbols, parts, strict=True)
                ),
            ),
        }
    )
