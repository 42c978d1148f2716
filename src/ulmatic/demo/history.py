"""Two years of invented history for the demo's sites: what was laid, measured and seen, so many days ago."""

from typing import Any

Line = tuple[int, str, dict[str, Any], str]


def _laid(material: str, depth: str) -> dict[str, Any]:
    return {"kind": "laid", "material": material, "depth_mm": depth}


def _read(*depths: str) -> dict[str, Any]:
    return {"kind": "measured", "readings_mm": "; ".join(depths), "settled": True}


def _worms(count: int, holes: int = 2) -> dict[str, Any]:
    return {"kind": "worms", "count": count, "holes": holes}


def _hours(task: str, hours: float, person: str) -> dict[str, Any]:
    return {"kind": "hours", "task": task, "hours": hours, "person": person}


def _moisture(days: int, feel: str) -> dict[str, Any]:
    return {"kind": "moisture", "days_without_rain": days, "feel": feel}


def _plants(action: str, count: int, name: str, **more: str) -> dict[str, Any]:
    return {"kind": "plants", "action": action, "count": count, "name": name, **more}


BEANS = "5b1f3a52-6c0e-4d8f-9a35-3a1b8c2e7d11"


def _row(step: str, **more: str) -> dict[str, Any]:
    return {"kind": "row", "opening": BEANS, "step": step, **more}


