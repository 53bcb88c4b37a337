"""Laying by the four lengths of a card: a solver of its own, which knows the blank, the film and four numbers."""

import math
import os

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, reject
from hypothesis import strategies as st
from scipy.optimize import least_squares

from tests.helpers import document_of
from zinnet.base.errors import ArtworkError
from zinnet.base.units import read_length, write_length
from zinnet.blanks.catalogue import read_blank_name
from zinnet.geometry.region import union
from zinnet.job.edits import choose_blank, set_placement
from zinnet.placement.lay_lengths import GOOD_DEG, laying_of

BLANKS = (
    "tee",
    "hoodie",
    "tote",
    "apron",
    "cap",
    "blanket",
    "zip-pouch",
    "pillow-cover",
    "stocking",
    "banner",
    "jar",
)
COLOURS = ("#f4ead5", "#c8372d", "#2f7d5b")
OFF_MM, OFF_DEG = 0.5, 0.3
READ_MM = 0.12
MOST_PLACES = 2 if os.environ.get("ZINNET_TESTS", "short") == "short" else 99
"""Of a motif that is repeated the first ones are laid: the others cost time and are alike; the long run lays all."""
MOST_TILT = math.radians(4)


def edge_at(outline, y, side):
    """Return the x of the outline's left or right edge at a height, by a line across it."""
    left, top, right, bottom = outline.bounds
    y = min(max(y, top + 1e-3), bottom - 1e-3)
    met = shapely.intersection(outline, shapely.LineString([(left - 9, y), (right + 9, y)]))
    return met.bounds[0 if side == "left" else 2]


def read_at(length, point, outline, reference_y, film):
    """Return what a ruler reads for a length whose point on the film lies at ``point``."""
    x, y = point
    if length.kind in ("reference", "second"):
        if reference_y is not None:
            return y - reference_y
        left, top, right, bottom = outline.bounds
        at = min(max(x, left + 1e-3), right - 1e-3)
        down = shapely.LineString([(at, top - 9), (at, bottom + 9)])
        return y - shapely.intersection(outline, down).bounds[1]
    if length.kind == "left":
        return x - edge_at(outline, y, "left")
    if length.kind == "right":
        return edge_at(outline, y, "right") - x
    return shapely.distance(shapely.Point(point), film.boundary)


def laid_by(laying, numbers, middle, outline, reference_y, film, start):
    """Return where the piece lies (right, down in mm, turn in rad) by the numbers alone."""
    points = [np.array(one.start) - middle for one in laying.lengths]

    def misfit(off):
        cosine, sine = math.cos(off[2]), math.sin(off[2])
        turned = np.array([[cosine, -sine], [sine, cosine]])
        return [
            read_at(one, turned @ point + middle + off[:2], outline, reference_y, film) - number
            for one, point, number in zip(laying.lengths, points, numbers, strict=True)
        ]

    best = None
    for one in (start, *([x, y, turn] for turn in (0.0, 0.03, -0.03) for x in (-4, 4) for y in (-4, 4))):
        found = least_squares(misfit, one, x_scale=[1, 1, 0.01], diff_step=1e-4)
        if best is None or found.cost < best.cost:
            best = found
        if max(abs(best.fun)) <= READ_MM and abs(best.x[2]) <= MOST_TILT:  # all rulers agree, as straight as it is told
            break
    return best.x


def shapes(draw):
    body = []
    for number in range(draw(st.integers(2, 6))):
        x, y = draw(st.integers(0, 160)), draw(st.integers(0, 120))
        wide, high = draw(st.integers(20, 90)), draw(st.integers(20, 90))
        colour = COLOURS[number % draw(st.integers(1, 3))]
        kind = draw(st.sampled_from(["rect", "ellipse", "leaf", "l"]))
        if kind == "rect":
            body.append(f'<rect x="{x}" y="{y}" width="{wide}" height="{high}" fill="{colour}"/>')
        elif kind == "ellipse":
            body.append(f'<ellipse cx="{x}" cy="{y}" rx="{wide / 2}" ry="{high / 2}" fill="{colour}"/>')
        elif kind == "leaf":
            body.append(f'<path d="M{x} {y} q{wide} 0 {wide} {high} q-{wide} 0 -{wide} -{high}" fill="{colour}"/>')
        else:
            body.append(f'<path d="M{x} {y} h{wide} v12 h-{wide - 12} v{high} h-12 z" fill="{colour}"/>')
    return "".join(body)


@st.composite
def jobs(draw):
    blank = read_blank_name(draw(st.sampled_from(BLANKS)))
    edits = [choose_blank(blank), set_placement("x", width_mm=draw(st.floats(60, 110)))]
    if draw(st.booleans()):
        edits.append(set_placement("x", turn_deg=draw(st.floats(-30, 30))))
    body = shapes(draw)
    try:
        return document_of(body, *edits)
    except ArtworkError:
        return reject()  # nothing of it lies on the page


@given(jobs(), st.floats(-6, 6), st.floats(-6, 6), st.floats(-3, 3), st.sampled_from(["mm", "in"]), st.booleans())
def test_a_piece_laid_by_its_card_lies_in_its_place(document, right, down, turned, unit, by_edge):
    (press,) = document.plan.presses
    design = press.garment.designs[0]
    assume(press.works and design.placement is not None)
    for work in press.works:
        outline, pressed = work.panel.region, []
        for piece in work.pieces:
            for region in piece.each[:MOST_PLACES]:
                film = union(pressed) if pressed else None
                reference = None if by_edge else design.placement.reference
                laying = laying_of(region, work.panel, reference, film, unit=unit)
                numbers = [
                    math.copysign(read_length(write_length(abs(one.mm), unit=unit), unit=unit), one.mm)
                    for one in laying.lengths
                ]
                box = region.bounds
                middle = np.array([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2])
                start = [right, down, math.radians(turned)]
                x, y, turn = laid_by(laying, numbers, middle, outline, reference and reference[1], film, start)
                small = max(box[2] - box[0], box[3] - box[1]) < 25
                told = (press.garment.blank.kind, laying, box)
                assert math.hypot(x, y) <= OFF_MM, told
                assert abs(math.degrees(turn)) <= OFF_DEG or small or unit == "in"
                assert laying.error_deg <= OFF_DEG or small or unit == "in"
                pressed.append(region)


def test_the_kinds_of_length_are_those_of_the_card():
    (press,) = document_of(
        '<rect width="90" height="40" fill="#f4ead5"/><rect y="60" width="50" height="30" fill="#c8372d"/>'
    ).plan.presses
    work = press.works[0]
    first, second = (piece.region for piece in work.pieces)
    reference = press.garment.designs[0].placement.reference
    alone = laying_of(first, work.panel, reference)
    beside = laying_of(second, work.panel, reference, first)
    assert [one.kind for one in alone.lengths] == ["reference", "left", "right", "second"]
    assert [one.kind for one in beside.lengths] == ["reference", "left", "right", "beside"]
    assert max(alone.error_deg, beside.error_deg) <= GOOD_DEG


@pytest.mark.parametrize("kind", BLANKS)
def test_every_kind_of_blank_has_edges_to_measure_to(kind):
    document = document_of('<rect width="90" height="60" fill="#f4ead5"/>', choose_blank(read_blank_name(kind)))
    (press,) = document.plan.presses
    work, design = press.works[0], press.garment.designs[0]
    laying = laying_of(work.pieces[0].region, work.panel, design.placement.reference)
    assert all(math.isfinite(one.mm) for one in laying.lengths)
    for one in laying.lengths:
        assert math.dist(one.start, one.end) == pytest.approx(abs(one.mm), abs=1e-6)
