"""Archives of versions 1 to 5 as one of version 6.

Version 1 had neither climate, landmarks nor recipes; 2 neither priorities nor buying; 3 no log and no rules; 4 kept the
existing depth with the plot, and rules and windows by month; 5 had neither photos nor entries of piles and trees.
"""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, time
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5
from zoneinfo import ZoneInfo

_NAMES = uuid5(NAMESPACE_URL, "ulmatic-site archive")
_KINDS = {"read": "measured", "mixed": "dug_in"}
UTC = ZoneInfo("UTC")
Data = dict[str, Any]


def upgraded(data: Data, undated: date) -> Data:
    """Return an archive's data as version 6; `undated` is taken where no day is said."""
    if data["version"] >= 5:
        return {**data, "version": 6}
    site = dict(data["site"])
    southern = is_southern(site.get("climate"))
    loads = site.pop("loads_chosen", None)
    site["seasons"] = seasons_of(site.get("seasons") or {}, southern=southern)
    plots, ledger = [], []
    for number, old in enumerate(data["plots"], 1):
        plot, entries = _plot(dict(old), uuid5(_NAMES, f"plot {number}"), undated, southern=southern)
        plots.append(plot)
        ledger += entries
    latest = max((entry["on"] for entry in ledger), default=undated.isoformat())
    if loads is not None:
        site["chosen"] = [chosen_loads(loads, date.fromisoformat(latest))]
    landmarks = [
        {"id": str(uuid5(_NAMES, f"landmark {number}")), **landmark}
        for number, landmark in enumerate(data.get("landmarks", []), 1)
    ]
    rest = {key: value for key, value in data.items() if key not in ("site", "plots", "landmarks", "version")}
    return {**rest, "version": 6, "site": site, "plots": plots, "landmarks": landmarks, "ledger": ledger}


def _plot(plot: Data, plot_id: UUID, undated: date, *, southern: bool) -> tuple[Data, list[Data]]:
    ground = dict(plot.get("found") or {})
    typed = dict(plot.get("typed") or {})
    existing_at = plot.pop("existing_at", None) or datetime.combine(undated, time(12), UTC).isoformat()
    moment = datetime.fromisoformat(existing_at)
    measured, written = measurement(plot, ground, typed)
    rule = plot.pop("renewal", None)
    events = plot.pop("events", [])
    entries = [
        {
            "id": str(uuid5(plot_id, "measured")),
            "plot_id": str(plot_id),
            "on": moment.astimezone(UTC).date().isoformat(),
            "written_at": moment.isoformat(),
            "entry": measured,
            "typed": written,
        }
    ]
    for number, event in enumerate(events, 1):
        entries.append(
            {
                "id": str(uuid5(plot_id, f"event {number}")),
                "plot_id": str(plot_id),
                "on": event["on"],
                "written_at": event["written_at"],
                "entry": entry_of(event["event"]),
                "typed": event.get("typed", {}),
                "by": event.get("by", ""),
            }
        )
    plot |= {
        "id": str(plot_id),
        "found": ground,
        "typed": typed,
        "surveyed_on": entries[0]["on"],
        "rule": None if rule is None else rule_of(rule, float(plot.get("wanted_mm") or 0), southern=southern),
    }
    return plot, entries


def measurement(plot: Data, ground: Data, typed: Data) -> tuple[Data, Data]:
    """Take the existing depth out of a plot; return it as a measurement, with how it was written."""
    entry: Data = {"kind": "measured", "depth_mm": plot.pop("existing_mm", 0.0) or 0.0, "settled": True}
    written: Data = {"units": typed.get("units")}
    if (text := typed.pop("existing_mm", None)) is not None:
        written["depth_mm"] = text
    readings = ground.pop("readings_mm", None)
    if readings:
        entry["readings_mm"] = readings
    conditions = typed.get("found")
    if isinstance(conditions, dict) and "readings_mm" in conditions:
        typed["found"] = {key: value for key, value in conditions.items() if key != "readings_mm"}
        written["readings_mm"] = conditions["readings_mm"]
    months = ground.pop("lain_months", None)
    if months is not None:
        entry["lain_months"] = months
    return entry, written


def entry_of(event: Data) -> Data:
    """Return what was logged under its present name."""
    return {**event, "kind": _KINDS.get(event["kind"], event["kind"])}


def chosen_loads(loads: int, on: date) -> Data:
    """Return a number of loads as the choice of the season that ran on a day."""
    return {"season": None, "chosen_on": on.isoformat(), "lines": [{"source": "unnamed", "loads": loads}]}


def is_southern(climate: Mapping[str, Any] | None) -> bool:
    """Say whether a climate's January is its summer."""
    if not climate:
        return False
    temperatures = climate.get("temperatures_c")
    if isinstance(temperatures, Sequence) and not isinstance(temperatures, str) and len(temperatures) == 12:
        return float(temperatures[0]) > float(temperatures[6])
    return bool(climate.get("southern"))


def window_of(month: int, *, southern: bool) -> str:
    """Return the window that a month is nearest to."""
    return "spring" if (month <= 6) is not southern else "autumn"


def rule_of(rule: Data, target_mm: float, *, southern: bool) -> Data:
    """Return a rule by months as one by seasons."""
    kind = rule["kind"]
    if kind == "hold":
        return {"kind": "keep"}
    if kind == "thin":
        part = float(rule["layer_mm"]) / target_mm if target_mm > 0 else 1.0
        return {"kind": "thin", "part": min(1.0, max(0.05, part))}
    if kind in ("every", "harvest"):
        return {"kind": kind, "years": rule["years"], "window": window_of(rule["month"], southern=southern)}
    if kind == "quarter":
        return {"kind": "quarter", "window": window_of(rule.get("month", 11), southern=southern)}
    if kind == "rounds":
        return {"kind": "rounds", "rounds": rule["rounds"], "months_apart": rule["months_apart"]}
    return {"kind": "once"}


def seasons_of(seasons: Data, *, southern: bool) -> Data:
    """Return what was overridden of a place's seasons, months for laying as windows."""
    rest = {key: value for key, value in seasons.items() if key != "open_months"}
    months = seasons.get("open_months")
    if not months or len(months) == 12:
        return rest
    windows: Data = {}
    for first, last in _runs(sorted(months)):
        length = (last - first) % 12
        middle = (first + length // 2 - 1) % 12 + 1
        windows[window_of(middle, southern=southern)] = {
            "opens": {"month": first, "day": 1},
            "closes": {"month": last, "day": (date(2025 + last // 12, last % 12 + 1, 1) - date(2025, last, 1)).days},
        }
    return {**rest, "windows": windows}


def _runs(months: Sequence[int]) -> list[tuple[int, int]]:
    """Return runs of months that follow each other, round the turn of the year."""
    present = set(months)
    firsts = [month for month in months if (month - 2) % 12 + 1 not in present]
    runs = []
    for first in firsts:
        last = first
        while last % 12 + 1 in present:
            last = last % 12 + 1
        runs.append((first, last))
    return runs
