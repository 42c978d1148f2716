"""The nitrogen account against published curves, labels worked by hand, and what must hold whatever is laid."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import minimize_scalar

from tests.conftest import examples
from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import LaidLayer, day_number, decay_clock, forecast
from ulmatic.core.log import Fed, Grown, Spread
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.nitrogen import (
    CONTACT_MM,
    Mixed,
    Rating,
    advised,
    brought,
    dose,
    held_share,
    nitrogen_draw,
    nitrogen_of,
    paid_in,
    peak,
    peak_draw,
    plant_need,
    range_of,
    rating,
    seasons,
    soil_supply,
    use_on_top,
)
from ulmatic.core.parameters import SHIPPED
from ulmatic.core.survey.uses import Use

START = date(2026, 3, 1)
DAYS = day_number(START) + 7.0 * np.arange(400)
GROWING = (4, 5, 6, 7, 8, 9, 10)
CLOCK = decay_clock(GenericClimate(name=ClimateClass.COOL_MARITIME).normals(), START, START + timedelta(weeks=400))


def layer(material="arborist_leafy", loose=100.0, age=0.0, on=START):
    return LaidLayer(material=CATALOGUE[material], on=on, loose_mm=loose, settling=0.22, age_decay_time=age)


def most(laid, contact=15.0, dug=None):
    return float(nitrogen_draw([laid], [Mixed(contact, dug)], CLOCK, DAYS).max())


def stated(material, cn, loose):
    """Chips as the check values of science.md §4 have them: 180 kg/m³ dry, half of it carbon."""
    laid = layer(material, loose)
    figures = {"density": 180.0, "carbon": 0.5, "cn": cn}
    changed = {key: getattr(laid.material, key).model_copy(update={"value": figure}) for key, figure in figures.items()}
    return laid.model_copy(update={"material": laid.material.model_copy(update=changed)})


def test_leafy_chips_on_top_draw_what_the_check_values_say():
    chips = stated("arborist_leafy", 100.0, 100.0)
    owed, left = peak_draw(chips, 15.0, dug_in=False)
    assert brought(chips) == pytest.approx(90, abs=0.5)
    assert (owed, left) == (pytest.approx(0.85, abs=0.005), pytest.approx(0.77, abs=0.005))


def test_clean_chips_dug_in_draw_what_the_check_values_say():
    chips = stated("clean_coarse", 560.0, 50.0)
    owed, left = peak_draw(chips, 15.0, dug_in=True)
    assert brought(chips) == pytest.approx(8.0, abs=0.05)
    assert (owed, left) == (pytest.approx(53, abs=0.5), pytest.approx(0.45, abs=0.005))
    assert 0.005 < owed / (180 * 0.05 * 1000) < 0.006, "of dry wood, as incorporation trials have it"


def test_the_weekly_account_reaches_the_peak_in_closed_form():
    for dug in (False, True):
        laid = stated("arborist_leafy", 100.0, 100.0)
        owed = most(laid, dug=day_number(START) if dug else None)
        assert owed == pytest.approx(peak_draw(laid, 15.0, dug_in=dug)[0], rel=0.01)


@given(cn=st.floats(12, 400), use=st.floats(0.05, 0.5))
def test_the_peak_in_closed_form_is_the_numeric_one(cn, use):
    week, peak_share = peak(cn, use)
    numeric = minimize_scalar(
        lambda c: -float(held_share(c, cn, use)), bounds=(0, 1), method="bounded", options={"xatol": 1e-10}
    )
    assert peak_share == pytest.approx(max(1.0, -numeric.fun), rel=1e-6)
    if peak_share > 1.0001:
        assert week == pytest.approx(numeric.x, abs=1e-4)


def test_nothing_is_held_when_nothing_is_left_and_all_when_all_is():
    for cn in (15.0, 60.0, 400.0):
        assert held_share([1.0, 0.0], cn, use_on_top(cn)) == pytest.approx([1.0, 0.0])


def test_dug_in_draws_a_hundred_times_what_lies_on_top():
    assert most(layer(), dug=day_number(START)) > 30 * most(layer()) > 0


def test_dug_in_clean_draws_more_than_leafy_and_leafy_more_than_aged():
    """Each by its dry mass as it goes in: aged chips are denser, so a layer as deep holds more of them."""
    laid = [layer("clean_coarse"), layer(), layer(age=1.0), layer(age=2.0)]
    mass = [forecast([layer], CLOCK, [day_number(START)]).mass_kg_m2.sum() for layer in laid]
    draws = [most(fresh, dug=day_number(START)) / dry for fresh, dry in zip(laid, mass, strict=True)]
    assert draws == sorted(draws, reverse=True)
    assert draws[0] > 1.3 * draws[1] > 1.5 * draws[2] > 0


def test_on_top_clean_owes_longer_than_leafy_and_aged_owes_least():
    """On top the published efficiency makes clean chips' peak no higher than leafy ones': it lasts longer."""
    clean, leafy, aged = (
        nitrogen_draw([fresh], [Mixed(15.0)], CLOCK, DAYS)[0]
        for fresh in (layer("clean_coarse"), layer(), layer(age=1.0))
    )
    assert (clean > 0).sum() > 1.5 * (leafy > 0).sum() > 1.5 * (aged > 0).sum()
    assert clean.sum() > leafy.sum() > aged.sum()
    assert leafy.max() > aged.max()


def test_more_contact_draws_more_up_to_the_whole_layer():
    draws = [most(layer(), contact) for contact in (*CONTACT_MM.values(), 78.0, 300.0)]
    assert draws[:4] == sorted(draws[:4])
    assert draws[1] == pytest.approx(3 * draws[0])
    assert draws[3] == pytest.approx(draws[4])


def test_a_layer_on_others_does_not_touch_the_soil():
    upper = layer(on=START + timedelta(days=300))
    both = nitrogen_draw([layer(), upper], [Mixed(15.0), Mixed(15.0)], CLOCK, DAYS)
    assert both[0] == pytest.approx(nitrogen_draw([layer()], [Mixed(15.0)], CLOCK, DAYS)[0])
    assert (both[1] == 0).all()
    turned = nitrogen_draw([layer(), upper], [Mixed(15.0, day_number(upper.on)), Mixed(15.0)], CLOCK, DAYS)
    assert turned[1] == pytest.approx(nitrogen_draw([upper], [Mixed(15.0)], CLOCK, DAYS)[0])


def test_compost_beneath_removes_what_is_owed():
    compost, dry = Spread(material="compost", depth_mm=25), np.zeros(DAYS.size)
    draw = nitrogen_draw([layer("clean_coarse")], [Mixed(15.0)], CLOCK, DAYS)[0]
    gives, lost = paid_in(compost, CATALOGUE["compost"], START, CLOCK, DAYS, dry, "loam", SHIPPED)
    assert (-draw).min() < -0.5
    assert (gives - lost - draw).min() > -0.2
    assert (np.diff(gives) >= -1e-12).all()


materials = st.sampled_from(sorted(CATALOGUE.values(), key=lambda material: material.key))


@settings(max_examples=examples(60), deadline=None)
@given(
    laid=st.lists(st.tuples(materials, st.floats(10, 300), st.floats(0, 2), st.integers(0, 1500)), max_size=4),
    contact=st.sampled_from(sorted(CONTACT_MM.values())),
    dug=st.none() | st.integers(0, 2000),
    fed=st.lists(st.tuples(st.floats(1, 200), st.floats(0.01, 0.46), st.booleans()), max_size=3),
    rain=st.floats(0, 40),
)
def test_no_nitrogen_is_made_or_lost_from_the_books(laid, contact, dug, fed, rain):
    layers = [
        LaidLayer(material=key, on=START + timedelta(days=day), loose_mm=mm, settling=0.2, age_decay_time=age)
        for key, mm, age, day in laid
    ]
    day = None if dug is None else day_number(START) + dug
    draws = nitrogen_draw(layers, [Mixed(contact, day)] * len(layers), CLOCK, DAYS)
    entries = [Fed(grams_m2=grams, n=n, soluble=soluble) for grams, n, soluble in fed]
    excess = np.cumsum(np.full(DAYS.size, rain))
    given_up, lost, stock = np.zeros(DAYS.size), np.zeros(DAYS.size), np.zeros(DAYS.size)
    for entry in entries:
        gives, loses = paid_in(entry, None, START, CLOCK, DAYS, excess, "sand", SHIPPED)
        given_up, lost = given_up + gives, lost + loses
        stock = stock + nitrogen_of(entry, None, SHIPPED) - gives
    held_g = sum(brought(layer) for layer in layers) + draws.sum(axis=0)
    soil = given_up - lost - draws.sum(axis=0)
    total = sum(brought(layer) for layer in layers) + sum(entry.grams_m2 * entry.n for entry in entries)
    assert held_g + soil + stock + lost == pytest.approx(np.full(DAYS.size, total), rel=1e-9, abs=1e-9)
    # What is in a layer, an entry or the drain is never below nothing nor above what went in.
    for index, layer in enumerate(layers):
        assert (brought(layer) + draws[index]).min() >= -1e-9 * max(1.0, brought(layer))
    assert stock.min() >= -1e-9
    assert (lost >= 0).all()
    assert (lost <= given_up + 1e-9).all()
    assert (np.diff(lost) >= -1e-9).all()


def test_rain_washes_out_soluble_dressings_and_most_on_sand():
    fed, rain = Fed(grams_m2=100, n=0.21), np.cumsum(np.full(DAYS.size, 20.0))
    lost = {
        soil: float(paid_in(fed, None, START, CLOCK, DAYS, rain, soil, SHIPPED)[1][-1])
        for soil in ("clay", "loam", "sand")
    }
    assert 0 < lost["clay"] < lost["loam"] < lost["sand"] < 21
    assert paid_in(fed, None, START, CLOCK, DAYS, np.zeros(DAYS.size), "sand", SHIPPED)[1].max() == 0
    slow = fed.model_copy(update={"soluble": False})
    assert paid_in(slow, None, START, CLOCK, DAYS, rain, "sand", SHIPPED)[1].max() == 0


def test_green_matter_gives_sooner_than_manure_and_manure_than_leaves():
    dry = np.zeros(DAYS.size)

    def year(key):
        entry = Spread(material=key, depth_mm=20)
        gives, _ = paid_in(entry, CATALOGUE[key], START, CLOCK, DAYS, dry, None, SHIPPED)
        return float(gives[52] / nitrogen_of(entry, CATALOGUE[key], SHIPPED))

    grass = next(material.key for material in CATALOGUE.values() if material.kind == "grass")
    manure = next(material.key for material in CATALOGUE.values() if material.kind == "manure")
    leaves = next(material.key for material in CATALOGUE.values() if material.kind == "leaves")
    assert 1 > year(grass) > year(manure) > year(leaves) > 0
    assert nitrogen_of(Grown(crop="legume", grams_n_m2=9), None, SHIPPED) == 9
    assert nitrogen_of(Grown(crop="legume"), None, SHIPPED) > nitrogen_of(Grown(crop="cover_crop"), None, SHIPPED)


@pytest.mark.parametrize(
    ("owed", "rated"), [(0.9, Rating.NEGLIGIBLE), (1.0, Rating.WATCH), (4.0, Rating.WATCH), (4.1, Rating.ACT)]
)
def test_ratings_are_those_of_the_field(owed, rated):
    assert rating(owed) is rated


def season(owed, use=Use.VEGETABLES, soil="loam", organic=None, tested=None):
    dates = [date(2027, month, 15) for month in range(1, 13)]
    (season,) = seasons(
        dates, np.array([0.0, *[-owed] * 11]), use, soil_supply(soil, organic, tested, SHIPPED), GROWING, SHIPPED
    )
    return season


def test_what_was_drawn_before_is_not_owed_again():
    dates = [date(year, month, 15) for year in (2027, 2028, 2029) for month in range(1, 13)]
    balance = np.concatenate([np.linspace(0, -40, 12), np.linspace(-40, -52, 12), np.linspace(-52, -30, 12)])
    supply = soil_supply("loam", None, None, SHIPPED)
    first, second, third = seasons(dates, balance, Use.VEGETABLES, supply, GROWING, SHIPPED)
    assert first.owed + second.owed == pytest.approx(52, abs=4), "each season owes what is drawn in it"
    assert first.owed > second.owed > 4
    assert third.owed < 4
    assert third.paid > 15


def test_shallow_roots_feel_what_trees_do_not():
    assert season(3.0).felt
    tree = season(3.0, Use.ESTABLISHED_TREE)
    assert not tree.felt
    assert "no effect" in tree.words
    assert season(3.0, Use.FOOT_PATH).words.startswith("No plants grow here")


def test_too_much_is_called_so_and_only_where_it_was_brought():
    dates = [date(2027, month, 15) for month in range(1, 13)]
    supply, rising = soil_supply("loam", None, None, SHIPPED), np.linspace(0, 30, 12)
    (fed,) = seasons(dates, rising, Use.VEGETABLES, supply, GROWING, SHIPPED)
    assert fed.over == pytest.approx(supply.value + 30 - plant_need(Use.VEGETABLES, SHIPPED).value)
    assert "More nitrogen comes than plants take" in fed.words
    (rich,) = seasons(dates, np.zeros(12), Use.VEGETABLES, soil_supply("loam", 0.2, None, SHIPPED), GROWING, SHIPPED)
    assert rich.over > 10
    assert rich.words == "Too little to have an effect."


def test_twenty_pounds_an_acre_for_each_percent_of_organic_matter():
    """20 lb on 4,046.86 m² is 2.24 g/m²; at 4 % nine."""
    supply = soil_supply("sand", 0.04, None, SHIPPED)
    assert supply.value == pytest.approx(4 * 20 * 453.59237 / 4046.856, rel=0.02)
    assert supply.low < supply.value < supply.high
    assert season(3.0, organic=0.04).soil == supply.value
    sand, clay, loam, unknown = (soil_supply(soil, None, None, SHIPPED) for soil in ("sand", "clay", "loam", None))
    assert sand < clay < loam == unknown
    assert soil_supply("loam", 0.04, 3.0, SHIPPED) == (3.0, 3.0, 3.0)
    assert plant_need(Use.FOOT_PATH, SHIPPED) == (0, 0, 0)


def test_what_was_not_measured_has_a_range():
    low, high = range_of(Grown(crop="legume"), None, SHIPPED)
    assert low < nitrogen_of(Grown(crop="legume"), None, SHIPPED) < high
    assert range_of(Grown(crop="legume", grams_n_m2=9), None, SHIPPED) == (9, 9)
    compost = Spread(material="compost", depth_mm=25)
    low, high = range_of(compost, CATALOGUE["compost"], SHIPPED)
    assert low < nitrogen_of(compost, CATALOGUE["compost"], SHIPPED) < high


def test_a_soil_test_goes_before_the_soil_type():
    poor, rich = season(6.0, tested=2.0), season(6.0, tested=30.0)
    assert (poor.soil, rich.soil) == (2.0, 30.0)
    assert poor.wanting == 6.0
    assert rich.wanting == 0.0
    assert [step.step for step in advised(rich, Use.VEGETABLES, dug_in=False)] == ["compost", "legume"]
    assert "dress" in [step.step for step in advised(poor, Use.VEGETABLES, dug_in=False)]
    assert "wait" not in [step.step for step in advised(poor, Use.VEGETABLES, dug_in=True)], "the account does not say"
    waits = advised(poor, Use.VEGETABLES, dug_in=True, free_in=2029)[-1]
    assert (waits.step, "2029" in waits.words) == ("wait", True)
    assert [step.step for step in advised(season(0.5), Use.VEGETABLES, dug_in=False)] == ["nothing", "keep_on_top"]


def test_a_dose_is_what_the_label_says_worked_by_hand():
    """8 g N/m² of a 21-0-0 on 50 m²: 8 / 0.21 = 38.1 g/m², 1.905 kg; two doses of 19.05 g/m²; 1 bag of 2 kg."""
    dressing = dose(8.0, "Sulphate", 0.21, 50.0, 2.0, date(2027, 1, 10), GROWING)
    assert dressing.grams_m2.value == pytest.approx(38.095, abs=0.001)
    assert (dressing.doses, dressing.each_grams_m2) == (2, pytest.approx(19.048, abs=0.001))
    assert (dressing.total_kg, dressing.bags) == (pytest.approx(1.9048, abs=1e-4), 1)
    assert dressing.on == (date(2027, 4, 1), date(2027, 5, 6))
    assert dressing.surplus_n_kg == pytest.approx(0.4)


def test_and_in_pounds_on_a_thousand_square_feet():
    """1 lb N per 1,000 sq ft of urea 46-0-0: 2.17 lb of product; on 2,000 sq ft 4.35 lb."""
    pound, thousand = 0.45359237, 92.90304
    need_g = 1000 * pound / thousand
    dressing = dose(need_g, "Urea", 0.46, 2 * thousand, None, date(2027, 5, 1), GROWING)
    assert dressing.grams_m2.value * thousand / 1000 / pound == pytest.approx(2.174, abs=0.001)
    assert dressing.total_kg / pound == pytest.approx(4.348, abs=0.001)
    assert (dressing.doses, dressing.bags, dressing.on) == (1, None, (date(2027, 5, 1),))


@given(need_g=st.floats(1, 60), first=st.dates(date(2026, 1, 1), date(2030, 1, 1)))
def test_doses_are_safe_spaced_and_given_while_plants_grow(need_g, first):
    dressing = dose(need_g, "Feed", 0.1, 10.0, 25.0, first, GROWING)
    assert dressing.each_grams_m2 * 0.1 <= 5 + 1e-9
    assert dressing.doses * dressing.each_grams_m2 * 0.1 == pytest.approx(need_g)
    assert all(first <= day and day.month in GROWING[:-2] for day in dressing.on)
    assert all((after - before).days >= 35 for before, after in zip(dressing.on, dressing.on[1:], strict=False))
    assert max(sum(day.year == year for day in dressing.on) for year in {day.year for day in dressing.on}) <= 4
    assert dose(need_g, "Feed", 0.1, 10.0, 25.0, first, GROWING, soluble=False).doses == 1
    last = first + timedelta(days=200)
    short = dose(need_g, "Feed", 0.1, 10.0, 25.0, first, GROWING, last=last)
    assert short.on == tuple(day for day in dressing.on if day <= last or day == dressing.on[0])
    assert short.total_kg * 100 * 0.1 + short.too_late_g_m2 == pytest.approx(need_g)
    assert short.too_late_g_m2 >= 0
