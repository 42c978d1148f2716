"""Ground round trees: rings, rows and blocks of rings that may have grown into each other, strips along a row."""

import math
from typing import Literal, Self

import numpy as np
from pydantic import Field, model_validator
from shapely import affinity, union_all
from shapely.geometry import MultiPolygon, Polygon, box
from shapely.geometry.base import BaseGeometry

from ulmatic.core.figures import Figure, Mark, Source, entered, formula
from ulmatic.core.survey.shapes.base import (
    DRAWN_SEGMENTS,
    GEOMETRY,
    MEASURED_SEGMENTS,
    XY,
    BaseShape,
    Dimension,
    disc,
    metres,
    repeated,
    wrong,
)
from ulmatic.core.units import Gap, Girth, Length, Share

MOST_TREES = 5_000
MOST_DRAWN, MOST_MEASURED = 16_000, 160_000
"""Corners with which many trees are drawn and measured: the more there are, the fewer each has."""
WHOLE = 1 - 1e-9
"""From this share on a ring is drawn without a slit."""
_APART = 1.08
"""Distance of rings drawn side by side, in outer diameters: where those trees really stand is not known."""


class _Tree(BaseShape):
    """A trunk with its gap."""

    trunk_m: Girth = Field(description="Girth or diameter of the trunk, as `trunk_as` says")
    trunk_as: Literal["girth", "diameter"] = "girth"
    gap_m: Gap = Field(description="Kept clear between bark and mulch")

    @property
    def trunk_radius_m(self) -> float:
        """Radius of the trunk in metres."""
        return self.trunk_m / (2 * math.pi) if self.trunk_as == "girth" else self.trunk_m / 2

    @property
    def inner_radius_m(self) -> float:
        """Radius of the ground kept clear, trunk included, in metres."""
        return self.trunk_radius_m + self.gap_m

    def _inner(self) -> Figure:
        measured = metres(f"Trunk {self.trunk_as}", self.trunk_m)
        trunk = formula("g / (2 * pi)" if self.trunk_as == "girth" else "g / 2").work(
            "Trunk radius", "m", {"g": measured}, source=GEOMETRY
        )
        terms = {"rt": trunk, "gap": metres("Gap at the trunk", self.gap_m)}
        return formula("rt + gap").work("Inner radius", "m", terms, source=GEOMETRY)


