"""Groups, alignment, gaps and room: designs to one another, on every size; by plan and by command."""

import json
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, document_of, run_command, svg
from zinnet.artwork.lettering.text import Kern, TextSpec
from zinnet.artwork.source import TextArt, source_of
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.geometry.region import hull_box, union
from zinnet.job.edits import (
    add_design,
    add_source,
    choose_film,
    set_blank,
    set_nesting,
    set_placement,
    set_sizes,
)
from zinnet.plan.arranging import aligned, grouped, spread, ungrouped, units_of
from zinnet.plan.composed import Composition
from zinnet.plan.room import added
from zinnet.plan.words import words_apart
from zinnet.workshop.model import standard_workshop

SEVEN = ("toddler", "youth-s", "youth-m", "youth-l", "adult-s", "adult-l", "adult-xl")
BOX = '<rect width="80" height="60" fill="#d62828"/>'
SMALL = '<rect width="40" height="20" fill="#1f57c3"/>'


def motif_and_words(words="Lantern Walk", sizes=()):
    document = document_of(BOX, *([set_sizes([(size, 2) for size in sizes])] if sizes else []))
    document.apply(added(document.workshop, "words", TextArt(text=TextSpec(text=words))))
    return document


def boxes(document, size=0):
    return [design.art.bounds for design in document.plan.garments[size].designs]


def lengths(boxes):
    """Return width and height of each box, one after the other."""
    return [length for left, top, right, bottom in boxes for length in (right - left, bottom - top)]


def three():
    """Return three sections in one place of a blank, apart from one another and about the centre line."""
    document = document_of(SMALL, set_placement("x", width_mm=60.0, from_centre_mm=-80.0, from_reference_mm=90.0))
    for number, off in ((1, 0.0), (2, 80.0)):
        document.apply(add_design(f"{number}.svg", svg(SMALL)))
        document.apply(set_placement("x", design=number, width_mm=60.0, from_centre_mm=off, from_reference_mm=90.0))
    return document


@pytest.mark.parametrize("words", ["Wrenfield", "Lantern Walk at dusk", "8"])
def test_words_added_to_a_motif_never_touch_it_on_seven_sizes(words):
    document = motif_and_words(words, SEVEN)
    assert len(document.plan.garments) >= 7
    for garment in document.plan.garments:
        motif, line = garment.designs
        assert motif.panel.id != line.panel.id or shapely.distance(motif.art, line.art) > 3.0
        assert shapely.covers(line.panel.usable, line.art)
    assert not {"designs-overlap", "off-centre"} & {finding.id for finding in document.plan.findings}


def test_words_stand_below_the_motif_in_its_middle():
    document = motif_and_words()
    (left, _, right, bottom), (words_left, words_top, words_right, _) = boxes(document)
    assert words_top == pytest.approx(bottom + 12.0, abs=0.2)
    assert (words_left + words_right) / 2 == pytest.approx((left + right) / 2, abs=0.2)
    assert words_right - words_left <= right - left + 0.1


def test_a_third_and_a_fourth_design_find_room_of_their_own():
    document = motif_and_words()
    for number in range(3):
        document.apply(added(document.workshop, f"{number}.svg", source_of(f"{number}.svg", svg(SMALL))))
    designs = document.plan.garments[0].designs
    for k, one in enumerate(designs):
        for other in designs[k + 1 :]:
            assert one.panel.id != other.panel.id or shapely.distance(one.art, other.art) > 3.0


def test_sections_apart_from_one_another_are_not_off_centre_and_keep_their_gaps_when_they_are():
    document = three()
    assert "off-centre" not in [finding.id for finding in document.plan.findings]
    before = boxes(document)
    for number in range(3):
        own = document.job.designs[number].placement.from_centre_mm
        document.apply(set_placement("x", design=number, from_centre_mm=own + 15.0))
    (finding,) = [one for one in document.plan.findings if one.id == "off-centre"]
    document.apply(finding.mend)
    assert [box[0] for box in boxes(document)] == pytest.approx([box[0] for box in before], abs=0.05)
    assert "off-centre" not in [one.id for one in document.plan.findings]


