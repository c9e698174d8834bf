"""A sample's label, to be printed and stuck on its bottle: the label as a code a phone reads, and in
letters a pen can copy."""

from io import BytesIO

from reportlab.graphics import renderPDF
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from workshop.paper import BOLD, INK, NUMBERS, PLAIN, ready

from .shapes import SampleLine

WIDE, HIGH, CODE = 90 * mm, 38 * mm, 32 * mm


def label_pdf(sample: SampleLine) -> bytes:
    """A label of 90 × 38 mm."""
    ready()
    out = BytesIO()
    page = Canvas(out, pagesize=(WIDE, HIGH))
    page.setTitle(f"Sample {sample.label}")
    page.setFillColor(INK)
    code = Drawing(CODE, CODE)
    code.add(QrCodeWidget(sample.label, barWidth=CODE, barHeight=CODE, barLevel="M"))
    renderPDF.draw(code, page, 2 * mm, 3 * mm)
    left = CODE + 5 * mm
    page.setFont(NUMBERS, 20)
    page.drawString(left, 26 * mm, sample.label)
    page.setFont(BOLD, 10)
    page.drawString(left, 18 * mm, sample.what[:34])
    page.setFont(PLAIN, 9)
    page.drawString(left, 12 * mm, f"taken {sample.taken_on}, {sample.by}"[:42])
    page.drawString(left, 7 * mm, "used oil, keep upright")
    page.showPage()
    page.save()
    return out.getvalue()
