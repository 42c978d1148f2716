"""Tables in and out: somebody else's headings, recipes and rules, and the log."""

import csv
import io
import json
from datetime import timedelta
from uuid import uuid4

import pytest

from tests.conftest import TODAY

ODD = """Bed no.;Long (m);Wide (m);Mulch depth;Remarks
North border;12,5;3,048;75 mm;dry
South border;8;2,5;60 mm;"""


def brought(owner, content: str | bytes, **options):
    parameters = {"name": "beds.csv", "import_id": str(uuid4()), "use": "perennials", **options}
    return owner.sends(f"{owner.site}/imports", content, **parameters)


def test_a_table_with_headings_of_its_own_is_mapped_by_choosing_columns(owner):
    """A comma between semicolons parts decimals: 3,048 is a width of three metres, not of three thousand."""
    answer = brought(owner, ODD).json()
    assert [(column["heading"], column["guess"]) for column in answer["columns"]] == [
        ("Bed no.", "name"),
        ("Long (m)", "length"),
        ("Wide (m)", "width"),
        ("Mulch depth", "target depth"),
        ("Remarks", None),
    ]
    assert answer["columns"][1]["examples"] == ["12,5", "8"]
    assert answer["plots"] == [], "nothing is read before it is said what is what"
    columns = {column["heading"]: column["guess"] for column in answer["columns"] if column["guess"]}
    read = brought(owner, ODD, columns=json.dumps(columns)).json()
    assert [(plot["name"], plot["kind"]) for plot in read["plots"]] == [
        ("North border", "rectangle"),
        ("South border", "rectangle"),
    ]
    assert read["plots"][0]["area_m2"] == pytest.approx(12.5 * 3.048)
    assert brought(owner, ODD, columns=json.dumps(columns), keep=True).json()["kept"] is True
    assert [plot["name"] for plot in owner.client.get(owner.site).json()["plots"]] == ["North border", "South border"]


def test_a_mapping_needs_names_and_names_only_headings_there_are(owner):
    assert "plot names" in brought(owner, ODD, columns=json.dumps({"Long (m)": "length"})).json()["detail"]
    read = brought(owner, ODD, columns=json.dumps({"Bed no.": "name", "Long (m)": "nonsense"})).json()
    assert read["errors"], "without a measure there is no ground"
    assert brought(owner, ODD, columns="{broken").status_code == 422


def test_a_use_that_is_not_known_lists_those_there_are(owner):
    table = "name,used for,length,width\nBed,rockery,3 m,2 m"
    (error,) = [error for error in brought(owner, table).json()["errors"] if error["column"] == "use"]
    assert all(word in error["detail"] for word in ("annual vegetables", "foot path", "seedbed"))


def download(person, path: str) -> bytes:
    answer = person.client.get(f"{person.site}/{path}")
    assert answer.status_code == 200, answer.text
    return answer.content


def rows_in(content: bytes) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(content.decode("utf-8-sig"))))


def with_recipes(person) -> None:
    """Three plots with recipes and rules of their own."""
    rows = [
        {"name": "Garlic", "rows": 2, "length_m": "4 m", "width_m": "30 cm", "for_good": True},
        {"name": "Lettuces", "rows": 3, "length_m": "4 m", "width_m": "25 cm"},
    ]
    recipe = {"material": "ramial", "stage": "aged", "compost_mm": "1 in", "growing_mm": "80 mm", "hold_backs": rows}
    person.add_plot(name="Kitchen bed", use="vegetables", wanted_mm="120 mm", recipe=recipe)
    person.add_plot(name="Border", recipe={"cardboard": True, "biochar_mm": "10 mm"})
    ring = {"kind": "ring", "canopy_m": "4 m", "trunk_m": "40 cm", "gap_m": "15 cm"}
    person.add_plot(name="Quince", use="young_tree", shape=ring, recipe={"laid_share": "75 %"})
    for plot_id, rule in zip(
        person.plot_ids, [{"kind": "every", "years": 2, "window": "autumn"}, None, {"kind": "quarter"}], strict=True
    ):
        answer = person.client.put(
            f"{person.site}/plots/{plot_id}/rule", json={"rule": rule, "units": "metric"}, headers={"If-Match": '"1"'}
        )
        assert answer.status_code < 300, answer.text


