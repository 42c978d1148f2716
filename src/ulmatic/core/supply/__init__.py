"""From depth to order: loose volume, whole loads, barrow trips."""

from ulmatic.core.supply.certainty import Certainty, LoadSize
from ulmatic.core.supply.haul import PARAMETERS as HAUL_PARAMETERS
from ulmatic.core.supply.haul import Haul, SiteHaul, haul, site_haul
from ulmatic.core.supply.heap import HIGHEST, REPOSE, Stand, holds, stand
from ulmatic.core.supply.loads import Order, barrow_trips, whole_loads
from ulmatic.core.supply.need import LayerNeed, MaterialNeed, PlotNeed, SiteNeed, Terms, plot_need, site_need
from ulmatic.core.supply.volume import BARROW, SPARE, TRODDEN, loose_volume, settling_for

__all__ = [
    "BARROW",
    "HAUL_PARAMETERS",
    "HIGHEST",
    "REPOSE",
    "SPARE",
    "TRODDEN",
    "Certainty",
    "Haul",
    "LayerNeed",
    "LoadSize",
    "MaterialNeed",
    "Order",
    "PlotNeed",
    "SiteHaul",
    "SiteNeed",
    "Stand",
    "Terms",
    "barrow_trips",
    "haul",
    "holds",
    "loose_volume",
    "plot_need",
    "settling_for",
    "site_haul",
    "site_need",
    "stand",
    "whole_loads",
]
