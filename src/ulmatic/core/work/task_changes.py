"""What people say of the tasks that follow from the plan: day, hours, crew, left out; and their own tasks."""

from datetime import date
from typing import Annotated, Self
from uuid import UUID

from pydantic import ConfigDict, Field, StringConstraints, model_validator

from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.value import Value
from ulmatic.core.work.task_kinds import TaskKind
from ulmatic.core.work.task_kinds.finishing import ADDED
from ulmatic.core.work.tasks import key_of

MOST_CHANGES = 2_000


class TaskWish(Value):
    """A change to a task of a season, or a task that was added by hand, as it is sent: what is unset stays as it was.

    Attributes
    ----------
    own : UUID or None
        Of a task that was added by hand; it says its `words`.
    on : date or None
        The day on which it is done; as the schedule finds where None.
    hours : float or None
        Person-hours; as worked out where None.
    left_out : bool
    crew : str
        Who does it, where a site has several crews.
    """

    model_config = ConfigDict(extra="forbid")
    season: Annotated[str, Field(min_length=1, max_length=40)]
    plot_id: UUID
    task: TaskKind
    own: UUID | None = None
    words: Annotated[str, Field(max_length=120)] = ""
    on: date | None = None
    hours: Annotated[float, Field(gt=0, le=2_000, allow_inf_nan=False)] | None = None
    left_out: bool = False
    crew: Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)] = ""

    @property
    def key(self) -> str:
        """Of the task that it is about."""
        return key_of(self.plot_id, self.task, self.own)


class TaskChange(TaskWish):
    """The same as it holds: whole."""

    @model_validator(mode="after")
    def _named(self) -> Self:
        if (self.task == ADDED.key) != (self.own is not None):
            raise wrong("A task of your own has an id, others have none.", "own")
        if self.task == ADDED.key and not self.words.strip():
            raise wrong("Say what is to be done.", "words")
        if self.task == ADDED.key and self.hours is None:
            raise wrong("Say how many hours it takes.", "hours")
        return self

    @property
    def empty(self) -> bool:
        """Whether it says nothing that differs from the plan."""
        settings = (self.own, self.on, self.hours)
        return settings == (None, None, None) and not self.left_out and not self.crew
