"""Two invented sites, as their keepers would have typed them."""

from typing import Any


def _bed(name: str, use: str, length: str, width: str, target: str, existing: str = "0") -> dict[str, Any]:
    shape = {"kind": "rectangle", "length_m": length, "width_m": width}
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": target}


def _plot(
    name: str, use: str, target: str, existing: str = "0", *, fields: dict[str, Any] | None = None, **shape: Any
) -> dict[str, Any]:
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": target, **(fields or {})}


def _way(name: str, width: str, climb: str, points: str) -> dict[str, Any]:
    return {"name": name, "landmark": {"kind": "way", "width_m": width, "climb_m": climb, "points_m": points}}


def _stand(
    name: str, kind: str, place: tuple[float, float, float], size: tuple[str, str], **more: str
) -> dict[str, Any]:
    x, y, turn = place
    spot = {"x_m": x, "y_m": y, "turn_deg": turn}
    return {"name": name, "landmark": {"kind": kind, "place": spot, "length_m": size[0], "width_m": size[1], **more}}


SITES: list[dict[str, Any]] = [
    {
        "name": "Quillet Holm",
        "units": "metric",
        "load_m3": "10 m3",
        "load_least_m3": "7 m3",
        "load_most_m3": "12 m3",
        "barrow_m3": "100 L",
        "buying": {
            "currency": "EUR",
            "people": 2,
            "carriers": ["barrow", "cart"],
            "labour_per_h": "24",
            "tax": "21 %",
            "markup": "10 %",
            "sure": 80,
        },
        "closures": [
            {"name": "Nesting in the hazel", "first": "2026-03-15", "last": "2026-06-15", "yearly": True},
        ],
        "priorities": {"Kitchen bed, south": 1, "Kitchen bed, north": 1, "Cart track": 3},
        "climate": {
            "kind": "normals",
            "temperatures_c": "4.9, 5.0, 6.4, 8.3, 11.1, 13.8, 15.6, 15.7, 13.8, 10.9, 7.6, 5.5",
            "rain_mm": "88, 62, 58, 52, 54, 50, 55, 66, 68, 92, 98, 97",
        },
        "places": {
            "Quince row": (23.3, 9.6, 0),
            "Medlar row": (18.4, 16.6, 0),
            "Madder and weld": (8.6, -5.6, 0),
            "Woad bed": (8.4, -10, 0),
            "Kitchen bed, south": (8, -17.4, 0),
            "Kitchen bed, north": (8, -14.8, 0),
            "Garlic ground": (15.6, -14.4, 0),
            "Cart track": (20.47, -4.5, 0),
            "Path to the well": (21.3, -15.1, 0),
            "Hazel bank": (44.2, -5.5, 78),
        },
        "landmarks": [
            _stand("Gate yard", "tip", (-1.4, 0, 0), ("8 m", "5 m"), surface="hard", to_wall_m="1.5 m"),
            _stand("Behind the barn", "pile_place", (-3.5, -12, 0), ("5 m", "4 m"), to_wall_m="60 cm"),
            _way("Track", "2.6 m", "0.8 m", "2.6, 0; 25, 0; 36.1, -9.3; 41.2, -10"),
            _way("Orchard alley", "2.4 m", "1.4 m", "5, 0; 5, 6.6; 44, 6.6"),
            _way("Upper alley", "2.2 m", "1.5 m", "5, 6.6; 0.4, 7.2; 0.4, 13; 34, 13"),
            _way("Garden walk", "1.2 m", "-0.6 m", "2.6, 0; 2.2, -3; 2.2, -18.8; 13.5, -18.8"),
            _way("To the well", "90 cm", "0", "13.5, -18.8; 14.6, -17.3; 24.4, -17.3; 26.2, -12.6"),
        ],
        "plots": [
            _plot(
                "Quince row",
                "young_tree",
                "100 mm",
                "30 mm",
                kind="ring_row",
                canopy_m="2.6 m",
                trunk_m="24 cm",
                gap_m="15 cm",
                reach_m="20 cm",
                trees=12,
                spacing_m="3.6 m",
            ),
            _plot(
                "Medlar row",
                "young_tree",
                "120 mm",
                "55 mm",
                kind="ring_row",
                canopy_m="3.6 m",
                trunk_m="38 cm",
                gap_m="30 cm",
                reach_m="20 cm",
                trees=9,
                spacing_m="3.6 m",
            ),
            _bed("Madder and weld", "perennials", "9.5 m", "2.4 m", "75 mm", "20 mm"),
            _plot(
                "Woad bed",
                "vegetables",
                "80 mm",
                kind="offsets",
                spacing_m="1.5 m",
                edge="curved",
                offsets_m="1.2, 2.1, 2.6, 2.4, 1.9, 1.5, 0.8 m",
            ),
            _bed("Kitchen bed, south", "vegetables", "7.2 m", "1.2 m", "110 mm", "35 mm")
            | {
                "recipe": {
                    "stage": "aged",
                    "hold_backs": [
                        {"name": "Carrots", "rows": 2, "length_m": "7.2 m", "width_m": "15 cm"},
                        {"name": "Garlic", "rows": 1, "length_m": "7.2 m", "width_m": "25 cm", "for_good": True},
                    ],
                }
            },
            _bed("Kitchen bed, north", "vegetables", "7.2 m", "1.2 m", "90 mm", "10 mm")
            | {"recipe": {"stage": "aged"}},
            _bed("Garlic ground", "bulbs", "3.6 m", "1.2 m", "0"),
            _plot(
                "Cart track",
                "vehicle_path",
                "180 mm",
                "60 mm",
                kind="path",
                legs_m="21 + 14.5 m",
                turns_deg="40 right",
                width_m="2.6 m",
            ),
            _plot(
                "Path to the well",
                "foot_path",
                "100 mm",
                "45 mm",
                kind="path",
                legs_m="8.4 + 5.2 m",
                turns_deg="70 left",
                width_m="90 cm",
            ),
            _bed("Hazel bank", "bank", "16 m", "3.5 m", "75 mm")
            | {"slope": {"angle_deg": "1:3", "taped": "along"}, "found": {"cover": "annual_weeds", "soil": "clay"}},
        ],
    },
    {
        "name": "Marrow Street Library",
        "units": "us",
        "load_m3": "12 cu yd",
        "load_least_m3": "9 cu yd",
        "load_most_m3": "14 cu yd",
        "barrow_m3": "6 cu ft",
        "buying": {
            "currency": "USD",
            "people": 3,
            "carriers": ["barrow", "cart"],
            "labour_per_h": "38",
            "tax": "6.5 %",
            "markup": "15 %",
            "disposal": "120",
        },
        "closures": [{"name": "Library closed", "first": "2026-12-24", "last": "2027-01-02", "yearly": True}],
        "priorities": {"Play corner": 1},
        "climate": {
            "kind": "normals",
            "temperatures_c": "20, 24, 35, 49, 61, 71, 76, 74, 66, 53, 40, 27",
            "rain_mm": "1.6, 1.5, 2.3, 3.4, 4.0, 4.4, 3.9, 3.7, 3.2, 2.9, 2.4, 1.9",
        },
        "places": {
            "Front bed, west": (-7.2, -2, 180),
            "Front bed, east": (4.6, -2.1, 180),
            "Linden rings": (0.1, -9.6, 0),
            "Reading circle": (14.6, 2.5, 0),
            "Short cut to the bus stop": (-22, -9, -72),
            "Play corner": (16.4, -5.6, 90),
            "Verge to be converted": (3.4, -15.2, 0),
        },
        "landmarks": [
            _stand("Curb, Marrow Street", "tip", (10.6, -18.6, 0), ("26 ft", "10 ft"), surface="hard"),
            _stand("Lot corner", "pile_place", (19.5, -12.5, 0), ("14 ft", "12 ft")),
            _way("Front walk", "6 ft", "1 ft", "22, -57; -14, -57; -14, -13.5; 30, -13.5"),
            _way("Library walk", "5 ft", "2 ft", "-14, -13.5; -44, -13.5; -56, -24; -60, -50"),
            _way("Side gate", "38 in", "1'6\"", "30, -13.5; 33, -2; 38, 8"),
        ],
        "plots": [
            _plot(
                "Front bed, west",
                "perennials",
                "3 in",
                "1 in",
                kind="offsets",
                spacing_m="4 ft",
                edge="curved",
                offsets_m="3', 6'6\", 9 ft, 10'3\", 9'6\", 7 ft, 4'",
                fields={"cut_outs": [{"kind": "plants", "plants": 14, "gap_m": "8 in"}]},
            ),
            _plot(
                "Front bed, east",
                "perennials",
                "3 in",
                "1/2 in",
                kind="offsets",
                spacing_m="4 ft",
                edge="curved",
                offsets_m="4', 8'3\", 9'6\", 6', 2'6\"",
            ),
            _plot(
                "Linden rings",
                "established_tree",
                "6 in",
                "2 1/2 in",
                kind="ring",
                canopy_m="26 ft",
                trunk_m="68 in",
                gap_m="12 in",
                part="100 %",
                trees=3,
            ),
            _plot(
                "Reading circle",
                "foot_path",
                "4 in",
                "1 1/2 in",
                kind="ellipse",
                across_m="18 ft",
                fields={"cut_outs": [{"kind": "shape", "shape": {"kind": "ellipse", "across_m": "5 ft"}}]},
            ),
            _plot(
                "Short cut to the bus stop",
                "foot_path",
                "4 in",
                kind="path",
                legs_m="34' + 19'6\"",
                turns_deg="35 right",
                width_m="4 ft",
            ),
            _plot("Play corner", "play", "9 in", "5 in", kind="triangle", a_m="28 ft", b_m="24 ft", c_m="19 ft"),
            _bed("Verge to be converted", "lawn_to_convert", "40 ft", "6 ft", "6 in") | {"found": {"cover": "lawn"}},
        ],
    },
]

