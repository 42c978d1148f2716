"""How a site buys and has its work done."""

from typing import Annotated, Literal

from pydantic import ConfigDict, Field, StringConstraints

from ulmatic.core.units import Day, Money, Share
from ulmatic.core.value import Value
from ulmatic.core.work.carriers import CarrierKind

Currency = Annotated[str, StringConstraints(pattern=r"^[A-Z]{3}$")]
"""ISO 4217."""


class Hire(Value):
    """What hiring a machine costs a day; None where that is not known."""

    model_config = ConfigDict(extra="forbid")
    cart: Money | None = None
    loader: Money | None = None
    blower: Money | None = None


class Buying(Value):
    """Money, date, certainty, people, carriers, and rates for quotes.

    Attributes
    ----------
    wanted_by : date or None
        Loads come until then.
    budget : float or None
        For chips and delivery.
    sure : int
        Percent of certainty that loads are enough.
    labour_per_h : float
        An hour of one person.
    markup, tax : float
        Shares of materials, and of the subtotal.
    disposal : float
        Of waste, for the whole job.
    """

    currency: Currency = "EUR"
    wanted_by: Day | None = None
    budget: Money | None = None
    sure: Literal[50, 80, 95] = 50
    people: Annotated[int, Field(ge=1, le=100)] = 1
    carriers: Annotated[tuple[CarrierKind, ...], Field(min_length=1, max_length=4)] = (CarrierKind.BARROW,)
    labour_per_h: Money = 0.0
    markup: Share = 0.0
    disposal: Money = 0.0
    tax: Share = 0.0
    hire: Hire = Hire()
