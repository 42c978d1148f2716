"""Loads, piles and their book: conserved along every path, and by several people at once."""

import csv
import io
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from uuid import uuid4

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)
from PIL import Image

from tests.conftest import TODAY, examples

PLACE = {"kind": "pile_place", "place": {"x_m": "9", "y_m": "0"}, "length_m": "5 m", "width_m": "4 m"}


def picture(size=(60, 40), form="JPEG") -> bytes:
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x013B] = "Who took it"
    Image.new("RGB", size, "tan").save(out, form, exif=exif)
    return out.getvalue()


def volumes(person) -> dict[str, float]:
    return {pile["name"]: pile["stock_m3"] for pile in person.reads("stock")["piles"]}


def test_a_load_goes_from_truck_to_pile_to_plot_and_every_part_of_it_is_known(owner):
    plot = owner.add_plot()["plot"]
    place = owner.add_landmark(name="Barn", landmark=PLACE)
    taped = {"kind": "heap", "width_m": "3.6 m", "height_m": "1.5 m"}
    pile = owner.receives(measured=taped, note="Lime")
    came = 3.141592653589793 * 3.6**2 * 1.5 / 12
    assert pile["stock_m3"] == pytest.approx(came)
    assert owner.enters(pile["id"], "lay", "1 m3", plot_id=plot["id"]).status_code == 201
    assert owner.enters(pile["id"], "move", "2 m3", to_landmark_id=place["id"]).status_code == 201
    assert owner.enters(pile["id"], "take_away", "0.5 m3").status_code == 201
    assert owner.enters(pile["id"], "turn").status_code == 201
    measured = owner.enters(pile["id"], "measure", "1.2 m3")
    sheet = measured.json()
    (load,) = sheet["deliveries"]
    assert volumes(owner) == pytest.approx({"Pile": 1.2, "Barn": 2})
    assert load["on_piles_m3"] == pytest.approx(3.2)
    assert [(part["plot"], part["volume_m3"]) for part in load["on_plots"]] == [("Rose bed", pytest.approx(1))]
    assert load["away_m3"] == pytest.approx(0.5)
    assert load["shrunk_m3"] == pytest.approx(came - 1 - 2 - 0.5 - 1.2)
    assert [line["kind"] for line in sheet["lines"]] == ["measure", "turn", "take_away", "move", "lay", "receive"]
    assert sheet["piles"][0]["turned_on"] == TODAY.isoformat()


def test_an_expected_load_is_received_as_it_is_found(owner):
    entry = {
        "id": str(uuid4()),
        "name": "Crew",
        "units": "us",
        "material": "arborist_leafy",
        "least_m3": "9",
        "likely_m3": "12 cu yd",
        "most_m3": "14",
        "expected_on": TODAY.isoformat(),
        "cost": "30",
    }
    sheet = owner.client.post(f"{owner.site}/deliveries", json=entry).json()
    assert owner.client.post(f"{owner.site}/deliveries", json=entry).status_code == 201, "sent twice is kept once"
    (load,) = sheet["deliveries"]
    assert load["size"]["likely_m3"] == pytest.approx(12 * 0.764554857984)
    receipt = {
        "units": "metric",
        "received_on": TODAY.isoformat(),
        "material": "walnut",
        "measured": {"kind": "barrows", "barrows": 64, "barrow_m3": "100 L"},
    }
    address = f"{owner.site}/deliveries/{load['id']}/receipt"
    assert owner.client.post(address, json=receipt).status_code == 428
    assert owner.client.post(address, json=receipt, headers={"If-Match": '"1"'}).status_code == 201
    (load,) = owner.reads("stock")["deliveries"]
    assert (load["state"], load["material"], load["volume_m3"]) == ("received", "walnut", pytest.approx(6.4))
    assert owner.client.post(address, json=receipt, headers={"If-Match": '"2"'}).status_code == 409
    assert owner.client.delete(f"{owner.site}/deliveries/{load['id']}").status_code == 409


