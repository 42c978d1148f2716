"""Quotes as they are promised: kept, printed and taken out as a table."""

import csv
import io
from decimal import Decimal
from uuid import uuid4

import pypdf
import pytest

from tests.app.test_files import send


@pytest.fixture
def job(owner):
    """A bed, a merchant, and rates."""
    owner.add_plot()
    owner.add_supplier()
    owner.buys(labour_per_h="24", markup="10 %", disposal="15", tax="20 %")
    return owner


def keep(person, **changes) -> dict:
    entry = {"id": str(uuid4()), "client": "Wendeline Ørsted-Łoś", "words": "As walked on Tuesday."} | changes
    answer = person.client.post(f"{person.site}/quotes", json=entry)
    assert answer.status_code == 201, answer.text
    return answer.json()


def file(person, quote: dict, ending: str):
    answer = person.client.get(f"{person.site}/quotes/{quote['id']}/file.{ending}")
    assert answer.status_code == 200
    return answer


def test_a_quote_follows_the_plan_and_the_work(job):
    now = job.reads("quotes")["today"]
    hours = job.reads("tasks")["hours"]["value"]
    lines = {line["label"]: Decimal(line["amount"]) for line in now["lines"]}
    assert lines == {
        "Arborist chips, leafy, Quarry Lane": 39,  # 1.3 m³ at 30, from 1.27
        "Delivery, Quarry Lane": 60,
        "Handling of materials": Decimal("3.90"),
        "Clearing and disposal of waste": 15,
        "Preparing, hauling, laying and finishing": 24 * Decimal(-(-hours // 0.25)) / 4,
    }
    assert Decimal(now["total"]) == Decimal(now["subtotal"]) + Decimal(now["tax"])
    assert abs(Decimal(now["tax"]) - Decimal(now["subtotal"]) / 5) <= Decimal("0.005")
    assert job.now()["cost"] == now["subtotal"]
    (plot,) = now["plots"]
    assert plot["amount"] == now["subtotal"]
    assert abs(Decimal(plot["per_m2"]) - Decimal(now["subtotal"]) / 12) <= Decimal("0.005")


def test_what_was_promised_stays_as_it_was(job):
    promised = keep(job)
    job.buys(labour_per_h="48", tax="0")
    sheet = job.reads("quotes")
    assert sheet["kept"][0]["quote"] == promised["quote"]
    assert sheet["today"]["total"] != promised["quote"]["total"]
    assert keep(job)["number"] == promised["number"] + 1
    job.client.post(f"{job.site}/quotes", json={"id": promised["id"], "client": "Again"})
    assert [quote["client"] for quote in job.reads("quotes")["kept"]] == ["Wendeline Ørsted-Łoś"] * 2, (
        "sent twice, promised once"
    )


def test_a_deleted_quote_comes_back_and_its_number_is_not_given_again(job):
    deleted = keep(job)
    address = f"{job.site}/quotes/{deleted['id']}"
    assert job.client.delete(address).status_code == 204
    assert job.reads("quotes")["kept"] == []
    assert keep(job)["number"] == deleted["number"] + 1
    assert job.client.post(f"{address}/restoration").status_code == 204
    assert [quote["number"] for quote in job.reads("quotes")["kept"]] == [2, 1]


def test_the_pdf_says_what_the_screen_says_with_every_letter(job):
    promised = keep(job)
    answer = file(job, promised, "pdf")
    assert answer.headers["content-type"] == "application/pdf"
    assert 'filename="quote-1.pdf"' in answer.headers["content-disposition"]
    reader = pypdf.PdfReader(io.BytesIO(answer.content))
    text = "\n".join(page.extract_text() for page in reader.pages)
    for words in (
        "Quote 1, Back garden",
        "Wendeline Ørsted-Łoś",
        "As walked on Tuesday.",
        "Rose bed",
        "12.0 m²",
        "1.3 m³",
        f"{Decimal(promised['quote']['total']):,.2f} EUR",
        "Tax, 20 %",
    ):
        assert words in text, words
    assert reader.pages[0].mediabox.width == pytest.approx(595.28, abs=0.1), "A4"


def test_a_us_quote_is_in_yards_on_letter_paper(job):
    site = job.add_site(units="us", load_m3="12 cu yd", barrow_m3="6 cu ft")
    job.add_plot(wanted_mm="3 in", units="us")
    job.add_supplier(
        units="us",
        currency="USD",
        name="Bulk",
        source={"kind": "merchant", "material": "clean_coarse", "truck_m3": "20", "per_m3": "34"},
    )
    job.buys(units="us", currency="USD")
    promised = keep(job)
    reader = pypdf.PdfReader(io.BytesIO(file(job, promised, "pdf").content))
    text = reader.pages[0].extract_text()
    assert site["units"] == "us"
    assert "yd³" in text
    assert "34.00" in text, "a price for a yard"
    assert "sq ft" in text
    assert reader.pages[0].mediabox.width == 612


def test_a_long_quote_runs_over_pages(job):
    beds = "".join(f"Bed {number},rectangle,6,2,perennials,75\n" for number in range(60))
    assert send(job, "t.csv", "name,measured as,length,width,used for,wanted\n" + beds, keep=True).status_code == 200
    reader = pypdf.PdfReader(io.BytesIO(file(job, keep(job), "pdf").content))
    assert len(reader.pages) >= 2
    assert "Bed 59" in reader.pages[-1].extract_text()


def test_the_table_adds_up_and_runs_in_no_spreadsheet(job):
    job.add_plot(name="=HYPERLINK()")
    promised = keep(job, client="+1 client")
    rows = list(csv.reader(io.StringIO(file(job, promised, "csv").content.decode("utf-8-sig"))))
    assert rows[0][3] == "'+1 client"
    amounts = {row[0]: float(row[4]) for row in rows[2:] if len(row) == 5}
    total, tax, subtotal = amounts.pop("total"), amounts.pop("tax 20 %"), amounts.pop("subtotal")
    assert sum(amounts.values()) == pytest.approx(subtotal)
    assert subtotal + tax == pytest.approx(total)
    plots = {row[0]: float(row[4]) for row in rows if len(row) == 6 and row[0] != "plot"}
    assert set(plots) == {"Rose bed", "'=HYPERLINK()"}
    assert sum(plots.values()) == pytest.approx(subtotal)


@pytest.mark.parametrize(
    ("entry", "field"), [({"client": " "}, "client"), ({"client": "x" * 81}, "client"), ({"words": "x" * 501}, "words")]
)
def test_a_quote_for_nobody_is_refused_at_its_field(job, entry, field):
    answer = job.client.post(f"{job.site}/quotes", json={"id": str(uuid4()), "client": "C"} | entry)
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


def test_without_a_price_for_all_of_it_there_is_no_quote_but_a_reason(owner):
    owner.add_plot()
    sheet = owner.reads("quotes")
    assert sheet["today"] is None
    assert sheet["wanting"] == "There is no supplier for arborist chips, leafy yet. Add one."
    answer = owner.client.post(f"{owner.site}/quotes", json={"id": str(uuid4()), "client": "C"})
    assert answer.status_code == 409
    owner.add_supplier()
    assert owner.reads("quotes")["wanting"] is None


def test_what_cannot_be_covered_is_said_and_not_quoted(owner):
    owner.add_plot()
    owner.add_supplier()
    owner.buys(budget="1")
    sheet = owner.reads("quotes")
    assert (sheet["today"], sheet["now"]["binding"]) == (None, "The budget is too small.")
    assert sheet["wanting"]


def test_chips_that_lie_here_cost_nothing(job):
    job.receives("9 m3")
    today = job.reads("quotes")["today"]
    assert {line["group"] for line in today["lines"]} == {"labour", "waste"}


def test_a_quote_of_a_later_season_is_that_seasons(job):
    sheet = job.reads("quotes")
    later_keys = [season["key"] for season in sheet["seasons"]][1:]
    for key in later_keys:
        of_season = job.reads(f"quotes?season={key}")
        assert of_season["season"]["key"] == key
        cost = of_season["season"]["cost"]
        assert (of_season["today"] is None) == (cost is None or not of_season["season"]["needed_m3"])
        if of_season["today"]:
            assert of_season["today"]["subtotal"] == cost
