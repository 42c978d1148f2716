"""A quote as a printable PDF and as CSV."""

import csv
import io
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.enums import TA_RIGHT
from reportlab.lib.pagesizes import A4, letter
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFError, TTFont
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from ulmatic.core.money.quote import Quote
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.currency import exact, minor_digits
from ulmatic.core.units.currency_amounts import YARD3_M3
from ulmatic.formats.cells import harmless
from ulmatic.formats.paper import area_words, volume_words

_DEJAVU = Path("/usr/share/fonts/truetype/dejavu")
_INK, _RULE = colors.HexColor("#1d2522"), colors.HexColor("#6d2e5f")


@dataclass(frozen=True)
class QuoteParty:
    """Whose quote it is, for whom, and in which units it is written."""

    number: int
    client: str
    words: str
    site: str
    by: str
    units: UnitSystem

    def per_volume(self, price: Decimal) -> Decimal:
        """Return the price of a m³ as one of the unit written."""
        return exact(float(price) * YARD3_M3) if self.units is UnitSystem.US else price


@cache
def fonts() -> tuple[str, str]:
    """Register DejaVu, which has the signs of most European languages; without it the PDF's own Helvetica stands in."""
    try:
        pdfmetrics.registerFont(TTFont("DejaVu", str(_DEJAVU / "DejaVuSans.ttf")))
        pdfmetrics.registerFont(TTFont("DejaVu-Bold", str(_DEJAVU / "DejaVuSans-Bold.ttf")))
    except TTFError:
        return "Helvetica", "Helvetica-Bold"
    return "DejaVu", "DejaVu-Bold"


def amount_of(amount: Decimal, currency: str) -> str:
    """Return an amount with as many digits as its currency has."""
    return f"{amount:,.{minor_digits(currency)}f}"


def money(amount: Decimal, currency: str) -> str:
    """Return an amount with its currency."""
    return f"{amount_of(amount, currency)} {currency}"


def _rows(quote: Quote, party: QuoteParty) -> list[tuple[str, str, str, str]]:
    """Return the lines as label, quantity, price, amount."""
    rows = []
    for line in quote.lines:
        quantity, price = "", ""
        if line.quantity is not None and line.price is not None:
            each = party.per_volume(line.price) if line.unit == "m3" else line.price
            quantity = {
                "m3": volume_words(line.quantity, party.units),
                "h": f"{line.quantity:,.2f} h",
                "loads": f"{line.quantity:,.0f} ×",
                None: "",
            }[line.unit]
            price = f"{each:,.{max(2, minor_digits(quote.currency))}f}"
        rows.append((line.label, quantity, price, amount_of(line.amount, quote.currency)))
    return rows