class _Canopy(_Tree):
    """A tree whose ground reaches to the drip line or beyond."""

    canopy_m: Length = Field(description="Canopy spread, edge to edge through the trunk")
    reach_m: Gap = Field(default=0.0, description="Mulched beyond the drip line")

    @property
    def outer_radius_m(self) -> float:
        """Radius of the mulched ground in metres."""
        return self.canopy_m / 2 + self.reach_m

    @model_validator(mode="after")
    def _has_ground(self) -> Self:
        if self.inner_radius_m >= self.outer_radius_m:
            raise wrong("Trunk and gap are larger than the canopy, so no ground is left. Check all three.", "canopy_m")
        return self

    def _outer(self) -> Figure:
        canopy = metres("Canopy spread", self.canopy_m)
        terms = {"k": canopy, "reach": metres("Beyond the drip line", self.reach_m)}
        return formula("k / 2 + reach").work("Outer radius", "m", terms, source=GEOMETRY)

    def _ring(self, segments: int) -> Polygon:
        hole = [disc(self.inner_radius_m, segments).exterior.coords] if self.inner_radius_m > 0 else None
        return Polygon(disc(self.outer_radius_m, segments).exterior.coords, hole)

    def trunks(self) -> tuple[XY, ...]:
        """One in the middle of each piece.

        Returns
        -------
        tuple of XY
            Metres about the middle of the piece.
        """
        return ((0.0, 0.0),)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Canopy, gap and reach of the first tree.

        Returns
        -------
        tuple of Dimension
        """
        half, trunk, rim = self.canopy_m / 2, self.trunk_radius_m, self.outer_radius_m
        lines = [Dimension(field="canopy_m", value_m=self.canopy_m, points=((-half, -rim), (half, -rim)), outward=-1)]
        if self.gap_m > 0:
            lines.append(
                Dimension(field="gap_m", value_m=self.gap_m, points=((0, trunk), (0, self.inner_radius_m)), outward=2)
            )
        if self.reach_m > 0:
            reach = ((half, 0), (self.outer_radius_m, 0))
            lines.append(Dimension(field="reach_m", value_m=self.reach_m, points=reach, outward=0))
        return tuple(lines)


class Ring(_Canopy):
    """Ground round a tree, whole or in part, for `trees` alike that stand anywhere."""

    kind: Literal["ring"] = "ring"
    part: Share = Field(default=1.0, description="Share of the ring that is mulched; the rest stays living green")
    trees: int = Field(default=1, ge=1, le=MOST_TREES)

    @model_validator(mode="after")
    def _has_part(self) -> Self:
        if self.part <= 0:
            raise wrong("The mulched part of the ring must be more than 0.", "part")
        return self

    def area(self) -> Figure:
        """Area of all rings in m².

        Returns
        -------
        Figure
            m².
        """
        terms: dict[str, Figure] = {"R": self._outer(), "r": self._inner()}
        text = "pi * (R**2 - r**2)"
        if self.part < 1:
            terms["f"], text = entered("Share of the ring mulched", self.part, "1"), f"f * {text}"
        if self.trees > 1:
            terms["n"], text = entered("Trees", self.trees, "trees"), f"n * {text}"
        return formula(text).work("Area", "m2", terms, source=GEOMETRY)

    def pieces(self) -> tuple[BaseGeometry, tuple[XY, ...]]:
        """One ring, repeated side by side.

        Returns
        -------
        (BaseGeometry, tuple of XY)
            As for `BaseShape.pieces`.
        """
        pitch = 2 * self.outer_radius_m * _APART
        columns = min(self.trees, math.ceil(math.sqrt(self.trees * 1.6)))
        places = tuple((index % columns * pitch, -(index // columns) * pitch) for index in range(self.trees))
        return self._one(DRAWN_SEGMENTS), places

    def _one(self, segments: int) -> BaseGeometry:
        ring = self._ring(segments)
        if self.part >= WHOLE:
            return ring
        reach_m, turn = 2 * self.outer_radius_m, 2 * math.pi * self.part
        steps = max(2, math.ceil(self.part * 64))
        rim = [
            (reach_m * math.sin(turn * step / steps), reach_m * math.cos(turn * step / steps))
            for step in range(steps + 1)
        ]
        return ring.intersection(Polygon([(0, 0), *rim]))

    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return all rings as they are drawn.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        ring, (_, places) = self._one(segments), self.pieces()
        if isinstance(ring, Polygon):
            return repeated(ring, places)
        return union_all([affinity.translate(ring, x, y) for x, y in places])


def _few(segments: int, trees: int) -> int:
    """Return the straight pieces of a quarter circle for so many trees at most.

    Returns
    -------
    int
        At least 2.
    """
    most = MOST_DRAWN if segments == DRAWN_SEGMENTS else MOST_MEASURED
    return max(2, min(segments, most // (8 * trees)))


class RingRow(_Canopy):
    """A row of rings at equal spacing; where they have grown into each other, one strip."""

    kind: Literal["ring_row"] = "ring_row"
    trees: int = Field(ge=1, le=MOST_TREES)
    spacing_m: Length

    @model_validator(mode="after")
    def _stands_apart(self) -> Self:
        if self.trees > 1 and self.spacing_m <= 2 * self.inner_radius_m:
            raise wrong(
                "The trees stand so close that the gaps at their trunks touch. Check spacing, trunk and gap.",
                "spacing_m",
            )
        return self

    @property
    def merged(self) -> bool:
        """Whether neighbouring rings overlap."""
        return self.trees > 1 and self.spacing_m < 2 * self.outer_radius_m

    def area(self) -> Figure:
        """Area of the row in m², overlaps counted once.

        Returns
        -------
        Figure
            m².
        """
        rings = {"R": self._outer(), "r": self._inner()}
        count = entered("Trees", self.trees, "trees")
        every = formula("n * pi * (R**2 - r**2)").work(
            "All rings added up", "m2", {"n": count, **rings}, source=GEOMETRY
        )
        if not self.merged:
            return every.model_copy(update={"name": "Area"})
        lens = formula("2 * R**2 * acos(a / (2 * R)) - a / 2 * sqrt(4 * R**2 - a**2)").work(
            "Lens that two neighbours share",
            "m2",
            {"R": rings["R"], "a": metres("Spacing", self.spacing_m)},
            source=GEOMETRY,
        )
        overlap = formula("(n - 1) * o").work("Overlap", "m2", {"n": count, "o": lens}, source=GEOMETRY)
        note = "The rings have grown into one strip. Adding them up would count the overlap twice."
        return formula("S - O").work("Area", "m2", {"S": every, "O": overlap}, note=note, source=GEOMETRY)

    def _row(self, segments: int) -> BaseGeometry:
        """Return the rings of a row: apart, or as one strip.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        segments = _few(segments, self.trees)
        strip = self._strip(segments)
        if not isinstance(strip, Polygon):
            return repeated(self._ring(segments), self._along)
        if self.inner_radius_m <= 0:
            return strip
        holes = repeated(disc(self.inner_radius_m, segments), self._along)
        return Polygon(strip.exterior.coords, [hole.exterior.coords for hole in holes.geoms])

    @property
    def _along(self) -> tuple[XY, ...]:
        return tuple((index * self.spacing_m, 0.0) for index in range(self.trees))

    def _strip(self, segments: int) -> BaseGeometry:
        """Return the discs of a row without the holes at trunks; where they overlap its edge is that of the nearest.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        places = self._along
        rim = np.array(disc(self.outer_radius_m, segments).exterior.coords)
        # Discs that hardly overlap have edges that do not meet.
        if not self.merged or rim[:, 0].max() <= self.spacing_m / 2:
            return repeated(disc(self.outer_radius_m, segments), places)
        upper = rim[rim[:, 1] > 1e-9 * self.outer_radius_m]
        upper = upper[np.argsort(upper[:, 0])]
        reach, half = float(rim[:, 0].max()), self.spacing_m / 2
        chain = np.vstack([[-reach, 0.0], upper, [reach, 0.0]])
        joint = float(np.interp(half, chain[:, 0], chain[:, 1]))
        is_crossed = np.abs(upper[:, 0]) < half
        begins, ends = upper[upper[:, 0] < half], upper[upper[:, 0] > -half]
        parts = [chain[:1]]
        for index, (x, _) in enumerate(places):
            chain_points = begins if index == 0 else ends if index == self.trees - 1 else upper[is_crossed]
            parts += [np.add(chain_points, (x, 0.0)), np.array([[x + half, joint]])]
        top = np.vstack([*parts[:-1], np.add(chain[-1:], (places[-1][0], 0.0))])
        edge = np.vstack([top, top[-2:0:-1] * (1.0, -1.0)])
        return Polygon(edge)

    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the union of the rings.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return self._row(segments)

    def pieces(self) -> tuple[BaseGeometry, tuple[XY, ...]]:
        """Return the whole strip where rings overlap, else one ring repeated.

        Returns
        -------
        (BaseGeometry, tuple of XY)
            As for `BaseShape.pieces`.
        """
        if self.merged:
            return self._row(DRAWN_SEGMENTS), ((0.0, 0.0),)
        return self._ring(DRAWN_SEGMENTS), tuple((index * self.spacing_m, 0.0) for index in range(self.trees))

    def trunks(self) -> tuple[XY, ...]:
        """Along the row.

        Returns
        -------
        tuple of XY
            Metres about the middle of the piece.
        """
        return tuple((index * self.spacing_m, 0.0) for index in range(self.trees)) if self.merged else ((0.0, 0.0),)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Those of the first tree, and the first spacing.

        Returns
        -------
        tuple of Dimension
        """
        if self.trees == 1:
            return super().dimensions()
        rim = self.outer_radius_m
        first = Dimension(field="spacing_m", value_m=self.spacing_m, points=((0, rim), (self.spacing_m, rim)))
        return (*super().dimensions(), first)