def test_a_load_that_does_not_come_is_expected_no_more_and_can_be_again(owner):
    entry = {"id": str(uuid4()), "name": "Crew", "units": "metric", "material": "arborist_leafy", "likely_m3": "9 m3"}
    owner.add_plot()
    owner.client.post(f"{owner.site}/deliveries", json=entry)
    assert owner.now()["coming_m3"] == pytest.approx(9)
    address = f"{owner.site}/deliveries/{entry['id']}"
    assert owner.client.delete(address).status_code == 204
    assert owner.now()["coming_m3"] == 0
    assert owner.client.post(f"{address}/restoration").status_code == 204
    assert owner.now()["coming_m3"] == pytest.approx(9)


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"material": "gravel"}, "material"),
        ({"measured": {"kind": "stated", "volume_m3": "0"}}, "measured.volume_m3"),
        ({"measured": {"kind": "stated", "volume_m3": "a lot"}}, "measured.volume_m3"),
        ({"measured": {"kind": "heap", "width_m": "-3", "height_m": "1"}}, "measured.width_m"),
        ({"measured": {"kind": "heap", "width_m": "9000 m", "height_m": "9000 m"}}, "measured"),
        ({"measured": {"kind": "barrows", "barrows": 0, "barrow_m3": "80 L"}}, "measured.barrows"),
        ({"measured": {"kind": "weight", "mass_kg": "0"}}, "measured.mass_kg"),
        ({"measured": {"kind": "guess"}}, "measured"),
        ({"received_on": "yesterday"}, "received_on"),
        ({"received_on": "0001-01-01"}, "received_on"),
        ({"pile_id": str(uuid4())}, "pile_id"),
        ({"landmark_id": str(uuid4())}, "landmark_id"),
        ({"cost": "-1"}, "cost"),
    ],
)
def test_a_receipt_that_makes_no_sense_is_refused_at_its_field(owner, changes, field):
    entry = {
        "id": str(uuid4()),
        "name": "A load",
        "units": "metric",
        "received_on": TODAY.isoformat(),
        "material": "arborist_leafy",
        "measured": {"kind": "stated", "volume_m3": "5"},
    } | changes
    answer = owner.client.post(f"{owner.site}/arrivals", json=entry)
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]
    assert owner.reads("stock")["deliveries"] == []


def test_lines_that_make_no_sense_are_refused_at_their_field(owner):
    pile = owner.receives()
    way = owner.add_landmark(name="Way", landmark={"kind": "way", "points_m": "0, 0; 9, 0", "width_m": "2 m"})
    for kind, volume, changes, field in (
        ("lay", "1 m3", {}, "plot_id"),
        ("lay", "1 m3", {"plot_id": str(uuid4())}, "plot_id"),
        ("lay", None, {}, "measured"),
        ("move", "1 m3", {}, "to_landmark_id"),
        ("move", "1 m3", {"to_pile_id": pile["id"]}, "to_landmark_id"),
        ("move", "1 m3", {"to_landmark_id": way["id"]}, "landmark_id"),
        ("take_away", "-1 m3", {}, "measured.volume_m3"),
    ):
        answer = owner.enters(pile["id"], kind, volume, **changes)
        assert answer.status_code == 422, (kind, changes)
        assert [error["field"] for error in answer.json()["errors"]] == [field]
    assert volumes(owner) == {"Pile": 6}


def test_a_line_sent_twice_counts_once(owner):
    pile, key = owner.receives(), str(uuid4())
    for _ in range(2):
        assert owner.enters(pile["id"], "take_away", "2 m3", id=key).status_code == 201
    assert volumes(owner) == {"Pile": 4}


def test_nobody_draws_what_is_not_there(owner):
    pile = owner.receives("3 m3")
    refused = owner.enters(pile["id"], "take_away", "3.5 m3")
    assert refused.status_code == 409
    assert refused.json()["detail"] == "Only 3 m³ are on “Pile” now. Nothing was changed."
    assert owner.enters(pile["id"], "take_away", "3 m3").status_code == 201
    empty = owner.enters(pile["id"], "take_away", "1 m3").json()
    assert empty["detail"] == "“Pile” is empty; Pat last took 3 m³. Nothing was changed."
    assert empty["errors"][0]["field"] == "measured"


