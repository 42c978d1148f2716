"""The dated ledger: what was measured, laid, dug in, removed, fed and observed on plots, trees and piles."""

from ulmatic.core.log.entries import LogEntry
from ulmatic.core.log.kinds.credits import Credit, Fed, Grown, Spread
from ulmatic.core.log.kinds.depths import DepthFound, Measured, Profile, Readings
from ulmatic.core.log.kinds.layings import QUARTERS, DugIn, Laid, Removed
from ulmatic.core.log.kinds.opened_rows import Opened, RowWorked
from ulmatic.core.log.kinds.plants import Planted, TreeMeasured
from ulmatic.core.log.kinds.sightings import Moisture, Observed, PileChecked, Ripeness, SoilTest, Worms
from ulmatic.core.log.kinds.work import UPKEEP, HoursWorked, LearningRestarted, Noted, TaskDone, TaskKey, WateredIn
from ulmatic.core.log.ledger import LedgerEntry, Trees, in_order
from ulmatic.core.log.log_record import KINDS, LoggedAs, LogRecord
from ulmatic.core.log.openings import NEXT, Opening, RowState, openings_of, refused_step
