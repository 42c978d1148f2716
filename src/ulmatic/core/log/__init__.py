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
    Opened,
    PileChecked,
    Planted,
    Ripeness,
    RowWorked,
    SoilTest,
    TaskDone,
    TreeMeasured,
    WateredIn,
    Worms,
)
from ulmatic.core.log.openings import NEXT, Opening, RowState, openings_of, refused_step

__all__ = [
    "NEXT", "QUARTERS", "UPKEEP", "Credit", "DepthFound", "DugIn", "Fed", "Grown", "Hours",
    "Laid", "LearningRestarted", "LedgerEntry", "LogEntry", "Measured", "Moisture", "Noted", "Observed", "Opened",
    "Opening", "PileChecked", "Planted", "Profile", "Readings", "Removed", "Ripeness", "RowState", "RowWorked",
    "SoilTest", "Spread", "TaskDone", "TreeMeasured", "Trees", "WateredIn", "Worms", "in_order", "openings_of",
    "refused_step",
]  # fmt: skip