def test_two_people_drawing_from_one_pile_at_once_never_take_more_than_there_is(owner):
    pile = owner.receives("5 m3")
    start = Barrier(6)

    def draw():
        start.wait()
        return owner.enters(pile["id"], "take_away", "2 m3")

    with ThreadPoolExecutor(6) as pool:
        answers = [drawing.result() for drawing in [pool.submit(draw) for _ in range(6)]]
    assert sorted(answer.status_code for answer in answers) == [201, 201, 409, 409, 409, 409]
    assert volumes(owner) == {"Pile": pytest.approx(1)}
    sentences = {answer.json()["detail"] for answer in answers if answer.status_code == 409}
    assert sentences == {"Only 1 m³ are on “Pile” now; Pat last took 2 m³. Nothing was changed."}


def test_only_the_last_line_is_taken_back(owner):
    pile = owner.receives()
    owner.enters(pile["id"], "take_away", "1 m3")
    last, first = owner.reads("stock")["lines"]
    assert (last["last"], first["last"]) == (True, False)
    assert owner.client.delete(f"{owner.site}/lines/{first['id']}").status_code == 409
    assert owner.client.delete(f"{owner.site}/lines/{last['id']}").status_code == 204
    assert volumes(owner) == {"Pile": 6}
    assert owner.client.delete(f"{owner.site}/lines/{first['id']}").status_code == 204
    assert owner.reads("stock")["deliveries"][0]["state"] == "expected", "a receipt taken back is still to come"


def test_what_was_laid_from_a_pile_lies_there_until_the_depth_is_measured_again(owner):
    plot = owner.add_plot()["plot"]
    pile = owner.receives()
    address = f"{owner.site}/plots/{plot['id']}"

    def depth():
        return owner.client.get(address).json()["plot"]["depth"]["middle"]

    owner.enters(pile["id"], "lay", "0.5 m3", plot_id=plot["id"])
    laid_mm = 0.5 / 12 * 0.78 * 1000
    assert depth() == pytest.approx(laid_mm, abs=0.2)
    change = {key: value for key, value in plot.items() if key in ("name", "use", "shape", "wanted_mm")}
    entry = change | {"units": "metric", "existing_mm": "0", "name": "Roses"}
    assert owner.client.put(address, json=entry, headers={"If-Match": '"1"'}).status_code == 200
    assert depth() == pytest.approx(laid_mm, abs=0.2), "another name changes no depth"
    assert owner.client.put(address, json=entry | {"existing_mm": "30"}, headers={"If-Match": '"2"'}).status_code == 200
    assert depth() == pytest.approx(30)


def test_a_place_without_a_pile_gets_one_and_a_second_load_joins_it(owner):
    yard = owner.add_landmark()
    for _ in range(2):
        owner.receives("3 m3", landmark_id=yard["id"])
    (pile,) = owner.reads("stock")["piles"]
    assert (pile["name"], pile["stock_m3"], len(pile["lots"])) == ("Yard", 6, 2)
    assert pile["plan"]["tip"] == "Yard"


def test_a_photograph_is_kept_small_and_bare_of_where_it_was_taken(owner):
    owner.receives()
    (load,) = owner.reads("stock")["deliveries"]
    photo_id = uuid4()
    address = f"{owner.site}/deliveries/{load['id']}/photos/{photo_id}"
    picture_at = f"{owner.site.split('/sites')[0]}/photos/{photo_id}"
    assert owner.client.get(picture_at).status_code == 404
    assert owner.client.put(address, content=b"no picture").status_code == 422
    assert owner.client.put(address, content=picture((2400, 1200), "PNG")).status_code == 204
    answer = owner.client.get(picture_at)
    assert answer.headers["content-type"] == "image/jpeg"
    with Image.open(io.BytesIO(answer.content)) as image:
        assert image.size == (1600, 800)
        assert dict(image.getexif()) == {}
    with Image.open(io.BytesIO(owner.client.get(picture_at, params={"small": True}).content)) as small:
        assert max(small.size) == 320
    assert owner.reads("stock")["deliveries"][0]["photo_id"] == str(photo_id)


