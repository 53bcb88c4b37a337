"""Judgement: of faults that were planted, how many are found, how many are false, and whether the mends hold."""

from tests.seeded.clean import clean_jobs
from tests.seeded.faults import seeds
from tests.seeded.laboratory import run as tally_of
from tests.seeded.more import more_seeds
from tests.seeded.walk import walk
from tests.seeded.words import word_through_a_shape


def run() -> None:
    """For each id: planted, found, false, mends offered, mends that hold by a judge with its own geometry."""
    faulty, clean = [*seeds(), *more_seeds()], list(clean_jobs())
    tallies = tally_of(faulty, clean)
    print(f"{len(faulty)} jobs with faults, {len(clean)} clean ones")
    print(
        f"{'id':24}{'level':>9}{'planted':>9}{'found':>7}{'false':>7}{'mendable':>10}{'offered':>9}{'mends':>7}{'hold':>6}"
    )
    for name, one in sorted(tallies.items()):
        counts = f"{one.planted:9}{one.found:7}{one.false:7}{one.mendable:10}{one.offered:9}{one.mends:7}{one.hold:6}"
        print(f"{name:24}{one.level:>9}{counts}")
    for name, one in sorted(tallies.items()):
        for said in one.wrong:
            print(f"  {name}: {said}")
    _sums(list(tallies.values()))


def wander() -> None:
    """A random walk of 1,000 steps over the seeded jobs: what a mend did without having said so."""
    wrong = list(walk([*seeds(), *more_seeds()], 1000))
    print(f"1,000 steps, {len(wrong)} times wrong")
    for said in wrong:
        print(f"  {said}")


def words() -> None:
    """100 random words through random shapes: what of them is too fine for its film, counted in dots."""
    refused, grown, wrong = 0, 0, []
    for seed in range(100):
        said = word_through_a_shape(seed)
        refused += said is None
        grown += said is not None and said.held_from_mm is not None
        wrong += [] if said is None else [f"{seed}: {one}" for one in said.wrong]
    print(f"100 words: {refused} without room for letters, {grown} said to hold at a greater width, {len(wrong)} wrong")
    for one in wrong:
        print(f"  {one}")


def _sums(tallies) -> None:
    for level in ("stop", "warn"):
        own = [one for one in tallies if one.level == level]
        print(f"{level}: {sum(one.found for one in own)} of {sum(one.planted for one in own)} found")
    print(f"false: {sum(one.false for one in tallies)}")
    print(f"offered for {sum(one.offered for one in tallies)} of {sum(one.mendable for one in tallies)} mendable ones")
    print(f"{sum(one.hold for one in tallies)} of {sum(one.mends for one in tallies)} offered mends hold")
