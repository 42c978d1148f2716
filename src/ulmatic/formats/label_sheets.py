"""Labels for stakes: a sheet of QR codes that open a plot in field mode."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

from reportlab.graphics import renderPDF
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Paragraph

from ulmatic.formats.quotes import fonts

COLUMNS, ROWS = 2, 5
MARGIN, QR = 12 * mm, 38 * mm


@dataclass(frozen=True)
class StakeLabel:
    """What a label says: name, site, and the address its code opens."""

    name: str
    site: str
    address: str


def label_sheet(labels: Sequence[StakeLabel], *, letter: bool) -> bytes:
    """Return labels as PDF, ten on a page, on A4 or US letter.

    Parameters
    ----------
    labels : sequence of StakeLabel
    letter : bool
    """
    plain, bold = fonts()
    file, size = io.BytesIO(), LETTER if letter else A4
    canvas = Canvas(file, pagesize=size)
    canvas.setTitle("Ulmatic labels")
    wide, high = (size[0] - 2 * MARGIN) / COLUMNS, (size[1] - 2 * MARGIN) / ROWS
    name = ParagraphStyle("name", fontName=bold, fontSize=16, leading=19)
    site = ParagraphStyle("site", fontName=plain, fontSize=10, leading=13)
    for number, label in enumerate(labels):
        index = number % (COLUMNS * ROWS)
        if number and index == 0:
            canvas.showPage()
        x, y = MARGIN + index % COLUMNS * wide, size[1] - MARGIN - (index // COLUMNS + 1) * high
        canvas.setLineWidth(0.4)
        canvas.rect(x, y, wide, high)
        renderPDF.draw(qr_code(label.address, QR), canvas, x + 3 * mm, y + (high - QR) / 2)
        top = y + high - 8 * mm
        for text, style in ((label.name, name), (label.site, site), ("Scan: field mode", site)):
            paragraph = Paragraph(escape(text[:120]), style)
            _, height = paragraph.wrap(wide - QR - 8 * mm, high)
            paragraph.drawOn(canvas, x + QR + 5 * mm, top - height)
            top -= height + 2 * mm
    canvas.save()
    return file.getvalue()


def qr_code(address: str, size: float) -> Drawing:
    """Return the QR code of an address.

    Parameters
    ----------
    address : str
    size : float
        Of its side, points.
    """
    widget = QrCodeWidget(address, barLevel="M")
    left, low, right, high = widget.getBounds()
    drawing = Drawing(size, size, transform=[size / (right - left), 0, 0, size / (high - low), 0, 0])
    drawing.add(widget)
    return drawing
