"""The dated ledger: what was measured, laid, dug in, removed, fed and observed on plots, trees and piles."""

from ulmatic.core.log.entries import (
    QUARTERS,
    Credit,
    DepthFound,
    DugIn,
    Fed,
    Grown,
    Laid,
    LogEntry,
    Measured,
    Profile,
    Readings,
    Removed,
    Spread,
)
from ulmatic.core.log.ledger import LedgerEntry, Trees, in_order
from ulmatic.core.log.observations import (
    UPKEEP,
    Hours,
    LearningRestarted,
    Moisture,
    Noted,
    Observed,
    PileChecked,
    Planted,
    Ripeness,
    SoilTest,
    TaskDone,
    TreeMeasured,
    WateredIn,
    Worms,
)

__all__ = [
    "QUARTERS", "UPKEEP", "Credit", "DepthFound", "DugIn", "Fed", "Grown", "Hours", "Laid", "LearningRestarted",
    "LedgerEntry", "LogEntry", "Measured", "Moisture", "Noted", "Observed", "PileChecked", "Planted", "Profile",
    "Readings", "Removed", "Ripeness", "SoilTest", "Spread", "TaskDone",
    "TreeMeasured", "Trees", "WateredIn", "Worms", "in_order",
]  # fmt: skip
