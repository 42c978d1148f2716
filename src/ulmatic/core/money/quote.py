"""What it costs: a quote's lines, tax and total, and the cost of each plot, to the cent."""

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.figures import ceil
from ulmatic.core.supply.choice import SupplySource
from ulmatic.core.units import Money, Share

CENT = Decimal("0.01")
QUARTER_H = 0.25
LEAST_M2 = 0.001


def cents(amount: float) -> float:
    """Round to the cent, half up.

    Parameters
    ----------
    amount : float
    """
    return float(Decimal(repr(amount)).quantize(CENT, ROUND_HALF_UP))


class Bought(BaseModel):
    """What is bought of one source: its name, kind, loads and m³."""

    model_config = ConfigDict(frozen=True)
    name: str
    material: str
    loads: int
    volume_m3: float
    source: SupplySource


class PlotShare(BaseModel):
    """What of the job falls on one plot; `key` tells plots of the same name apart."""

    model_config = ConfigDict(frozen=True)
    key: str
    plot: str
    area_m2: float
    volume_m3: float
    hours: float


class Rates(BaseModel):
    """Prices that the workspace sets: an hour of one person, a markup on materials, disposal of waste, and tax."""

    model_config = ConfigDict(frozen=True)
    labour_per_h: Money = 0.0
    markup: Share = 0.0
    disposal: Money = 0.0
    tax: Share = 0.0


class QuoteLine(BaseModel):
    """A line: what, how much of it (`h`, `m3`, a number of loads, or nothing), at which price, and the amount."""

    model_config = ConfigDict(frozen=True)
    group: Literal["material", "delivery", "labour", "waste", "markup"]
    label: str
    quantity: float | None = None
    unit: Literal["m3", "h", "loads"] | None = None
    price: float | None = None
    amount: float


class PlotCost(BaseModel):
    """What one plot costs before tax, in all and for a m² (None where it has no ground)."""

    model_config = ConfigDict(frozen=True)
    plot: str
    area_m2: float
    volume_m3: float
    hours: float
    amount: float
    per_m2: float | None


class Quote(BaseModel):
    """A quote; amounts in its currency, to the cent. `spare_m3` of its volume is spare or left over."""

    model_config = ConfigDict(frozen=True)
    currency: Annotated[str, Field(pattern="^[A-Z]{3}$")]
    on: date
    lines: tuple[QuoteLine, ...]
    subtotal: float
    tax_share: float
    tax: float
    total: float
    area_m2: float
    volume_m3: float
    spare_m3: float
    per_m2: float | None
    plots: tuple[PlotCost, ...]


def cost_lines(bought: Sequence[Bought], hours: float, rates: Rates, step_m3: float = 0.1) -> list[QuoteLine]:
    """Return what a job costs before tax, line by line.

    Parameters
    ----------
    bought : sequence of Bought
    hours : float
        Person-hours of moving and laying.
    rates : Rates
    step_m3 : float
        As for `quote`.
    """
    lines: list[QuoteLine] = []
    for purchase in bought:
        source = purchase.source
        if source.exact:
            volume = ceil(purchase.volume_m3 / step_m3) * step_m3
            material, each = cents(source.per_m3 * volume), source.per_m3
            lines.append(_line("material", f"{purchase.material}, {purchase.name}", volume, "m3", each, material))
            if source.per_load:
                brought = cents(source.per_load * purchase.loads)
                lines.append(
                    _line("delivery", f"Delivery, {purchase.name}", purchase.loads, "loads", source.per_load, brought)
                )
        else:
            amount = cents(source.per_load * purchase.loads)
            label = f"{purchase.material}, {purchase.name}"
            lines.append(_line("material", label, purchase.loads, "loads", source.per_load, amount))
    materials = sum(line.amount for line in lines if line.group == "material")
    if rates.markup and materials:
        lines.append(_line("markup", "Handling of materials", None, None, None, cents(materials * rates.markup)))
    if rates.disposal and (bought or hours):
        lines.append(_line("waste", "Clearing and disposal of waste", None, None, None, cents(rates.disposal)))
    if rates.labour_per_h and hours:
        hours = ceil(hours / QUARTER_H) * QUARTER_H
        labour = cents(rates.labour_per_h * hours)
        lines.append(_line("labour", "Hauling, laying and raking out", hours, "h", rates.labour_per_h, labour))
    return lines


