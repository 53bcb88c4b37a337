"""Pages of text and tables in one look, readable in black and white: the job sheet, lists and quotes."""

import io
from collections.abc import Callable, Sequence
from typing import Any
from xml.sax.saxutils import escape

from zinnet.base.errors import ZinnetError
from zinnet.output.papers.paper import (
    BOLD,
    FONT,
    POINTS_PER_MM,
    load_font,
)
from zinnet.output.papers.tiles import PAPERS

MARGIN = 36
WIDTH = 523
"""What an A4 page has between its margins, in points."""
LINE = "#b9b2a3"
BOX = 8.0
Draw = Callable[[Any], None]


class Paper:
    """Paper that is filled from top to bottom; lengths of columns are in points."""

    def __init__(self, title: str) -> None:
        from reportlab.lib.styles import ParagraphStyle

        load_font()
        self.title = title
        self.plain = ParagraphStyle("plain", fontName=FONT, fontSize=9, leading=12)
        self._head = ParagraphStyle("head", parent=self.plain, fontName=BOLD, fontSize=15, leading=19, spaceAfter=4)
        self._under = ParagraphStyle(
            "under",
            parent=self.plain,
            fontName=BOLD,
            fontSize=11,
            leading=15,
            spaceBefore=8,
            spaceAfter=3,
            keepWithNext=1,
        )
        self._title = ParagraphStyle("title", parent=self.plain, fontName=BOLD)
        self._amount = ParagraphStyle("amount", parent=self.plain, alignment=2)
        self._flow: list[Any] = []

    def head(self, text: str) -> None:
        """Write the title of the sheet."""
        self._add(text, self._head)

    def under(self, text: str) -> None:
        """Begin a part."""
        self._add(text, self._under)

    def say(self, *lines: str) -> None:
        """Write lines of text."""
        for line in lines:
            self._add(line, self.plain)

    def room(self, points: float) -> None:
        """Leave room."""
        from reportlab.platypus import Spacer

        self._flow.append(Spacer(1, points))

    def table(
        self,
        head: Sequence[str],
        rows: Sequence[Sequence[str]],
        widths: Sequence[float],
        *,
        ticks: bool = False,
        right: Sequence[int] = (),
    ) -> None:
        """Draw a table; its head comes again on every page.

        With ``ticks`` each row begins with a box to tick by hand. The columns ``right`` hold amounts.
        """
        from reportlab.lib import colors
        from reportlab.platypus import Paragraph, Table

        styles = dict.fromkeys(right, self._amount)
        cells = [
            [Paragraph(escape(text), styles.get(column, self.plain)) for column, text in enumerate(row)] for row in rows
        ]
        titles, columns = [Paragraph(escape(text), self._title) for text in head], list(widths)
        if ticks:
            titles, columns = ["", *titles], [BOX + 10, *columns]
            cells = [[drawing(BOX, BOX + 2, _draw_box), *row] for row in cells]
        table = Table([titles, *cells], colWidths=columns, repeatRows=1, hAlign="LEFT")
        table.setStyle(
            [
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.HexColor(LINE)),
                ("LINEBELOW", (0, 0), (-1, 0), 0.9, colors.HexColor(LINE)),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (0, -1), 0),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
            ]
        )
        self._flow.append(table)

    def beside(self, left: "Paper", right: "Paper", widths: tuple[float, float]) -> None:
        """Put the content of two sheets side by side."""
        from reportlab.platypus import Table

        table = Table([[left._flow, right._flow]], colWidths=widths, hAlign="LEFT")
        table.setStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
                ("RIGHTPADDING", (0, 0), (0, -1), 12),
                ("RIGHTPADDING", (-1, 0), (-1, -1), 0),
            ]
        )
        self._flow.append(table)

    def draw(self, width: float, height: float, draw: Draw) -> None:
        """Leave room for a drawing, in points, and draw it on a canvas whose origin is its lower left corner."""
        self._flow.append(drawing(width, height, draw))

    def gallery(self, drawings: Sequence[tuple[float, float, Draw]]) -> None:
        """Put drawings of one size (width, height, how) in rows, as many as a page is wide."""
        from reportlab.platypus import Table

        if not drawings:
            return
        wide, high, _ = drawings[0]
        columns = int(WIDTH // wide)
        cells = [drawing(*one) for one in drawings]
        cells += [""] * (-len(cells) % columns)
        rows = [cells[k : k + columns] for k in range(0, len(cells), columns)]
        table = Table(rows, colWidths=[wide] * columns, rowHeights=[high + 4] * len(rows), hAlign="LEFT")
        table.setStyle([("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 0)])
        self._flow.append(table)

    def pdf(self, paper: str = "a4") -> bytes:
        """Return the pages on a paper. Raises :class:`ZinnetError` where there is none of the name."""
        from reportlab.platypus import SimpleDocTemplate

        if paper not in PAPERS:
            raise ZinnetError(f"There is no paper “{paper}”; there are {', '.join(PAPERS)}.")
        width, height = (side * POINTS_PER_MM for side in PAPERS[paper])
        buffer = io.BytesIO()
        margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), MARGIN)
        document = SimpleDocTemplate(buffer, pagesize=(width, height), title=self.title, creator="Zinnet", **margins)
        document.build(self._flow, canvasmaker=_numbered(self.title, width))
        return buffer.getvalue()

    def _add(self, text: str, style: Any) -> None:
        from reportlab.platypus import Paragraph

        self._flow.append(Paragraph(escape(text), style))


def drawing(width: float, height: float, draw: Draw) -> Any:
    """Return a drawing that takes its place among text."""
    from reportlab.platypus import Flowable

    class Drawing(Flowable):  # type: ignore[misc]
        def draw(self) -> None:
            draw(self.canv)

    found = Drawing()
    found.width, found.height = width, height
    return found


def _draw_box(canvas: Any) -> None:
    """Draw a box to tick by hand."""
    canvas.setLineWidth(0.8)
    canvas.rect(0, -1, BOX, BOX, stroke=1, fill=0)


def _numbered(title: str, width: float) -> type[Any]:
    """Return a canvas that writes the title and "page 1 of 3" below each page."""
    from reportlab.pdfgen.canvas import Canvas

    class Numbered(Canvas):  # type: ignore[misc]
        def __init__(self, *args: Any, **options: Any) -> None:
            super().__init__(*args, **options)
            self._pages: list[dict[str, Any]] = []

        def showPage(self) -> None:  # noqa: N802 - the library's own name
            self._pages.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for number, page in enumerate(self._pages, start=1):
                self.__dict__.update(page)
                self.setFont(FONT, 7)
                self.drawString(MARGIN, MARGIN / 2, title[:90])
                self.drawRightString(width - MARGIN, MARGIN / 2, f"page {number} of {len(self._pages)}")
                super().showPage()
            super().save()

    return Numbered
