"""The order of a season: who brings what, what lies here, what was decided, and how sure it is."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from uuid import UUID

import pytest

from tests.core.sites import BED, TERMS, TODAY, crew, load, merchant, pile_of, plot, site
from ulmatic.core.materials import Stage
from ulmatic.core.money import Buying
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.recipe import RecipeEdits
from ulmatic.core.stock import LoadSize
from ulmatic.core.supply.chosen import ChosenLine, ChosenLoads
from ulmatic.core.supply.sourcing import TOO_SELDOM
from ulmatic.core.supply.suppliers import UNNAMED
from ulmatic.core.survey import Rectangle, Use

NEED_M3 = 20 * 0.075 / (1 - 0.22) * 1.1
"""A bare bed of 20 m² to 75 mm, settled by 22 %, with a tenth to spare."""


def plan_of(*plots, years=2, **more):
    return plan_on(site(*(plots or (plot(),)), **more), TODAY, years)


def key_of(supplier) -> str:
    return str(supplier.id)


def test_a_bare_bed_needs_its_depth_with_spare_from_a_source_without_a_name():
    plan = plan_of()
    now = plan.now
    assert now.needed_m3 == now.to_order_m3 == pytest.approx(NEED_M3)
    assert [(line.source, line.name, line.loads) for line in plan.order(0).lines] == [
        (plan.order(0).lines[0].source, "", 1)
    ]
    assert plan.order(0).lines[0].source.startswith(UNNAMED)
    assert now.cost is None, "nobody has named a price"
    assert now.left_over_m3 == pytest.approx(TERMS.load_m3 - NEED_M3)


def test_bulk_is_ordered_to_the_step_and_priced_with_its_delivery():
    plan = plan_of(suppliers=(merchant(1),))
    assert plan.now.cost == Decimal("148.00"), "2.2 m³ at 40 and 60 for the truck"
    assert plan.now.loads == 1
    assert plan.now.ordered_m3 == pytest.approx(2.2)
    assert plan.now.left_over_m3 == pytest.approx(2.2 - NEED_M3)


@pytest.mark.parametrize(("metres", "cheaper"), [(2, "Merchant 2"), (20, "Merchant 1")])
def test_the_cheaper_of_two_changes_with_the_amount(metres, cheaper):
    """30 a m³ with 100 for the truck, or 45 with 20: alike at 80 ÷ 15 = 5.3 m³."""
    both = (
        merchant(1, per_m3=30.0, per_load=100.0, truck_m3=40.0),
        merchant(2, per_m3=45.0, per_load=20.0, truck_m3=40.0),
    )
    bed = plot(shape=Rectangle(length_m=10, width_m=metres))
    assert [line.name for line in plan_of(bed, suppliers=both).order(0).lines] == [cheaper]


@pytest.mark.parametrize(
    ("supplier", "words"),
    [
        (merchant(1, currency="USD"), "Priced in USD; this site uses EUR."),
        (merchant(1, material="straw"), "No plot here accepts this material."),
        (crew(1, chance=0.05), TOO_SELDOM),
    ],
)
def test_a_supplier_that_does_not_do_says_why(supplier, words):
    order = plan_of(suppliers=(supplier,)).order(0)
    assert [offered.unfit for offered in order.offered.values()] == [words]
    assert all(not line.name for line in order.lines), "the order stands without it"


def test_what_lies_on_a_pile_is_not_ordered_again():
    plan = plan_of(**pile_of(load(1, 1.5, came=TODAY)))
    assert plan.now.on_hand_m3 == pytest.approx(1.5)
    assert plan.now.to_order_m3 == pytest.approx(NEED_M3 - 1.5)
    assert plan.now.coming_m3 == plan.now.unused_m3 == 0


def test_what_is_expected_counts_as_coming_in_the_planned_material():
    """A m³ of straw lays less ground than one of chips, as it settles more; it is counted in chips."""
    coming = plan_of(deliveries=(load(1, 1.0),)).now
    assert (coming.coming_m3, coming.on_hand_m3) == (pytest.approx(1.0), 0)
    assert coming.to_order_m3 == pytest.approx(NEED_M3 - 1.0)


def test_a_pile_that_nothing_accepts_is_told_as_unused():
    plan = plan_of(**pile_of(load(1, 1.5, material="straw", came=TODAY)))
    assert plan.now.on_hand_m3 == 0
    assert plan.now.unused_m3 == pytest.approx(1.5)
    assert plan.now.to_order_m3 == pytest.approx(NEED_M3)


def test_vegetables_wait_until_a_pile_has_rotted_where_chips_are_to_be_aged():
    aged = RecipeEdits(accepts_stages=(Stage.AGED, Stage.DECOMPOSED))
    bed = plot(use=Use.VEGETABLES, recipe=aged)
    trial = site(bed, **pile_of(load(1, 5.0, came=TODAY - timedelta(days=40))))
    plan = plan_on(trial, TODAY, 3)
    order = plan.order(0)
    assert order.on_hand_m3 == 0
    fit = order.fit_from()[0]
    assert fit > TODAY
    stage = order.lots[0].stage
    assert stage(fit, order.market.clock) is Stage.AGED
    assert stage(fit - timedelta(days=14), order.market.clock) is Stage.AGEING


def test_chosen_loads_win_and_say_what_is_short_or_over():
    supplier = crew(1, least=1.0, likely=1.0, most=1.0)
    for loads, short, over_m3 in ((1, NEED_M3 - 1, 0), (2, NEED_M3 - 2, 0), (3, 0, 3 - NEED_M3)):
        chosen = ChosenLoads(chosen_on=TODAY, lines=(ChosenLine(source=key_of(supplier), loads=loads),))
        now = plan_of(suppliers=(supplier,), chosen=(chosen,)).now
        assert (now.loads, now.decided) == (loads, True)
        assert now.short_m3 == pytest.approx(max(0, short))
        assert now.left_over_m3 == pytest.approx(max(0, over_m3), abs=1e-9)


def test_a_load_that_is_booked_uses_up_the_decision():
    supplier = crew(1, least=1.0, likely=1.0, most=1.0)
    chosen = ChosenLoads(chosen_on=TODAY, lines=(ChosenLine(source=key_of(supplier), loads=3),))
    booked = load(1, 1.0, supplier_id=supplier.id)
    now = plan_of(suppliers=(supplier,), chosen=(chosen,), deliveries=(booked,)).now
    assert (now.loads, now.coming_m3) == (2, pytest.approx(1.0))
    assert now.order[0].booked_loads == 1


def test_a_choice_of_a_source_that_is_gone_ends():
    chosen = ChosenLoads(chosen_on=TODAY, lines=(ChosenLine(source=str(UUID(int=9)), loads=7),))
    now = plan_of(chosen=(chosen,)).now
    assert (now.decided, now.loads) == (False, 1)


def test_more_certainty_takes_more_loads():
    bed = plot(shape=Rectangle(length_m=30, width_m=10))
    supplier = crew(1, least=6.7, likely=9.2, most=11.5)
    loads = [
        plan_of(bed, suppliers=(supplier,), buying=Buying(sure=certainty, wanted_by=TODAY + timedelta(days=330))).now
        for certainty in (50, 80, 95)
    ]
    assert [now.loads for now in loads] == sorted(now.loads for now in loads)
    assert all(now.enough >= now.sure / 100 - 1e-9 for now in loads if not now.short_m3)


def test_how_sure_it_is_follows_what_can_stand_for_each_other():
    """Straw for vegetables is exact; chips for shrubs come by the unknown load: the least sure of the two counts."""
    straw = RecipeEdits(material="straw", accepts=("straw",))
    beds = (plot(1, shape=Rectangle(length_m=40, width_m=5)), plot(2, use=Use.VEGETABLES, recipe=straw))
    chips, bales = crew(1), merchant(2, material="straw", truck_m3=400.0)
    suppliers = (chips, bales)
    decided = ChosenLoads(
        chosen_on=TODAY,
        lines=(ChosenLine(source=key_of(chips), loads=2), ChosenLine(source=key_of(bales), loads=1, volume_m3=300.0)),
    )
    order = plan_of(*beds, suppliers=suppliers, chosen=(decided,)).order(0)
    chips_alone = plan_of(beds[0], suppliers=(chips,), chosen=(replace_lines(decided, decided.lines[:1]),)).order(0)
    assert 0.01 < order.enough < 0.99
    assert order.enough == pytest.approx(chips_alone.enough), "three hundred m³ of straw make no shrub bed surer"


def replace_lines(choice: ChosenLoads, lines) -> ChosenLoads:
    return choice.model_copy(update={"lines": tuple(lines)})


def test_two_loads_of_the_same_kind_that_come_are_two():
    """Each adds its own spread: what they hold at least is more than first of them holds at least."""
    size = LoadSize(least_m3=1.0, likely_m3=2.0, most_m3=3.0)
    bed = plot(shape=Rectangle(length_m=10, width_m=4.5))
    first, two = (
        plan_of(
            bed,
            deliveries=tuple(load(number, 2.0, size=size) for number in range(1, count + 1)),
            suppliers=(crew(1, least=0.5, likely=1.0, most=1.5),),
            chosen=(ChosenLoads(chosen_on=TODAY, lines=(ChosenLine(source=key_of(crew(1)), loads=3 - count),)),),
        ).order(0)
        for count in (1, 2)
    )
    assert first.coming_m3 == pytest.approx(2.0)
    assert two.coming_m3 == pytest.approx(4.0)
    assert two.enough != pytest.approx(first.enough)


def test_a_later_season_begins_with_what_the_earlier_one_leaves():
    supplier = crew(1, least=4.0, likely=4.0, most=4.0)
    chosen = ChosenLoads(chosen_on=TODAY, lines=(ChosenLine(source=key_of(supplier), loads=1),))
    plan = plan_of(suppliers=(supplier,), chosen=(chosen,), years=3)
    surplus_m3 = plan.figures(0).left_over_m3
    season = next(number for number in range(1, len(plan.seasons)) if plan.layings(number))
    assert surplus_m3 > 1
    assert 0 < plan.figures(season).on_hand_m3 < surplus_m3, "it has shrunk in its pile since"


def test_the_slowest_source_says_by_when_to_order():
    plan = plan_of(suppliers=(merchant(1, lead_days=21),))
    season = next(number for number in range(1, len(plan.seasons)) if plan.layings(number))
    assert plan.order_by(season) == plan.layings(season)[0].on - timedelta(days=21)
    assert plan.order_by(0) == TODAY, "what is needed now should have been ordered long ago"


def test_cardboard_and_compost_are_told_beside_the_mulch():
    lawn = plot(use=Use.LAWN_TO_CONVERT, target=150.0)
    also = {line.role: line for line in plan_of(lawn).now.also}
    assert "sheet" in {str(role) for role in also}
    sheet = next(line for role, line in also.items() if str(role) == "sheet")
    assert (sheet.unit, sheet.amount) == ("m2", pytest.approx(BED.length_m * BED.width_m * 1.15, rel=0.2))


def test_a_bare_site_needs_nothing_and_says_its_season():
    now = plan_on(replace(site(), plots=()), TODAY, 2).now
    assert (now.needed_m3, now.loads, now.hours, now.to_order_m3) == (0, 0, 0, 0)
    assert now.season
