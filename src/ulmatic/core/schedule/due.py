"""When a plot is due."""

from dataclasses import dataclass
from datetime import date

from ulmatic.core.log import QUARTERS
from ulmatic.core.schedule.laying import SPECK_MM, ScheduledPlot
from ulmatic.core.schedule.rules import Every, Harvest, Keep, Once, Quarter, Rule, Thin
from ulmatic.core.schedule.seasons import Season


@dataclass
class Progress:
    """What a plot has come to: when it was laid last, how often, and whose turn is next."""

    laid_on: date | None
    layings: int
    quarter: int
    rounds: int
    covered_m2: float
    digs_in: bool
    waits_since: date | None = None
    planned: int = 0

    @classmethod
    def of(cls, plot: ScheduledPlot) -> "Progress":
        """Return what a plot has come to by its ledger.

        Returns
        -------
        Progress
        """
        stack = plot.stack
        return cls(
            laid_on=max(stack.laid_on, default=None),
            layings=len(stack.laid_on),
            quarter=0 if stack.last_quarter is None else (stack.last_quarter + 1) % QUARTERS,
            rounds=stack.rounds,
            covered_m2=plot.covered_m2,
            digs_in=plot.digs_in and not stack.dug_in,
        )


def due(
    plot: ScheduledPlot,
    progress: Progress,
    rule: Rule,
    season: Season,
    opening_mm: float,
    today_mm: float,
    *,
    running: bool,
) -> str | None:
    """Return why a plot is to be laid in a season; None where it is not.

    Parameters
    ----------
    plot : ScheduledPlot
    progress : Progress
    rule : Rule
        The plot's, or what follows it.
    season : Season
    opening_mm, today_mm : float
        Depth when the plot's next season opens, and today, mm settled.
    running : bool
        Whether the season's account is running.

    Returns
    -------
    str or None
    """
    windows = plot.windows
    if isinstance(rule, Every | Harvest | Quarter) and rule.window is not None:
        windows = frozenset({rule.window})
    uses = season.window in windows
    bare_or_overdue = running and today_mm < plot.least_mm and not isinstance(rule, Quarter)
    years = season.opens.year - progress.laid_on.year if progress.laid_on else None
    words: str | None = None
    match rule:
        case Once():
            return "Laid once." if progress.layings == 0 and progress.planned == 0 and running else None
        case Quarter():
            return "A quarter of the ring, in its turn." if uses and years != 0 else None
        case Harvest() if uses and (years is None or years >= rule.years):
            words = "The humus is dug out and the plot refilled."
        case Every() if uses and (years is None or years >= rule.years):
            words = "Due this year."
        case Thin():
            words = "Thin, each season."
        case Keep() if uses and opening_mm < plot.least_mm and not bare_or_overdue:
            words = (
                "Below the least depth."
                if today_mm < plot.least_mm
                else "Would fall below the least depth before the next season."
            )
    if words is None and bare_or_overdue:
        words = "Bare." if today_mm <= SPECK_MM else "Below the least depth."
    if words is None and running and plot.stack.weeds_on is not None:
        words = "Weeds are coming through."
    return words
