"""What a site needs, plot by plot and together."""

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, Mark, Source, Term, Unit, Working, entered, formula
from ulmatic.core.materials import Stage
from ulmatic.core.recipe import COLLAR, HoldBack, Layer, LayerRole, PlannedPlot, Setting, recipe_of, trees_of
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.certainty import Certainty, certainty
from ulmatic.core.supply.loads import Order, barrow_trips, whole_loads
from ulmatic.core.supply.volume import layer_volume, loose_volume, settling_for
from ulmatic.core.survey.ground import Ground
from ulmatic.core.units import Share, Volume


class Terms(BaseModel):
    """What a site orders by: spare, the size of a load and of a barrow in m³, and loads chosen by hand."""

    model_config = ConfigDict(frozen=True)
    spare: Share
    load_m3: Volume
    barrow_m3: Volume
    loads_chosen: int | None = None
    load_least_m3: Volume | None = None
    load_most_m3: Volume | None = None

    def load_size(self) -> LoadSize | None:
        """Return the range of one load, where it was given."""
        least, most = self.load_least_m3 or self.load_m3, self.load_most_m3 or self.load_m3
        if least >= most:
            return None
        return LoadSize(least_m3=least, likely_m3=self.load_m3, most_m3=most)


class LayerNeed(BaseModel):
    """One layer's share of the order: loose m³, or m² of a sheet with its overlaps."""

    model_config = ConfigDict(frozen=True)
    role: LayerRole
    material: str
    name: str
    settled_mm: float
    stage: Stage
    amount: Figure


class PlotNeed(BaseModel):
    """Area, outer edge, cardboard, and loose volume of the mulch of one plot; `layers` is all there is to order.

    `by_load` says whether its mulch comes as loads of wood chips.
    """

    model_config = ConfigDict(frozen=True)
    area: Figure
    laid: Figure
    edge: Figure
    cardboard: Figure
    volume: Figure
    by_load: bool
    layers: tuple[LayerNeed, ...]


class MaterialNeed(BaseModel):
    """How much of one material all plots together take."""

    model_config = ConfigDict(frozen=True)
    role: LayerRole
    material: str
    name: str
    amount: Figure


class SiteNeed(BaseModel):
    """All plots together, the order of chips that follows, and what else is to be ordered."""

    model_config = ConfigDict(frozen=True)
    area: Figure
    volume: Figure
    order: Order
    trips: Figure
    also: tuple[MaterialNeed, ...]
    certainty: Certainty | None


def laid_area(area: Figure, share: float, held: Sequence[HoldBack]) -> Figure:
    """Return the m² that are laid: a share of the ground, without the places kept bare for good."""
    bare = [one for one in held if one.for_good]
    if share >= 1 and not bare:
        return area
    terms: dict[str, Figure] = {"A": area, "f": entered("Share that is laid", share, "1")}
    text = "A * f"
    for number, one in enumerate(bare, 1):
        terms |= {
            f"n{number}": entered(f"{one.name}, rows", one.rows, "1"),
            f"l{number}": entered(f"{one.name}, length", one.length_m, "m"),
            f"b{number}": entered(f"{one.name}, width", one.width_m, "m"),
        }
        text += f" - n{number} * l{number} * b{number}"
    return formula(f"max(0, {text})").work("Ground laid", "m2", terms)


@lru_cache(maxsize=4096)
def plot_need(plot: PlannedPlot, spare: float, setting: Setting = Setting()) -> PlotNeed:  # noqa: B008 - frozen
    """Return what `plot` needs, with `spare` (share of one) on top.

    Remembered, because while one plot is being typed all others of its site are asked for again and again.
    """
    ground, made = plot.ground(), recipe_of(plot, setting)
    laid = laid_area(ground.area, made.laid_share, plot.recipe.hold_backs)
    mulch = setting.own or made.proposal.material
    volume = loose_volume(
        laid,
        wanted=entered("Wanted settled depth", plot.wanted_mm, "mm"),
        existing=plot.existing(),
        settling=settling_for(plot.use, mulch),
        spare=entered("Spare", spare, "1"),
    )
    return PlotNeed(
        area=ground.area,
        laid=laid,
        edge=ground.edge,
        cardboard=ground.cardboard,
        volume=volume,
        by_load=mulch.chips,
        layers=tuple(_layer(one, plot, ground, laid, volume, spare) for one in made.layers),
    )