def test_the_book_comes_as_a_table_that_no_spreadsheet_runs(owner):
    pile = owner.receives(name="=1+1")
    owner.enters(pile["id"], "take_away", "2 m3", note="@cmd")
    answer = owner.client.get(f"{owner.site}/book.csv")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))
    assert [(row["what"], row["to or from"], row["m3"], row["note"]) for row in rows] == [
        ("receive", "'=1+1", "6", ""),
        ("take_away", "", "2", "'@cmd"),
    ]


def test_while_it_is_typed_a_receipt_says_how_much_and_what_for(owner):
    owner.add_plot()
    entry = {
        "units": "metric",
        "received_on": TODAY.isoformat(),
        "material": "arborist_leafy",
        "measured": {"kind": "heap", "width_m": "3 m", "height_m": "1.2 m"},
    }
    estimate = owner.client.post(f"{owner.site}/receipt-estimate", json=entry).json()
    assert estimate["volume"]["value"] == pytest.approx(3.141592653589793 * 9 * 1.2 / 12)
    assert estimate["volume"]["working"]["formula"]
    assert estimate["effect"]["whole"] == ["Rose bed"]
    assert estimate["effect"]["over_m3"] == pytest.approx(estimate["volume"]["value"] - owner.now()["needed_m3"])
    assert owner.reads("stock")["deliveries"] == []


def test_every_path_through_the_application_conserves_every_load(owner):
    """The same law as in the core, through HTTP and PostgreSQL: loads come, are moved, laid, measured, taken back."""
    plot = owner.add_plot()["plot"]["id"]
    places = [owner.add_landmark(name=name, landmark=PLACE)["id"] for name in ("Barn", "Yard")]

    class Keeping(RuleBasedStateMachine):
        @initialize()
        def start(self):
            self.sheet = owner.reads("stock")

        def keep(self, answer):
            assert answer.status_code in (201, 204, 409, 422), answer.text
            self.sheet = owner.reads("stock")

        def pile(self, number):
            return self.sheet["piles"][number % len(self.sheet["piles"])]

        @rule(volume=st.floats(0.1, 9), number=st.integers(0, 1))
        def receive(self, volume, number):
            owner.receives(f"{volume:.4f} m3", landmark_id=places[number])
            self.sheet = owner.reads("stock")

        @precondition(lambda self: self.sheet["piles"])
        @rule(
            number=st.integers(0, 1),
            kind=st.sampled_from(["lay", "move", "take_away", "measure"]),
            part=st.floats(0.05, 1.4),
        )
        def enter(self, number, kind, part):
            pile = self.pile(number)
            volume = f"{max(0.001, pile['stock_m3'] * part):.6f} m3"
            self.keep(owner.enters(pile["id"], kind, volume, plot_id=plot, to_landmark_id=places[number]))

        @precondition(lambda self: self.sheet["lines"])
        @rule()
        def take_back(self):
            self.keep(owner.client.delete(f"{owner.site}/lines/{self.sheet['lines'][0]['id']}"))

        @invariant()
        def nothing_is_lost_or_made(self):
            for pile in self.sheet["piles"]:
                assert pile["stock_m3"] >= 0
                assert sum(lot["volume_m3"] for lot in pile["lots"]) == pytest.approx(pile["stock_m3"], abs=1e-6)
            for load in self.sheet["deliveries"]:
                went = load["on_piles_m3"] + load["away_m3"] + load["shrunk_m3"]
                went += sum(part["volume_m3"] for part in load["on_plots"])
                assert went == pytest.approx(load["volume_m3"] or 0.0, abs=1e-6)

    run_state_machine_as_test(
        Keeping,
        settings=settings(
            max_examples=examples(3), stateful_step_count=14, deadline=None, suppress_health_check=list(HealthCheck)
        ),
    )
