"""Which cautions the conditions of a site raise, where the decision falls."""

from collections.abc import Collection
from dataclasses import dataclass
from functools import cached_property

from ulmatic.core.log import PileChecked
from ulmatic.core.materials import Hazard, Material, Stage
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.stock.pile_shape import HIGHEST, stand
from ulmatic.core.survey import Use
from ulmatic.core.work import CarrierKind

MANY_TRIPS = 20
"""So many loads for one person in a day are a strain: a judgement."""
HOT_C = 20.0
"""Mean of a month in which heat is warned of: a judgement."""
SMOULDERS_C = 70.0
"""A pile as hot as this inside can smoulder: common practice, no source."""
NEAR_WALL_M = 0.5
AWNED = ("straw", "hay")
_WORRIES = {Hazard.WEED_SEED: "weed_seed", Hazard.HERBICIDE: "herbicide", Hazard.DISEASE: "disease"}


def hot_piles(state: SiteState) -> list[str]:
    """Return the names of piles that may heat: fresh and higher than is safe, or measured so.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    list of str
    """
    fresh: dict[object, float] = {}
    for lot in state.lots:
        if lot.pile_id is not None and lot.stage(state.day, state.climate.clocks[0]) is Stage.FRESH:
            fresh[lot.pile_id] = fresh.get(lot.pile_id, 0.0) + lot.volume_m3
    checked: dict[object, PileChecked] = {}
    for entry in state.site.ledger:
        if entry.on <= state.day and entry.pile_id is not None and isinstance(entry.entry, PileChecked):
            checked[entry.pile_id] = entry.entry
    names = []
    for pile in state.site.piles:
        look = checked.get(pile.id)
        # Freely tipped: nobody has made a low ridge of it yet.
        height_m = stand(fresh[pile.id], highest_m=float("inf")).height_m if pile.id in fresh else 0.0
        if look is not None and look.height_m is not None and pile.id in fresh:
            height_m = look.height_m
        hot = look is not None and (look.temperature_c or 0.0) >= SMOULDERS_C
        if hot or height_m > HIGHEST.value + 1e-9:
            names.append(pile.name)
    return names


@dataclass(frozen=True)
class Conditions:
    """What holds at a site on a day, whatever the plot."""

    state: SiteState

    @cached_property
    def hot(self) -> bool:
        """Whether a pile may heat."""
        return bool(hot_piles(self.state))

    @cached_property
    def spores(self) -> bool:
        """Whether a pile has lain long enough for mould."""
        state = self.state
        return any(lot.stage(state.day, state.climate.clocks[0]) is not Stage.FRESH for lot in state.lots)

    @cached_property
    def children(self) -> bool:
        """Whether children play where piles lie, or will."""
        plots = self.state.site.plots
        playing = any(plot.plot.use is Use.PLAY or plot.plot.site_conditions.children for plot in plots)
        return playing and bool(self.state.lots or self.state.expected)

    @cached_property
    def worries(self) -> tuple[str, ...]:
        """What is feared of the loads that lie here."""
        loads = {lot.delivery_id for lot in self.state.lots}
        worries = {worry for load in self.state.site.deliveries if load.id in loads for worry in load.worries}
        return tuple(sorted(_WORRIES[worry] for worry in worries))

    def laying(
        self, plot: SitePlot, material: Material, month: int, trips: int, carriers: Collection[str]
    ) -> tuple[str, ...]:
        """Return the keys of the cautions that laying chips on a plot raises.

        Parameters
        ----------
        plot : SitePlot
        material : Material
        month : int
            In which it is laid, 1 to 12.
        trips : int
        carriers : collection of str
            That carry the chips.

        Returns
        -------
        tuple of str
            Of the cautions of the catalogue of words.
        """
        state, noted, use = self.state, plot.plot.site_conditions, plot.plot.use
        raised = {
            "spores": self.spores,
            "hot_pile": self.hot,
            "lifting": trips > MANY_TRIPS * state.site.buying.people,
            "heat": state.climate.normals.temperatures_c[month - 1] > HOT_C,
            "machine": CarrierKind.LOADER in carriers,
            "dogs": Hazard.THEOBROMINE in material.hazards,
            "awns": material.key in AWNED,
            "children": self.children,
            "play": use is Use.PLAY,
            "fire": state.site.fire_district,
            "services": use is Use.BANK,
            "walls": noted.to_building_m is not None and noted.to_building_m <= NEAR_WALL_M,
        }
        return (*(key for key, holds in raised.items() if holds), *self.worries)
