"""What the logs of a site's plots teach, with the readings that are asked about."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from uuid import UUID

from ulmatic.core.decay.learning import Learned, Lesson, Taught, learn
from ulmatic.core.decay.readings import Reading
from ulmatic.core.decay.stack import StackGround, evidence_of
from ulmatic.core.log import DepthFound, LedgerEntry

MOST_BREAKS = 6
"""So many readings of one plot are asked about at once, at most."""


def learned_from(
    ledger: Mapping[UUID, Sequence[LedgerEntry]],
    ground: Callable[[UUID], StackGround],
    elsewhere: Mapping[str, Sequence[Taught]],
) -> tuple[Learned, frozenset[UUID]]:
    """Return what readings teach, and the entries after which a plot's log is read anew: those asked about.

    Parameters
    ----------
    ledger : mapping of plot id to sequence of LedgerEntry
        In the order in which things happened.
    ground : callable
        A plot's ground by its id, with materials as shipped.
    elsewhere : mapping of material key to sequence of Taught
        What other sites say.
    """

    def readings_of(plot_id: UUID) -> list[Reading]:
        return evidence_of(ledger[plot_id], ground(plot_id), breaks).readings

    breaks: frozenset[UUID] = frozenset()
    readings = {plot_id: readings_of(plot_id) for plot_id in ledger}
    confirmed = _confirmed(ledger)
    asked: dict[UUID, Lesson] = {}
    for _ in range(MOST_BREAKS):
        learned = learn(readings, confirmed, elsewhere)
        first: dict[UUID, Lesson] = {}
        for misfit in learned.misfits:
            if misfit.entry_id not in breaks:
                first.setdefault(misfit.plot_id, misfit)
        if not first:
            break
        # What follows a reading that does not fit is compared with it, not with what went before.
        asked |= {misfit.entry_id: misfit for misfit in first.values()}
        breaks |= {misfit.entry_id for misfit in first.values()}
        readings |= {plot_id: readings_of(plot_id) for plot_id in first}
    return replace(learned, misfits=tuple(asked.values())), breaks


def _confirmed(ledger: Mapping[UUID, Sequence[LedgerEntry]]) -> frozenset[UUID]:
    return frozenset(
        entry.id
        for entries in ledger.values()
        for entry in entries
        if isinstance(entry.entry, DepthFound) and entry.entry.confirmed
    )
