"""What the laboratory finds: for each id what was planted, found and false, and which mends are offered and hold."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from tests.helpers import nested
from tests.seeded.base import Planted, Seed
from tests.seeded.judge import judge
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.plan.findings.model import Finding
from zinnet.plan.proof import prove

NEAR_MM = 1.0
BY_A_PERSON = ("confirm", "note")


@dataclass
class Tally:
    """Of one id: counts, and what went wrong in words."""

    level: str = ""
    planted: int = 0
    found: int = 0
    false: int = 0
    mendable: int = 0
    offered: int = 0
    mends: int = 0
    hold: int = 0
    wrong: list[str] = field(default_factory=list)


def run(seeds: Iterable[Seed], clean: Iterable[Seed], *, mends: bool = True) -> dict[str, Tally]:
    """Return the tally of every id over seeded and clean jobs."""
    tallies: dict[str, Tally] = {}
    for seed in seeds:
        document = seed.make()
        for planted in seed.planted:
            tally = tallies.setdefault(planted.id, Tally())
            tally.planted += 1
            finding = _found(document, planted)
            if finding is None:
                tally.wrong.append(f"{seed.name}: not found")
                continue
            tally.found += 1
            tally.level = finding.level
            if mends and finding.may_have_mends:
                _try_mends(seed, document, finding, tally)
        expected = {one.id for one in seed.planted} | set(seed.comes_with)
        _count_false(seed, document, expected, tallies)
    for seed in clean:
        _count_false(seed, seed.make(), set(), tallies)
    return tallies


def _found(document: Document, planted: Planted) -> Finding | None:
    """Return the finding of a planted fault, where it is found at its place."""
    for one in document.plan.findings:
        if one.id != planted.id:
            continue
        if planted.box is None or one.place is None:
            return one
        left, top, right, bottom = one.place.box
        a, b, c, d = planted.box
        if left <= c + NEAR_MM and right >= a - NEAR_MM and top <= d + NEAR_MM and bottom >= b - NEAR_MM:
            return one
    return None


def _count_false(seed: Seed, document: Document, expected: set[str], tallies: dict[str, Tally]) -> None:
    for one in document.plan.findings:
        if one.level not in BY_A_PERSON and one.id not in expected:
            tally = tallies.setdefault(one.id, Tally())
            tally.false += 1
            tally.wrong.append(f"{seed.name}: false: {one.measured}")


def _try_mends(seed: Seed, document: Document, finding: Finding, tally: Tally) -> None:
    """Make every mend that is offered on a fresh copy of the job, and let the judge look at it."""
    tally.mendable += 1
    held = 0
    for mend in finding.mends:
        if not prove(document.plan, finding, mend).holds:
            continue
        held += 1
        tally.mends += 1
        after = Document(document.workshop, document.job)
        for nest in document.plan.nests:
            if nest.layout is not None:
                after.keep_layout(nest.key, nest.layout)
        try:
            after.apply(mend)
        except ZinnetError as error:
            tally.wrong.append(f"{seed.name}: {mend.name}: {error}")
            continue
        if document.plan.mats:
            nested(after)
        wrong = judge(document, after, finding.id, mend.name)
        tally.hold += not wrong
        if wrong:
            tally.wrong.append(f"{seed.name}: {mend.name}: {'; '.join(wrong)}")
    tally.offered += bool(held)
    if not held:
        tally.wrong.append(f"{seed.name}: no mend is offered of {[mend.name for mend in finding.mends]}")
