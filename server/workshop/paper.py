"""Printed pages in the product's own type and look: one line colour, drawn boxes to tick, and on every
page what it is about and which page of how many it is."""

from collections.abc import Sequence
from functools import cache
from html import escape
from io import BytesIO
from pathlib import Path
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    Paragraph,
    SimpleDocTemplate,
    Table,
    TableStyle,
)

TYPE = Path(__file__).parent / "type"
INK, LINE = HexColor("#1f2a2b"), HexColor("#d5cbb5")
ALARM = HexColor("#b8321a")
LEFT, TOP, BOTTOM = 16 * mm, 26 * mm, 18 * mm
WIDE = A4[0] - 2 * LEFT
PADDING = 6  # points, inside the frame text flows in
PLAIN, BOLD, NUMBERS = "Barlow-400", "Barlow-600", "Barlow-semi-condensed-500"


@cache
def _type() -> None:
    for file in TYPE.glob("*.ttf"):
        pdfmetrics.registerFont(TTFont(file.stem.capitalize(), file))


def ready() -> None:
    """The product's type, for whoever draws a page by hand."""
    _type()


def _style(font: str, size: float, **more: Any) -> ParagraphStyle:
    return ParagraphStyle(
        font, fontName=font, fontSize=size, leading=size * 1.3, textColor=INK, **more
    )


def words(text: str, *, bold: bool = False, alarm: bool = False) -> Flowable:
    """A paragraph."""
    _type()
    font = BOLD if bold else PLAIN
    style = _style(font, 10)
    if alarm:
        style.textColor, style.spaceAfter = ALARM, 4
    return Paragraph(escape(text), style)


def number(text: str) -> Flowable:
    """An amount, set as numbers are on the screen."""
    _type()
    return Paragraph(escape(text), _style(NUMBERS, 10.5))


class Tick(Flowable):  # type: ignore[misc]
    """A drawn box to tick by pen."""

    SIDE = 4 * mm

    def wrap(self, *_: float) -> tuple[float, float]:
        return self.SIDE, self.SIDE

    def draw(self) -> None:
        self.canv.setStrokeColor(INK)
        self.canv.setLineWidth(0.9)
        self.canv.roundRect(0, 0, self.SIDE, self.SIDE, 0.8 * mm)


def block(title: str, rows: Sequence[Sequence[Flowable]], widths: Sequence[float]) -> Flowable:
    """A heading with its rows under it; ``widths`` in mm. It stays whole where a page holds it."""
    _type()
    table = Table(
        [list(row) for row in rows], colWidths=[width * mm for width in widths], hAlign="LEFT"
    )
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, -1), 0.5, LINE),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
                ("TOPPADDING", (0, 0), (-1, -1), 4),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 4),
            ]
        )
    )
    heading = Paragraph(escape(title), _style(BOLD, 12.5, spaceBefore=10, spaceAfter=3))
    return KeepTogether([heading, table])


def _canvas(title: str, about: str) -> type[Canvas]:
    class Numbered(Canvas):  # type: ignore[misc]
        """Writes head and foot of each page once it is known how many there are."""

        def __init__(self, *args: Any, **named: Any) -> None:
            super().__init__(*args, **named)
            self._pages: list[dict[str, Any]] = []

        def showPage(self) -> None:
            self._pages.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for page in self._pages:
                self.__dict__.update(page)
                self._frame(len(self._pages))
                super().showPage()
            super().save()

        def _frame(self, count: int) -> None:
            top = A4[1] - 16 * mm
            self._line(title, BOLD, 16, LEFT, top)
            self.setStrokeColor(LINE)
            self.setLineWidth(0.8)
            self.line(LEFT, top - 3 * mm, LEFT + WIDE, top - 3 * mm)
            self.line(LEFT, 13 * mm, LEFT + WIDE, 13 * mm)
            self._line(about, PLAIN, 9, LEFT, 8 * mm)
            self.setFont(PLAIN, 9)
            self.drawRightString(
                LEFT + WIDE, 8 * mm, f"Oil Ward · page {self._pageNumber} of {count}"
            )

        def _line(self, text: str, font: str, size: float, x: float, y: float) -> None:
            said = Paragraph(escape(text), _style(font, size))
            said.wrap(WIDE - 50 * mm if size < 10 else WIDE, 2 * size)
            said.drawOn(self, x, y - size * 0.2)

    return Numbered


def print_pages(title: str, about: str, flow: Sequence[Flowable]) -> bytes:
    """A PDF, A4. ``title`` stands at the head of each page, ``about`` (whose page it is) at its foot."""
    _type()
    out = BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=A4, title=title, author="Oil Ward", pageCompression=0,
        topMargin=TOP, bottomMargin=BOTTOM, leftMargin=LEFT - PADDING, rightMargin=LEFT - PADDING,
    )  # fmt: skip
    document.build(list(flow), canvasmaker=_canvas(title, about))
    return out.getvalue()
