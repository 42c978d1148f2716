"""What it costs: a quote's lines, tax and total, and the cost of each plot, exact decimals."""

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from ulmatic.core.figures import ceil
from ulmatic.core.supply.choice import SupplySource
from ulmatic.core.units import Money, Share
from ulmatic.core.units.currency import exact, minor_digits, rounded
from ulmatic.core.value import Value

QUARTER_H = 0.25
LEAST_M2 = 0.001


class Bought(Value):
    """What is bought of one source: its name, kind, loads and m³."""

    name: str
    material: str
    loads: int
    volume_m3: float
    source: SupplySource


class PlotShare(Value):
    """What of the job falls on one plot; `key` tells plots of the same name apart."""

    key: str
    plot: str
    area_m2: float
    volume_m3: float
    hours: float


class Rates(Value):
    """Prices that the workspace sets: an hour of one person, a markup on materials, disposal of waste, and tax."""

    labour_per_h: Money = 0.0
    markup: Share = 0.0
    disposal: Money = 0.0
    tax: Share = 0.0


class QuoteLine(Value):
    """A line: what, how much of it (`h`, `m3`, a number of loads, or nothing), at which price, and the amount."""

    group: Literal["material", "delivery", "labour", "waste", "markup"]
    label: str
    quantity: float | None = None
    unit: Literal["m3", "h", "loads"] | None = None
    price: Decimal | None = None
    amount: Decimal


class PlotCost(Value):
    """What one plot costs before tax, in all and for a m² (None where it has no ground)."""

    plot: str
    area_m2: float
    volume_m3: float
    hours: float
    amount: Decimal
    per_m2: Decimal | None


class Quote(Value):
    """A quote; amounts in its currency, exact to its smallest unit. `spare_m3` of its volume is spare or left over."""

    currency: Annotated[str, Field(pattern="^[A-Z]{3}$")]
    on: date
    lines: tuple[QuoteLine, ...]
    subtotal: Decimal
    tax_share: float
    tax: Decimal
    total: Decimal
    area_m2: float
    volume_m3: float
    spare_m3: float
    per_m2: Decimal | None
    plots: tuple[PlotCost, ...]


def cost_lines(currency: str, bought: Sequence[Bought], hours: float, rates: Rates) -> list[QuoteLine]:
    """Return what a job costs before tax, line by line.

    Parameters
    ----------
    currency : str
        ISO 4217.
    bought : sequence of Bought
    hours : float
        Person-hours of all tasks; rounded up to a quarter, so that lines can be checked.
    rates : Rates

    Returns
    -------
    list of QuoteLine
    """
    lines: list[QuoteLine] = []
    for purchase in bought:
        source, loads = purchase.source, purchase.loads
        label, delivery = f"{purchase.material}, {purchase.name}", source.delivery_price(purchase.loads)
        material = source.material_price(purchase.volume_m3, loads)
        if source.exact:
            lines.append(_line("material", label, purchase.volume_m3, "m3", exact(source.per_m3), material))
        else:
            lines.append(_line("material", label, loads, "loads", exact(source.per_load), material))
        if delivery:
            each = exact(source.per_load)
            lines.append(_line("delivery", f"Delivery, {purchase.name}", loads, "loads", each, delivery))
    materials = sum(line.amount for line in lines if line.group == "material")
    if rates.markup and materials:
        markup = rounded(materials * exact(rates.markup), currency)
        lines.append(_line("markup", "Handling of materials", None, None, None, markup))
    if rates.disposal and (bought or hours):
        disposal = rounded(rates.disposal, currency)
        lines.append(_line("waste", "Clearing and disposal of waste", None, None, None, disposal))
    if rates.labour_per_h and hours:
        hours = ceil(hours / QUARTER_H) * QUARTER_H
        each = exact(rates.labour_per_h)
        labour = rounded(each * exact(hours), currency)
        lines.append(_line("labour", "Preparing, hauling, laying and finishing", hours, "h", each, labour))
    return lines