def test_a_group_moves_nothing_is_cut_as_one_and_keeps_its_proportions_on_all_sizes():
    document = motif_and_words(sizes=SEVEN)
    before = boxes(document)
    document.apply(grouped(document.plan.garments[0], [0, 1], "motif"))
    assert np.array(boxes(document)) == pytest.approx(np.array(before), abs=0.05)
    (composed,) = document.plan.garments[0].compositions
    assert isinstance(composed, Composition)
    own = lengths(before)
    for garment in document.plan.garments:
        there = lengths(design.art.bounds for design in garment.designs)
        assert [a / b for a, b in zip(there, own, strict=True)] == pytest.approx([there[0] / own[0]] * 4, rel=1e-3)


def test_a_group_of_groups_comes_apart_from_outside_in():
    document = three()
    document.apply(grouped(document.plan.garments[0], [0, 1], "inner"))
    document.apply(grouped(document.plan.garments[0], [0, 2], "outer"))
    assert [design.group for design in document.job.designs] == [("outer", "inner"), ("outer", "inner"), ("outer",)]
    document.apply(ungrouped(document.job, "outer"))
    assert [design.group for design in document.job.designs] == [("inner",), ("inner",), ()]
    with pytest.raises(ZinnetError, match="no group “outer”; there are: inner"):
        ungrouped(document.job, "outer")


@pytest.mark.parametrize(
    ("designs", "said"),
    [([0], "two designs or more"), ([0, 7], "no design 8"), ([0, 1], "a group “there” already")],
)
def test_what_can_be_no_group_is_refused_in_a_sentence(designs, said):
    document = three()
    document.apply(grouped(document.plan.garments[0], [1, 2], "there"))
    with pytest.raises(ZinnetError, match=said):
        grouped(document.plan.garments[0], designs, "there")


@settings(max_examples=cases(30, 300))
@given(
    st.lists(st.tuples(st.floats(-90, 90), st.floats(40, 300), st.floats(20, 80)), min_size=2, max_size=4),
    st.sampled_from(("left", "centre", "right", "top", "middle", "bottom")),
    st.sampled_from(("first", "each-other", "panel")),
    st.floats(-20, 20),
)
def test_what_is_aligned_is_in_line(places, by, to, at_mm):
    document = scattered(places)
    garment = document.plan.garments[0]
    document.apply(aligned(garment, range(len(places)), by, to, at_mm))
    low, high = (0, 2) if by in ("left", "centre", "right") else (1, 3)
    share = {"left": 0, "top": 0, "centre": 0.5, "middle": 0.5, "right": 1, "bottom": 1}[by]
    found = [box[low] + share * (box[high] - box[low]) for box in boxes(document)]
    rest = found[1:] if to == "first" else found
    goal = {
        "first": garment.designs[0].art.bounds,
        "each-other": hull_box([design.art for design in garment.designs]),
        "panel": garment.designs[0].panel.usable.bounds,
    }[to]
    assert rest == pytest.approx([goal[low] + share * (goal[high] - goal[low]) + at_mm] * len(rest), abs=0.01)
    other = (1, 3) if low == 0 else (0, 2)
    for before, box in zip(garment.designs, boxes(document), strict=True):
        assert [box[k] for k in other] == pytest.approx([before.art.bounds[k] for k in other], abs=0.01)


def scattered(places):
    """Return designs with the given middles, distances and widths (mm)."""
    (x, y, width), *others = places
    document = document_of(SMALL, set_placement("x", width_mm=width, from_centre_mm=x, from_reference_mm=y))
    for number, (x, y, width) in enumerate(others, start=1):
        document.apply(add_design(f"{number}.svg", svg(SMALL)))
        document.apply(set_placement("x", design=number, width_mm=width, from_centre_mm=x, from_reference_mm=y))
    return document


