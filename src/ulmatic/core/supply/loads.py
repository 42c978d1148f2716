"""Whole loads of one size, and barrow trips."""

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, entered, formula


class Order(BaseModel):
    """A number of whole loads against a need.

    Attributes
    ----------
    enough : Figure
        The least whole number of loads that covers the need.
    loads : Figure
        What is ordered: `enough`, or the number chosen instead.
    delivered : Figure
        m³ of that order.
    left_over, short : Figure
        m³; at least one of them is 0.
    """

    model_config = ConfigDict(frozen=True)
    enough: Figure
    loads: Figure
    delivered: Figure
    left_over: Figure
    short: Figure


def whole_loads(need: Figure, load: Figure, chosen: int | None = None) -> Order:
    """Choose whole loads of one size.

    Parameters
    ----------
    need : Figure
        Loose volume, m³.
    load : Figure
        Volume of one load, m³, above 0.
    chosen : int, optional
        Loads to order instead of just enough.

    Returns
    -------
    Order
    """
    need, load = need.brief(), load.brief()
    enough = formula("ceil(V / B)").work("Loads that are enough", "loads", {"V": need.certain(), "B": load})
    loads = enough if chosen is None else entered("Loads chosen", chosen, "loads")
    n = loads.brief()
    return Order(
        enough=enough,
        loads=loads,
        delivered=formula("n * B").work("Delivered", "m3", {"n": n, "B": load}),
        left_over=formula("max(0, n * B - V)").work("Left over", "m3", {"n": n, "B": load, "V": need.certain()}),
        short=formula("max(0, V - n * B)").work("Short", "m3", {"n": n, "B": load, "V": need.certain()}),
    )


def barrow_trips(volume: Figure, barrow: Figure) -> Figure:
    """Return the trips it takes to move `volume` (m³) with a barrow of `barrow` (m³)."""
    return formula("ceil(V / b)").work("Barrow trips", "trips", {"V": volume.brief().certain(), "b": barrow.certain()})
