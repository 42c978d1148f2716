"""Rates of decay against what was seen of it: the fit is the one shipped, beats judgement, and its ranges hold."""

from datetime import UTC, date, datetime
from pathlib import Path
from statistics import median
from uuid import uuid4

import numpy as np
import pytest

from ulmatic.core.climate import ClimateClass, GenericClimate
from ulmatic.core.decay import LaidLayer, climate_factor, layers_of, spread, through_time
from ulmatic.core.decay.evidence import EVIDENCE, KINDS, Trust
from ulmatic.core.decay.fit import chi_square, fit, is_within_range, left_over, rounded, table
from ulmatic.core.decay.pile_decay import PILE_FASTER
from ulmatic.core.figures import Mark
from ulmatic.core.log import DugIn, Laid, LedgerEntry
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.site import Site, SitePlot, Terms
from ulmatic.core.survey import Rectangle
from ulmatic.core.units import UnitSystem

FIT = fit()
RATES = {material: rate.value for material, rate in FIT.rates.items()}
BY_EYE = {
    "arborist_bare": 1.1,
    "clean_coarse": 1.0,
    "dyed": 0.9,
    "sawdust": 1.2,
    "eucalyptus": 0.9,
    "conifer_bare": 0.7,
    "heartwood": 0.6,
    "arborist_much_leaf": 1.5,
    "arborist_leafy": 1.4,
    "walnut": 1.2,
    "ramial": 1.3,
    "conifer_needles": 1.2,
    "bark_shredded": 0.8,
    "bark_conifer": 0.7,
    "bark_nuggets": 0.6,
    "straw": 2.0,
    "leaves_shredded": 2.0,
    "palm": 2.5,
    "leaves_whole": 1.5,
    "needle": 1.5,
}
"""Factors that meet three remarks from hot wet places, as somebody might judge them without a fit."""
SOURCES = sorted({row.source.text for row in EVIDENCE})
TODAY = date(2026, 11, 26)


@pytest.mark.parametrize("material", [key for kind in KINDS.values() for key in kind if key in CATALOGUE])
def test_what_is_shipped_is_the_fit(material):
    shipped, fitted = CATALOGUE[material].rate, FIT.rates[material]
    assert (shipped.value, shipped.low, shipped.high) == tuple(
        rounded(end) for end in (fitted.value, fitted.low, fitted.high)
    ), "run: ulmatic decay-fit"
    is_tested = any(row.material == material for row in EVIDENCE)
    assert shipped.source.mark is (Mark.FROM_MEMORY if is_tested else Mark.COMMON_PRACTICE)


def test_the_piles_factor_is_that_of_the_fit():
    fitted = (FIT.pile.value, FIT.pile.low, FIT.pile.high)
    assert (PILE_FASTER.value, PILE_FASTER.low, PILE_FASTER.high) == tuple(rounded(end) for end in fitted)


def test_the_docs_show_predicted_beside_observed():
    docs = (Path(__file__).parents[2] / "docs" / "decay.md").read_text()
    table_text = table(EVIDENCE, lambda material: RATES[material], FIT.pile.value)
    assert table_text in docs, "run: ulmatic decay-fit"


def test_the_fit_beats_judgement_four_times_over():
    assert chi_square(RATES, FIT.pile.value) * 4 < chi_square(BY_EYE)


@pytest.mark.parametrize("source", SOURCES)
def test_and_so_it_does_whichever_source_is_left_out(source):
    rest = [row for row in EVIDENCE if row.source.text != source]
    refit = fit(rest)
    rates = {material: rate.value for material, rate in refit.rates.items()}
    assert chi_square(rates, refit.pile.value) * 4 < chi_square(BY_EYE), "on all rows, those left out among them"
    left_out = [row for row in EVIDENCE if row.source.text == source]
    errors = [abs(left_over(row, rates[row.material], refit.pile.value, 1.0) - row.share_left) for row in left_out]
    assert max(errors) < 0.25


def test_an_exponent_of_one_cannot_be_told_from_the_fitted_one():
    free = fit(exponent=None)
    assert abs(free.exponent - 1) < 1.5 * free.exponent_spread
    free_rates = {material: rate.value for material, rate in free.rates.items()}
    assert chi_square(RATES, FIT.pile.value) - chi_square(free_rates, free.pile.value, free.exponent) < 1