def cost(currency: str, bought: Sequence[Bought], hours: float, rates: Rates) -> Decimal:
    """Return what a job costs before tax: the sum of `cost_lines`.

    Parameters
    ----------
    currency : str
        ISO 4217.
    bought : sequence of Bought
    hours : float
        Person-hours.
    rates : Rates

    Returns
    -------
    Decimal
        In whole minor units of the currency.
    """
    return sum((line.amount for line in cost_lines(currency, bought, hours, rates)), rounded(0, currency))


def quote(
    currency: str,
    on: date,
    bought: Sequence[Bought],
    plots: Sequence[PlotShare],
    rates: Rates,
    spare_m3: float,
) -> Quote:
    """Draw up a quote.

    Parameters
    ----------
    currency : str
        ISO 4217.
    on : date
    bought : sequence of Bought
    plots : sequence of PlotShare
        Materials, delivery, markup and disposal are shared out by volume, labour by hours.
    rates : Rates
    spare_m3 : float
        Of what is bought, the m³ beyond what settles on the plots.

    Returns
    -------
    Quote
        Lines add up to the subtotal, and so do plots, exactly.
    """
    lines = cost_lines(currency, bought, sum(share.hours for share in plots), rates)
    subtotal = sum((line.amount for line in lines), rounded(0, currency))
    tax = rounded(subtotal * exact(rates.tax), currency)
    by_hours = sum((line.amount for line in lines if line.group == "labour"), rounded(0, currency))
    area = sum(plot.area_m2 for plot in plots)
    shares = _shared(subtotal - by_hours, {plot.key: plot.volume_m3 for plot in plots}, currency)
    labours = _shared(by_hours, {plot.key: plot.hours for plot in plots}, currency)

    def amount_per_area(amount: Decimal, area_m2: float) -> Decimal | None:
        return rounded(amount / exact(area_m2), currency) if area_m2 > LEAST_M2 else None

    return Quote(
        currency=currency,
        on=on,
        lines=tuple(lines),
        subtotal=subtotal,
        tax_share=rates.tax,
        tax=tax,
        total=subtotal + tax,
        area_m2=area,
        volume_m3=sum(purchase.volume_m3 for purchase in bought),
        spare_m3=spare_m3,
        per_m2=amount_per_area(subtotal, area),
        plots=tuple(
            PlotCost(
                **plot.model_dump(exclude={"key"}),
                amount=shares[plot.key] + labours[plot.key],
                per_m2=amount_per_area(shares[plot.key] + labours[plot.key], plot.area_m2),
            )
            for plot in plots
        ),
    )


def _line(
    group: Literal["material", "delivery", "labour", "waste", "markup"],
    label: str,
    quantity: float | None,
    unit: Literal["m3", "h", "loads"] | None,
    price: Decimal | None,
    amount: Decimal,
) -> QuoteLine:
    return QuoteLine(group=group, label=label, quantity=quantity, unit=unit, price=price, amount=amount)


def _shared(amount: Decimal, weights: Mapping[str, float], currency: str) -> dict[str, Decimal]:
    """Share out an amount by weight so that parts add up; the largest remainders get the odd minor units.

    Returns
    -------
    dict of str to Decimal
        By the keys of `weights`; the sum is `amount`.
    """
    unit = Decimal(1).scaleb(-minor_digits(currency))
    steps, total = int(amount / unit), sum(weights.values())
    if total <= 0:
        return dict.fromkeys(weights, unit * 0) | ({next(iter(weights)): amount} if weights else {})
    parts = {key: steps * weight / total for key, weight in weights.items()}
    units = {key: int(part) for key, part in parts.items()}
    odd = steps - sum(units.values())
    for key in sorted(parts, key=lambda key: units[key] - parts[key])[:odd]:
        units[key] += 1
    return {key: unit * count for key, count in units.items()}