HISTORY: dict[str, list[Line]] = {
    "Quillet Holm": [
        (905, "", _hours("weeding", 6, "Ysolde"), ""),
        (880, "", _hours("strimming", 3.5, "Bram"), ""),
        (850, "", _hours("weeding", 5.5, "Ysolde"), ""),
        (812, "", _hours("strimming", 3, "Bram"), ""),
        (790, "", _hours("weeding", 6, "Ysolde"), ""),
        (735, "Quince row", _laid("arborist_leafy", "95 mm"), "First rings, after strimming."),
        (735, "Quince row", {"kind": "tree", "girth_m": "15 cm", "guard": "on"}, ""),
        (735, "Quince row", _worms(1), ""),
        (640, "Quince row", _read("80 mm", "86 mm", "77 mm"), ""),
        (610, "Quince row", _plants("lost", 1, "Quince"), "Vole."),
        (560, "Quince row", _plants("replaced", 1, "Quince"), ""),
        (520, "Quince row", _read("66 mm", "70 mm", "72 mm"), ""),
        (500, "Quince row", _moisture(11, "moist"), ""),
        (380, "Quince row", _read("52 mm", "58 mm", "55 mm"), ""),
        (370, "Quince row", {"kind": "tree", "girth_m": "19 cm", "guard": "checked"}, ""),
        (365, "Quince row", _worms(5), ""),
        (250, "Quince row", _read("48 mm", "43 mm", "44 mm"), ""),
        (120, "Quince row", _read("36 mm", "33 mm", "38 mm"), ""),
        (118, "Quince row", _moisture(14, "damp"), ""),
        (20, "Quince row", {"kind": "tree", "girth_m": "24 cm", "canopy_m": "2.6 m"}, ""),
        (20, "Quince row", _worms(9), ""),
        (401, "Medlar row", _laid("arborist_leafy", "112 mm"), ""),
        (400, "Medlar row", _worms(2), ""),
        (300, "Medlar row", _read("94 mm", "90 mm", "88 mm"), ""),
        (182, "Medlar row", _read("74 mm", "71 mm"), ""),
        (64, "Medlar row", _read("60 mm", "62 mm", "57 mm"), ""),
        (62, "Medlar row", _worms(7), ""),
        (420, "Madder and weld", _laid("arborist_leafy", "62 mm"), ""),
        (300, "Madder and weld", _read("44 mm", "41 mm"), ""),
        (
            160,
            "Madder and weld",
            {"kind": "observed", "weeds": False, "sort": "seedlings", "cover": "5 %", "pull": "easy"},
            "Pulled the same day.",
        ),
        (150, "Madder and weld", _read("29 mm", "31 mm"), ""),
        (330, "Kitchen bed, south", _laid("arborist_leafy", "88 mm"), ""),
        (
            215,
            "Kitchen bed, south",
            {"kind": "profile", "dry_mm": "22 mm", "moist_mm": "40 mm", "humus_depth_mm": "4 mm"},
            "",
        ),
        (140, "Kitchen bed, south", _plants("watered", 30, "Leeks", water_m3="120 L"), ""),
        (90, "Kitchen bed, south", _read("44 mm", "47 mm"), ""),
        (70, "Kitchen bed, south", _moisture(9, "moist"), ""),
        (30, "Kitchen bed, south", {"kind": "ripeness", "fork": "firm", "squeeze": "holds", "smell": "wood"}, ""),
        (
            24,
            "Kitchen bed, south",
            {
                "kind": "opened",
                "opening": BEANS,
                "count": 2,
                "length_m": "5 m",
                "width_m": "250 mm",
                "apart_m": "0.7 m",
                "crop": "broad_bean",
                "name": "overwintering",
            },
            "",
        ),
        (24, "Kitchen bed, south", _row("loosened"), ""),
        (23, "Kitchen bed, south", _row("sown", crop="broad_bean"), "Two fingers deep."),
        (210, "Woad bed", _laid("arborist_leafy", "55 mm"), ""),
        (515, "Cart track", _laid("clean_coarse", "112 mm"), ""),
        (330, "Cart track", _read("92 mm", "96 mm"), ""),
        (170, "Cart track", _read("77 mm", "80 mm"), ""),
        (395, "Path to the well", _laid("clean_coarse", "72 mm"), ""),
        (200, "Path to the well", _read("58 mm", "55 mm"), ""),
        (700, "", _hours("weeding", 2.5, "Ysolde"), ""),
        (640, "", _hours("strimming", 1, "Bram"), ""),
        (520, "", _hours("weeding", 2, "Ysolde"), ""),
        (430, "", _hours("weeding", 2.5, "Ysolde"), ""),
        (300, "", _hours("strimming", 1, "Bram"), ""),
        (210, "", _hours("weeding", 2, "Ysolde"), ""),
        (100, "", _hours("weeding", 1.5, "Ysolde"), ""),
        (401, "Medlar row", _hours("laying", 1.6, "Bram") | {"volume_m3": "2.8 m3"}, ""),
    ],
    "Marrow Street Library": [
        (690, "", _hours("weeding", 7, "Odell"), ""),
        (660, "", _hours("watering", 4, "Odell"), ""),
        (640, "", _hours("weeding", 8, "Odell"), ""),
        (604, "Linden rings", _laid("arborist_leafy", "5 1/2 in"), "Flares kept clear."),
        (604, "Linden rings", {"kind": "tree", "girth_m": "65 in"}, ""),
        (430, "Linden rings", _read("4 in", "4 1/4 in", "4 in"), ""),
        (245, "Linden rings", _read("3 1/4 in", "3 in"), ""),
        (240, "Linden rings", {"kind": "tree", "girth_m": "68 in"}, ""),
        (410, "Front bed, west", _laid("bark_shredded", "2 1/4 in"), ""),
        (280, "Front bed, west", _read("1 3/4 in", "2 in"), ""),
        (140, "Front bed, west", _read("1 1/4 in", "1 1/2 in"), ""),
        (139, "Front bed, west", _moisture(10, "damp"), ""),
        (400, "Front bed, west", _plants("put_in", 14, "Coneflower"), ""),
        (250, "Front bed, west", _plants("lost", 2, "Coneflower"), "Dry spring."),
        (44, "Front bed, west", _plants("put_in", 9, "Bayberry"), ""),
        (410, "Front bed, east", _laid("bark_shredded", "1 3/4 in"), ""),
        (270, "Front bed, east", _read("1 1/4 in"), ""),
        (130, "Front bed, east", _read("3/4 in", "1 in"), ""),
        (128, "Front bed, east", _worms(3), ""),
        (390, "Reading circle", _laid("clean_coarse", "2 1/2 in"), ""),
        (200, "Reading circle", _read("2 in", "1 3/4 in"), ""),
        (330, "Play corner", _laid("clean_coarse", "7 in"), ""),
        (150, "Play corner", _read("6 in", "5 3/4 in"), ""),
        (420, "", _hours("weeding", 3, "Odell"), ""),
        (300, "", _hours("watering", 1.5, "Odell"), ""),
        (200, "", _hours("weeding", 2.5, "Odell"), ""),
        (80, "", _hours("weeding", 2, "Odell"), ""),
    ],
}
"""Days ago, plot (none where it is of the whole site), entry and note."""

DRAWINGS: dict[str, list[tuple[int, str, float, float, float]]] = {
    "Quillet Holm": [
        (735, "Quince row", 0.95, 0.3, 0.0),
        (380, "Quince row", 0.5, 0.6, 0.1),
        (20, "Quince row", 0.3, 1.0, 0.25),
        (400, "Medlar row", 1.0, 0.8, 0.0),
        (60, "Medlar row", 0.5, 1.0, 0.1),
    ],
    "Marrow Street Library": [(604, "Linden rings", 1.0, 0.9, 0.0), (240, "Linden rings", 0.6, 1.0, 0.05)],
}
"""Days ago, plot, and what is drawn: depth of the chips, size of the tree, weeds, each as a share."""
