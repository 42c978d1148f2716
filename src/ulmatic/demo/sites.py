"""Two invented sites, as their keepers would have typed them."""

from typing import Any


def _bed(name: str, use: str, length: str, width: str, wanted: str, existing: str = "0") -> dict[str, Any]:
    shape = {"kind": "rectangle", "length_m": length, "width_m": width}
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": wanted}


def _plot(
    name: str, use: str, wanted: str, existing: str = "0", *, more: dict[str, Any] | None = None, **shape: Any
) -> dict[str, Any]:
    return {"name": name, "use": use, "shape": shape, "existing_mm": existing, "wanted_mm": wanted, **(more or {})}


SITES: list[dict[str, Any]] = [
    {
        "name": "Quillet Holm",
        "units": "metric",
        "load_m3": "10 m3",
        "barrow_m3": "100 L",
        "plots": [
            _plot("Quince row", "young_tree", "100 mm", "30 mm", kind="ring_row", canopy_m="2.6 m", trunk_m="24 cm",
                  gap_m="15 cm", reach_m="20 cm", trees=12, spacing_m="3.6 m"),
            _plot("Medlar row", "young_tree", "120 mm", "55 mm", kind="ring_row", canopy_m="3.6 m", trunk_m="38 cm",
                  gap_m="15 cm", reach_m="20 cm", trees=9, spacing_m="3.6 m"),
            _bed("Madder and weld", "perennials", "9.5 m", "2.4 m", "75 mm", "20 mm"),
            _plot("Woad bed", "vegetables", "80 mm", kind="offsets", spacing_m="1.5 m", edge="curved",
                  offsets_m="1.2, 2.1, 2.6, 2.4, 1.9, 1.5, 0.8 m"),
            _bed("Kitchen bed, south", "vegetables", "7.2 m", "1.2 m", "90 mm", "35 mm"),
            _bed("Kitchen bed, north", "vegetables", "7.2 m", "1.2 m", "90 mm", "10 mm"),
            _bed("Garlic ground", "bulbs", "3.6 m", "1.2 m", "0"),
            _plot("Cart track", "vehicle_path", "180 mm", "60 mm", kind="path", legs_m="21 + 14.5 m",
                  turns_deg="40 right", width_m="2.6 m"),
            _plot("Path to the well", "foot_path", "100 mm", "45 mm", kind="path", legs_m="8.4 + 5.2 m",
                  turns_deg="70 left", width_m="90 cm"),
            _bed("Hazel bank", "bank", "16 m", "3.5 m", "75 mm")
            | {"slope": {"angle_deg": "1:3", "taped": "along"}, "found": {"cover": "annual_weeds", "soil": "clay"}},
        ],
    },
    {
        "name": "Marrow Street Library",
        "units": "us",
        "load_m3": "12 cu yd",
        "barrow_m3": "6 cu ft",
        "plots": [
            _plot("Front bed, west", "perennials", "3 in", "1 in", kind="offsets", spacing_m="4 ft", edge="curved",
                  offsets_m="3', 6'6\", 9 ft, 10'3\", 9'6\", 7 ft, 4'",
                  more={"cut_outs": [{"kind": "plants", "plants": 14, "gap_m": "8 in"}]}),
            _plot("Front bed, east", "perennials", "3 in", "1/2 in", kind="offsets", spacing_m="4 ft", edge="curved",
                  offsets_m="4', 8'3\", 9'6\", 6', 2'6\""),
            _plot("Linden rings", "established_tree", "6 in", "2 1/2 in", kind="ring", canopy_m="26 ft",
                  trunk_m="68 in", gap_m="12 in", part="100 %", trees=3),
            _plot("Reading circle", "foot_path", "4 in", "1 1/2 in", kind="ellipse", across_m="18 ft",
                  more={"cut_outs": [{"kind": "shape", "shape": {"kind": "ellipse", "across_m": "5 ft"}}]}),
            _plot("Short cut to the bus stop", "foot_path", "4 in", kind="path", legs_m="34' + 19'6\"",
                  turns_deg="35 right", width_m="4 ft"),
            _plot("Play corner", "play", "9 in", "5 in", kind="triangle", a_m="28 ft", b_m="24 ft", c_m="19 ft"),
            _bed("Verge to be converted", "lawn_to_convert", "40 ft", "6 ft", "6 in") | {"found": {"cover": "lawn"}},
        ],
    },
]  # fmt: skip
