"""What the logs of a site's plots teach, with the readings that are asked about."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from uuid import UUID

from ulmatic.core.decay.learning import LogRate, RatePosterior, ReadingCheck, learn
from ulmatic.core.decay.stack import Stack, StackGround, fold
from ulmatic.core.log import DepthFound, LedgerEntry

MOST_BREAKS = 6
"""So many readings of one plot are asked about at once, at most."""


def learned_from(
    ledgers: Mapping[UUID, Sequence[LedgerEntry]],
    grounds: Mapping[UUID, StackGround],
    elsewhere: Mapping[str, Sequence[LogRate]],
) -> tuple[RatePosterior, frozenset[UUID], dict[UUID, Stack]]:
    """Return what readings teach.

    Parameters
    ----------
    ledgers : mapping of plot id to sequence of LedgerEntry
        In the order in which things happened.
    grounds : mapping of plot id to StackGround
        With materials as shipped.
    elsewhere : mapping of material key to sequence of LogRate
        What other sites say.

    Returns
    -------
    learned : RatePosterior
    asked : frozenset of UUID
        The entries after which a plot's log is read anew.
    stacks : dict of plot id to Stack
        Each ledger as it was folded for that: the evidence is that of the layers.
    """
    checks: dict[UUID, ReadingCheck] = {}
    stacks = {plot_id: fold(entries, grounds[plot_id]) for plot_id, entries in ledgers.items()}
    confirmed = _confirmed(ledgers)
    for _ in range(MOST_BREAKS):
        readings = {plot_id: stack.evidence.readings for plot_id, stack in stacks.items()}
        posterior = learn(readings, confirmed, elsewhere)
        first: dict[UUID, ReadingCheck] = {}
        for misfit in posterior.misfits:
            if misfit.entry_id not in checks:
                first.setdefault(misfit.plot_id, misfit)
        if not first:
            break
        # What follows a reading that does not fit is compared with it, not with what went before.
        checks |= {misfit.entry_id: misfit for misfit in first.values()}
        anew = frozenset(checks)
        stacks |= {plot_id: fold(ledgers[plot_id], grounds[plot_id], anew) for plot_id in first}
    return replace(posterior, misfits=tuple(checks.values())), frozenset(checks), stacks


def _confirmed(ledgers: Mapping[UUID, Sequence[LedgerEntry]]) -> frozenset[UUID]:
    return frozenset(
        entry.id
        for entries in ledgers.values()
        for entry in entries
        if isinstance(entry.entry, DepthFound) and entry.entry.confirmed
    )
