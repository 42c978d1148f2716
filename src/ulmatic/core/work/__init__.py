"""Moving and laying: carriers, trips, hours, order of laying."""

from ulmatic.core.work.calendar import Crew, Stint, WorkDay, plots_of, schedule_days
from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.work.cautions import CAUTIONS, Caution
from ulmatic.core.work.crops import CROPS, Crop, CropFigures, Hardiness
from ulmatic.core.work.fleet import Fleet, Walk
from ulmatic.core.work.growing import PARAMETERS as GROWING
from ulmatic.core.work.growing import SURE, GrowingYear, Lanes, TimeLeft, instead, lanes, seed_for_ground, seed_for_rows
from ulmatic.core.work.laying_order import Job, Turn, in_order
from ulmatic.core.work.legs import Leg, Moving, PersonHours
from ulmatic.core.work.moving import TIPPED, LoadingPlace, SecondTip, move, second_tip
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
from ulmatic.core.work.row_work import PARAMETERS as ROW_WORK
from ulmatic.core.work.task_kinds import PARAMETERS as TASK_RATES
from ulmatic.core.work.task_kinds import TASKS, KnownEntry, TaskKind
from ulmatic.core.work.task_kinds.laying import CHIPS
from ulmatic.core.work.tasks import Task
from ulmatic.core.work.watering import PARAMETERS as WATERING
from ulmatic.core.work.watering import Rooting, Week, water_for_week, weeks_of

PARAMETERS = (*RATES, *TASK_RATES, *GROWING, *WATERING, *ROW_WORK)
