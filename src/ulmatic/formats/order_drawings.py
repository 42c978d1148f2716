"""Drawings of a work order, in black and white: the ground with the plots of the day, and the cut of each."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, TypeVar

from reportlab.graphics.shapes import Circle, Drawing, Group, Line, Path, PolyLine, Rect, Shape, String
from reportlab.lib.colors import Color, black, white
from reportlab.lib.units import mm

from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.units import UnitSystem
from ulmatic.formats.paper import FOOT_M, depth_words, length_words

Drawable = TypeVar("Drawable", bound=Shape)
GREY, LIGHT = Color(0.45, 0.45, 0.45), Color(0.85, 0.85, 0.85)
LEAST_SPAN_M = 5.0
CUT_WIDTH, CUT_HEIGHT = 62 * mm, 16 * mm
SCALES_M = (1, 2, 5, 10, 20, 50, 100, 200, 500)
SCALES_FT = (5, 10, 20, 50, 100, 200, 500, 1_000, 2_000)
SOIL_MM = 60.0
"""So much soil is drawn beneath the layers."""


@dataclass(frozen=True)
class OrderGround:
    """A site's ground as it is drawn: rings of each plot with its number in the order of the day, tips, and ways."""

    plots: Sequence[tuple[tuple[tuple[XY, ...], ...], int | None]]
    tips: Sequence[tuple[str, XY]]
    ways: Sequence[Sequence[XY]]


@dataclass(frozen=True)
class CutLayer:
    """A layer of a cut: what it is, how deep, settled, and whether it is to be laid or lies there."""

    name: str
    depth_mm: float
    lies: bool


def _drawn(shape: Drawable, **properties: object) -> Drawable:
    shape.setProperties(properties)
    return shape


def ground_drawing(ground: OrderGround, width: float, height: float, units: UnitSystem, font: str) -> Drawing:
    """Return the ground, the plots of the day filled with their numbers.

    Parameters
    ----------
    ground : OrderGround
    width, height : float
        In points.
    units : UnitSystem
    font : str
    """
    points = [point for rings, _ in ground.plots for ring in rings for point in ring]
    points += [spot for _, spot in ground.tips] + [point for way in ground.ways for point in way]
    west, east = min(x for x, _ in points), max(x for x, _ in points)
    south, north = min(y for _, y in points), max(y for _, y in points)
    span_x, span_y = max(LEAST_SPAN_M, east - west), max(LEAST_SPAN_M, north - south)
    room = height - 7 * mm
    scale = min((width - 4 * mm) / span_x, (room - 4 * mm) / span_y)
    drawing = Drawing(width, height)

    def on_sheet(point: XY) -> tuple[float, float]:
        return 2 * mm + (point[0] - west) * scale, 7 * mm + 2 * mm + (point[1] - south) * scale

    for way in ground.ways:
        flat = [value for point in way for value in on_sheet(point)]
        drawing.add(_drawn(PolyLine(flat), strokeColor=LIGHT, strokeWidth=4))
    for rings, number in ground.plots:
        fill, stroke, line = (LIGHT, black, 1.2) if number else (white, GREY, 0.5)
        path = _drawn(Path(), fillColor=fill, strokeColor=stroke, strokeWidth=line, fillMode=0)
        for ring in rings:
            path.moveTo(*on_sheet(ring[0]))
            for point in ring[1:]:
                path.lineTo(*on_sheet(point))
            path.closePath()
        drawing.add(path)
    # Numbers stand over all outlines.
    for rings, number in ground.plots:
        if number:
            first = rings[0]
            middle = (sum(x for x, _ in first) / len(first), sum(y for _, y in first) / len(first))
            x, y = on_sheet(middle)
            drawing.add(_drawn(Circle(x, y, 6.5), fillColor=black, strokeColor=white))
            drawing.add(
                String(x, y - 3, str(number), fontName=font, fontSize=8.5, fillColor=white, textAnchor="middle")
            )
    for name, spot in ground.tips:
        x, y = on_sheet(spot)
        drawing.add(_drawn(Rect(x - 3.5, y - 3.5, 7, 7), fillColor=white, strokeColor=black, strokeWidth=1.4))
        anchor: Literal["start", "end"] = "start" if x < width / 2 else "end"
        drawing.add(String(x + (6 if x < width / 2 else -6), y - 3, name, fontName=font, fontSize=7, textAnchor=anchor))
    drawing.add(_scale_bar(scale, units, font))
    x = width - 6 * mm
    drawing.add(_drawn(PolyLine([x, 1 * mm, x, 5.5 * mm, x - 3, 4 * mm]), strokeColor=black))
    drawing.add(String(x + 3, 2 * mm, "N", fontName=font, fontSize=7))
    return drawing