def test_every_row_says_where_it_is_from_and_how_far_it_is_trusted():
    assert len(EVIDENCE) >= 24
    for row in EVIDENCE:
        assert 0 < row.share_left < 1, row.what
        assert 0.05 <= row.spread <= 0.25, row.what
        assert row.source.mark in (Mark.PUBLISHED, Mark.FROM_MEMORY, Mark.COMMON_PRACTICE)
        assert (row.trust is Trust.ANECDOTE) <= (row.source.mark is Mark.COMMON_PRACTICE)


def depth_after(material, years: float, climate: ClimateClass, factor: float = 1.0) -> float:
    """Share of the settled depth that is left."""
    layer = LaidLayer(material=material, on=TODAY, loose_mm=100, settling=material.settling.value)
    layers = layers_of([layer]).at_rate(factor)
    time = np.array([climate_factor(GenericClimate(name=climate).normals()) * years])
    chips = through_time(layers, time, np.zeros(1), layers.laid_day).chips_mm[0, 0]
    return float(chips) / (100 * (1 - material.settling.value))


@pytest.mark.parametrize("climate", [ClimateClass.COOL_MARITIME, ClimateClass.COLD_WINTER_HOT_SUMMER])
def test_leafy_chips_keep_about_three_fifths_after_a_temperate_year_and_their_range_spans_places(climate):
    leafy = CATALOGUE["arborist_leafy"]
    assert depth_after(leafy, 1, climate) == pytest.approx(0.62, abs=0.05)
    rate = leafy.rate
    ends = [depth_after(leafy, 1, climate, factor) for factor in (rate.low / rate.value, 1.0, rate.high / rate.value)]
    low, high = spread(*(np.array([[end]]) for end in (ends[1], ends[0], ends[2])))
    assert float(high[0, 0] / low[0, 0]) >= 1.6


def test_most_rows_lie_in_their_own_eighty_percent_range():
    assert sum(is_within_range(row, FIT) for row in EVIDENCE) / len(EVIDENCE) >= 0.8


def site_with(material: str, climate: ClimateClass, ledger=(), **plot) -> tuple[Site, SitePlot]:
    entry = {"name": "Bed", "use": "perennials", "shape": Rectangle(length_m=10, width_m=2), "wanted_mm": 75} | plot
    bed = SitePlot(id=uuid4(), plot=PlannedPlot(**entry), surveyed_on=TODAY)
    entries = [
        LedgerEntry(
            id=uuid4(), plot_id=bed.id, on=on, written_at=datetime(on.year, on.month, on.day, tzinfo=UTC), entry=what
        )
        for on, what in ledger
    ]
    site = Site(
        name="Somewhere",
        units=UnitSystem.METRIC,
        terms=Terms(spare=0.1, load_m3=10, barrow_m3=0.1),
        plots=(bed,),
        climate=GenericClimate(name=climate),
        ledger=entries,
        usual=material,
    )
    return site, bed


def test_a_year_takes_what_the_usual_advice_adds():
    """Eight climates by six materials under the default rule: the median year adds 15 to 40 mm, settled."""
    materials = ("arborist_leafy", "arborist_bare", "conifer_needles", "ramial", "bark_shredded", "clean_coarse")
    yearly = []
    for climate in ClimateClass:
        for material in materials:
            site, _ = site_with(material, climate)
            layings = plan_on(site, TODAY, 10).by_rules.layings
            settled_mm = [laying.settled_mm for laying in layings if laying.on.year > TODAY.year + 1]
            yearly.append(sum(settled_mm) / 8)
    assert 15 <= median(yearly) <= 40
    assert min(yearly) > 5


def test_three_inches_of_leafy_chips_dug_in_draw_twelve_pounds():
    dug_in = [
        (date(2026, 11, 20), Laid(material="arborist_leafy", depth_mm=76.2)),
        (date(2026, 11, 21), DugIn()),
    ]
    site, bed = site_with("arborist_leafy", ClimateClass.COLD_WINTER_HOT_SUMMER, dug_in, use="vegetables")
    account = plan_on(site, TODAY, 5).account(site.plots.index(bed))
    pounds = -float(account.balance.min()) / 4.882
    assert pounds == pytest.approx(12, abs=0.7), "lb on 1,000 sq ft"
    owed = [season.owed for season in account.seasons]
    assert owed[0] > 2 * owed[1], "what was drawn in the first season is not owed again in the next"
    waits = [step for step in account.advised if step.step == "wait"]
    assert account.free_in is not None
    assert str(account.free_in) in waits[0].words
    assert account.dose("Urea", 0.46, None, soluble=True).on[0].year == account.worst.year
