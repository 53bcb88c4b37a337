"""Small papers printed on sheets of labels: what stands on each, and where each lies on the sheet."""

import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any
from xml.sax.saxutils import escape

from pydantic import Field

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.output.papers.paper import (
    BOLD,
    FONT,
    POINTS_PER_MM,
    load_font,
)
from zinnet.output.papers.tiles import PAPERS, PaperName

INSET_MM, PICTURE_SHARE = 3.0, 0.34
LARGE, PLAIN, LEADING = 11.0, 7.5, 1.22
MOST_LABELS = 5000
USUAL_SHEET = "a4-3x8"


class LabelSheet(Frozen):
    """A sheet of labels, in mm: their size, where the first one's corner is, and the gaps between them."""

    paper: PaperName
    columns: int = Field(ge=1)
    rows: int = Field(ge=1)
    label: tuple[float, float]
    corner: tuple[float, float]
    gap: tuple[float, float]
    source: str

    @property
    def count(self) -> int:
        """How many there are on a sheet."""
        return self.columns * self.rows

    def box(self, position: int) -> tuple[float, float, float, float]:
        """Return where a label lies on its sheet: left, top, width, height."""
        row, column = divmod(position % self.count, self.columns)
        (wide, high), (left, top), (across, down) = self.label, self.corner, self.gap
        return left + column * (wide + across), top + row * (high + down), wide, high


@dataclass(frozen=True)
class Label:
    """What stands on one label: a head, lines of text, and a picture drawn within (width, height) points."""

    head: str
    lines: tuple[str, ...]
    picture: Callable[[Any, float, float], None] | None = None


@cache
def label_sheets() -> dict[str, LabelSheet]:
    """Return every kind of sheet by its name."""
    return {name: LabelSheet.model_validate(row) for name, row in read_toml("labels").items()}


def labels_pdf(title: str, labels: Sequence[Label], sheet: str, *, skip: int = 0) -> bytes:
    """Return labels on as many sheets as they need; ``skip`` labels of the first sheet are used up already.

    Raises :class:`ZinnetError` where there is nothing to print, or no such sheet.
    """
    from reportlab.pdfgen.canvas import Canvas

    kinds = label_sheets()
    if sheet not in kinds:
        raise ZinnetError(f"There is no sheet of labels “{sheet}”; there are {', '.join(kinds)}.")
    kind = kinds[sheet]
    if not labels:
        raise ZinnetError("There is nothing to print on labels.")
    if not 0 <= skip < kind.count:
        raise ZinnetError(f"A sheet {sheet} has {kind.count} labels; of these 0 to {kind.count - 1} can be used up.")
    if len(labels) > MOST_LABELS:
        raise ZinnetError(f"{len(labels)} labels are more than the {MOST_LABELS} that are printed at once.")
    load_font()
    buffer = io.BytesIO()
    width, height = (side * POINTS_PER_MM for side in PAPERS[kind.paper])
    canvas = Canvas(buffer, pagesize=(width, height), pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Zinnet")
    canvas.setViewerPreference("PrintScaling", "None")
    for position, label in enumerate(labels, start=skip):
        if position > skip and position % kind.count == 0:
            canvas.showPage()
        left, top, wide, high = (length * POINTS_PER_MM for length in kind.box(position))
        canvas.saveState()
        canvas.translate(left, height - top - high)
        _draw(canvas, label, wide, high)
        canvas.restoreState()
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _draw(canvas: Any, label: Label, width: float, height: float) -> None:
    """Draw a label into a box whose lower left corner is the origin; text shrinks until it fits."""
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.platypus import Frame, KeepInFrame, Paragraph

    inset = INSET_MM * POINTS_PER_MM
    room = width - 2 * inset
    if label.picture is not None:
        wide = room * PICTURE_SHARE
        canvas.saveState()
        canvas.translate(width - inset - wide, inset)
        label.picture(canvas, wide, height - 2 * inset)
        canvas.restoreState()
        room -= wide + inset / 2
    head = ParagraphStyle("head", fontName=BOLD, fontSize=LARGE, leading=LARGE * LEADING)
    plain = ParagraphStyle("plain", fontName=FONT, fontSize=PLAIN, leading=PLAIN * LEADING)
    flow = [Paragraph(escape(label.head), head), *(Paragraph(escape(line), plain) for line in label.lines)]
    frame = Frame(inset, inset, room, height - 2 * inset, *[0] * 4)
    frame.addFromList([KeepInFrame(room, height - 2 * inset, flow, mode="shrink")], canvas)
