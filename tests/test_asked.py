"""What was asked for and what was measured: typed once, and there again after other sizes and kinds of blank."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, document_of
from zinnet.base.errors import ZinnetError
from zinnet.blanks.catalogue import blank_kind, size_of, typical_measures
from zinnet.blanks.cloth_colours import cloth_colours, colour_called
from zinnet.job.asked import asked, cloth_called, counts_of, in_step, with_counts
from zinnet.job.edits import (
    Edit,
    add_size,
    change_kind,
    remove_size,
    set_blank_colour,
    set_copies,
    set_measure,
    set_names,
    set_order_lines,
    set_sizes,
)
from zinnet.job.file import packed_job, unpacked_job
from zinnet.job.model import Job
from zinnet.job.names.model import NameList, NameRow
from zinnet.job.order import OrderLine

KINDS = ("tee", "hoodie", "long-sleeve")
"""Kinds that share the sizes of grown-ups."""
SIZES = ("adult-s", "adult-m", "adult-l", "adult-xl")
FOREST, NIGHT = cloth_colours()["forest"], cloth_colours()["night"]
COUNTS = st.dictionaries(st.sampled_from(SIZES), st.integers(1, 60), min_size=1)


def lines(**counts):
    return tuple(
        OrderLine(size=size.replace("_", "-"), colour=FOREST, name="forest", count=count)
        for size, count in counts.items()
    )


def made(*edits):
    job = Job()
    for edit in edits:
        job = edit.change(job)
    return job


def measures_of(job, size):
    """Return what was measured on a size, by name."""
    member = job.member(size)
    measured = job.blank.measured if member is None else member.measured
    return {one.name: one.mm for one in measured}


class Typing:
    """What somebody types, in any order, and what of it is to be found again."""

    def __init__(self):
        self.job, self.counts, self.measured = Job(), {}, {}

    def do(self, edit: Edit) -> None:
        self.job = edit.change(self.job)

    def count(self, counts) -> None:
        self.counts = dict(counts)
        self.do(set_order_lines(lines(**{size.replace("-", "_"): count for size, count in counts.items()})))

    def measure(self, kind: str, size: str, share: float) -> None:
        """Measure a chest, if the kind and the size are on the table."""
        if (self.job.blank.kind, size in counts_of(self.job)) == (kind, True):
            mm = round(typical_measures(kind, size)["chest"] * share, 1)
            self.measured[kind, size] = mm
            self.do(set_measure("chest", mm, size if self.job.member(size) else None))

    def check(self) -> None:
        if self.counts:
            assert counts_of(self.job) == self.job.order.counts()
            assert self.job.order.counts() == self.counts
        for (kind, size), mm in self.measured.items():
            if self.job.blank.kind == kind and size in counts_of(self.job):
                assert measures_of(self.job, size)["chest"] == mm


STEPS = st.one_of(
    st.tuples(st.just("count"), COUNTS),
    st.tuples(
        st.just("measure"), st.sampled_from(KINDS), st.sampled_from(SIZES), st.floats(0.97, 1.03, allow_nan=False)
    ),
    st.tuples(st.just("kind"), st.sampled_from(KINDS)),
    st.tuples(st.just("cap")),
    st.tuples(st.just("saved")),
)


@given(st.lists(STEPS, max_size=14))
def test_counts_and_measures_are_there_again_whatever_was_on_the_table_meanwhile(steps):
    typed = Typing()
    for name, *given_ in steps:
        if name == "count":
            typed.count(*given_)
        elif name == "measure":
            typed.measure(*given_)
        elif name == "kind":
            typed.do(change_kind(*given_))
        elif name == "cap":
            before = typed.job.blank.kind
            typed.do(change_kind("cap"))
            assert sum(counts_of(typed.job).values()) == sum(typed.counts.values() or [1])
            typed.do(change_kind(before))
        else:
            typed.job, _ = unpacked_job(packed_job(typed.job, {}), "kept.zinnet")
        typed.check()
    for kind in KINDS:
        typed.do(change_kind(kind))
        typed.check()


@given(COUNTS, COUNTS)
def test_lines_follow_counts_and_ask_for_nothing_else(before, after):
    two = tuple(
        OrderLine(size=size, colour=colour, count=count) for size, count in before.items() for colour in (FOREST, NIGHT)
    )
    found = with_counts(two, after)
    asked_for = {size: sum(line.count for line in found if line.size == size) for size in after}
    assert asked_for == after
    assert {line.size for line in found} == set(after)
    assert with_counts(found, after) == found


def test_lines_of_one_size_and_colour_become_one_and_never_more_than_there_may_be():
    one = OrderLine(size="adult-m", colour=FOREST, name="forest", count=600)
    two = set_order_lines((one.model_copy(update={"count": 3}), one.model_copy(update={"count": 4}))).change(Job())
    assert [line.count for line in two.order.lines] == [7]
    other = one.model_copy(update={"name": "moss", "count": 2})
    apart = set_order_lines((one, other)).change(Job())
    assert [(line.name, line.count) for line in apart.order.lines] == [("forest", 600), ("moss", 2)]
    with pytest.raises(ZinnetError, match="can't be"):
        set_order_lines((one, one)).change(Job())


def test_a_size_that_was_taken_out_comes_back_with_its_measures():
    job = made(add_size("adult-l", 3), set_measure("chest", 571.0, "adult-l"), remove_size("adult-l"))
    assert measures_of(add_size("adult-l", 2).change(job), "adult-l") == {"chest": 571.0}
    assert measures_of(set_sizes((("adult-l", 4),)).change(job), "adult-l") == {"chest": 571.0}


def test_the_jobs_own_size_may_go_and_come_back_with_its_measures():
    job = made(set_measure("chest", 531.0), set_order_lines(lines(adult_l=2)))
    assert (size_of(job.blank), measures_of(job, "adult-l")) == ("adult-l", {})
    back = set_order_lines(lines(adult_l=2, adult_m=1)).change(job)
    assert measures_of(back, "adult-m") == {"chest": 531.0}


def test_counts_that_another_page_changes_are_those_of_the_order():
    job = made(set_order_lines(lines(adult_m=2, adult_l=3)), set_copies(5), set_sizes((("adult-l", 1),)))
    assert job.order.counts() == {"adult-m": 5, "adult-l": 1} == counts_of(job)
    assert remove_size("adult-l").change(job).order.counts() == {"adult-m": 5}


def test_another_colour_of_the_blank_is_ordered_too():
    job = made(set_order_lines(lines(adult_m=2)), set_blank_colour(NIGHT))
    assert {(line.colour, line.count) for line in job.order.lines} == {(NIGHT, 2)}


def test_the_colour_and_the_count_go_along_to_a_kind_with_other_sizes():
    job = made(set_order_lines(lines(adult_m=2, adult_l=4)), change_kind("cap"))
    assert [(line.size, line.count, line.name) for line in job.order.lines] == [("one", 6, "forest")]
    assert (job.blank.colour, job.copies, job.family) == (FOREST, 6, ())


def test_a_job_without_lines_stays_without_and_asks_for_what_it_makes():
    job = made(set_copies(3), add_size("adult-l", 2), change_kind("hoodie"))
    assert not job.order.lines
    assert counts_of(job) == {"adult-m": 3, "adult-l": 2}
    assert {line.colour for line in asked(job)} == {blank_kind("hoodie").colour}
    assert in_step(job) == job


def test_names_without_artwork_bring_a_text_of_their_own():
    rows = tuple(NameRow(values=(name,), size=size) for name, size in (("Odile", "adult-s"), ("Bram", "adult-l")))
    job = made(set_order_lines(lines(adult_m=4)), set_names(NameList(columns=("who",), rows=rows)))
    assert [design.source.text.text for design in job.designs] == ["{who}"]
    assert counts_of(job) == {"adult-s": 1, "adult-l": 1} == job.order.counts()


def test_names_ask_for_their_garments_though_a_picture_is_there():
    document = document_of(RED_AND_BLUE)
    assert counts_of(document.job) == {"adult-m": 1}


def test_a_colour_has_the_name_of_the_nearest_that_has_one():
    assert colour_called(FOREST) == "forest"
    assert colour_called("#1f4d3b") == "forest"
    assert colour_called("#ff00ff").startswith("near ")
    assert len(set(cloth_colours().values())) == len(cloth_colours())
    assert all(colour_called(colour) == name for name, colour in cloth_colours().items())


def test_the_cloth_is_called_as_it_was_asked_for():
    moss = OrderLine(size="adult-m", colour=FOREST, name="our green", count=2)
    assert cloth_called(set_order_lines((moss,)).change(Job())) == "our green"
    assert cloth_called(set_blank_colour(FOREST).change(Job())) == "forest"
    assert cloth_called(Job()) == "spruce"
