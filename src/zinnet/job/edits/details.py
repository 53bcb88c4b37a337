"""Edits that mend one place of small detail: each is a step of the design, so that it can be taken out again."""

from zinnet.data.limits import limits
from zinnet.films.catalogue import kind_of
from zinnet.job.edits.artwork import add_step
from zinnet.job.edits.edit import Edit
from zinnet.layers.detail import Detail
from zinnet.layers.stack import FilmLayer
from zinnet.steps.model import Bridge, Drop, Enlarge, FillCounters, Step, Thicken, Which, WidenGaps

FILL_TIMES = 1.01
"""A counter is filled with all that are up to this much larger, so that rounding does not spare it."""


def mends_of(row: FilmLayer, detail: Detail, *, width_mm: float, design: int = 0) -> dict[str, Edit]:
    """Return what mends a place, by what it does: thicken, widen, enlarge, bridge, fill, drop."""
    x, y = detail.at
    here = Which(points=((x / width_mm, y / width_mm),))
    steps: dict[str, Step]
    if detail.kind == "stroke":
        steps = {"thicken": Thicken(which=here, least_mm=detail.limit_mm), "drop": Drop(which=here)}
    elif detail.kind == "gap":
        steps = {"widen": WidenGaps(which=Which(colours=row.colours), gap_mm=detail.limit_mm)}
    elif detail.kind == "counter":
        most = detail.region.area * FILL_TIMES
        steps = {"fill": FillCounters(which=Which(colours=row.colours), most_mm2=most)}
    else:
        steps = {"enlarge": Enlarge(which=here, least_mm=detail.limit_mm), "drop": Drop(which=here)}
        if row.film is not None:
            wide = kind_of(row.film).least_stroke_mm * float(limits()["thin"]["bridge_times"])
            steps["bridge"] = Bridge(which=here, width_mm=wide)
    return {name: add_step(step, design) for name, step in steps.items()}
