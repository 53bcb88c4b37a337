"""Whether a mend mends: what comes of it is derived and held against what was, before anybody relies on it."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from zinnet.artwork.source import LETTERING, is_sized, words_of
from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_length
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, kind_of
from zinnet.geometry.region import differing, union
from zinnet.geometry.transform import moved, scale
from zinnet.job.edits import Edit
from zinnet.job.model import Job
from zinnet.layers.split import Split
from zinnet.plan.changes import change_between
from zinnet.plan.derive import derive
from zinnet.plan.findings.model import Finding
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Plan

GRAVITY = {"note": 0, "confirm": 0, "warn": 1, "stop": 2}
LATER = ("nest", "cut", "log")
"""Stations whose findings need a nest, which a mend may ask for anew."""
OF_NESTS = ("carrier-overlap",)
"""Findings of other stations that rest on a nest."""
WITHOUT_NEST = ("larger-than-mat", "loose-pieces")
"""Findings of a later station that are there before anything is nested."""
SAME_MM = 0.05
SAME_DEG = 0.05
type Key = tuple[str, str]
type Parts = tuple[int, int]


@dataclass(frozen=True)
class Proof:
    """What speaks against a mend, nothing where it holds; what it changes, in numbers; and the plan that comes of it.

    There is no plan where none can be made. Where the mend is about nothing that is nested, the plan has no nests.
    """

    against: tuple[str, ...]
    changes: tuple[str, ...]
    after: Plan | None = None
    leaves_it: bool = False
    """Whether what was found is still there."""

    @property
    def holds(self) -> bool:
        """Whether the mend does what it says, and nothing else."""
        return not self.against


def prove(plan: Plan, finding: Finding, mend: Edit) -> Proof:
    """Return whether a mend of a finding holds.

    It does where the finding is gone for what it was about, none is graver and none is new that is more than a note,
    no word and no part of a drawing is lost that the mend's name does not speak of, and no colour comes to another film
    than one that it names.

    Parameters
    ----------
    plan : Plan
        In which it was found.
    finding, mend
        One of its findings, and one of that finding's mends.

    Returns
    -------
    Proof
        In words for whoever asks why it is not offered.
    """
    try:
        job = mend.change(plan.job)
        nests = finding.station in LATER or finding.id in OF_NESTS or _widths(job) != _widths(plan.job)
        if job.family and not job.names.rows and not _is_of_other_size(plan, finding):
            own = derive(job.model_copy(update={"family": ()}), plan.workshop, nests=False)
            left = [*_left_over(finding, own)]
            against = [*left, *_of_own_size(plan, own, mend)]
            if against:
                return Proof(tuple(against), tuple(_changes(plan, own, finding)), own, bool(left))
        after = derive(job, plan.workshop, plan.layouts, nests=nests)
    except ZinnetError as error:
        return Proof((str(error),), ())
    left = [*_left_over(finding, after)]
    if not left and mend.local and change_between(plan, after, None) is None:
        left.append("nothing that is seen would change")
    if left and mend.local:
        return Proof(tuple(left), (), after, leaves_it=True)
    against = [*left, *_graver(plan, after, besides=key_of(finding)), *_of_own_size(plan, after, mend)]
    changes = [*_changes(plan, after, finding)]
    if finding.least is not None and not against:
        places = "1 place" if finding.count == 1 else f"{finding.count} places"
        changes.append(f"{places}, the narrowest of {finding.least():.2f} mm")
    return Proof(tuple(against), tuple(changes), after, bool(left))


def _widths(job: Job) -> list[float | None]:
    return [design.placement.width_mm for design in job.designs]


def _of_own_size(plan: Plan, after: Plan, mend: Edit) -> list[str]:
    """Return what is seen on the job's own size already against a mend."""
    return [*_lost(plan, after, mend.name), *_other_films(plan, after, mend.name)]


