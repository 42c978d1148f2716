"""Load the demo's sites through the same services that people use."""

import json
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.demo.drawings import drawing
from ulmatic.money import service as money
from ulmatic.money.schemas import BuyingEntry
from ulmatic.records.survey import SiteRow
from ulmatic.site import book as receiving
from ulmatic.site import ledger as log
from ulmatic.site import photos
from ulmatic.site.book_schemas import Arrival, NewBookLine, NewDelivery
from ulmatic.site.ledger_schemas import NewLogEntry
from ulmatic.site.snapshot import snapshot_of, today_at
from ulmatic.supply import suppliers
from ulmatic.supply.orders import put_priorities
from ulmatic.supply.schemas import NewSupplier, Priorities
from ulmatic.survey import service as survey
from ulmatic.survey.schemas import NewLandmark, NewPlot, NewSite, Places
from ulmatic.work import days
from ulmatic.work.day_schemas import CrewEntry


def _typed(name: str) -> Any:
    return json.loads((Path(__file__).parent / f"{name}.json").read_text(encoding="utf-8"))


SITES: list[dict[str, Any]] = _typed("sites")
"""Two invented sites, as their keepers would have typed them."""
SUPPLIERS: list[dict[str, Any]] = _typed("suppliers")
"""Invented suppliers, shared by both sites; each site reckons with those in its currency."""
STOCK: dict[str, Any] = _typed("stock")
"""What lies at one site and is expected there, so many days before or after the demo is first started."""
HISTORY: dict[str, list[list[Any]]] = _typed("history")
"""Two years by site: days ago, plot (none where it is of the whole site), entry and note."""
DRAWINGS: dict[str, list[list[Any]]] = _typed("drawings")
"""Days ago, plot, and what is drawn by site: depth of the chips, size of the tree, weeds, each as a share."""
_NAMES = UUID("5f1d8c8e-3f0e-4c62-9a44-6d2f7a9c1e10")
_BESIDE = ("plots", "places", "landmarks", "buying", "priorities", "closures")


def load(scope: Scope) -> None:
    """Put the demo's suppliers and sites into an empty workspace."""
    for entry in SUPPLIERS:
        supplier_id = uuid5(_NAMES, entry["name"])
        suppliers.add_supplier(scope, NewSupplier.model_validate({**entry, "id": supplier_id}))
    for site in SITES:
        site_id = uuid5(_NAMES, site["name"])
        units = site["units"]
        fields = {key: value for key, value in site.items() if key not in _BESIDE}
        survey.add_site(scope, NewSite.model_validate({**fields, "id": site_id}))
        entries = [{**plot, "id": uuid5(site_id, plot["name"]), "units": units} for plot in site["plots"]]
        plots = [NewPlot.model_validate(entry) for entry in entries]
        survey.add_plots(scope, site_id, plots)
        log.measure_plots(scope, site_id, [(plot.id, plot) for plot in plots])
        places = {
            uuid5(site_id, name): {"x_m": x, "y_m": y, "turn_deg": turn}
            for name, (x, y, turn) in site["places"].items()
        }
        survey.put_places(scope, site_id, Places.model_validate({"places": places}))
        for landmark in site["landmarks"]:
            entry = {**landmark, "id": uuid5(site_id, landmark["name"]), "units": units}
            survey.add_landmark(scope, site_id, NewLandmark.model_validate(entry))
        buying = BuyingEntry.model_validate({**site["buying"], "units": units})
        money.change_buying(scope, site_id, buying, "1")
        priorities = {uuid5(site_id, name): level for name, level in site["priorities"].items()}
        put_priorities(scope, site_id, Priorities(priorities=priorities))
        if site["name"] == STOCK["site"]:
            _stock(scope, site_id)
        _history(scope, site_id, site["name"], units)
        days.change_crew(scope, site_id, CrewEntry.model_validate({"closures": site["closures"]}))


def _history(scope: Scope, site_id: UUID, name: str, units: str) -> None:
    """Write down two years of invented history, with drawings where photos would be."""
    site = scope.get(SiteRow, site_id)
    today = today_at(scope, site)
    lines: list[tuple[int, str, dict[str, Any], str, tuple[UUID, ...]]] = [(*line, ()) for line in HISTORY[name]]
    for number, (ago, plot, *shares) in enumerate(DRAWINGS[name]):
        photo_id = uuid5(site_id, f"drawing {number}")
        content = drawing(shares[0], shares[1], shares[2], seed=7)
        photos.put_photo(scope, site_id, photo_id, content, is_drawing=True)
        lines.append((ago, plot, {"kind": "note"}, "From the gate.", (photo_id,)))
    entries = [
        NewLogEntry.model_validate(
            {
                "id": uuid5(site_id, f"history {number}"),
                "plot_id": uuid5(site_id, plot) if plot else None,
                "on": today - timedelta(days=ago),
                "units": units,
                "entry": entry,
                "note": note,
                "photos": pictures,
            }
        )
        for number, (ago, plot, entry, note, pictures) in enumerate(lines)
    ]
    log.add_settled(scope, site, entries)
    log.keep_lessons(scope, site_id, snapshot_of(scope, site_id).state.assumed.rates)


def _stock(scope: Scope, site_id: UUID) -> None:
    """Let two loads have come, some of the fresh one laid and moved, and another be expected."""
    today = today_at(scope, scope.get(SiteRow, site_id))
    came = today - timedelta(days=STOCK["days_ago"])
    yard = uuid5(site_id, "Gate yard")
    arrival = {**STOCK["arrival"], "id": uuid5(site_id, "arrival"), "received_on": came, "landmark_id": yard}
    receiving.receive_unexpected(scope, site_id, Arrival.model_validate(arrival))
    pile_id = snapshot_of(scope, site_id).pile_rows[0].id
    aged = {**STOCK["old"], "id": uuid5(site_id, "old"), "received_on": today - timedelta(days=STOCK["old_days"])}
    aged["landmark_id"] = uuid5(site_id, "Behind the barn")
    receiving.receive_unexpected(scope, site_id, Arrival.model_validate(aged))
    for kind, name, amount, ago in (("lay", *STOCK["lay"]), ("move", *STOCK["move"])):
        where = {"plot_id": uuid5(site_id, name)} if kind == "lay" else {"to_landmark_id": uuid5(site_id, name)}
        entry = {
            "id": uuid5(site_id, kind),
            "units": "metric",
            "kind": kind,
            "on": today - timedelta(days=ago),
            "measured": {"kind": "stated", "volume_m3": amount},
            **where,
        }
        receiving.change_pile(scope, site_id, pile_id, NewBookLine.model_validate(entry))
    expected = {**STOCK["expected"], "expected_on": today + timedelta(days=STOCK["in_days"])}
    expected |= {"id": uuid5(site_id, "expected"), "supplier_id": uuid5(_NAMES, STOCK["expected"]["name"])}
    receiving.add_delivery(scope, site_id, NewDelivery.model_validate(expected))