_YEAR = list(range(1, 13))
SUPPLIERS: list[dict[str, Any]] = [
    {
        "name": "Fernley Tree Care",
        "units": "metric",
        "currency": "EUR",
        "source": {
            "kind": "arborist",
            "material": "arborist_leafy",
            "least_m3": "7 m3",
            "likely_m3": "10 m3",
            "most_m3": "12 m3",
            "per_load": "20",
            "chance": "40 %",
            "months": _YEAR,
        },
    },
    {
        "name": "Island line clearance",
        "units": "metric",
        "currency": "EUR",
        "source": {
            "kind": "utility",
            "material": "arborist_bare",
            "least_m3": "10 m3",
            "likely_m3": "14 m3",
            "most_m3": "18 m3",
            "per_load": "0",
            "chance": "50 %",
            "months": [1, 2, 3, 11, 12],
        },
    },
    {
        "name": "Harbour yard",
        "units": "metric",
        "currency": "EUR",
        "source": {
            "kind": "yard",
            "material": "clean_coarse",
            "trailer_m3": "2.2 m3",
            "payload_kg": "500 kg",
            "per_m3": "9 / m3",
            "per_trip": "14",
            "trips_a_month": 8,
            "months": _YEAR,
        },
    },
    {
        "name": "Copse and Field, bulk",
        "units": "metric",
        "currency": "EUR",
        "source": {
            "kind": "merchant",
            "material": "bark_shredded",
            "truck_m3": "15 m3",
            "minimum_m3": "3 m3",
            "per_m3": "48 / m3",
            "per_load": "65",
            "lead_days": 7,
            "months": _YEAR,
        },
    },
    {
        "name": "Own hedges",
        "units": "metric",
        "currency": "EUR",
        "source": {"kind": "own", "material": "ramial", "year_m3": "2.5 m3", "months": [1, 2, 11, 12]},
    },
    {
        "name": "Parish Green Crew",
        "units": "us",
        "currency": "USD",
        "source": {
            "kind": "arborist",
            "material": "arborist_leafy",
            "least_m3": "9 cu yd",
            "likely_m3": "12 cu yd",
            "most_m3": "14 cu yd",
            "per_load": "30",
            "chance": "60 %",
            "months": _YEAR,
        },
    },
    {
        "name": "Quarry Lane Mulch",
        "units": "us",
        "currency": "USD",
        "source": {
            "kind": "merchant",
            "material": "clean_coarse",
            "truck_m3": "20 cu yd",
            "minimum_m3": "3 cu yd",
            "per_m3": "34 / yd",
            "per_load": "75",
            "lead_days": 3,
            "months": _YEAR,
        },
    },
    {
        "name": "Garden shed, bags",
        "units": "us",
        "currency": "USD",
        "source": {
            "kind": "bags",
            "material": "bark_shredded",
            "bag_m3": "2 cu ft",
            "per_bag": "5.20",
            "months": _YEAR,
        },
    },
]
"""Invented suppliers, shared by both sites; each site reckons with those in its currency."""

