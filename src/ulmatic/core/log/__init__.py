"""The dated ledger: what was measured, laid, dug in, removed, fed and observed on plots."""

from ulmatic.core.log.entries import (
    QUARTERS,
    Credit,
    DugIn,
    Fed,
    Grown,
    Laid,
    LogEntry,
    Measured,
    Observed,
    Readings,
    Removed,
    Spread,
)
from ulmatic.core.log.ledger import LedgerEntry, in_order

__all__ = [
    "QUARTERS", "Credit", "DugIn", "Fed", "Grown", "Laid", "LedgerEntry", "LogEntry", "Measured", "Observed",
    "Readings", "Removed", "Spread", "in_order",
]  # fmt: skip
