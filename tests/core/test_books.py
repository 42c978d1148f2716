"""The books of piles: nothing is lost, nothing is made, and every m³ is known by its load."""

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from tests.conftest import examples
from ulmatic.core.stock.books import BookEntry, Books, NotThere, books_of

PILES, PLOTS = ("yard", "barn", "bank"), ("row", "bed", "track")
volumes = st.floats(0.01, 40).map(lambda volume: round(volume, 2))


def enter(books, kind, pile, volume=0.0, **more):
    books.enter(BookEntry(kind=kind, pile=pile, volume_m3=volume, **more))


class Keeping(RuleBasedStateMachine):
    """Loads come, go from pile to pile and to plots, are measured again, turned and taken away, in any order."""

    @initialize()
    def start(self):
        self.books, self.lines, self.loads = Books(), [], 0

    def try_to(self, kind, pile, volume, **more):
        before = {name: self.books.stock(name) for name in PILES}
        entry = BookEntry(kind=kind, pile=pile, volume_m3=volume, **more)
        if kind not in ("receive", "turn") and self.too_much(kind, volume, before[pile]):
            with pytest.raises(NotThere) as short:
                self.books.enter(entry)
            assert short.value.available_m3 == pytest.approx(before[pile])
            assert {name: self.books.stock(name) for name in PILES} == before, "a refused line changes nothing"
        else:
            self.books.enter(entry)
            self.lines.append(entry)

    @staticmethod
    def too_much(kind, volume, available_m3):
        return available_m3 <= 0 < volume if kind == "measure" else volume > available_m3 + 1e-6

    @rule(pile=st.sampled_from(PILES), volume=volumes)
    def receive(self, pile, volume):
        self.loads += 1
        self.try_to("receive", pile, volume, load=f"load {self.loads}")

    @rule(pile=st.sampled_from(PILES), plot=st.sampled_from(PLOTS), volume=volumes)
    def lay(self, pile, plot, volume):
        self.try_to("lay", pile, volume, plot=plot)

    @rule(pile=st.sampled_from(PILES), share=st.floats(0, 1))
    def lay_a_part(self, pile, share):
        self.try_to("lay", pile, self.books.stock(pile) * share, plot="row")

    @rule(pile=st.sampled_from(PILES), to=st.sampled_from(PILES), share=st.floats(0, 1))
    def move(self, pile, to, share):
        if pile != to:
            self.try_to("move", pile, self.books.stock(pile) * share, to_pile=to)

    @rule(pile=st.sampled_from(PILES), volume=volumes)
    def measure(self, pile, volume):
        self.try_to("measure", pile, volume)

    @rule(pile=st.sampled_from(PILES), share=st.floats(0, 1))
    def take_away(self, pile, share):
        self.try_to("take_away", pile, self.books.stock(pile) * share)

    @rule(pile=st.sampled_from(PILES))
    def turn(self, pile):
        self.try_to("turn", pile, 0.0)

    @invariant()
    def every_load_is_accounted_for(self):
        books = self.books
        for load, came in books.received.items():
            piles = sum(lots.get(load, 0.0) for lots in books.piles.values())
            plots = sum(lots.get(load, 0.0) for lots in books.plots.values())
            lost_m3 = books.away.get(load, 0.0) + books.shrunk.get(load, 0.0)
            assert piles + plots + lost_m3 == pytest.approx(came, abs=1e-6)

    @invariant()
    def nothing_is_below_nothing(self):
        for lots in (*self.books.piles.values(), *self.books.plots.values(), self.books.away):
            assert all(amount >= 0 for amount in lots.values())

    @invariant()
    def the_lines_alone_tell_it_all(self):
        second = books_of(self.lines)
        assert {name: second.stock(name) for name in PILES} == {name: self.books.stock(name) for name in PILES}
        assert second.plots == self.books.plots


Keeping.TestCase.settings = settings(max_examples=examples(60), stateful_step_count=30, deadline=None)
test_nothing_is_lost_and_nothing_is_made = Keeping.TestCase


def test_what_is_drawn_holds_its_loads_in_their_shares():
    books = Books()
    enter(books, "receive", "yard", 6, load="lime")
    enter(books, "receive", "yard", 2, load="pine")
    enter(books, "lay", "yard", 4, plot="row")
    assert books.plots["row"] == pytest.approx({"lime": 3, "pine": 1})
    enter(books, "move", "yard", 2, to_pile="barn")
    assert books.piles["barn"] == pytest.approx({"lime": 1.5, "pine": 0.5})


def test_what_a_measurement_finds_less_has_shrunk_and_what_it_finds_more_was_underestimated():
    books = Books()
    enter(books, "receive", "yard", 10, load="lime")
    enter(books, "measure", "yard", 8)
    assert books.shrunk == pytest.approx({"lime": 2})
    enter(books, "measure", "yard", 9)
    assert books.shrunk == pytest.approx({"lime": 1})
    assert books.stock("yard") == pytest.approx(9)


def test_an_empty_place_cannot_be_drawn_from_nor_hold_what_never_came():
    books = Books()
    for kind in ("lay", "measure"):
        with pytest.raises(NotThere):
            enter(books, kind, "yard", 1, plot="row")
    enter(books, "measure", "yard", 0)
    assert books.stock("yard") == 0