@settings(max_examples=cases(30, 300))
@given(
    st.lists(st.tuples(st.floats(-90, 90), st.floats(40, 300), st.floats(10, 30)), min_size=2, max_size=4),
    st.sampled_from(("across", "down")),
    st.sampled_from((None, 0.0, 7.5)),
    st.booleans(),
)
def test_gaps_are_equal(places, along, gap, over):
    document = scattered(places)
    garment = document.plan.garments[0]
    low, high = (0, 2) if along == "across" else (1, 3)
    sizes = [design.art.bounds[high] - design.art.bounds[low] for design in garment.designs]
    room = garment.designs[0].panel.usable.bounds
    around = hull_box([design.art for design in garment.designs])
    least = sum(sizes) if over or gap is None else 0.0
    if least > (room[high] - room[low] if over else around[high] - around[low]):
        with pytest.raises(ZinnetError, match="too large"):
            spread(garment, range(len(places)), along, None if over else gap, over_panel=over)
        return
    document.apply(spread(garment, range(len(places)), along, None if over else gap, over_panel=over))
    found = sorted(boxes(document), key=lambda box: box[low] + box[high])
    gaps = [b[low] - a[high] for a, b in pairwise(found)]
    if over:
        gaps += [found[0][low] - room[low], room[high] - found[-1][high]]
    assert gaps == pytest.approx([gap if gap is not None and not over else gaps[0]] * len(gaps), abs=0.02)


def test_a_group_is_aligned_whole():
    document = motif_and_words()
    document.apply(grouped(document.plan.garments[0], [0, 1], "motif"))
    document.apply(aligned(document.plan.garments[0], [1], "left", "panel", 5.0))
    before, after = [units_of(one.plan.garments[0], [0])[0].box for one in (motif_and_words(), document)]
    assert [after[k] - after[0] for k in range(4)][2] == pytest.approx(before[2] - before[0], abs=0.05)
    assert after[0] == pytest.approx(document.plan.blank.main.usable.bounds[0] + 5.0, abs=0.05)


def test_by_command_they_mean_the_same(tmp_path):
    job = tmp_path / "walk.zinnet"
    for name in ("moth", "moon", "reed"):
        (tmp_path / f"{name}.svg").write_bytes(svg(SMALL))
    assert run_command("job", "new", "--blank", "place-mat", "--out", job).returncode == 0
    for name, aside in (("moth", "-100mm"), ("moon", "0mm"), ("reed", "70mm")):
        said = run_command("job", "add", job, tmp_path / f"{name}.svg", "--width", "60mm")
        assert said.returncode == 0, said.stderr
        number = said.stdout.strip()
        keys = (f"design.{number}.place=middle", f"design.{number}.aside={aside}")
        assert run_command("job", "set", job, *keys).returncode == 0
    for words in (
        ("spread", job, 1, 2, 3, "--along", "across", "--gap", "25mm"),
        ("align", job, 1, 2, 3, "--by", "middle", "--to", "panel"),
        ("group", job, 1, 2, 3, "--name", "sections"),
        ("align", job, 1, "--by", "centre", "--to", "centre-line"),
    ):
        done = run_command("job", *words)
        assert done.returncode == 0, done.stderr
    shown = json.loads(run_command("job", "show", job, "--json").stdout)
    assert [row["group"] for row in shown["designs"]] == [["sections"]] * 3
    checked = json.loads(run_command("check", job, "--json").stdout)
    assert "off-centre" not in json.dumps(checked)
    assert run_command("job", "ungroup", job, "sections").returncode == 0
    refused = run_command("job", "ungroup", job, "sections")
    assert refused.returncode != 0
    assert "no group “sections”" in refused.stderr


def sash(words="MISS REED MOON", **fields):
    document = Document(standard_workshop())
    document.apply(set_blank("sash", kind="sash", size=None))
    document.apply(added(document.workshop, "words", TextArt(text=TextSpec(text=words, **fields))))
    return document


