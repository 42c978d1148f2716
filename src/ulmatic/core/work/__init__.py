"""Moving and laying: carriers, trips, hours, order of laying."""

from ulmatic.core.work.calendar import Crew, Stint, WorkDay, lateness, plots_of, schedule_days
from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.work.cautions import CAUTIONS, Caution
from ulmatic.core.work.laying_order import Job, Turn, in_order
from ulmatic.core.work.moving import TIPPED, Fleet, Heap, Hours, Leg, Moving, SecondTip, Walk, move, second_tip
from ulmatic.core.work.rates import (
    BARROW,
    FORK,
    JOB_SPREAD,
    PACE,
    PACE_SPREAD,
    SCOOP,
    SPREAD,
    UNKNOWN_WALK_M,
)
from ulmatic.core.work.rates import PARAMETERS as RATES
from ulmatic.core.work.tasks import PARAMETERS as TASKS
from ulmatic.core.work.tasks import Task, TaskKind

PARAMETERS = (*RATES, *TASKS)

__all__ = [
    "BARROW", "CARRIERS", "CAUTIONS", "FORK", "JOB_SPREAD", "PACE", "PACE_SPREAD", "PARAMETERS", "SCOOP", "SPREAD",
    "TIPPED", "UNKNOWN_WALK_M", "Carrier", "CarrierKind", "Caution", "Crew", "Fleet", "Heap", "Hours", "Job", "Leg",
    "Moving", "SecondTip", "Stint", "Task", "TaskKind", "Turn", "Walk", "WorkDay", "in_order", "lateness", "move",
    "plots_of", "schedule_days", "second_tip",
]  # fmt: skip
