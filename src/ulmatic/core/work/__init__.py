"""Moving and laying: carriers, trips, hours, order of laying."""

from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.work.laying_order import Job, Turn, in_order
from ulmatic.core.work.moving import TIPPED, Fleet, Heap, Hours, Leg, Moving, SecondTip, Walk, move, second_tip
from ulmatic.core.work.rates import (
    BARROW,
    FORK,
    JOB_SPREAD,
    PACE,
    PACE_SPREAD,
    PARAMETERS,
    SCOOP,
    SPREAD,
    UNKNOWN_WALK_M,
)

__all__ = [
    "BARROW", "CARRIERS", "FORK", "JOB_SPREAD", "PACE", "PACE_SPREAD", "PARAMETERS", "SCOOP", "SPREAD", "TIPPED",
    "UNKNOWN_WALK_M", "Carrier", "CarrierKind", "Fleet", "Heap", "Hours", "Job", "Leg", "Moving", "SecondTip",
    "Turn", "Walk", "in_order", "move", "second_tip",
]  # fmt: skip