STOCK: dict[str, Any] = {
    "site": "Quillet Holm",
    "arrival": {
        "name": "Load from Fernley, autumn storm",
        "units": "metric",
        "material": "arborist_leafy",
        "cost": "20",
        "measured": {"kind": "heap", "width_m": "3.6 m", "height_m": "1.5 m", "ridge_m": "1.2 m"},
        "note": "Lime and maple with leaf, some ash.",
    },
    "days_ago": 24,
    "old": {
        "name": "Load of last year",
        "units": "metric",
        "material": "arborist_leafy",
        "cost": "0",
        "measured": {"kind": "heap", "width_m": "3.6 m", "height_m": "1.5 m", "ridge_m": "1.0 m"},
        "note": "From the lane side, left to age for the kitchen beds.",
        "worries": ["weed_seed"],
    },
    "old_days": 480,
    "lay": ("Kitchen bed, north", "0.12 m3", 17),
    "move": ("Behind the barn", "2 m3", 12),
    "expected": {
        "name": "Island line clearance",
        "units": "metric",
        "material": "arborist_bare",
        "least_m3": "10 m3",
        "likely_m3": "14 m3",
        "most_m3": "18 m3",
        "cost": "0",
        "note": "They ring the evening before.",
    },
    "in_days": 9,
}
"""What lies at one site and is expected there, so many days before or after the demo is first started."""
