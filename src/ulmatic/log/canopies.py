"""A canopy that is measured: the ring grows with it from that day on."""

from datetime import date
from typing import Any
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import TreeMeasured
from ulmatic.core.survey.shapes import Ring, RingRow
from ulmatic.log.models import LedgerRow
from ulmatic.log.schemas import NewLogEntry
from ulmatic.platform.problems import Problem
from ulmatic.site.snapshot import plot_of
from ulmatic.survey.models import PlotRow
from ulmatic.survey.rows import one_plot


def widen(scope: Scope, site_id: UUID, entry: NewLogEntry) -> dict[str, Any]:
    """Give a plot the canopy that an entry measured of all its trees; return how its ring was measured before."""
    what = entry.entry
    if not isinstance(what, TreeMeasured) or what.canopy_m is None or entry.plot_id is None or entry.trees is not None:
        return {}
    row = one_plot(scope, site_id, entry.plot_id, lock=True)
    shape = plot_of(row).shape
    if not isinstance(shape, Ring | RingRow) or entry.on < row.surveyed_on:
        return {}
    if what.canopy_m <= 2 * shape.inner_radius_m:
        raise Problem(422, "This canopy is not wider than the gap at the trunk.", field="entry.canopy_m")
    before = {
        "canopy_m": shape.canopy_m, "surveyed_on": row.surveyed_on.isoformat(),
        "typed": row.typed.get("shape", {}).get("canopy_m"),
    }  # fmt: skip
    text = entry.typed().get("entry", {}).get("canopy_m")
    _measure(row, what.canopy_m, text, entry.on)
    return {"before": before}


def narrow(scope: Scope, site_id: UUID, entry: LedgerRow) -> None:
    """Give a plot back the canopy it had before an entry that is taken away, where nothing was measured since."""
    before = entry.typed.get("before")
    if before is None or entry.plot_id is None:
        return
    row = one_plot(scope, site_id, entry.plot_id, lock=True)
    if row.shape.get("canopy_m") == entry.entry.get("canopy_m"):
        _measure(row, before["canopy_m"], before["typed"], date.fromisoformat(before["surveyed_on"]))


def _measure(row: PlotRow, canopy_m: float, text: str | None, on: date) -> None:
    row.shape = {**row.shape, "canopy_m": canopy_m}
    typed = {key: value for key, value in row.typed.get("shape", {}).items() if key != "canopy_m"}
    row.typed = {**row.typed, "shape": typed if text is None else {**typed, "canopy_m": text}}
    row.surveyed_on = on
    row.version += 1