class RingBlock(RingRow):
    """Rows of rings side by side, on a square grid."""

    kind: Literal["ring_block"] = "ring_block"  # type: ignore[assignment]
    rows: int = Field(ge=1, le=500)
    row_spacing_m: Length

    @model_validator(mode="after")
    def _is_countable(self) -> Self:
        if self.rows * self.trees > MOST_TREES:
            raise wrong(f"That is more than {MOST_TREES:,} trees; plan the block in parts.", "rows")
        if self.rows > 1 and self.row_spacing_m <= 2 * self.inner_radius_m:
            raise wrong("The rows stand so close that the gaps at their trunks touch.", "row_spacing_m")
        return self

    @property
    def grown_together(self) -> bool:
        """Whether rings of neighbouring rows overlap."""
        return self.rows > 1 and self.row_spacing_m < 2 * self.outer_radius_m

    def area(self) -> Figure:
        """Area of the block in m², overlaps counted once.

        Returns
        -------
        Figure
            m².
        """
        row = super().area().model_copy(update={"name": "One row"})
        rows = entered("Rows", self.rows, "number")
        every = formula("m * A1").work("All rows added up", "m2", {"m": rows, "A1": row}, source=GEOMETRY)
        if not self.grown_together:
            return every.model_copy(update={"name": "Area"})
        shared = Figure(
            name="Overlap between rows",
            value=every.value - self.geometry().area,
            unit="m2",
            source=Source(mark=Mark.DEFINITION, text="Measured on the drawn union of all rings."),
        )
        return formula("S - O").work("Area", "m2", {"S": every, "O": shared}, source=GEOMETRY)

    def _offsets(self) -> list[float]:
        return [-index * self.row_spacing_m for index in range(self.rows)]

    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the union of all rings.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        segments = _few(segments, self.trees * self.rows)
        holes = disc(self.inner_radius_m, segments)
        trees = [(index * self.spacing_m, y) for y in self._offsets() for index in range(self.trees)]
        if not self.grown_together:
            row = super()._row(segments)
            rows = [affinity.translate(row, 0.0, y) for y in self._offsets()]
            return MultiPolygon([part for strip in rows for part in getattr(strip, "geoms", [strip])])
        strip = self._strip(segments)
        discs = union_all([affinity.translate(strip, 0.0, y) for y in self._offsets()])
        return discs.difference(repeated(holes, trees))

    def pieces(self) -> tuple[BaseGeometry, tuple[XY, ...]]:
        """One ring or one strip repeated, or the whole where everything has grown together.

        Returns
        -------
        (BaseGeometry, tuple of XY)
            As for `BaseShape.pieces`.
        """
        if self.grown_together:
            return self.geometry(DRAWN_SEGMENTS), ((0.0, 0.0),)
        piece, places = super().pieces()
        return piece, tuple((x, y) for y in self._offsets() for x, _ in places)

    def trunks(self) -> tuple[XY, ...]:
        """Within one piece.

        Returns
        -------
        tuple of XY
            Metres about the middle of the piece.
        """
        if not self.grown_together:
            return super().trunks()
        return tuple((index * self.spacing_m, y) for y in self._offsets() for index in range(self.trees))

    def dimensions(self) -> tuple[Dimension, ...]:
        """Those of the row, and the first distance between rows.

        Returns
        -------
        tuple of Dimension
        """
        if self.rows == 1:
            return super().dimensions()
        steps = ((0.0, -self.row_spacing_m), (0.0, 0.0))
        return (*super().dimensions(), Dimension(field="row_spacing_m", value_m=self.row_spacing_m, points=steps))


