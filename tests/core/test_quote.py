"""Quotes: worked by hand, and to the cent."""

import math
from datetime import date
from decimal import ROUND_HALF_UP, Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import examples
from ulmatic.core.money.quote import Bought, PlotShare, Rates, quote
from ulmatic.core.supply.choice import SupplySource
from ulmatic.core.units.currency import exact, rounded
from ulmatic.core.units.currency_amounts import YARD3_M3

CREW = Bought(
    name="Two Saws",
    material="Chips",
    loads=2,
    volume_m3=18,
    source=SupplySource(key="crew", material="chips", load_m3=9, per_load=20),
)
BULK = Bought(
    name="Quarry",
    material="Bark",
    loads=1,
    volume_m3=5.0,
    source=SupplySource(key="bulk", material="bark", load_m3=15, exact=True, per_m3=48, per_load=65, step_m3=0.1),
)
PLOTS = [
    PlotShare(key="Row", plot="Row", area_m2=100, volume_m3=15, hours=4.1),
    PlotShare(key="Bank", plot="Bank", area_m2=50, volume_m3=5, hours=2),
]
RATES = Rates(labour_per_h=24, markup=0.1, disposal=60, tax=0.2)


def test_a_quote_worked_by_hand():
    promised = quote("EUR", date(2026, 11, 25), [CREW, BULK], PLOTS, RATES, spare_m3=2)
    amounts = {line.label: line.amount for line in promised.lines}
    assert amounts == {
        "Chips, Two Saws": 40,
        "Bark, Quarry": 240,
        "Delivery, Quarry": 65,
        "Handling of materials": 28,
        "Clearing and disposal of waste": 60,
        "Preparing, hauling, laying and finishing": 150,  # 6.25 h at 24, from 6.1
    }
    assert (promised.subtotal, promised.tax, promised.total) == (583, Decimal("116.60"), Decimal("699.60"))
    row, bank = promised.plots
    # 433 by volume, 3 to 1; 150 by hours, 4.1 to 2.
    assert row.amount == Decimal("324.75") + Decimal("100.82")
    assert bank.amount == Decimal("108.25") + Decimal("49.18")
    assert row.per_m2 == Decimal("4.26")
    assert promised.per_m2 == Decimal("3.89")


def test_lines_show_how_they_come_about():
    promised = quote("EUR", date(2026, 11, 25), [CREW, BULK], PLOTS, RATES, spare_m3=0)
    for line in promised.lines:
        if line.quantity is not None:
            assert abs(line.amount - exact(line.quantity) * line.price) <= Decimal("0.005")


@pytest.mark.parametrize(
    ("amount", "currency", "money"),
    [
        (17.45 * 1.5, "EUR", "26.18"),
        (2.675, "USD", "2.68"),
        (1.005, "GBP", "1.01"),
        (0.125, "EUR", "0.13"),
        (1234.5, "JPY", "1235"),
        (0.5, "KRW", "1"),
        (1.2345, "KWD", "1.235"),
        (0.0005, "BHD", "0.001"),
        (0, "CHF", "0.00"),
    ],
)
def test_amounts_are_rounded_half_up_on_the_decimal_value(amount, currency, money):
    assert str(rounded(amount, currency)) == money


def test_an_hour_and_a_half_at_17_45_is_26_18():
    shares = [PlotShare(key="x", plot="x", area_m2=10, volume_m3=1, hours=1.5)]
    labour = quote("EUR", date(2026, 1, 1), [], shares, Rates(labour_per_h=17.45), spare_m3=0).lines[0]
    assert str(labour.amount) == "26.18"


def test_a_price_for_a_cubic_yard_is_not_bent_by_its_conversion():
    """34.15 a yard, 83.3 yards: 2,844.695, half up."""
    yard = YARD3_M3
    bulk = SupplySource(
        key="q", material="bark", load_m3=100 * yard, exact=True, per_m3=34.15 / yard, step_m3=yard / 10, currency="USD"
    )
    assert str(bulk.price(83.3 * yard, 1)) == "2844.70"


@pytest.mark.parametrize(
    ("needs", "loads", "sold"), [(2.115, 1, 2.2), (2.2, 1, 2.2), (0.01, 1, 0.1), (4.97, 2, 4.98), (4.98, 2, 4.98)]
)
def test_bulk_is_sold_by_the_step_as_far_as_its_loads_hold(needs, loads, sold):
    yard = SupplySource(key="y", material="chips", load_m3=2.49, exact=True, per_m3=9, step_m3=0.1)
    assert yard.sold_m3(needs, loads) == pytest.approx(sold)


prices = st.decimals(0, 500, places=2)
shares = st.lists(st.tuples(st.floats(0, 300), st.floats(0, 60), st.floats(0, 20)), min_size=1, max_size=9)


@settings(max_examples=examples(400))
@given(
    shares,
    prices,
    prices,
    st.decimals(0, "0.4", places=3),
    st.integers(1, 40),
    st.integers(0, 300),
    st.sampled_from(["EUR", "JPY", "KWD"]),
)
def test_four_hundred_quotes_against_decimals_by_hand(plots, fee, rate, tax, loads, tenths, currency):
    places = {"EUR": "0.01", "JPY": "1", "KWD": "0.001"}[currency]

    def by_hand(amount: Decimal) -> Decimal:
        return amount.quantize(Decimal(places), ROUND_HALF_UP)

    crew = Bought(
        name="Crew",
        material="Chips",
        loads=loads,
        volume_m3=9.0 * loads,
        source=SupplySource(key="c", material="chips", load_m3=9, per_load=float(fee), currency=currency),
    )
    bulk = Bought(
        name="Bulk",
        material="Bark",
        loads=1,
        volume_m3=tenths / 10,
        source=SupplySource(
            key="b", material="bark", load_m3=40, exact=True, per_m3=float(rate), step_m3=0.1, currency=currency
        ),
    )
    of_plots = [
        PlotShare(key=str(index), plot="Bed", area_m2=area, volume_m3=volume, hours=hours)
        for index, (area, volume, hours) in enumerate(plots)
    ]
    rates = Rates(labour_per_h=float(rate), tax=float(tax))
    drawn = quote(currency, date(2026, 1, 1), [crew, bulk], of_plots, rates, spare_m3=0)
    hours = sum(share.hours for share in of_plots)
    quarters = Decimal(math.ceil(hours / 0.25 - 1e-9)) / 4
    expected = by_hand(fee * loads) + by_hand(rate * tenths / 10) + (by_hand(rate * quarters) if hours else 0)
    assert drawn.subtotal == expected == sum(line.amount for line in drawn.lines)
    assert drawn.tax == by_hand(expected * tax)
    assert drawn.total == drawn.subtotal + drawn.tax
    assert sum(plot.amount for plot in drawn.plots) == drawn.subtotal, "two plots of the same name are two"
    assert all(plot.amount == by_hand(plot.amount) for plot in drawn.plots)


def test_ground_of_nothing_has_no_price_for_a_square_metre():
    promised = quote(
        "EUR", date(2026, 1, 1), [CREW], [PlotShare(key="x", plot="x", area_m2=0, volume_m3=1, hours=0)], Rates(), 0
    )
    assert promised.per_m2 is None
    assert promised.plots[0].per_m2 is None
