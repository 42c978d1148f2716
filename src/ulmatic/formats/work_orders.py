"""The work order of a day as PDF: plots in their order, tasks to tick, depths to fill in; reads in black and white."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from math import ceil
from xml.sax.saxutils import escape

from reportlab.lib.colors import black
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table

from ulmatic.core.units import UnitSystem
from ulmatic.core.work import TASKS, Caution, Stint
from ulmatic.formats.label_sheets import qr_code
from ulmatic.formats.order_drawings import CUT_WIDTH, CutLayer, OrderGround, cut_drawing, ground_drawing
from ulmatic.formats.paper import area_words, depth_words, hours_words, in_words, length_words, volume_words
from ulmatic.formats.quotes import fonts

GROUND_HEIGHT, GROUND_SHARE = 50 * mm, 0.55
TIGHT = [("TOPPADDING", (0, 0), (-1, -1), 1), ("BOTTOMPADDING", (0, 0), (-1, -1), 1)]


@dataclass(frozen=True)
class OrderPlot:
    """A plot of the day: what is done on it, its cut, ways to it, and the address of its page in field mode."""

    name: str
    address: str
    target_mm: float
    tasks: Sequence[Stint]
    layers: Sequence[CutLayer] = ()
    ways: Sequence[str] = ()


@dataclass(frozen=True)
class WorkOrder:
    """The work of a site on a day, or that of one of its crews."""

    site: str
    on: date
    units: UnitSystem
    barrow_m3: float
    plots: Sequence[OrderPlot]
    cautions: Sequence[Caution]
    ground: OrderGround | None = None
    beside: Sequence[str] = ()
    """What else falls on the day: rows, water, readings."""
    crew: str = ""
    """Whose work it is, where not everybody's."""


def work_order_pdf(order: WorkOrder) -> bytes:
    """Return a work order as PDF.

    Parameters
    ----------
    order : WorkOrder
    """
    plain, bold = fonts()
    body = ParagraphStyle("body", fontName=plain, fontSize=10, leading=13.5, textColor=black)
    small = ParagraphStyle("small", parent=body, fontSize=8, leading=10)
    head = ParagraphStyle("head", parent=body, fontName=bold, fontSize=15, leading=19)
    strong = ParagraphStyle("strong", parent=body, fontName=bold, fontSize=12, leading=16)
    file = io.BytesIO()
    title = f"Work order, {order.site}, {order.on:%-d %B %Y}{', ' if order.crew else ''}{order.crew}"
    page = SimpleDocTemplate(
        file,
        pagesize=LETTER if order.units is UnitSystem.US else A4,
        title=title,
        leftMargin=16 * mm,
        rightMargin=16 * mm,
        topMargin=14 * mm,
        bottomMargin=14 * mm,
    )
    box = "☐" if plain == "DejaVu" else "[ ]"
    hours = sum(stint.hours for plot in order.plots for stint in plot.tasks)
    parts: list[Flowable] = [
        Paragraph(escape(title), head),
        Paragraph(f"{hours:.1f} person-hours. Tick what is done; write depths and hours in the boxes.", body),
        Spacer(1, 2 * mm),
    ]
    cautions: list[Flowable] = []
    if order.cautions:
        cautions = [
            Paragraph("Cautions: read and sign", strong),
            *(
                Paragraph(f"<b>{escape(caution.about)}.</b> {escape(caution.words)}", small)
                for caution in order.cautions
            ),
            Paragraph("Read by: __________   __________", body),
        ]
    if order.ground is not None:
        ground = ground_drawing(order.ground, page.width * GROUND_SHARE, GROUND_HEIGHT, order.units, plain)
        first = Table([[ground, cautions]], colWidths=[page.width * GROUND_SHARE, page.width * (1 - GROUND_SHARE)])
        first.setStyle([*TIGHT, ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (0, 0), 0)])
        parts += [first, Spacer(1, 2 * mm)]
    else:
        parts += cautions
    for number, plot in enumerate(order.plots, 1):
        rows = [
            [
                box,
                Paragraph(escape(_line(stint, order)), body),
                Paragraph(hours_words(stint.hours), body),
                Paragraph("hours ____", small),
            ]
            for stint in plot.tasks
        ]
        table = Table(rows, colWidths=[7 * mm, page.width - 75 * mm, 19 * mm, 22 * mm])
        table.setStyle([*TIGHT, ("VALIGN", (0, 0), (-1, -1), "TOP"), ("FONTNAME", (0, 0), (0, -1), plain)])
        target = depth_words(plot.target_mm, order.units)
        instruction = Paragraph(f"Target {target} settled. Depths: ______ ______ ______", body)
        ways = [Paragraph(escape(in_words(words, order.units)), small) for words in plot.ways]
        laid = any(TASKS[stint.task.kind].lays for stint in plot.tasks)
        cut = [cut_drawing(plot.layers, plot.target_mm, order.units, plain)] if laid and plot.layers else []
        lower = Table([[[*ways, instruction], cut]], colWidths=[page.width - 29 * mm - CUT_WIDTH, CUT_WIDTH])
        lower.setStyle([*TIGHT, ("VALIGN", (0, 0), (-1, -1), "TOP")])
        content = [Paragraph(escape(f"{number}. {plot.name}"), strong), table, lower]
        block = Table(
            [[content, qr_code(plot.address, 24 * mm)]],
            colWidths=[page.width - 27 * mm, 27 * mm],
        )
        block.setStyle([*TIGHT, ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LINEABOVE", (0, 0), (-1, 0), 0.7, black)])
        parts.append(KeepTogether([block, Spacer(1, 1 * mm)]))
    if order.beside:
        parts.append(Paragraph("Also on this day", strong))
        parts += [Paragraph(escape(f"{box} {in_words(words, order.units)}"), body) for words in order.beside]
    page.build(parts)
    return file.getvalue()


def _line(stint: Stint, order: WorkOrder) -> str:
    """Return a task with its amount and tools."""
    task, amount = stint.task, stint.task.amount * stint.share
    match task.unit:
        case "m3":
            amount_words = f"{volume_words(amount, order.units)}, {ceil(amount / order.barrow_m3 - 1e-9)} barrows"
        case "m2":
            amount_words = area_words(amount, order.units)
        case "m":
            amount_words = length_words(amount, order.units)
        case "h":
            amount_words = ""
        case _:
            amount_words = f"{amount:.0f} trees"
    material = f" ({task.material})" if task.material else ""
    part = "" if stint.share > 1 - 1e-6 else f", {stint.share * 100:.0f} % of it today"
    amount_told = f": {amount_words}" if amount_words else ""
    tools = f" Tools: {', '.join(task.tools)}." if task.tools else ""
    return f"{task.words}{material}{amount_told}{part}.{tools}"
