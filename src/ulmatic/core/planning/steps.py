"""What to do next on a site, one step at a time."""

from datetime import date
from enum import StrEnum
from uuid import UUID

from ulmatic.core.log import Measured
from ulmatic.core.planning.season_figures import Now
from ulmatic.core.site import SiteState
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.value import Value


class StepKey(StrEnum):
    """What a step is about."""

    PLOT = "plot"
    EXISTING = "existing"
    CLIMATE = "climate"
    MATERIAL = "material"
    TIP = "tip"
    SUPPLIER = "supplier"
    ORDER = "order"
    DELIVERY = "delivery"
    LAY = "lay"
    NEXT_SEASON = "next_season"
    READING = "reading"


class Step(Value):
    """Something useful to do; amounts in its text stand in braces, in SI units.

    `plot_id` names the plot on which it is done; an `optional` step makes figures better and can be skipped.
    """

    key: StepKey
    text: str
    optional: bool = False
    plot_id: UUID | None = None


def steps_of(state: SiteState, running: Now, order_by: date) -> tuple[Step, ...]:
    """Return what can be done next on a site, the most useful first; never empty.

    Ground comes first; then what makes the figures right; then the order, the delivery and the laying of the season.

    Parameters
    ----------
    state : SiteState
    running : Now
    order_by : date
        Last day to order for the running season.

    Returns
    -------
    tuple of Step
    """
    site = state.site
    if not site.plots:
        return (Step(key=StepKey.PLOT, text="Measure the first plot."),)
    steps: list[Step] = []
    logged = any(not isinstance(entry.entry, Measured) or entry.entry.depth().value > 0 for entry in site.ledger)
    if not logged and not site.lines:
        steps.append(
            Step(
                key=StepKey.EXISTING,
                optional=True,
                plot_id=site.plots[0].id,
                text="Existing depth is 0 on every plot. Enter it where old mulch is left.",
            )
        )
    if state.climate.assumed:
        steps.append(Step(key=StepKey.CLIMATE, text="Choose the climate: seasons and decay depend on it."))
    if site.usual is None and not site.suppliers and not site.deliveries:
        steps.append(Step(key=StepKey.MATERIAL, optional=True, text="Choose the material of your loads."))
    if not state.ground.tips:
        steps.append(
            Step(
                key=StepKey.TIP, optional=True, text="Mark where a truck can tip: hours depend on the walking distance."
            )
        )
    if not site.suppliers:
        steps.append(Step(key=StepKey.SUPPLIER, optional=True, text="Add suppliers and prices to see the cost."))
    return (*steps, *_season_steps(state, running, order_by))


def _season_steps(state: SiteState, running: Now, order_by: date) -> list[Step]:
    """Return what the running season asks for, in the order of the job; the last stands when nothing is due.

    Returns
    -------
    list of Step
    """
    steps = []
    if running.ordered_m3 > SPECK_M3:
        text = f"Order {{{running.ordered_m3:.6g} m3}} by {order_by:%-d %B %Y}."
        steps.append(Step(key=StepKey.ORDER, text=text))
    if state.expected:
        number = len(state.expected)
        text = "Receive the load that is coming." if number == 1 else f"Receive the {number} loads that are coming."
        steps.append(Step(key=StepKey.DELIVERY, text=text))
    if running.needed_m3 > SPECK_M3:
        text = f"Lay {{{running.needed_m3:.6g} m3}} between {running.opens:%-d %B} and {running.closes:%-d %B %Y}."
        steps.append(Step(key=StepKey.LAY, text=text))
    elif running.next is not None:
        steps.append(Step(key=StepKey.NEXT_SEASON, text=f"Nothing is due before {running.next.season}."))
    steps.append(Step(key=StepKey.READING, text="Log a depth reading to check the forecast."))
    return steps
