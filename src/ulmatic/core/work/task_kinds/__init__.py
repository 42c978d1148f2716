"""The kinds of tasks, a record each. To add one is to add its record here: words, rates, and when a plot needs it."""

from importlib import import_module
from pkgutil import iter_modules

from ulmatic.core.figures import Mark, parameter
from ulmatic.core.work.task_kinds.task_record import (
    PRACTICE,
    TASKS,
    AmountUnit,
    KnownEntry,
    TaskAmount,
    TaskGround,
    TaskKind,
    TaskNeed,
    TaskRecord,
)

for module in iter_modules(__path__):
    import_module(f"{__name__}.{module.name}")
in_place = sorted(TASKS.values(), key=lambda record: record.place)
TASKS.clear()
TASKS.update((record.key, record) for record in in_place)

WORKDAY = parameter(
    "work.day",
    "Hours of hand work in a day",
    6.0,
    "h",
    4.0,
    8.0,
    Mark.COMMON_PRACTICE,
    f"{PRACTICE}a day of shovelling and raking with breaks and the way there.",
)
PARAMETERS = (
    *(rate for record in TASKS.values() for rate in (record.rate, record.tree_rate) if rate is not None),
    WORKDAY,
)

__all__ = [
    "PARAMETERS",
    "TASKS",
    "WORKDAY",
    "AmountUnit",
    "KnownEntry",
    "TaskAmount",
    "TaskGround",
    "TaskKind",
    "TaskNeed",
    "TaskRecord",
]
