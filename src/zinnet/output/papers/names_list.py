"""The check list of names on paper: a box to tick for each garment, so that each one gets its name."""

from zinnet.base.errors import ZinnetError
from zinnet.output.papers.pages import Paper
from zinnet.plan.check_list import NameLine, name_lines
from zinnet.plan.model import Facts


def names_list_pdf(facts: Facts) -> bytes:
    """Return the check list. Raises :class:`ZinnetError` where the job has no list of names."""
    lines = name_lines(facts)
    if not lines:
        raise ZinnetError("The job has no list of names to print.")
    sheet = Paper(f"{facts.job.title}: check list of names")
    sheet.head(facts.job.title)
    garments = sum(line.count for line in lines)
    sheet.say(f"{garments} garments, {len(lines)} names. Tick each garment when its own pieces lie on it.")
    sheet.table(
        ("", "No.", "Words", "Garment", "Width x height", "Mats", "Pieces"),
        [_row(line) for line in lines],
        widths=(18, 30, 170, 130, 90, 40, 45),
    )
    return sheet.pdf()


def _row(line: NameLine) -> tuple[str, ...]:
    sizes = ", ".join(f"{width:.1f} x {height:.1f} mm" for width, height in line.sizes)
    return (
        "[  ]",
        str(line.number),
        line.words,
        f"{line.count} x {line.size}",
        sizes,
        ", ".join(map(str, line.mats)) or "not nested",
        str(sum(count for _, count in line.pieces)),
    )
