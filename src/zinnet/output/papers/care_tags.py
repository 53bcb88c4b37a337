"""Care tags: what goes along with each garment, on sheets of labels."""

from zinnet.output.papers.labels import USUAL_SHEET, Label, labels_pdf
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.object_steps import care_lines


def care_tags_pdf(facts: Facts, sheet: str = USUAL_SHEET, *, skip: int = 0) -> bytes:
    """Return a tag for every garment of the job; raises :class:`ZinnetError` where there is none to print."""
    return labels_pdf(f"{facts.job.title}: care tags", care_tags(facts), sheet, skip=skip)


def care_tags(facts: Facts) -> list[Label]:
    """Return the tags: with a list of names one for each name, else for each garment of each size."""
    by_size = [_care_lines(press) for press in facts.presses]
    if facts.named:
        rows = [(one.garment, f"No. {one.number}  {one.words}", one.names.count) for one in facts.named]
    else:
        rows = [(k, facts.job.title, one.copies) for k, one in enumerate(facts.garments)]
    found: list[Label] = []
    for garment, head, count in rows:
        lines = (facts.garments[garment].blank.name, *by_size[garment])
        found += [Label(head, lines)] * count
    return found


def _care_lines(press: GarmentPress) -> tuple[str, ...]:
    """Return what is on the garment and how to care for it."""
    films = dict.fromkeys(piece.film.name for work in press.works for piece in work.pieces)
    return (f"Film: {', '.join(films)}", *care_lines(press.works, press.object.procedure)) if films else ()