def _is_of_other_size(plan: Plan, finding: Finding) -> bool:
    """Tell whether a finding may be about another size than the job's own, which is looked at first."""
    return finding.place is None or finding.place.size not in (None, plan.garments[0].size)


def key_of(finding: Finding) -> Key:
    """Return what a finding is about: its kind, and its subject, or else what it names before its numbers."""
    head, colon, _ = finding.measured.partition(":")
    return finding.id, finding.subject or finding.about or (head if colon else "")


def _gravities(plan: Plan) -> dict[Key, tuple[int, int]]:
    """Return how grave each finding is, and how many places it is about."""
    found: dict[Key, tuple[int, int]] = {}
    for one in plan.findings:
        level, count = found.get(key_of(one), (0, 0))
        found[key_of(one)] = max(level, GRAVITY[one.level]), count + one.count
    return found


def _left_over(finding: Finding, after: Plan) -> Iterator[str]:
    if finding.station in LATER and finding.id not in WITHOUT_NEST:
        return
    for one in after.findings:
        if key_of(one) == key_of(finding) and GRAVITY[one.level] >= GRAVITY[finding.level]:
            yield f"it is still there: {one.measured}"
            return


def _graver(before: Plan, after: Plan, *, besides: Key) -> Iterator[str]:
    known, now, said = _gravities(before), _gravities(after), set[Key]()
    for one in after.findings:
        key = key_of(one)
        later = one.station in LATER and one.id not in WITHOUT_NEST
        if later or key == besides or key in said or GRAVITY[one.level] == 0:
            continue
        level, count = now[key]
        was_level, was_count = known.get(key, (0, 0))
        if level > was_level or count > was_count:
            said.add(key)
            yield f"{one.title.lower()}: {one.measured}"


def _lost(before: Plan, after: Plan, name: str) -> Iterator[str]:
    """Yield what of words and drawings is lost: their parts and counters are counted, on the job's own size.

    What is drawn anew at a larger width may open what was closed before.
    """
    for old, new in zip(before.garments[0].designs, after.garments[0].designs, strict=False):
        if old.split is None or new.split is None or old.split is new.split:
            continue
        source, set_so = before.job.designs[old.index].source, after.job.designs[new.index].source
        if source != set_so:
            if words_of(source) != words_of(set_so):
                yield f"the words would be “{words_of(set_so)}”"
            continue
        is_lettering = isinstance(source, LETTERING)
        drawn_larger = is_sized(source) and new.split.width_mm > old.split.width_mm + SAME_MM
        (parts, counters), (now, open_now) = _parts(old.split), _parts(new.split)
        for fewer, one, many, words in (
            (parts - now, "part", "parts", ("drop", "bridge")),
            (counters - open_now, "counter", "counters", ("fill",)),
        ):
            said = any(f"{word} {abs(fewer)} " in f"{name} " for word in words)
            opens_up = drawn_larger and fewer < 0
            if fewer and not opens_up and (is_lettering or not said):
                what = "letters" if is_lettering else "the drawing"
                count = f"{abs(fewer)} {one if abs(fewer) == 1 else many}"
                yield f"{what} would have {count} {'less' if fewer > 0 else 'more'}"
        yield from _changed(old.split, new.split)
    yield from _unseen(before, after)


def _unseen(before: Plan, after: Plan) -> Iterator[str]:
    """Yield the layers of which much less is seen than before, by the share that is lost."""
    now = {(design.index, row.key): row for design in after.garments[0].compositions for row in design.layers}
    drawn = {index for index, one in enumerate(before.job.designs) if one.source == after.job.designs[index].source}
    for design in before.garments[0].compositions:
        for row in design.layers if drawn.issuperset(design.indices) else ():
            key = design.index, row.key
            if row.seen.is_empty or (key in now and design.split is not None and _is_resized(design, after)):
                continue
            left = now[key].seen.area / row.seen.area if key in now else 0.0
            merged = key not in now and any(row.key in other.colours for other in now.values())
            if left < 1 - _limit("most_unseen_share") and not merged:
                yield f"layer {row.layer.order}: {1 - left:.0%} of what is seen of it would be lost"


