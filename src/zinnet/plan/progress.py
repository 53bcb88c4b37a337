"""How far a job is: what is done at each station, what is missing there, and where to go on.

What "done" means stands here and nowhere else: the window, the bench and the commands ask for it.
"""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from zinnet.blanks.catalogue import measure_kinds
from zinnet.job.model import Job
from zinnet.plan.findings.levels import Station
from zinnet.plan.model import Plan
from zinnet.workshop.made import Made


@dataclass(frozen=True)
class Happened:
    """What happened to the garments and is written down elsewhere than in the job."""

    pressed: bool = False
    logged: bool = False


def happened_to(job: Job, made: Sequence[Made], *, pressed: bool = False) -> Happened:
    """Return what happened to a job by the log of what was ``made``, which knows a job by its title."""
    return Happened(pressed=pressed, logged=any(one.title == job.title for one in made))


@dataclass(frozen=True)
class Point:
    """A station on the way of a job. ``missing`` says what keeps it from being done, in words; it is empty else."""

    station: Station
    missing: str = ""

    @property
    def is_done(self) -> bool:
        """Whether nothing is missing here."""
        return not self.missing


def way_of(plan: Plan, happened: Happened | None = None) -> tuple[Point, ...]:
    """Return all stations of a job in the order of the work, each with what is missing there.

    Parameters
    ----------
    plan : Plan
        What follows from the job.
    happened : Happened
        What was pressed and written down; nothing, where it is not given.

    Returns
    -------
    tuple of Point
        One for each station. A stop that is open keeps its station from being done.
    """
    happened = happened or Happened()
    pressed = happened.pressed or happened.logged
    missing = {station: work(plan) for station, work in MISSING.items()} | {
        "press": "" if pressed else _counted(plan.copies, "garment to press", "garments to press"),
        "log": "" if happened.logged else "the job is not in the log",
    }
    stops = Counter(finding.station for finding in plan.open_stops)
    return tuple(
        Point(station, said or (_counted(stops[station], "stop to mend", "stops to mend") if stops[station] else ""))
        for station, said in missing.items()
    )


def next_of(way: tuple[Point, ...], after: str | None = None) -> Point | None:
    """Return where to go on: the next station ``after`` one at which something is missing, else the first of all.

    None where all is done.
    """
    names = [point.station for point in way]
    begin = names.index(after) + 1 if after in names else 0
    return next((point for point in (*way[begin:], *way[:begin]) if not point.is_done), None)


def in_words(point: Point | None) -> str:
    """Return what comes next, for a line of its own."""
    return "All is done." if point is None else f"Next: {point.station}, {point.missing}."


def _measured(plan: Plan) -> str:
    kinds = measure_kinds(plan.blank.kind)
    left = {one.blank.name.rpartition(", ")[2]: len(kinds.keys() - one.blank.measured) for one in plan.garments}
    bare = [name for name, number in left.items() if number and number == len(kinds)]
    if bare:
        return f"{', '.join(bare)} {'is' if len(bare) == 1 else 'are'} not measured"
    name, number = next(((name, number) for name, number in left.items() if number), ("", 0))
    return f"{name}: {_counted(number, 'value is typical', 'values are typical')}" if number else ""


def _drawn(plan: Plan) -> str:
    if not plan.job.designs:
        return "no artwork yet"
    empty = [design for garment, design in plan.fitted if garment is plan.garments[0] and not design.artwork.shapes]
    return "a design has nothing to cut" if empty else ""


def _placed(plan: Plan) -> str:
    if not plan.job.designs:
        return "no design to place yet"
    loose = {design.index for _, design in plan.fitted if design.placement is None}
    return _counted(len(loose), "design has no place yet", "designs have no place yet") if loose else ""


def _split(plan: Plan) -> str:
    if not plan.job.designs:
        return "no layers yet"
    bare = set(_without_film(plan))
    return _counted(len(bare), "layer has no film", "layers have no film") if bare else ""


def _without_film(plan: Plan) -> Iterator[tuple[int, int]]:
    for _, design in plan.fitted:
        for row in design.layers:
            if row.film is None:
                yield design.index, row.layer.order


def _nested(plan: Plan) -> str:
    if not plan.nests:
        return "nothing to nest yet"
    left = sum(nest.layout is None for nest in plan.nests)
    return _counted(left, "film is not nested", "films are not nested") if left else ""


def _cut(plan: Plan) -> str:
    if plan.job.cut is not None:
        return ""
    return _counted(len(plan.mats), "mat to cut", "mats to cut") if plan.mats else "no mats to cut yet"


def _counted(number: int, one: str, many: str) -> str:
    return f"{number} {one if number == 1 else many}"


MISSING: dict[Station, Callable[[Plan], str]] = {
    "measure": _measured,
    "artwork": _drawn,
    "fit": _placed,
    "split": _split,
    "nest": _nested,
    "cut": _cut,
}
"""What is missing at a station, by what the plan says of it."""
