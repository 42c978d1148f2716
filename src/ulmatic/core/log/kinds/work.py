"""Hours, tasks and what else was done; notes."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from ulmatic.core.log.log_record import LoggedAs, LogRecord, Words
from ulmatic.core.units import FieldType, Share, Volume

TaskKey = Annotated[str, Field(pattern=r"^[a-z][a-z_]{0,39}$"), FieldType("key")]
"""Key of a kind of task."""
MOST_HOURS = 2_000.0
UPKEEP = ("weeding", "strimming", "mowing", "watering")
"""Tasks that mulch saves."""


class HoursWorked(LogRecord):
    """Person-hours of a task; tasks of upkeep are compared before and after mulching."""

    changes_plan = True
    form_place = 150
    form_fields = ("task", "hours", "person", "volume_m3")
    subject = "anything"
    kind: Literal["hours"] = "hours"
    task: LoggedAs
    hours: Annotated[float, Field(gt=0, le=MOST_HOURS, allow_inf_nan=False), FieldType("hours")]
    person: Words = ""
    volume_m3: Volume | None = None


class TaskDone(LogRecord):
    """A task of a season that was done on a plot, or a share of it; chips that were laid are entries of their own.

    Attributes
    ----------
    own : UUID or None
        Of a task that was added by hand.
    cautions_read : bool
        Whether the cautions that it raises were read before.
    """

    changes_plan = True
    kind: Literal["task"] = "task"
    task: TaskKey
    season: Annotated[str, Field(min_length=1, max_length=40)]
    share: Annotated[Share, Field(gt=0)] = 1.0
    own: UUID | None = None
    cautions_read: bool = False


class WateredIn(LogRecord):
    """Mulch was watered in."""

    form_place = 60
    kind: Literal["watered_in"] = "watered_in"


class Noted(LogRecord):
    """A note or a photo alone."""

    form_place = 160
    subject = "anything"
    kind: Literal["note"] = "note"


class LearningRestarted(LogRecord):
    """What was learned on this plot is forgotten: readings before this day teach nothing any more."""

    changes_plan = True
    kind: Literal["learning_restarted"] = "learning_restarted"
