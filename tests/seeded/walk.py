"""A random walk over the laboratory's jobs: edits, mends that are offered, undo; the judge looks at every mend."""

import random
from collections.abc import Iterator, Sequence

from tests.seeded.base import CREAM, Seed
from tests.seeded.judge import films_changed, lost
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.job.edits import Edit, choose_film, set_blank_colour, set_layers, set_placement
from zinnet.plan.proof import prove
from zinnet.plan.safe import mend_all_safe

STEPS_A_JOB = 20
FILMS = ("cream", "gold-glitter", "white-puff", "reed-pattern", "moss-flock", "scarlet")


def walk(seeds: Sequence[Seed], steps: int, start: int = 0) -> Iterator[str]:
    """Walk so many steps, and yield whatever a mend did wrong without having said so."""
    rng = random.Random(start)
    done = 0
    while done < steps:
        seed = rng.choice(seeds)
        document = seed.make()
        for _ in range(min(STEPS_A_JOB, steps - done)):
            done += 1
            yield from (f"{seed.name}: {said}" for said in _step(rng, document))


def _step(rng: random.Random, document: Document) -> Iterator[str]:
    kind = rng.random()
    if kind < 0.2:
        document.undo()
    elif kind < 0.5:
        _try(document, _edit(rng))
    elif kind < 0.6:
        safe = mend_all_safe(document.plan)
        if safe is not None:
            yield from _mended(document, safe, said=safe.name)
    else:
        mendable = [one for one in document.plan.findings if one.may_have_mends and one.station not in ("nest", "cut")]
        if mendable:
            finding = rng.choice(mendable)
            mends = [mend for mend in finding.mends if prove(document.plan, finding, mend).holds]
            if mends:
                mend = rng.choice(mends)
                yield from _mended(document, mend, said=mend.name)


def _mended(document: Document, mend: Edit, said: str) -> Iterator[str]:
    before = Document(document.workshop, document.job)
    document.apply(mend)
    if [one.source for one in before.job.designs] == [one.source for one in document.job.designs]:
        yield from (f"{said}: {one}" for one in lost(before, document, said))
    yield from (f"{said}: {one}" for one in films_changed(before, document, said))


def _try(document: Document, edit: Edit) -> None:
    try:
        document.apply(edit)
    except ZinnetError:
        return


def _edit(rng: random.Random) -> Edit:
    return rng.choice(
        [
            set_placement("x", width_mm=rng.uniform(20, 320)),
            set_placement("x", from_centre_mm=rng.uniform(-200, 200)),
            set_placement("x", turn_deg=rng.uniform(-90, 90)),
            set_placement("x", height_mm=rng.uniform(30, 200)),
            set_blank_colour(f"#{rng.randrange(1 << 24):06x}"),
            choose_film(CREAM, rng.choice(FILMS)),
            set_layers("x", method=rng.choice(["auto", "lap", "cut-away", "stack"])),
            set_layers("x", lap_mm=rng.uniform(0.1, 1.5)),
        ]
    )