def _is_resized(design: FittedDesign, after: Plan) -> bool:
    """Tell whether a composition has another size in another plan."""
    new = next((one for one in after.garments[0].compositions if one.index == design.index), None)
    if new is None or new.split is None or design.split is None:
        return True
    return abs(new.split.width_mm - design.split.width_mm) > SAME_MM


def _changed(old: Split, new: Split) -> Iterator[str]:
    """Yield by how much a drawing would change at one size, where that is more than a bolder cut of the same."""
    small = scale(old.width_mm / new.width_mm, old.height_mm / new.height_mm)
    now = moved(union(layer.region for layer in new.layers), small)
    was = union(layer.region for layer in old.layers)
    share = differing(was, now, SAME_MM).area / was.area
    if share > _limit("most_change_share"):
        yield f"{share:.0%} of the area of what is drawn would change"


def _limit(name: str) -> float:
    return float(limits()["mends"][name])


def _parts(split: Split) -> Parts:
    """Return how many parts and how many counters the colours of a design have."""
    regions = [layer.region for layer in split.layers]
    return sum(len(one.geoms) for one in regions), sum(len(part.interiors) for one in regions for part in one.geoms)


def _films(plan: Plan) -> dict[tuple[int, str], Film | None]:
    return {
        (design.index, colour): row.film
        for design in plan.garments[0].designs
        for row in design.layers
        for colour in row.colours
    }


def _other_films(before: Plan, after: Plan, name: str) -> Iterator[str]:
    """Yield what comes to another film that the name of the mend does not name, or to one with another colour."""
    old, new = _films(before), _films(after)
    for key, film in new.items():
        was = old.get(key, film)
        if film is None or was is None or film.id == was.id:
            continue
        if film.name not in name:
            yield f"{key[1]} would be cut from {film.name} instead of {was.name}"
        elif kind_of(film).finish != kind_of(was).finish and kind_of(film).finish not in name:
            yield f"{film.name} is {kind_of(film).finish}, {was.name} is {kind_of(was).finish}"
    several = {film.id for film in old.values() if film is not None}
    left = {film.id for film in new.values() if film is not None}
    if len(left) < len(several) and len(new) == len(old):
        yield f"{len(several)} films would become {len(left)}"


def _changes(before: Plan, after: Plan, finding: Finding) -> Iterator[str]:
    """Yield what a mend changes, in numbers."""
    unit = before.job.unit
    was, now = (sum(one.count for one in plan.findings if key_of(one) == key_of(finding)) for plan in (before, after))
    yield f"{finding.title.lower()}: {was} to {now}"
    for old, new in zip(before.garments[0].designs, after.garments[0].designs, strict=False):
        if old.placement is None or new.placement is None:
            continue
        for said, one, other in (
            ("width", old.word_width_mm, new.word_width_mm),
            ("height", old.placement.height_mm, new.placement.height_mm),
            ("from the centre line", old.placement.from_centre_mm, new.placement.from_centre_mm),
            ("from its reference", old.placement.from_reference_mm, new.placement.from_reference_mm),
        ):
            if abs(one - other) > SAME_MM:
                length = f"{write_length(one, unit=unit)} to {write_length(other, unit=unit)}"
                yield f"design {old.index + 1}, {said}: {length}"
        if abs(old.placement.turn_deg - new.placement.turn_deg) > SAME_DEG:
            yield f"design {old.index + 1}, turned: {old.placement.turn_deg:.1f}° to {new.placement.turn_deg:.1f}°"
    films = Counter[tuple[str, str]]()
    old_films = _films(before)
    for key, film in _films(after).items():
        other_film = old_films.get(key)
        if film is not None and other_film is not None and film.id != other_film.id:
            films[other_film.name, film.name] += 1
    yield from (f"{one} to {other}" for one, other in films)
