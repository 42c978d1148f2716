"""How a season's figures are worked out, for whoever asks."""

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, entered, formula
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.value import Value

_SUM = Source(mark=Mark.COMPUTED, text="The sum of the season's layings, with spare.")


class SeasonWorkings(Value):
    """The working of what is needed, to be ordered, left over, and of the hours."""

    needed: Figure
    to_order: Figure
    left_over: Figure
    hours: Figure


def season_workings(plan: SitePlan, number: int) -> SeasonWorkings:
    """Return how the figures of a season are worked out.

    Parameters
    ----------
    plan : SitePlan
    number : int
        Of the season, from 0.

    Returns
    -------
    SeasonWorkings
    """
    figures, spare = plan.figures(number), plan.state.site.spare.value
    parts = [
        (f"V{index}", entered(plan.plots[laying.plot].plot.name, plan.ordered_m3(laying), "m3"))
        for index, laying in enumerate(plan.layings(number), 1)
    ]
    pieces = tuple(piece for symbol, _ in parts for piece in (" + ", symbol))[1:]
    needed = Figure(
        name="Needed, loose",
        value=figures.needed_m3,
        unit="m3",
        source=_SUM,
        working=Working(
            formula=pieces or ("0",),
            terms=tuple(Term(symbol=symbol, figure=figure) for symbol, figure in parts),
            note=f"Each with {spare:.0%} spare.".replace("%", " %"),
        ),
    )
    terms = {
        "N": needed.brief(),
        "H": entered("On hand", figures.on_hand_m3, "m3"),
        "C": entered("Coming", figures.coming_m3, "m3"),
    }
    to_order = formula("max(0, N - H - C)").work("To order", "m3", terms)
    surplus = {
        "H": terms["H"],
        "C": terms["C"],
        "O": entered("Ordered", figures.ordered_m3, "m3"),
        "S": entered("Short", figures.short_m3, "m3"),
        "N": needed.brief(),
    }
    left_over = formula("max(0, H + C + O + S - N)").work("Left over", "m3", surplus)
    return SeasonWorkings(needed=needed, to_order=to_order, left_over=left_over, hours=plan.work(number).figure())
