"""Two invented sites, as their keepers would have typed them."""

from typing import Any


def _bed(name: str, use: str, length: str, width: str, wanted: str, existing: str = "0") -> dict[str, Any]:
    shape = {"kind": "rectangle", "length_m": length, "width_m": width}
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": wanted}


def _path(name: str, use: str, legs: str, width: str, wanted: str, existing: str = "0") -> dict[str, Any]:
    shape = {"kind": "path", "legs_m": legs, "width_m": width}
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": wanted}


def _rings(
    name: str,
    use: str,
    canopy: str,
    girth: str,
    gap: str,
    trees: int,
    wanted: str,
    existing: str = "0",
    reach: str = "0",
) -> dict[str, Any]:
    shape = {
        "kind": "ring", "canopy_m": canopy, "trunk_m": girth, "trunk_as": "girth", "gap_m": gap, "reach_m": reach,
        "trees": trees,
    }  # fmt: skip
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": wanted}


SITES: list[dict[str, Any]] = [
    {
        "name": "Quillet Holm",
        "units": "metric",
        "load_m3": "10 m3",
        "barrow_m3": "100 L",
        "plots": [
            _rings("Quince row", "young_tree", "2.6 m", "24 cm", "15 cm", 12, "100 mm", "30 mm", "20 cm"),
            _rings("Medlar row", "young_tree", "3.2 m", "38 cm", "15 cm", 9, "120 mm", "55 mm", "20 cm"),
            _bed("Madder and weld", "perennials", "9.5 m", "2.4 m", "75 mm", "20 mm"),
            _bed("Woad bed", "vegetables", "9.5 m", "1.8 m", "80 mm"),
            _bed("Kitchen bed, south", "vegetables", "7.2 m", "1.2 m", "90 mm", "35 mm"),
            _bed("Kitchen bed, north", "vegetables", "7.2 m", "1.2 m", "90 mm", "10 mm"),
            _bed("Garlic ground", "bulbs", "3.6 m", "1.2 m", "0"),
            _path("Cart track", "vehicle_path", "21 + 14.5 m", "2.6 m", "180 mm", "60 mm"),
            _path("Path to the well", "foot_path", "8.4 + 5.2 m", "90 cm", "100 mm", "45 mm"),
            _bed("Hazel bank", "bank", "16 m", "3.5 m", "75 mm"),
        ],
    },
    {
        "name": "Marrow Street Library",
        "units": "us",
        "load_m3": "12 cu yd",
        "barrow_m3": "6 cu ft",
        "plots": [
            _bed("Front bed, west", "perennials", "27'6\"", "8 ft", "3 in", "1 in"),
            _bed("Front bed, east", "perennials", "22 ft", "7'9\"", "3 in", "1/2 in"),
            _rings("Linden rings", "established_tree", "26 ft", "68 in", "12 in", 3, "6 in", "2 1/2 in"),
            _rings("Reading circle", "foot_path", "18 ft", "41 in", "12 in", 1, "4 in", "1 1/2 in"),
            _path("Short cut to the bus stop", "foot_path", "34' + 19'6\"", "4 ft", "4 in"),
            _bed("Play corner", "play", "24 ft", "16 ft", "9 in", "5 in"),
            _bed("Verge to be converted", "lawn_to_convert", "40 ft", "6 ft", "6 in"),
        ],
    },
]