class Strip(_Tree):
    """A strip along a row of trees, with gaps at the trunks."""

    kind: Literal["strip"] = "strip"
    length_m: Length
    width_m: Length
    trees: int = Field(default=0, ge=0, le=MOST_TREES)

    @model_validator(mode="after")
    def _has_room(self) -> Self:
        if self.trees and 2 * self.inner_radius_m >= self.width_m:
            raise wrong(
                "Trunk and gap are as wide as the strip, so it would be cut into pieces. Check width, trunk and gap.",
                "width_m",
            )
        if self.trees * 2 * self.inner_radius_m >= self.length_m:
            raise wrong("This number of trunks with their gaps does not fit along the strip.", "trees")
        return self

    def area(self) -> Figure:
        """Area in m².

        Returns
        -------
        Figure
            m².
        """
        sides = {"l": metres("Length", self.length_m), "b": metres("Width", self.width_m)}
        if not self.trees:
            return formula("l * b").work("Area", "m2", sides, source=GEOMETRY)
        terms = {**sides, "n": entered("Trees", self.trees, "trees"), "r": self._inner()}
        return formula("l * b - n * pi * r**2").work("Area", "m2", terms, source=GEOMETRY)

    def trunks(self) -> tuple[XY, ...]:
        """At equal distances along the middle.

        Returns
        -------
        tuple of XY
            Metres.
        """
        spacing_m = self.length_m / max(1, self.trees)
        return tuple(((index + 0.5) * spacing_m, 0.0) for index in range(self.trees))

    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the strip without the gaps.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        strip = box(0, -self.width_m / 2, self.length_m, self.width_m / 2)
        if not self.trees:
            return strip
        return strip.difference(union_all([disc(self.inner_radius_m, segments, x, y) for x, y in self.trunks()]))

    def dimensions(self) -> tuple[Dimension, ...]:
        """Length below, width to the left.

        Returns
        -------
        tuple of Dimension
        """
        half = self.width_m / 2
        return (
            Dimension(field="length_m", value_m=self.length_m, points=((0, -half), (self.length_m, -half)), outward=-1),
            Dimension(field="width_m", value_m=self.width_m, points=((0, -half), (0, half))),
        )
