"""What was asked for: so many garments of each size and colour, and what was typed of each size, kept for later."""

from collections.abc import Iterable, Mapping

from zinnet.base.frozen import with_fields
from zinnet.blanks.catalogue import blank_kind, size_of
from zinnet.blanks.cloth_colours import colour_called
from zinnet.blanks.model import BlankSpec
from zinnet.job.model import FamilyMember, Job, Kept
from zinnet.job.order import OrderLine

type Counts = Mapping[str, int]


def asked(job: Job) -> tuple[OrderLine, ...]:
    """Return the lines of what was asked for; of a job without, each size in the colour of the blank."""
    if job.order.lines:
        return job.order.lines
    colour = (job.blank.colour or blank_kind(job.blank.kind).colour).lower()
    return tuple(OrderLine(size=size, colour=colour, count=count) for size, count in counts_of(job).items() if count)


def is_asked(job: Job) -> bool:
    """Tell whether anybody said yet how many are made; a new job is for one garment until then."""
    return bool(job.order.lines or job.family or job.names.rows or job.designs or job.copies > 1)


def cloth_called(job: Job) -> str:
    """Return what the colour of the blank is called: as it was asked for, else by the nearest that has a name."""
    colour = (job.blank.colour or blank_kind(job.blank.kind).colour).lower()
    named = (line.name for line in job.order.lines if line.colour == colour and line.name)
    return next(named, colour_called(colour))


def counts_of(job: Job) -> dict[str, int]:
    """Return how many garments of each size the job makes, its own size first."""
    own = size_of(job.blank)
    if job.names.rows:
        return {size: job.names.count_of(size, own) for size in (own, *(member.size for member in job.family))}
    return {own: job.copies} | {member.size: member.copies for member in job.family}


def with_counts(lines: tuple[OrderLine, ...], counts: Counts) -> tuple[OrderLine, ...]:
    """Return lines that ask for just so many of each size: what is more or less falls on the last lines of a size."""
    found: list[OrderLine] = []
    left = dict(counts)
    for line in lines:
        count = min(line.count, left.get(line.size, 0))
        left[line.size] = left.get(line.size, 0) - count
        if count:
            found.append(with_fields(line, count=count))
    for size, more in left.items():
        if more <= 0:
            continue
        at = max((k for k, line in enumerate(found) if line.size == size), default=None)
        if at is None:
            found.append(with_fields(lines[0], size=size, count=more))
        else:
            found[at] = with_fields(found[at], count=found[at].count + more)
    return tuple(found)


def merged(lines: Iterable[OrderLine]) -> tuple[OrderLine, ...]:
    """Return lines with those of one size and colour as one."""
    found: dict[tuple[str, str, str], OrderLine] = {}
    for line in lines:
        key = line.size, line.colour, line.name
        found[key] = with_fields(line, count=line.count + found[key].count) if key in found else line
    return tuple(found.values())


def in_step(job: Job) -> Job:
    """Return a job whose order asks for what it makes; without lines it does so anyway."""
    lines = job.order.lines
    if not lines:
        return job
    lines = with_counts(lines, counts_of(job))
    return job if lines == job.order.lines else with_fields(job, order=with_fields(job.order, lines=lines))


def with_kept(job: Job, *, carried: bool | None = None) -> Job:
    """Return a job that keeps what was typed of its kind of blank and of every size that it makes now.

    ``carried`` says that its counts came along from another kind; if not given: as before, until others are typed.
    """
    kind, own = job.blank.kind, size_of(job.blank)
    now = (FamilyMember(size=own, copies=job.copies, measured=job.blank.measured), *job.family)
    before = kept_of(job, kind)
    sizes = {member.size: member for member in (*(before.sizes if before else ()), *now)}
    known = tuple(member for member in sizes.values() if member.measured or member.apart)
    lines = asked(job)
    if carried is None:
        carried = not job.order.lines or (before is not None and before.carried and before.lines == lines)
    kept = Kept(blank=job.blank, sizes=known, lines=lines, carried=carried)
    return with_fields(job, kept=(*(one for one in job.kept if one.blank.kind != kind), kept))


def kept_of(job: Job, kind: str) -> Kept | None:
    """Return what was typed of a kind of blank, while it was on the table."""
    return next((one for one in job.kept if one.blank.kind == kind), None)


def member_of(job: Job, size: str, copies: int) -> FamilyMember:
    """Return a size of the job's kind, with what was measured on it before."""
    kept = kept_of(job, job.blank.kind)
    known = None if kept is None else kept.member(size)
    return FamilyMember(size=size, copies=copies) if known is None else with_fields(known, copies=copies)


def with_lines(job: Job, lines: tuple[OrderLine, ...]) -> Job:
    """Return a job that makes what lines ask for: its own size stays where it is asked for, measures come back."""
    job = with_kept(job)
    counts: dict[str, int] = {}
    for line in lines:
        counts[line.size] = counts.get(line.size, 0) + line.count
    own = size_of(job.blank)
    first = own if own in counts else next(iter(counts))
    blank = job.blank if first == own else of_size(job, job.blank, first)
    members = {member.size: member for member in job.family}
    family = tuple(
        with_fields(members[size], copies=count) if size in members else member_of(job, size, count)
        for size, count in counts.items()
        if size != first
    )
    colour = next(line.colour for line in lines if line.size == first)
    return with_fields(
        job,
        order=with_fields(job.order, lines=lines),
        blank=with_fields(blank, colour=colour),
        copies=counts[first],
        family=family,
    )


def of_size(job: Job, blank: BlankSpec, size: str) -> BlankSpec:
    """Return a blank in another size, with what was measured on that before."""
    kept = kept_of(job, blank.kind)
    known = None if kept is None else kept.member(size)
    return with_fields(blank, size=size, measured=() if known is None else known.measured)
