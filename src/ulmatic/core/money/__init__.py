"""Prices, cost and quotes."""

from ulmatic.core.money.buying import Buying, Currency, Hire
from ulmatic.core.money.quote import Bought, PlotShare, Quote, QuoteLine, Rates, cost, cost_lines, quote

__all__ = [
    "Bought",
    "Buying",
    "Currency",
    "Hire",
    "PlotShare",
    "Quote",
    "QuoteLine",
    "Rates",
    "cost",
    "cost_lines",
    "quote",
]
