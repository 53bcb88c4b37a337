"""The job sheet: what is cut with which settings, how it is pressed, which stops were passed and why, as PDF."""

import io
from collections.abc import Sequence

from zinnet.facts import Facts
from zinnet.pressed import GarmentPress
from zinnet.pressing.garment_steps import HOT
from zinnet.reports.paper import BOLD, FONT, load_font

CAUTION = (
    "Blades and hooks point away from hands; hands off the cutter while it has power. Labels, the makers' sheets, the "
    "machine's manual and local rules come first."
)


def press_lines(press: GarmentPress) -> list[str]:
    """Return the steps of a garment, one line each, with a box to tick."""
    found = []
    for number, step in enumerate(press.steps, start=1):
        said = "" if step.heat is None else f": {step.lines[0]}"
        cover = f" Covered by {step.cover}." if step.cover else ""
        found.append(f"[  ] {number}  {step.title}{said}{cover}")
    return found


def job_sheet_pdf(facts: Facts, passed: Sequence[str]) -> bytes:
    """Return the job sheet; ``passed`` are the stops that were passed, in words."""
    from reportlab.lib import colors
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table

    load_font()
    plain = ParagraphStyle("plain", fontName=FONT, fontSize=9, leading=12)
    head = ParagraphStyle("head", parent=plain, fontName=BOLD, fontSize=15, leading=19, spaceAfter=4)
    under = ParagraphStyle("under", parent=plain, fontName=BOLD, fontSize=11, leading=15, spaceBefore=8, spaceAfter=3)
    flow: list[Flowable] = [Paragraph(_safe(facts.job.title), head)]
    garments = ", ".join(f"{one.copies} x {one.blank.name}" for one in facts.garments)
    flow.append(Paragraph(_safe(f"{garments}. Machine: {facts.cutting.device.name}."), plain))
    if passed:
        flow.append(Paragraph("Passed with a reason", under))
        flow += [Paragraph(_safe(one), plain) for one in passed]
    flow.append(Paragraph("Mats in the order of cutting", under))
    rows = [["Mat", "Film", "Side, mat", "Settings", "Time"]]
    for load in facts.loads:
        rows.append(
            [
                Paragraph(_safe(text), plain)
                for text in (
                    load.numbers,
                    load.films,
                    f"{load.trims[0].side_down}; {load.grip}",
                    f"{load.settings.said()} ({load.known.source})",
                    load.duration.said(),
                )
            ]
        )
    table = Table(rows, colWidths=[34, 80, 150, 150, 110], repeatRows=1)
    table.setStyle(
        [
            ("GRID", (0, 0), (-1, -1), 0.4, colors.HexColor("#b9b2a3")),
            ("FONT", (0, 0), (-1, 0), BOLD, 9),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ]
    )
    flow.append(table)
    for press in facts.presses:
        if press.steps:
            flow.append(Paragraph(_safe(f"Pressing: {press.garment.copies} x {press.garment.blank.name}"), under))
            flow += [Paragraph(_safe(line), plain) for line in press_lines(press)]
    flow += [Spacer(1, 8), Paragraph(CAUTION, plain), Paragraph(HOT, plain)]
    buffer = io.BytesIO()
    SimpleDocTemplate(
        buffer, pagesize=A4, leftMargin=36, rightMargin=36, topMargin=36, bottomMargin=36, title=facts.job.title
    ).build(flow)
    return buffer.getvalue()


def _safe(text: str) -> str:
    from xml.sax.saxutils import escape

    return escape(text)
