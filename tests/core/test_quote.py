"""Quotes: worked by hand, and to the cent."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.money.quote import Bought, PlotShare, Rates, quote
from ulmatic.core.supply.choice import SupplySource

CREW = Bought(name="Two Saws", material="Chips", loads=2, volume_m3=18,
              source=SupplySource(key="crew", material="chips", load_m3=9, per_load=20))  # fmt: skip
BULK = Bought(name="Quarry", material="Bark", loads=1, volume_m3=4.93,
              source=SupplySource(key="bulk", material="bark", load_m3=15, exact=True, per_m3=48, per_load=65))  # fmt: skip
PLOTS = [
    PlotShare(key="Row", plot="Row", area_m2=100, volume_m3=15, hours=4.1),
    PlotShare(key="Bank", plot="Bank", area_m2=50, volume_m3=5, hours=2),
]
RATES = Rates(labour_per_h=24, markup=0.1, disposal=60, tax=0.2)


def test_a_quote_worked_by_hand():
    made = quote("EUR", date(2026, 11, 25), [CREW, BULK], PLOTS, RATES, spare_m3=2)
    amounts = {line.label: line.amount for line in made.lines}
    assert amounts == {
        "Chips, Two Saws": 40,
        "Bark, Quarry": 240,  # 5.0 m³ at 48, from 4.93
        "Delivery, Quarry": 65,
        "Handling of materials": 28,
        "Clearing and disposal of waste": 60,
        "Hauling, laying and raking out": 150,  # 6.25 h at 24, from 6.1
    }
    assert (made.subtotal, made.tax, made.total) == (583, 116.6, 699.6)
    row, bank = made.plots
    # 433 by volume, 3 to 1; 150 by hours, 4.1 to 2.
    assert row.amount == pytest.approx(324.75 + 100.82)
    assert bank.amount == pytest.approx(108.25 + 49.18)
    assert row.per_m2 == 4.26
    assert made.per_m2 == 3.89


def test_lines_show_how_they_come_about():
    made = quote("EUR", date(2026, 11, 25), [CREW, BULK], PLOTS, RATES, spare_m3=0)
    for line in made.lines:
        if line.quantity is not None:
            assert line.amount == pytest.approx(line.quantity * line.price, abs=0.005)


prices = st.floats(0, 500).map(lambda one: round(one, 2))


@given(st.lists(st.tuples(prices, st.floats(0, 300), st.floats(0, 60), st.floats(0, 20)), min_size=1, max_size=9),
       prices, prices, st.floats(0, 0.4))  # fmt: skip
def test_plots_add_up_to_the_subtotal_and_lines_too(plots, fee, rate, tax):
    shares = [PlotShare(key=str(at), plot=str(at), area_m2=area, volume_m3=volume, hours=hours)
              for at, (_, area, volume, hours) in enumerate(plots)]  # fmt: skip
    crew = CREW.model_copy(update={"source": CREW.source.model_copy(update={"per_load": fee})})
    made = quote("USD", date(2026, 1, 1), [crew], shares, Rates(labour_per_h=rate, tax=tax), spare_m3=0)
    assert sum(line.amount for line in made.lines) == pytest.approx(made.subtotal, abs=1e-6)
    assert made.total == pytest.approx(made.subtotal + made.tax, abs=1e-6)
    assert sum(one.amount for one in made.plots) == pytest.approx(made.subtotal, abs=1e-6)
    assert all(round(one.amount, 2) == one.amount for one in made.plots)


def test_ground_of_nothing_has_no_price_for_a_square_metre():
    made = quote(
        "EUR", date(2026, 1, 1), [CREW], [PlotShare(key="x", plot="x", area_m2=0, volume_m3=1, hours=0)], Rates(), 0
    )
    assert made.per_m2 is None
    assert made.plots[0].per_m2 is None