def quote_pdf(quote: Quote, party: QuoteParty) -> bytes:
    """Return the quote as a PDF of one or more pages: A4, or US Letter with US units."""
    plain, bold = fonts()
    body = ParagraphStyle("body", fontName=plain, fontSize=9.5, leading=13, textColor=_INK)
    right = ParagraphStyle("right", parent=body, alignment=TA_RIGHT)
    small = ParagraphStyle("small", parent=body, fontSize=8, leading=11)
    head = ParagraphStyle("head", parent=body, fontName=bold, fontSize=18, leading=24)
    strong = ParagraphStyle("strong", parent=body, fontName=bold)
    total = ParagraphStyle("total", parent=right, fontName=bold, fontSize=12, leading=16)

    def cell(text: str, style: ParagraphStyle = body) -> Paragraph:
        return Paragraph(escape(text), style)

    out = io.BytesIO()
    title = f"Quote {party.number}, {party.site}"
    page = SimpleDocTemplate(
        out,
        pagesize=letter if party.units is UnitSystem.US else A4,
        title=title,
        author=party.by,
        leftMargin=20 * mm,
        rightMargin=20 * mm,
        topMargin=18 * mm,
        bottomMargin=18 * mm,
    )
    wide = page.width
    lines = [[cell(head_, strong) for head_ in ("", "Quantity", "Price", f"Amount, {quote.currency}")]]
    lines += [
        [cell(label), cell(amount, right), cell(price, right), cell(each, right)]
        for label, amount, price, each in _rows(quote, party)
    ]
    lines += [
        [cell("Subtotal"), cell(""), cell(""), cell(amount_of(quote.subtotal, quote.currency), right)],
        [
            cell(f"Tax, {quote.tax_share * 100:.4g} %"),
            cell(""),
            cell(""),
            cell(amount_of(quote.tax, quote.currency), right),
        ],
        [cell("Total", strong), cell(""), cell(""), cell(money(quote.total, quote.currency), total)],
    ]
    plots = [[cell(head_, strong) for head_ in ("Plot", "Ground", "Loose volume", f"Before tax, {quote.currency}")]]
    plots += [
        [
            cell(plot.plot),
            cell(area_words(plot.area_m2, party.units), right),
            cell(volume_words(plot.volume_m3, party.units), right),
            cell(amount_of(plot.amount, quote.currency), right),
        ]
        for plot in quote.plots
    ]
    ruled = TableStyle(
        [
            ("LINEBELOW", (0, 0), (-1, 0), 1.2, _RULE),
            ("LINEBELOW", (0, 1), (-1, -1), 0.3, colors.lightgrey),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LEFTPADDING", (0, 0), (0, -1), 0),
            ("RIGHTPADDING", (-1, 0), (-1, -1), 0),
        ]
    )
    widths = [wide * part for part in (0.46, 0.17, 0.15, 0.22)]
    spare = (
        f"The volume is loose: it settles by a fifth to a third within weeks. "
        f"{volume_words(quote.spare_m3, party.units)} of {volume_words(quote.volume_m3, party.units)} "
        f"is spare or left over from whole loads. Deliveries are measured."
    )
    page.build(
        [
            cell(title, head),
            cell(f"{party.by}, for {party.client}. {quote.on:%d %B %Y}.".replace(" 0", " ")),
            *([cell(party.words)] if party.words else []),
            Spacer(1, 6 * mm),
            Table(lines, colWidths=widths, style=ruled, repeatRows=1),
            Spacer(1, 8 * mm),
            Table(plots, colWidths=widths, style=ruled, repeatRows=1),
            Spacer(1, 6 * mm),
            cell(spare, small),
        ]
    )
    return out.getvalue()


def quote_csv(quote: Quote, party: QuoteParty) -> bytes:
    """Return the quote as CSV in UTF-8 with a byte order mark; volumes in m³, ground in m²."""
    digits = minor_digits(quote.currency)

    def plain(amount: Decimal) -> str:
        return f"{amount:.{digits}f}"

    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(["quote", party.number, harmless(party.site), harmless(party.client), quote.on.isoformat()])
    writer.writerow(["line", "quantity", "unit", "price", f"amount {quote.currency}"])
    for line in quote.lines:
        quantity = "" if line.quantity is None else f"{line.quantity:.6g}"
        price = "" if line.price is None else f"{line.price:.6g}"
        writer.writerow([harmless(line.label), quantity, line.unit or "", price, plain(line.amount)])
    writer.writerow(["subtotal", "", "", "", plain(quote.subtotal)])
    writer.writerow([f"tax {quote.tax_share * 100:.4g} %", "", "", "", plain(quote.tax)])
    writer.writerow(["total", "", "", "", plain(quote.total)])
    writer.writerow([])
    writer.writerow(["plot", "m2", "m3", "hours", f"before tax {quote.currency}", "for a m2"])
    for plot in quote.plots:
        each = "" if plot.per_m2 is None else plain(plot.per_m2)
        writer.writerow(
            [
                harmless(plot.plot),
                f"{plot.area_m2:.6g}",
                f"{plot.volume_m3:.6g}",
                f"{plot.hours:.4g}",
                plain(plot.amount),
                each,
            ]
        )
    return out.getvalue().encode("utf-8-sig")