@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_recipes_and_rules_go_out_and_come_in_again(owner, ending):
    with_recipes(owner)
    content = download(owner, f"file.{ending}")
    before = owner.client.get(owner.site).json()
    owner.add_site()
    owner.plot_ids.clear()
    answer = brought(owner, content, name=f"plots.{ending}", keep=True).json()
    assert (answer["errors"], answer["kept"]) == ([], True)
    after = owner.client.get(owner.site).json()
    for old, new in zip(before["plots"], after["plots"], strict=True):
        assert new["recipe"] == old["recipe"], old["name"]
        assert new["planned_m3"] == pytest.approx(old["planned_m3"])
    rules = [plot["rule"]["kind"] for plot in owner.reads("seasons")["plots"]]
    assert rules == ["every", "keep", "quarter"]


def test_a_table_says_its_recipes_in_words(owner):
    with_recipes(owner)
    kitchen, border, quince = rows_in(download(owner, "file.csv"))
    assert (kitchen["material"], kitchen["stage"], kitchen["compost"]) == ("Branch-wood chips", "aged", "1 in")
    assert kitchen["plant rows"] == "Garlic: 2 x 4 m x 30 cm, bare; Lettuces: 3 x 4 m x 25 cm"
    assert (kitchen["rule"], border["rule"], quince["rule"]) == ("every 2 years, autumn", "", "quarter")
    assert (border["cardboard"], quince["part laid"]) == ("yes", "75 %")


@pytest.mark.parametrize(
    ("column", "text", "says"),
    [
        ("rule", "when I like", "This is not a rule. Type one like: keep"),
        ("material", "moon dust", "This material does not exist"),
        ("stage", "ripe", ""),
        ("compost", "some", "is not a depth"),
        ("plant rows", "Garlic, two rows", ""),
        ("cardboard", "perhaps", ""),
    ],
)
def test_wrong_cells_of_recipes_are_told_by_row_and_column(owner, column, text, says):
    table = f'name,used for,length,width,wanted,{column}\nBed,annual vegetables,3 m,2 m,10 cm,"{text}"'
    (error,) = brought(owner, table, keep=True).json()["errors"]
    assert (error["row"], error["column"]) == (2, column)
    assert says in error["detail"]


def logged(person) -> None:
    """A log with every kind of entry."""
    person.add_plot(name="Bed")
    ago = iter(range(90, 0, -10))
    for entry in (
        {"kind": "measured", "readings_mm": "40; 50; 60", "settled": True},
        {"kind": "laid", "material": "ramial", "depth_mm": "3 in", "chipped_on": "2026-01-15"},
        {"kind": "laid", "material": "arborist_leafy", "volume_m3": "0.5 m3"},
        {"kind": "fed", "product": "=2+3", "n": "12 %", "grams_m2": 30, "soluble": False},
        {"kind": "spread", "material": "compost", "depth_mm": "20 mm"},
        {"kind": "grown", "crop": "cover_crop", "grams_n_m2": 3.5},
        {"kind": "removed", "chips_mm": "10 mm", "humus_mm": "5 mm"},
        {"kind": "dug_in"},
        {"kind": "observed"},
    ):
        answer = person.logs(TODAY - timedelta(days=next(ago)), **entry)
        assert answer.status_code == 201, answer.text


def brings_log(person, content: bytes, **options):
    headers = {"Content-Type": "application/octet-stream"}
    return person.client.post(
        f"{person.site}/log/imports", params={"name": "log.csv", **options}, content=content, headers=headers
    )


