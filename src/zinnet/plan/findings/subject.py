"""Where a finding is, in words: which size and which design, where there are several."""

from collections.abc import Iterator, Sequence

import shapely

from zinnet.geometry.region import Region, as_region, union
from zinnet.layers.stack import FilmLayer
from zinnet.placement.place import Placement
from zinnet.plan.findings.model import Place
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Facts

SMALLEST = " of the smallest name"


def laid_designs(facts: Facts) -> Iterator[tuple[Garment, FittedDesign, Placement, Region]]:
    """Yield every design that lies on a blank, with its placement and what it covers there."""
    for garment, design in facts.fitted:
        if design.placement is not None and design.art is not None:
            yield garment, design, design.placement, design.art


def named(facts: Facts, garment: Garment, design: FittedDesign) -> str:
    """Return which design on which size is meant, as the beginning of a sentence; empty where there is but one."""
    said = []
    if len(facts.garments) > 1:
        said.append(garment.blank.name.rpartition(", ")[2])
    if len(garment.designs) > 1:
        said.append(called(garment.designs, design))
    return f"{', '.join(said)}: " if said else ""


def called(designs: Sequence[FittedDesign], design: FittedDesign) -> str:
    """Return what tells a design apart from others: its place, else what it shows."""
    alike = sum(design.name == other.name for other in designs)
    return design.name.lower() if alike < 2 else design.called or f"design {design.index + 1}"


def quoted(design: FittedDesign) -> str:
    """Return what a design shows, in quotation marks; its number where it shows nothing that has a name."""
    return f"“{design.called}”" if design.called else f"design {design.index + 1}"


def size_said(facts: Facts, garment: Garment) -> str:
    """Return the size that is meant as the beginning of a sentence; empty where there is but one."""
    return f"{garment.blank.name.rpartition(', ')[2]}, " if len(facts.garments) > 1 else ""


def place_of(garment: Garment, design: FittedDesign, art: Region) -> Place:
    """Return where a design lies."""
    return Place("fit", art.bounds, panel=design.panel.id, size=garment.size, design=design.index)


def home(design: FittedDesign) -> Region:
    """Return where a design may lie as far as seams and edges go; hard keep-outs are judged by themselves."""
    hard = [keep_out.region for keep_out in design.panel.keep_outs if not keep_out.raised]
    touched = [design.panel.touched] if design.panel.touched is not None else []
    if not hard and not touched:
        return design.panel.usable
    return union(
        [design.panel.usable, *(as_region(shapely.intersection(one, design.panel.region)) for one in (*hard, *touched))]
    )


def layer_rows(facts: Facts) -> Iterator[tuple[str, FittedDesign, FilmLayer]]:
    """Yield every layer of what is cut on the job's own size, with what to call it; of names, the smallest too."""
    designs = facts.garments[0].compositions
    for design in designs:
        several = f"{called(designs, design)}, " if len(designs) > 1 else ""
        for row in sorted(design.layers, key=lambda row: row.layer.order):
            yield f"{several}layer {row.layer.order}", design, row
        smallest = _smallest_name(facts, design)
        if smallest is not None:
            for row in sorted(smallest.layers, key=lambda row: row.layer.order):
                yield f"{several}layer {row.layer.order}{SMALLEST}", smallest, row


def about(name: str, design: FittedDesign, row: FilmLayer) -> str:
    """Return what tells a layer of :func:`layer_rows` apart from others, whatever is changed about it."""
    return f"{design.index + 1} {row.key}{' smallest' if name.endswith(SMALLEST) else ''}"


def _smallest_name(facts: Facts, shown: FittedDesign) -> FittedDesign | None:
    """Return the design of the name with the smallest letters, where it is not the one that is shown."""
    design = next((design for design in shown.made_of if design.words is not None), None)
    if design is None or design.words is None:
        return None
    ems = design.words.ems
    row = min(ems, key=lambda one: (ems[one], one))
    return None if ems[row] == ems[design.words.widest] else facts.named[row].composed_of(design.index)


def several(count: int, one: str, many: str) -> str:
    """Return a count with its noun."""
    return f"1 {one}" if count == 1 else f"{count} {many}"
