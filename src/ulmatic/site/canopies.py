"""A canopy that is measured: the ring grows with it from that day on."""

from datetime import date

from ulmatic.accounts.scope import Scope
from ulmatic.core.survey.shapes import Ring, RingRow
from ulmatic.platform.problems import Problem
from ulmatic.records.log import LedgerRow
from ulmatic.records.plots import one_plot
from ulmatic.records.survey import PlotRow
from ulmatic.site.snapshot import plot_of


def widen(scope: Scope, row: LedgerRow) -> None:
    """Give a plot the canopy that an entry measured of all its trees; the entry keeps how it was measured before."""
    canopy_m = row.entry.get("canopy_m")
    if row.entry["kind"] != "tree" or canopy_m is None or row.plot_id is None or row.trees is not None:
        return
    plot = one_plot(scope, row.site_id, row.plot_id, lock=True)
    shape = plot_of(plot).shape
    if not isinstance(shape, Ring | RingRow) or row.on < plot.surveyed_on:
        return
    if canopy_m <= 2 * shape.inner_radius_m:
        raise Problem(422, "This canopy is not wider than the gap at the trunk.", field="entry.canopy_m")
    before = {
        "canopy_m": shape.canopy_m,
        "surveyed_on": plot.surveyed_on.isoformat(),
        "typed": plot.typed.get("shape", {}).get("canopy_m"),
    }
    _measure(plot, canopy_m, row.typed.get("entry", {}).get("canopy_m"), row.on)
    row.typed = {**row.typed, "before": before}


def narrow(scope: Scope, row: LedgerRow) -> None:
    """Give a plot back the canopy it had before an entry that is taken away, where nothing was measured since."""
    before = row.typed.get("before")
    if before is None or row.plot_id is None:
        return
    plot = one_plot(scope, row.site_id, row.plot_id, lock=True)
    if plot.shape.get("canopy_m") == row.entry.get("canopy_m"):
        _measure(plot, before["canopy_m"], before["typed"], date.fromisoformat(before["surveyed_on"]))


def _measure(plot: PlotRow, canopy_m: float, text: str | None, on: date) -> None:
    plot.shape = {**plot.shape, "canopy_m": canopy_m}
    typed = {key: value for key, value in plot.typed.get("shape", {}).items() if key != "canopy_m"}
    plot.typed = {**plot.typed, "shape": typed if text is None else {**typed, "canopy_m": text}}
    plot.surveyed_on = on
    plot.version += 1