def _layer(layer: Layer, plot: PlannedPlot, ground: Ground, laid: Figure, mulch: Figure, spare: float) -> LayerNeed:
    amounts = {
        LayerRole.MULCH: lambda: mulch,
        LayerRole.SHEET: lambda: ground.cardboard,
        LayerRole.COMPOST: lambda: layer_volume(layer.material, layer.settled_mm, laid, spare),
        LayerRole.BIOCHAR: lambda: layer_volume(layer.material, layer.settled_mm, _collars(plot, laid), spare),
    }
    return LayerNeed(
        role=layer.role,
        material=layer.material.key,
        name=layer.material.name,
        settled_mm=layer.settled_mm,
        stage=layer.stage,
        amount=amounts[layer.role]().model_copy(update={"name": layer.material.name}),
    )


def _collars(plot: PlannedPlot, laid: Figure) -> Figure:
    """Ground of the collars round all trunks; without trunks all that is laid."""
    trees = trees_of(plot)
    if not trees:
        return laid
    inner = float(getattr(plot.shape, "inner_radius_m", 0.0))
    terms = {"n": entered("Trees", trees, "trees"), "r": entered("Trunk and gap", inner, "m"), "c": COLLAR}
    return formula("n * pi * ((r + c)**2 - r**2)").work("Collars", "m2", terms)


def site_need(needs: Mapping[str, PlotNeed] | Sequence[tuple[str, PlotNeed]], terms: Terms) -> SiteNeed:
    """Add up what plots need, given with their names, and choose the order of chips."""
    named = list(needs.items()) if isinstance(needs, Mapping) else list(needs)
    area = _total("Area of all plots", [(name, need.area) for name, need in named], "m2")
    volume = _total("Loose volume of all plots", [(name, need.volume) for name, need in named if need.by_load], "m3")
    size, barrow = terms.load_size(), entered("Barrow, heaped", terms.barrow_m3, "m3")
    return SiteNeed(
        area=area,
        volume=volume,
        order=whole_loads(volume, entered("One load", terms.load_m3, "m3"), terms.loads_chosen),
        trips=_total("Barrow trips", [(name, barrow_trips(need.volume, barrow)) for name, need in named], "trips"),
        also=_also(named),
        certainty=certainty(volume.value, size) if size else None,
    )


def _also(named: Sequence[tuple[str, PlotNeed]]) -> tuple[MaterialNeed, ...]:
    """What is ordered beside the loads of chips, by material."""
    parts: dict[tuple[LayerRole, str, str], list[tuple[str, Figure]]] = {}
    for name, need in named:
        for layer in need.layers:
            if layer.role is not LayerRole.MULCH or not need.by_load:
                parts.setdefault((layer.role, layer.material, layer.name), []).append((name, layer.amount))
    return tuple(
        MaterialNeed(role=role, material=key, name=name, amount=_total(name, amounts, amounts[0][1].unit))
        for (role, key, name), amounts in sorted(parts.items(), key=lambda one: one[0][2])
    )


def _total(name: str, parts: list[tuple[str, Figure]], unit: Unit) -> Figure:
    letter = {"m2": "A", "trips": "n"}.get(unit, "V")
    symbols = [f"{letter}{number}" for number in range(1, len(parts) + 1)]
    return Figure(
        name=name,
        value=math.fsum(figure.value for _, figure in parts),
        unit=unit,
        low=math.fsum(figure.low if figure.low is not None else figure.value for _, figure in parts),
        high=math.fsum(figure.high if figure.high is not None else figure.value for _, figure in parts),
        source=Source(mark=Mark.COMPUTED, text="The sum of its plots; the range assumes all settle alike."),
        working=Working(
            formula=tuple(piece for symbol in symbols for piece in (" + ", symbol))[1:] or ("0",),
            terms=tuple(
                Term(symbol=symbol, figure=figure.brief(plot))
                for symbol, (plot, figure) in zip(symbols, parts, strict=True)
            ),
        ),
    )
