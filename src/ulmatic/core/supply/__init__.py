"""From depth to order: loose volume, whole loads, barrow trips."""

from ulmatic.core.supply.loads import Order, barrow_trips, whole_loads
from ulmatic.core.supply.need import LayerNeed, MaterialNeed, PlotNeed, SiteNeed, Terms, plot_need, site_need
from ulmatic.core.supply.volume import BARROW, SPARE, TRODDEN, loose_volume, settling_for

__all__ = [
    "BARROW",
    "SPARE",
    "TRODDEN",
    "LayerNeed",
    "MaterialNeed",
    "Order",
    "PlotNeed",
    "SiteNeed",
    "Terms",
    "barrow_trips",
    "loose_volume",
    "plot_need",
    "settling_for",
    "site_need",
    "whole_loads",
]