def _scale_bar(scale: float, units: UnitSystem, font: str) -> Group:
    each, steps = (FOOT_M, SCALES_FT) if units is UnitSystem.US else (1.0, SCALES_M)
    longest = 45 * mm
    step = max((step for step in steps if step * each * scale <= longest), default=steps[0])
    length = step * each * scale
    group = Group(_drawn(Line(2 * mm, 3 * mm, 2 * mm + length, 3 * mm), strokeColor=black, strokeWidth=1.5))
    words = length_words(step * each, units)
    group.add(String(2 * mm + length + 4, 2 * mm, words, fontName=font, fontSize=7))
    return group


def cut_drawing(layers: Sequence[CutLayer], target_mm: float, units: UnitSystem, font: str) -> Drawing:
    """Return the cut of a plot, from the soil up; what is to be laid is hatched, what lies there is grey.

    Parameters
    ----------
    layers : sequence of CutLayer
        From the soil up.
    target_mm : float
        Settled depth of the mulch.
    units : UnitSystem
    font : str
    """
    drawing = Drawing(CUT_WIDTH, CUT_HEIGHT)
    total_mm = SOIL_MM + max(target_mm, sum(max(layer.depth_mm, 4.0) for layer in layers), 1.0)
    scale = (CUT_HEIGHT - 3 * mm) / total_mm
    left, right = 0.0, 26 * mm
    soil = SOIL_MM * scale
    drawing.add(_drawn(Rect(left, 0, right, soil), fillColor=white, strokeColor=None))
    for number in range(9):
        x = right * (number + 0.5) / 9
        drawing.add(_drawn(Line(x, soil - 2, x - 4, soil - 7), strokeColor=GREY, strokeWidth=0.6))
    drawing.add(_drawn(Line(left, soil, right, soil), strokeColor=black, strokeWidth=1.2))
    bottom, words_from = soil, 0.0
    for layer in layers:
        height = max(layer.depth_mm, 4.0) * scale
        fill = LIGHT if layer.lies else white
        drawing.add(_drawn(Rect(left, bottom, right, height), fillColor=fill, strokeColor=black, strokeWidth=0.7))
        if not layer.lies:
            _hatch(drawing, left, bottom, right, height)
        baseline = max(bottom + height / 2 - 2.5, words_from)
        amount = f", {depth_words(layer.depth_mm, units)}" if layer.depth_mm > 0 else ""
        lies = " there now" if layer.lies else ""
        drawing.add(String(right + 4, baseline, f"{layer.name}{amount}{lies}"[:34], fontName=font, fontSize=7))
        bottom, words_from = bottom + height, baseline + 8.5
    return drawing


def _hatch(drawing: Drawing, west: float, bottom: float, width: float, height: float) -> None:
    step = 5.0
    for number in range(-int(height / step), int(width / step) + 1):
        begins = number * step
        lifted = max(0.0, -begins)
        x, run = west + max(0.0, begins), min(height - lifted, width - max(0.0, begins))
        drawing.add(_drawn(Line(x, bottom + lifted, x + run, bottom + lifted + run), strokeColor=GREY, strokeWidth=0.5))
