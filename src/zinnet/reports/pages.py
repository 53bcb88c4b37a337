"""Pages of text and tables in one look, readable in black and white: the job sheet, lists and quotes."""

import io
from collections.abc import Sequence
from typing import Any
from xml.sax.saxutils import escape

from zinnet.reports.paper import BOLD, FONT, load_font

MARGIN = 36
LINE = "#b9b2a3"


class Sheet:
    """A sheet that is filled from top to bottom; lengths of columns are in points."""

    def __init__(self, title: str) -> None:
        from reportlab.lib.styles import ParagraphStyle

        load_font()
        self.title = title
        self.plain = ParagraphStyle("plain", fontName=FONT, fontSize=9, leading=12)
        self._head = ParagraphStyle("head", parent=self.plain, fontName=BOLD, fontSize=15, leading=19, spaceAfter=4)
        self._under = ParagraphStyle(
            "under", parent=self.plain, fontName=BOLD, fontSize=11, leading=15, spaceBefore=8, spaceAfter=3
        )
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

    def table(self, head: Sequence[str], rows: Sequence[Sequence[str]], widths: Sequence[float]) -> None:
        """Draw a table; its head comes again on every page."""
        from reportlab.lib import colors
        from reportlab.platypus import Paragraph, Table

        cells = [[Paragraph(escape(text), self.plain) for text in row] for row in rows]
        table = Table([list(head), *cells], colWidths=list(widths), repeatRows=1)
        table.setStyle(
            [
                ("GRID", (0, 0), (-1, -1), 0.4, colors.HexColor(LINE)),
                ("FONT", (0, 0), (-1, 0), BOLD, 9),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ]
        )
        self._flow.append(table)

    def draw(self, flowable: Any) -> None:
        """Put a drawing on the sheet."""
        self._flow.append(flowable)

    def pdf(self) -> bytes:
        """Return the pages."""
        from reportlab.lib.pagesizes import A4
        from reportlab.platypus import SimpleDocTemplate

        buffer = io.BytesIO()
        margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), MARGIN)
        SimpleDocTemplate(buffer, pagesize=A4, title=self.title, creator="Zinnet", **margins).build(self._flow)
        return buffer.getvalue()

    def _add(self, text: str, style: Any) -> None:
        from reportlab.platypus import Paragraph

        self._flow.append(Paragraph(escape(text), style))
