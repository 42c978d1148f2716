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
from ulmatic.core.work import Caution, Stint
from ulmatic.formats.labels import qr_code
from ulmatic.formats.paper import area_words, depth_words, length_words, volume_words
from ulmatic.formats.quotes import fonts


@dataclass(frozen=True)
class OrderPlot:
    """A plot of the day: what is done on it, its target depth, and the address of its page in field mode."""

    name: str
    address: str
    target_mm: float
    tasks: Sequence[Stint]


@dataclass(frozen=True)
class WorkOrder:
    """The work of a site on a day."""

    site: str
    on: date
    units: UnitSystem
    barrow_m3: float
    plots: Sequence[OrderPlot]
    cautions: Sequence[Caution]


def work_order_pdf(order: WorkOrder) -> bytes:
    """Return a work order as PDF.

    Parameters
    ----------
    order : WorkOrder
    """
    plain, bold = fonts()
    body = ParagraphStyle("body", fontName=plain, fontSize=10, leading=13.5, textColor=black)
    small = ParagraphStyle("small", parent=body, fontSize=8.5, leading=11)
    head = ParagraphStyle("head", parent=body, fontName=bold, fontSize=18, leading=23)
    strong = ParagraphStyle("strong", parent=body, fontName=bold, fontSize=12, leading=16)
    file = io.BytesIO()
    title = f"Work order, {order.site}, {order.on:%-d %B %Y}"
    page = SimpleDocTemplate(
        file, pagesize=LETTER if order.units is UnitSystem.US else A4, title=title, leftMargin=16 * mm,
        rightMargin=16 * mm, topMargin=14 * mm, bottomMargin=14 * mm,
    )  # fmt: skip
    hours = sum(stint.hours for plot in order.plots for stint in plot.tasks)
    parts: list[Flowable] = [
        Paragraph(escape(title), head),
        Paragraph(f"{hours:.1f} person-hours. Tick what is done; write depths and hours in the boxes.", body),
        Spacer(1, 4 * mm),
    ]
    for number, plot in enumerate(order.plots, 1):
        rows = [
            [
                "☐" if plain == "DejaVu" else "[ ]",
                Paragraph(escape(_line(stint, order)), body),
                Paragraph(f"{stint.hours:.1f} h", body),
                Paragraph("hours ____", small),
            ]
            for stint in plot.tasks
        ]
        table = Table(rows, colWidths=[7 * mm, page.width - 72 * mm, 16 * mm, 22 * mm])
        table.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("FONTNAME", (0, 0), (0, -1), plain)])
        target = depth_words(plot.target_mm, order.units)
        said = Paragraph(f"Target {target} settled. Depths: ______ ______ ______", body)
        block = Table(
            [[[Paragraph(escape(f"{number}. {plot.name}"), strong), table, said], qr_code(plot.address, 24 * mm)]],
            colWidths=[page.width - 27 * mm, 27 * mm],
        )
        block.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LINEABOVE", (0, 0), (-1, 0), 0.7, black)])
        parts.append(KeepTogether([block, Spacer(1, 3 * mm)]))
    if order.cautions:
        parts.append(Paragraph("Cautions: read and sign", strong))
        parts += [
            Paragraph(f"<b>{escape(caution.about)}.</b> {escape(caution.words)}", small) for caution in order.cautions
        ]
        parts.append(Paragraph("Read by: ____________________   ____________________", body))
    page.build(parts)
    return file.getvalue()


def _line(stint: Stint, order: WorkOrder) -> str:
    """Return a task with its amount and tools."""
    task, amount = stint.task, stint.task.amount * stint.share
    match task.unit:
        case "m3":
            told = f"{volume_words(amount, order.units)}, {ceil(amount / order.barrow_m3 - 1e-9)} barrows"
        case "m2":
            told = area_words(amount, order.units)
        case "m":
            told = length_words(amount, order.units)
        case _:
            told = f"{amount:.0f} trees"
    material = f" ({task.material})" if task.material else ""
    part = "" if stint.share > 1 - 1e-6 else f", {stint.share * 100:.0f} % of it today"
    return f"{task.words}{material}: {told}{part}. {', '.join(task.tools)}."
