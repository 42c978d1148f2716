"""Coming seasons: windows, rules of renewal, years ahead, and what they take."""

from ulmatic.core.renewal.arrivals import Arrival
from ulmatic.core.renewal.cover import End, Ground, TopUp, arrays, covered
from ulmatic.core.renewal.growth import PARAMETERS as GROWTH
from ulmatic.core.renewal.growth import closes_in, grown
from ulmatic.core.renewal.rules import (
    RULE_WORDS,
    Every,
    Harvest,
    Hold,
    Once,
    Quarter,
    Rounds,
    Rule,
    Thin,
    proposed_rule,
)
from ulmatic.core.renewal.seasons import PARAMETERS, Overrides, Seasons, open_months, seasons_of, zone_of
from ulmatic.core.renewal.simulate import Future, renew

__all__ = [
    "GROWTH", "PARAMETERS", "RULE_WORDS", "Arrival", "End", "Every", "Future", "Ground", "Harvest", "Hold", "Once",
    "Overrides",
    "Quarter", "Rounds", "Rule", "Seasons", "Thin", "TopUp", "arrays", "closes_in", "covered", "grown", "open_months",
    "proposed_rule", "renew", "seasons_of", "zone_of",
]  # fmt: skip