def said_of(person) -> list[tuple]:
    entries = person.client.get(f"{person.site}/log").json()
    return sorted((entry["on"], json.dumps(entry["entry"], sort_keys=True)) for entry in entries)


@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_a_log_goes_out_and_comes_in_again_once(owner, ending):
    logged(owner)
    content, before = download(owner, f"log.{ending}"), said_of(owner)
    depth = owner.client.get(owner.site).json()["plots"][0]["depth"]["middle"]
    second = brings_log(owner, content, name=f"log.{ending}", keep=True).json()
    assert (second["entries"], second["there"], second["errors"]) == ([], len(before), [])
    owner.add_site()
    owner.plot_ids.clear()
    owner.add_plot(name="Bed")
    (measured,) = owner.client.get(f"{owner.site}/log").json()
    owner.client.delete(f"{owner.site}/log/{measured['id']}")
    before = [entry for entry in before if json.loads(entry[1]) != measured["entry"]]
    looked_at = brings_log(owner, content, name=f"log.{ending}").json()
    assert looked_at["kept"] is False
    for _ in range(2):
        imported = brings_log(owner, content, name=f"log.{ending}", keep=True).json()
        assert (imported["errors"], imported["kept"]) == ([], True)
    entries_before = [entry for entry in said_of(owner) if json.loads(entry[1]) != measured["entry"]]
    assert entries_before == before, "sent twice, it is entries_before once"
    assert owner.client.get(owner.site).json()["plots"][0]["depth"]["middle"] == pytest.approx(depth)


def test_a_log_in_a_table_is_no_formula_and_says_what_lay_where(owner):
    logged(owner)
    rows = rows_in(download(owner, "log.csv"))
    assert next(row["product"] for row in rows if row["what"] == "fed") == "'=2+3"
    laid = [row for row in rows if row["what"] == "laid"]
    assert (laid[0]["material"], laid[0]["depth"]) == ("Branch-wood chips", "3 in")
    assert {row["plot"] for row in rows} == {"Bed"}


@pytest.mark.parametrize(
    ("line", "column", "says"),
    [
        ("Shed,2026-05-01,measured,40 mm,", "plot", "no plot called “Shed”"),
        ("Bed,yesterday,measured,40 mm,", "day", ""),
        ("Bed,2099-05-01,measured,40 mm,", "day", "in the future"),
        ("Bed,2026-05-01,danced,40 mm,", "what", ""),
        ("Bed,2026-05-01,measured,deep,", "depth", "is not a depth"),
        ("Bed,2026-05-01,laid,40 mm,moon dust", "material", "material does not exist"),
        ("Bed,2026-05-01,laid,,ramial", "depth", "Enter a depth"),
    ],
)
def test_what_is_wrong_in_a_log_is_told_by_row_and_column_and_nothing_is_added(owner, line, column, says):
    owner.add_plot(name="Bed")
    before = said_of(owner)
    table = f"plot,day,what,depth,material\nBed,2026-05-02,measured,30 mm,\n{line}".encode()
    answer = brings_log(owner, table, keep=True).json()
    assert [(error["row"], error["column"]) for error in answer["errors"]] == [(3, column)], answer
    assert says in answer["errors"][0]["detail"]
    assert answer["kept"] is False
    assert said_of(owner) == before


def test_what_is_no_log_is_refused(owner):
    assert "columns “plot”" in brings_log(owner, b"a,b\n1,2").json()["detail"]
    odd = brings_log(owner, b"plot,day,what,mood\nBed,2026-05-01,measured,good").json()
    assert "column “mood”" in odd["detail"]
    owner.add_plot(name="Bed")
    owner.add_plot(name="Bed")
    answer = brings_log(owner, b"plot,day,what,depth\nBed,2026-05-01,measured,4 cm").json()
    assert "more than one plot" in answer["errors"][0]["detail"]
