"""Several sites together, and chips that go to plots whole where that can be done."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.sites import TODAY, merchant, plot, site
from ulmatic.core.planning.outlook import Outlook, year_of_shortage
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.planning.several import SeveralSites
from ulmatic.core.supply.allocate import Want, allocate
from ulmatic.core.survey import Rectangle


def outlook(length_m: float, **more) -> Outlook:
    return Outlook(plan_on(site(plot(shape=Rectangle(length_m=length_m, width_m=2)), **more), TODAY, 3))


def test_years_and_seasons_of_two_sites_add_up():
    both = (outlook(10, suppliers=(merchant(1),)), outlook(20, suppliers=(merchant(1),)))
    several = SeveralSites(both)
    assert several.years == list(range(TODAY.year, TODAY.year + 3))
    for index, year in enumerate(several.years):
        volumes = [sum(demand.volume_m3 for demand in outlook.years() if demand.year == year) for outlook in both]
        assert several.total_m3[index] == pytest.approx(sum(volumes))
    for season, first, second in zip(several.seasons(), both[0].seasons(), both[1].seasons(), strict=True):
        assert season.needed_m3 == pytest.approx(first.figures.needed_m3 + second.figures.needed_m3)
        assert season.loads == first.figures.loads + second.figures.loads
        costs = [demand.figures.cost or Decimal(0) for demand in (first, second)]
        assert season.costs.get("EUR", Decimal(0)) == sum(costs)


def test_costs_of_two_currencies_stand_apart():
    dollars = outlook(10, suppliers=(merchant(1, currency="USD"),))
    several = SeveralSites((outlook(10, suppliers=(merchant(1),)), dollars))
    season = several.seasons()[0]
    assert set(season.costs) == {"EUR"}
    assert not season.costs_known, "nobody named a price in the currency of the second site"


def test_no_sites_have_no_years():
    assert (SeveralSites(()).years, SeveralSites(()).seasons(), SeveralSites(()).breaks_in) == ([], [], None)


@pytest.mark.parametrize(
    ("needs", "supply", "year"), [((3, 5, 9), 6, 2028), ((3, 5, 6), 6, None), ((7, 1, 1), 6, 2026)]
)
def test_the_first_year_that_wants_more_than_comes(needs, supply, year):
    assert year_of_shortage(zip((2026, 2027, 2028), needs, strict=True), supply) == year


def test_what_others_cannot_use_is_taken_so_that_all_get_theirs():
    """One by one the first plot would take the chips that only the second accepts besides; together both are whole."""
    wants = [
        Want(plot="path", needs_m3=3, accepts=frozenset({"fresh", "aged"})),
        Want(plot="bed", needs_m3=2, accepts=frozenset({"aged"})),
        Want(plot="row", needs_m3=2, accepts=frozenset({"fresh", "bark"}), worth={"bark": 1.25}),
    ]
    shares = {share.plot: share for share in allocate(wants, {"aged": 3, "fresh": 2, "bark": 1.6}).shares}
    assert all(share.covered for share in shares.values())
    assert shares["row"].gets["bark"] == pytest.approx(1.6), "1.6 m³ of what settles less are worth 2"
    assert shares["row"].gets_m3 == pytest.approx(2)


amounts = st.floats(0.1, 9)


@given(
    st.lists(st.tuples(amounts, st.sets(st.sampled_from("abc"), min_size=1)), min_size=1, max_size=6),
    st.dictionaries(st.sampled_from("abc"), amounts, min_size=1),
)
def test_nobody_gets_what_is_not_there_nor_more_than_is_needed(plots, available):
    wants = [
        Want(plot=index, needs_m3=needs, accepts=frozenset(accepts)) for index, (needs, accepts) in enumerate(plots)
    ]
    allocation = allocate(wants, available)
    for material, volume in available.items():
        given_out = sum(share.gets.get(material, 0.0) for share in allocation.shares)
        assert given_out + allocation.left_m3[material] == pytest.approx(volume, abs=1e-5)
    for want, share in zip(wants, allocation.shares, strict=True):
        assert share.gets.keys() <= want.accepts
        assert share.gets_m3 <= want.needs_m3 + 1e-5