def cost(bought: Sequence[Bought], hours: float, rates: Rates, step_m3: float = 0.1) -> Decimal:
    """Return what a job costs before tax: the sum of `cost_lines`.

    Parameters
    ----------
    bought : sequence of Bought
    hours : float
        Person-hours.
    rates : Rates
    step_m3 : float
        What bulk is sold by, m³.
    """
    lines = cost_lines(bought, hours, rates, step_m3)
    return sum((Decimal(repr(line.amount)).quantize(CENT) for line in lines), Decimal("0.00"))


def quote(
    currency: str,
    on: date,
    bought: Sequence[Bought],
    plots: Sequence[PlotShare],
    rates: Rates,
    spare_m3: float,
    step_m3: float = 0.1,
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
    step_m3 : float
        What is bought exactly is rounded up to this; hours are rounded up to a quarter, so that lines can be checked.

    Returns
    -------
    Quote
        Lines add up to the subtotal, and so do plots, exactly.
    """
    hours = sum(share.hours for share in plots)
    lines = cost_lines(bought, hours, rates, step_m3)
    subtotal = cents(sum(line.amount for line in lines))
    tax = cents(subtotal * rates.tax)
    by_volume = cents(sum(line.amount for line in lines if line.group != "labour"))
    by_hours = cents(subtotal - by_volume)
    area = sum(plot.area_m2 for plot in plots)
    shares = _shared(by_volume, {plot.key: plot.volume_m3 for plot in plots})
    labours = _shared(by_hours, {plot.key: plot.hours for plot in plots})
    costs = [cents(shares[plot.key] + labours[plot.key]) for plot in plots]
    return Quote(
        currency=currency, on=on, lines=tuple(lines), subtotal=subtotal, tax_share=rates.tax, tax=tax,
        total=cents(subtotal + tax), area_m2=area,
        volume_m3=sum(purchase.volume_m3 for purchase in bought), spare_m3=spare_m3,
        per_m2=cents(subtotal / area) if area > LEAST_M2 else None,
        plots=tuple(
            PlotCost(
                **plot.model_dump(exclude={"key"}), amount=amount,
                per_m2=cents(amount / plot.area_m2) if plot.area_m2 > LEAST_M2 else None,
            )
            for plot, amount in zip(plots, costs, strict=True)
        ),
    )  # fmt: skip


def _line(
    group: Literal["material", "delivery", "labour", "waste", "markup"], label: str, quantity: float | None,
    unit: Literal["m3", "h", "loads"] | None, price: float | None, amount: float,
) -> QuoteLine:  # fmt: skip
    return QuoteLine(group=group, label=label, quantity=quantity, unit=unit, price=price, amount=amount)


def _shared(amount: float, weights: Mapping[str, float]) -> dict[str, float]:
    """Share out an amount by weight, to the cent, so that parts add up; the largest remainders get the odd cents."""
    whole = round(amount * 100)
    total = sum(weights.values())
    if total <= 0:
        return dict.fromkeys(weights, 0.0) | ({next(iter(weights)): amount} if weights and whole else {})
    exact = {key: whole * weight / total for key, weight in weights.items()}
    floors = {key: int(amount) for key, amount in exact.items()}
    odd = whole - sum(floors.values())
    for key in sorted(exact, key=lambda key: floors[key] - exact[key])[:odd]:
        floors[key] += 1
    return {key: amount / 100 for key, amount in floors.items()}
