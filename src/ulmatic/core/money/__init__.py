"""Prices, cost and quotes."""

from ulmatic.core.money.buying import Buying, Currency, Hire
from ulmatic.core.money.quote import Bought, PlotShare, Quote, QuoteLine, Rates, cost, cost_lines, quote
