"""The job sheet: what is cut with which settings, how it is pressed, which stops were passed and why, as PDF."""

from collections.abc import Sequence

from zinnet.facts import Facts
from zinnet.pressed import GarmentPress
from zinnet.pressing.garment_steps import HOT
from zinnet.reports.pages import Sheet

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
    sheet = Sheet(facts.job.title)
    sheet.head(facts.job.title)
    garments = ", ".join(f"{one.copies} x {one.blank.name}" for one in facts.garments)
    sheet.say(f"{garments}. Machine: {facts.cutting.device.name}.")
    if passed:
        sheet.under("Passed with a reason")
        sheet.say(*passed)
    sheet.under("Mats in the order of cutting")
    rows = [
        (
            load.numbers,
            load.films,
            f"{load.trims[0].side_down}; {load.grip}",
            f"{load.settings.said()} ({load.known.source})",
            load.duration.said(),
        )
        for load in facts.loads
    ]
    sheet.table(("Mat", "Film", "Side, mat", "Settings", "Time"), rows, widths=(34, 80, 150, 150, 110))
    for press in facts.presses:
        if press.steps:
            sheet.under(f"Pressing: {press.garment.copies} x {press.garment.blank.name}")
            sheet.say(*press_lines(press))
    sheet.room(8)
    sheet.say(CAUTION, HOT)
    return sheet.pdf()
