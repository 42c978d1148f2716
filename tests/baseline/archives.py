"""Random site archives of every shape, log entry, rule and supplier, north and south, from a printed seed.

Written with the standard library alone: nothing of the product decides what is tried.
"""

import json
import random
import sys
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

MULCH = (
    "arborist_leafy",
    "arborist_much_leaf",
    "arborist_bare",
    "conifer_bare",
    "ramial",
    "clean_coarse",
    "bark_shredded",
    "bark_nuggets",
    "straw",
    "leaves_shredded",
)
USES = (
    "vegetables",
    "perennials",
    "young_tree",
    "established_tree",
    "foot_path",
    "vehicle_path",
    "play",
    "bank",
    "lawn_to_convert",
    "seedbed",
    "bulbs",
    "pile_ground",
)
RINGED = ("young_tree", "established_tree")
ZONES = ("UTC", "Europe/Amsterdam", "America/Chicago", "Pacific/Auckland", "America/Sao_Paulo")
CLIMATES = (
    "cool_maritime",
    "mild_maritime",
    "cold_winter_hot_summer",
    "short_summer",
    "dry_summer",
    "warm_humid",
    "hot_wet",
    "hot_dry",
)


class Chance:
    """Random parts of an archive, all from one source of chance."""

    def __init__(self, seed: int, today: date) -> None:
        self.random = random.Random(seed)  # noqa: S311 - made-up sites
        self.today = today

    def id(self) -> str:
        return str(UUID(int=self.random.getrandbits(128), version=4))

    def uniform(self, low: float, high: float) -> float:
        return round(self.random.uniform(low, high), 2)

    def maybe(self, share: float) -> bool:
        return self.random.random() < share

    def pick(self, choices: Any) -> Any:
        return self.random.choice(list(choices))

    def day(self, oldest: int, newest: int = 0) -> date:
        return self.today - timedelta(days=self.random.randint(newest, oldest))

    def written(self, on: date) -> str:
        delay = timedelta(days=self.random.choice((0, 0, 0, 1, 3)), minutes=self.random.randint(0, 900))
        return (datetime(on.year, on.month, on.day, 7, tzinfo=UTC) + delay).isoformat()

    def ring(self) -> dict[str, Any]:
        canopy = self.uniform(2, 6)
        return {"canopy_m": canopy, "trunk_m": self.uniform(0.1, 0.5), "gap_m": self.uniform(0.1, 0.3), "reach_m": 0.2}

    def shape(self, use: str) -> dict[str, Any]:
        if use in RINGED:
            trees, spacing_m = self.random.randint(2, 14), self.uniform(2.5, 6)
            return self.pick(
                (
                    {"kind": "ring", **self.ring(), "trees": trees, "part": self.pick((1.0, 0.75))},
                    {"kind": "ring_row", **self.ring(), "trees": trees, "spacing_m": spacing_m},
                    {
                        "kind": "ring_block",
                        **self.ring(),
                        "trees": trees,
                        "spacing_m": spacing_m,
                        "rows": 3,
                        "row_spacing_m": self.uniform(4, 7),
                    },
                    {
                        "kind": "strip",
                        "trunk_m": 0.2,
                        "gap_m": 0.15,
                        "length_m": self.uniform(10, 40),
                        "width_m": 1.6,
                        "trees": trees,
                    },
                )
            )
        long, wide = self.uniform(2, 16), self.uniform(0.8, 4)
        north = self.uniform(-45, 52)
        return self.pick(
            (
                {"kind": "rectangle", "length_m": long, "width_m": wide},
                {"kind": "triangle", "a_m": long, "b_m": long, "c_m": wide},
                {"kind": "ellipse", "across_m": long, "other_m": wide},
                {
                    "kind": "offsets",
                    "spacing_m": 1.2,
                    "offsets_m": [self.uniform(0.8, 3) for _ in range(6)],
                    "edge": self.pick(("curved", "straight")),
                },
                {"kind": "polygon", "corners_m": [[0, 0], [long, 0], [long, wide], [long / 2, wide * 1.4], [0, wide]]},
                {"kind": "path", "legs_m": [long, long / 2], "turns_deg": [self.uniform(-70, 70)], "width_m": 1.1},
                {
                    "kind": "walked",
                    "points_deg": [[5.1, north], [5.1003, north], [5.1003, north + 0.0002], [5.1, north + 0.0002]],
                    "accuracy_m": 2.0,
                },
            )
        )

    def rule(self) -> dict[str, Any] | None:
        return self.pick(
            (
                None,
                None,
                {"kind": "keep"},
                {"kind": "thin", "part": 0.5},
                {"kind": "every", "years": 2},
                {"kind": "quarter"},
                {"kind": "harvest", "years": 2},
                {"kind": "once"},
                {"kind": "rounds", "rounds": 3, "months_apart": 8},
            )
        )

    def plot(self, number: int) -> dict[str, Any]:
        use = self.pick(USES)
        recipe: dict[str, Any] = {"material": self.pick((None, None, *MULCH)), "dug_in": self.maybe(0.05)}
        if self.maybe(0.2):
            recipe |= {"cardboard": True, "compost_mm": 20.0}
        conditions: dict[str, Any] = {"irrigated": self.pick((None, True)), "soil": self.pick((None, "sand", "clay"))}
        conditions |= {"cover": self.pick((None, "lawn", "annual_weeds")), "walk_m": self.pick((None, 35.0))}
        if use in RINGED:
            conditions["growth_m"] = self.pick((None, 0.3))
        return {
            "id": self.id(),
            "name": f"Plot {number}",
            "use": use,
            "shape": self.shape(use),
            "found": conditions,
            "wanted_mm": 0.0 if use in ("seedbed", "bulbs") else float(self.random.randrange(40, 200, 10)),
            "recipe": recipe,
            "priority": self.random.randint(1, 3),
            "rule": self.rule(),
            "surveyed_on": self.day(900, 30).isoformat(),
            "slope": {"angle_deg": 12.0, "taped": "along"} if self.maybe(0.1) else None,
            "place": {"x_m": self.uniform(-30, 30), "y_m": self.uniform(-30, 30)} if self.maybe(0.5) else None,
        }

    def entry(self, plot: dict[str, Any]) -> dict[str, Any]:
        material = self.pick(MULCH)
        amount = {"depth_mm": self.uniform(30, 120)} if self.maybe(0.7) else {"volume_m3": self.uniform(0.3, 3)}
        quarter = {"quarter": self.random.randint(0, 3)} if plot["use"] in RINGED and self.maybe(0.2) else {}
        depth: dict[str, Any] = {"depth_mm": self.uniform(0, 110)} if self.maybe(0.8) else {"depth_mm": 0.0}
        if self.maybe(0.4):
            depth = {"readings_mm": [self.uniform(20, 100) for _ in range(4)]}
        laid = {"kind": "laid", "material": material, **amount, **quarter}
        if self.maybe(0.2):
            laid["chipped_on"] = self.day(1_200, 950).isoformat()
        measured = {"kind": "measured", **depth, "settled": self.maybe(0.5)}
        for key, share, choices in (
            ("cause", 0.1, ("raked", "topped_up", "washed_away")),
            ("confirmed", 0.1, (True,)),
            ("lain_months", 0.1, (6,)),
        ):
            if self.maybe(share):
                measured[key] = self.pick(choices)
        return self.pick(
            (
                laid,
                laid,
                laid,
                measured,
                measured,
                measured,
                measured,
                {"kind": "laid", "material": "cardboard"},
                {
                    "kind": "profile",
                    "dry_mm": self.uniform(5, 40),
                    "moist_mm": self.uniform(5, 40),
                    "humus_depth_mm": 12.0,
                },
                {"kind": "dug_in"},
                {"kind": "removed", "chips_mm": self.uniform(0, 40)},
                {"kind": "removed", "chips_mm": 10.0, "humus_mm": 5.0},
                {"kind": "fed", "product": "Meal", "n": 0.06, "grams_m2": 40.0, "soluble": False},
                {"kind": "spread", "material": "compost", "depth_mm": 15.0},
                {"kind": "grown", "crop": "legume", "grams_n_m2": 5.0},
                {"kind": "observed", "weeds": self.maybe(0.6), "sort": "annual", "cover": 0.2},
                {"kind": "moisture", "days_without_rain": 9, "feel": "damp"},
                {"kind": "worms", "count": 7, "holes": 2},
                {"kind": "soil_test", "ph": 6.4},
                {"kind": "plants", "action": "lost", "count": 2, "name": "Quince"},
                {"kind": "ripeness", "fork": "easy", "squeeze": "crumbles", "smell": "earth"},
                {"kind": "tree", "girth_m": 0.3, "canopy_m": None},
                {"kind": "hours", "task": "laying", "hours": self.uniform(1, 9), "volume_m3": self.uniform(1, 4)},
                {"kind": "hours", "task": "weeding", "hours": self.uniform(1, 9)},
                {"kind": "watered_in"},
                {"kind": "note"},
                {"kind": "learning_restarted"},
            )
        )

    def ledger(self, plots: list[dict[str, Any]]) -> list[dict[str, Any]]:
        entries = []
        for plot in plots:
            for _ in range(self.pick((0, 1, 2, 4, 7, 10))):
                on = self.day(900)
                trees = {"first": 1, "last": 2} if plot["shape"]["kind"] == "ring_row" and self.maybe(0.2) else None
                entries.append(
                    {
                        "id": self.id(),
                        "plot_id": plot["id"],
                        "on": on.isoformat(),
                        "written_at": self.written(on),
                        "entry": self.entry(plot),
                        "trees": trees,
                        "by": "Ysolde",
                    }
                )
            if self.maybe(0.15):
                entries += self.opened(plot)
        return entries

    def opened(self, plot: dict[str, Any]) -> list[dict[str, Any]]:
        opening, on = self.id(), self.day(60, 20)
        parts = (
            (0, {"kind": "opened", "opening": opening, "length_m": 1.0, "width_m": 0.2, "crop": "bean"}),
            (4, {"kind": "row", "opening": opening, "step": "sown", "crop": "bean"}),
            (14, {"kind": "row", "opening": opening, "step": "up"}),
        )
        return [
            {
                "id": self.id(),
                "plot_id": plot["id"],
                "on": (on + timedelta(days=days)).isoformat(),
                "written_at": self.written(on + timedelta(days=days)),
                "entry": entry,
            }
            for days, entry in parts
        ]

    def supplier(self, number: int) -> dict[str, Any]:
        months = sorted(self.random.sample(range(1, 13), self.random.randint(4, 12)))
        material = self.pick(MULCH)
        sizes = {"least_m3": 6.0, "likely_m3": 9.0, "most_m3": 12.0, "per_load": self.pick((0.0, 25.0))}
        terms = self.pick(
            (
                {"kind": "arborist", **sizes, "chance": 0.5},
                {"kind": "utility", **sizes, "chance": 0.4},
                {
                    "kind": "merchant",
                    "truck_m3": 12.0,
                    "per_m3": 35.0,
                    "per_load": 50.0,
                    "minimum_m3": 2.0,
                    "lead_days": 6,
                },
                {"kind": "yard", "trailer_m3": 2.0, "payload_kg": 600.0, "per_m3": 8.0, "per_trip": 12.0},
                {"kind": "bags", "bag_m3": 0.06, "per_bag": 5.0},
                {"kind": "own", "year_m3": 3.0},
                {"kind": "chipper", "day_m3": 6.0, "brush_m3": 4.0, "per_day": 140.0},
            )
        )
        source = {**terms, "material": material, "months": months}
        return {"id": self.id(), "name": f"Supplier {number}", "currency": "EUR", "source": source}

    def stock(self, plots: list[dict[str, Any]], suppliers: list[dict[str, Any]]) -> dict[str, Any]:
        """Return received loads on piles, some of it laid and moved, and loads that are expected."""
        deliveries, piles, lines = [], [], []
        for number in range(self.random.randint(0, 3)):
            volume, came = self.uniform(3, 12), self.day(400, 40)
            size = {"least_m3": volume, "likely_m3": volume, "most_m3": volume}
            supplier = self.pick([None, *(supplier["id"] for supplier in suppliers)])
            deliveries.append(
                {
                    "id": self.id(),
                    "name": f"Load {number}",
                    "state": "received",
                    "material": self.pick(MULCH),
                    "size": size,
                    "supplier_id": supplier,
                    "received_on": came.isoformat(),
                    "volume_m3": volume,
                    "worries": self.pick(([], ["weed_seed"])),
                }
            )
            piles.append({"id": self.id(), "name": f"Pile {number}"})

            def line(kind: str, days: int, **more: Any) -> dict[str, Any]:
                on = came + timedelta(days=days)  # noqa: B023 - called at once
                return {
                    "id": self.id(),
                    "kind": kind,
                    "pile_id": piles[-1]["id"],
                    "on": on.isoformat(),
                    "written_at": self.written(on),
                    **more,
                }

            lines.append(line("receive", 0, delivery_id=deliveries[-1]["id"], volume_m3=volume))
            if plots and self.maybe(0.6):
                lines.append(line("lay", 6, plot_id=self.pick(plots)["id"], volume_m3=round(volume / 4, 2)))
            if self.maybe(0.4):
                lines.append(line("measure", 20, volume_m3=round(volume / 2, 2)))
        if self.maybe(0.5):
            expected = (self.today + timedelta(days=self.random.randint(2, 60))).isoformat()
            deliveries.append(
                {
                    "id": self.id(),
                    "name": "Expected",
                    "state": "expected",
                    "material": self.pick(MULCH),
                    "size": {"least_m3": 6.0, "likely_m3": 9.0, "most_m3": 12.0},
                    "expected_on": expected,
                }
            )
        return {"deliveries": deliveries, "piles": piles, "lines": lines}

    def weather(self) -> list[dict[str, Any]]:
        if self.maybe(0.7):
            return []
        first = self.today - timedelta(days=500)
        return [
            {
                "day": (first + timedelta(days=number)).isoformat(),
                "tmax_c": self.uniform(5, 26),
                "tmin_c": self.uniform(-5, 4),
                "rain_mm": self.pick((0.0, 0.0, 4.0, 11.0)),
            }
            for number in range(499)
        ]

    def archive(self, number: int) -> dict[str, Any]:
        plots = [self.plot(count) for count in range(1, self.random.randint(1, 9))]
        suppliers = [self.supplier(count) for count in range(self.random.randint(0, 4))]
        site = {
            "name": f"Made-up site {number}",
            "units": self.pick(("metric", "us")),
            "time_zone": self.pick(ZONES),
            "load_m3": 9.0,
            "load_least_m3": 6.0,
            "load_most_m3": 12.0,
            "barrow_m3": 0.1,
            "climate": self.pick((None, {"kind": "class", "name": self.pick(CLIMATES), "southern": self.maybe(0.5)})),
            "location_deg": self.pick((None, (52.0, 5.0), (-37.8, 145.0))),
            "fire_district": self.maybe(0.2),
            "practice": {
                "rhythm": self.pick((None, "deep_seldom", "thin_often", "quarter")),
                "freshness": self.pick((None, "as_it_comes", "age_first", "aged_for_vegetables")),
                "nitrogen": self.pick((None, "cautious", "relaxed")),
                "season": self.pick((None, "before_weeds", "both_thin")),
            },
            "seasons": {"waits": self.pick((None, None, True, False))},
        }
        tip = {"kind": "tip", "place": {"x_m": 0.0, "y_m": 0.0}, "length_m": 6.0, "width_m": 5.0, "surface": "hard"}
        buying = {"currency": "EUR", "people": self.random.randint(1, 4), "labour_per_h": 22.0, "markup": 0.1}
        return {
            "format": "ulmatic-site",
            "version": 6,
            "site": site,
            "plots": plots,
            "ledger": self.ledger(plots),
            "landmarks": [{"id": self.id(), "name": "Yard", "landmark": tip}] if self.maybe(0.7) else [],
            "suppliers": suppliers,
            "buying": buying,
            "weather": self.weather(),
            **self.stock(plots, suppliers),
        }


def write_archives(folder: Path, seed: int, count: int, today: date) -> None:
    """Write so many archives into a folder."""
    chance = Chance(seed, today)
    for number in range(count):
        (folder / f"random-{number:02}.json").write_text(json.dumps(chance.archive(number)))


if __name__ == "__main__":
    write_archives(Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3]), date.fromisoformat(sys.argv[4]))