@pytest.mark.parametrize("fields", [{}, {"letter_spacing": 0.1, "kerns": (Kern(line=0, letter=6, em=0.3),)}])
def test_the_words_of_a_sash_are_three_pieces_of_one_letter_height_where_they_stood(fields):
    document = sash(**fields)
    (before,) = document.plan.garments[0].designs
    assert len(document.plan.nests[0].parts) == 1
    document.apply(words_apart(document.job, before))
    after = document.plan.garments[0].designs
    assert [design.artwork.shapes[0].fill.colour for design in after] == ["#1a1a1a"] * 3
    assert len(document.plan.nests[0].parts) == 3
    moved = union([design.art for design in after])
    assert shapely.symmetric_difference(moved, before.art).area < 2e-3 * before.art.area
    heights = [design.art.bounds[3] - design.art.bounds[1] for design in after]
    assert max(heights) < 1.05 * min(heights)  # capitals; the round ones reach a little beyond the straight ones
    document.apply(spread(document.plan.garments[0], range(3), "across", 40.0))
    left, middle, right = (design.art.bounds for design in document.plan.garments[0].designs)
    assert [middle[0] - left[2], right[0] - middle[2]] == pytest.approx([40.0, 40.0], abs=0.05)


@pytest.mark.parametrize(
    ("document", "said"),
    [(sash("MISS"), "one word"), (sash("MISS REED", bend_deg=40.0), "bent text"), (document_of(BOX), "no text")],
)
def test_what_has_no_words_to_set_apart_is_refused_in_a_sentence(document, said):
    with pytest.raises(ZinnetError, match=said):
        words_apart(document.job, document.plan.garments[0].designs[0])


def test_a_caption_half_outside_its_page_is_said_and_taken_in():
    body = f'{BOX}<rect x="60" y="80" width="80" height="10" fill="#1f57c3"/>'
    document = document_of(body)
    (finding,) = [one for one in document.plan.findings if one.id == "outside-page"]
    assert (finding.level, "1 shape is cut off" in finding.measured) == ("warn", True)
    seen = document.plan.garments[0].designs[0].split
    document.apply(finding.mend)
    taken = document.plan.garments[0].designs[0].split
    assert taken.width_mm / taken.height_mm == pytest.approx(140 / 90)
    assert seen.width_mm / seen.height_mm == pytest.approx(100 / 90)
    assert "outside-page" not in [one.id for one in document.plan.findings]


def bars_apart(gap):
    bars = "".join(f'<rect x="{k * (20 + gap)}" width="20" height="40" fill="#d62828"/>' for k in range(3))
    return document_of(bars, set_placement("x", width_mm=60 + 2 * gap), set_nesting("x", cut_apart="parts"))


def test_letters_set_apart_are_trimmed_to_half_their_gap_and_said_where_scissors_can_not():
    plan = bars_apart(2.6).plan
    assert "carrier-overlap" not in [one.id for one in plan.findings]
    lines = [line for step in plan.presses[0].steps if step.kind == "lay" for line in step.words]
    assert any("1.3 mm" in line for line in lines)
    near = bars_apart(1.6)
    (finding,) = [one for one in near.plan.findings if one.id == "carrier-overlap"]
    assert "1.6 mm apart" in finding.measured
    near.apply(finding.mend)
    assert "carrier-overlap" not in [one.id for one in near.plan.findings]


def test_a_glitter_name_on_a_glitter_head_is_a_stop_whose_mend_cuts_it_out():
    document = document_of(
        '<circle cx="50" cy="50" r="50" fill="#d62828"/>',
        choose_film("#d62828", "gold-glitter"),
        set_placement("x", width_mm=160.0, from_reference_mm=70.0),
    )
    document.apply(add_source("Ada", TextArt(text=TextSpec(text="Ada", colour="#1f57c3"))))
    document.apply(choose_film("#1f57c3", "rose-glitter"))
    document.apply(set_placement("x", design=1, width_mm=90.0, from_reference_mm=130.0))
    (finding,) = [one for one in document.plan.findings if one.id == "designs-overlap"]
    assert finding.level == "stop"
    document.apply(finding.mend)
    assert not [one for one in document.plan.findings if one.id == "designs-overlap"]
    (composed,) = document.plan.garments[0].compositions
    head, name = (row.layer.region for row in composed.layers)
    assert shapely.intersection(head, name).area < 0.01
    assert len([ring for part in head.geoms for ring in part.interiors]) >= 3
