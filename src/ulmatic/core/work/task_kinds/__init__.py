"""The kinds of tasks, a record each. To add one is to add its record here: words, rates, and when a plot needs it."""

from importlib import import_module
from pkgutil import iter_modules

from ulmatic.core.tables import read_parameter
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

WORKDAY = read_parameter("work.day")
PARAMETERS = (
    *(rate for record in TASKS.values() for rate in (record.rate, record.tree_rate) if rate is not None),
    WORKDAY,
)
