"""Rows, strips and patches of mulched ground that are opened, worked, and closed again: their state by date."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum
from uuid import UUID

from ulmatic.core.log.kinds.opened_rows import Opened, RowWorked
from ulmatic.core.log.ledger import LedgerEntry


class RowState(StrEnum):
    """States of opened ground in the order of the work."""

    PULLED_BACK = "pulled_back"
    LOOSENED = "loosened"
    SOWN = "sown"
    PLANTED = "planted"
    UP = "up"
    CLOSED = "closed"
    CLEARED = "cleared"


NEXT: dict[RowState, tuple[RowState, ...]] = {
    RowState.PULLED_BACK: (RowState.LOOSENED, RowState.SOWN, RowState.PLANTED, RowState.CLEARED),
    RowState.LOOSENED: (RowState.SOWN, RowState.PLANTED, RowState.CLEARED),
    RowState.SOWN: (RowState.UP, RowState.CLOSED, RowState.CLEARED),
    RowState.PLANTED: (RowState.CLOSED, RowState.CLEARED),
    RowState.UP: (RowState.CLOSED, RowState.CLEARED),
    RowState.CLOSED: (RowState.CLEARED,),
    RowState.CLEARED: (),
}
"""What may follow each state; soil is loosened before it is sown where that is needed, not always."""
BARE = (RowState.PULLED_BACK, RowState.LOOSENED, RowState.SOWN, RowState.PLANTED, RowState.UP)
"""States in which the chips lie aside."""


@dataclass(frozen=True)
class StateSince:
    """A state with the day from which it holds."""

    state: RowState
    on: date


@dataclass(frozen=True)
class Opening:
    """Opened ground of a plot with all that was done on it until a day.

    Attributes
    ----------
    crop : str or None
        Key of the crop that grows there, or is to.
    """

    id: UUID
    plot_id: UUID
    opened: Opened
    steps: tuple[StateSince, ...]
    crop: str | None = None

    @property
    def state(self) -> RowState:
        """Its state after the last step."""
        return self.steps[-1].state

    @property
    def since(self) -> date:
        """Since when that holds."""
        return self.steps[-1].on

    def on(self, state: RowState) -> date | None:
        """Return the day of a step; None where it was not done.

        Returns
        -------
        date or None
        """
        return next((step.on for step in self.steps if step.state is state), None)

    @property
    def started_on(self) -> date | None:
        """The day on which it was sown or planted."""
        return self.on(RowState.SOWN) or self.on(RowState.PLANTED)

    @property
    def bare(self) -> bool:
        """Whether its chips lie aside."""
        return self.state in BARE

    @property
    def is_open(self) -> bool:
        """Whether it is not covered again to the target between crops."""
        return self.state is not RowState.CLEARED


def openings_of(entries: Iterable[LedgerEntry], day: date) -> list[Opening]:
    """Return what was opened on a plot until a day, in the order in which it was opened.

    A step that cannot follow the state that is there is left out: its opening was corrected since.

    Parameters
    ----------
    entries : iterable of LedgerEntry
        In the order in which things happened.
    day : date

    Returns
    -------
    list of Opening
    """
    openings: dict[UUID, Opening] = {}
    for logged in entries:
        if logged.on > day or logged.plot_id is None:
            continue
        entry = logged.entry
        if isinstance(entry, Opened):
            first = StateSince(RowState.PULLED_BACK, logged.on)
            openings[entry.opening] = Opening(entry.opening, logged.plot_id, entry, (first,), entry.crop)
        elif isinstance(entry, RowWorked) and (opening := openings.get(entry.opening)) is not None:
            state = RowState(entry.step)
            if state in NEXT[opening.state]:
                steps = (*opening.steps, StateSince(state, logged.on))
                openings[entry.opening] = replace(opening, steps=steps, crop=entry.crop or opening.crop)
    return list(openings.values())


def refused_step(openings: Sequence[Opening], worked: RowWorked) -> str | None:
    """Return the sentence that says why a step cannot be done; None where it can.

    Parameters
    ----------
    openings : sequence of Opening
        Of the plot, until the day of the step.
    worked : RowWorked

    Returns
    -------
    str or None
    """
    opening = next((opening for opening in openings if opening.id == worked.opening), None)
    if opening is None:
        return "These rows were not open on this day."
    if RowState(worked.step) not in NEXT[opening.state]:
        return f"These rows are {STATE_WORDS[opening.state]} already; this step does not follow."
    return None


STATE_WORDS = {
    RowState.PULLED_BACK: "pulled back",
    RowState.LOOSENED: "loosened",
    RowState.SOWN: "sown",
    RowState.PLANTED: "planted",
    RowState.UP: "up",
    RowState.CLOSED: "closed",
    RowState.CLEARED: "covered",
}
