"""From depth to order: loose volume, whole loads, from whom, on which pile, by which barrow, for how much."""

from ulmatic.core.supply.acceptance import accepted
from ulmatic.core.supply.allocate import Allocation, OneMore, Want, allocate, one_more
from ulmatic.core.supply.books import Books, Entry, EntryKind, NotThere, books_of
from ulmatic.core.supply.buying import Buying
from ulmatic.core.supply.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.supply.certainty import Certainty, LoadSize
from ulmatic.core.supply.choice import Choice, Chosen, Limits, Need, Purchase, choose
from ulmatic.core.supply.choice import Source as ChoiceSource
from ulmatic.core.supply.haul import PARAMETERS as HAUL_PARAMETERS
from ulmatic.core.supply.haul import Haul, SiteHaul, haul, site_haul
from ulmatic.core.supply.heap import (
    CLEAR_OF_WALLS,
    HIGHEST,
    REPOSE,
    Stand,
    TipPlan,
    holds,
    measured_heap,
    stand,
    tip_plan,
)
from ulmatic.core.supply.loads import Order, barrow_trips, whole_loads
from ulmatic.core.supply.moving import Fleet, Heap, Leg, Moving, SecondTip, Walk, move, second_tip
from ulmatic.core.supply.need import LayerNeed, MaterialNeed, PlotNeed, SiteNeed, Terms, plot_need, site_need
from ulmatic.core.supply.quote import Bought, PlotShare, Quote, Rates, quote
from ulmatic.core.supply.receipt import Measured, measured_volume
from ulmatic.core.supply.rounds import Job, Turn, in_order
from ulmatic.core.supply.sources import KIND_WORDS, SupplierSource, months_ahead
from ulmatic.core.supply.volume import BARROW, SPARE, TRODDEN, loose_volume, settling_for
from ulmatic.core.supply.wording import amount, tell_apart

__all__ = [
    "BARROW", "CARRIERS", "CLEAR_OF_WALLS", "HAUL_PARAMETERS", "HIGHEST", "KIND_WORDS", "REPOSE", "SPARE", "TRODDEN",
    "Allocation", "Books", "Bought", "Buying", "Carrier", "CarrierKind", "Certainty", "Choice", "ChoiceSource",
    "Chosen", "Entry", "EntryKind", "Fleet", "Haul", "Heap", "Job", "LayerNeed", "Leg", "Limits", "LoadSize",
    "MaterialNeed", "Measured", "Moving", "Need", "NotThere", "OneMore", "Order", "PlotNeed", "PlotShare", "Purchase",
    "Quote", "Rates", "SecondTip", "SiteHaul", "SiteNeed", "Stand", "SupplierSource", "Terms", "TipPlan", "Turn",
    "Walk", "Want", "accepted", "allocate", "amount", "barrow_trips", "books_of", "choose", "haul", "holds",
    "in_order", "loose_volume", "measured_heap", "measured_volume", "months_ahead", "move", "one_more", "plot_need",
    "quote", "second_tip", "settling_for", "site_haul", "site_need", "stand", "tell_apart", "tip_plan", "whole_loads",
]  # fmt: skip
