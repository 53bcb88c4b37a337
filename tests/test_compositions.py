"""Designs in one place of a panel against one drawing of the same picture: the same layers, steps, findings, pieces."""

import itertools

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, nested, outlines_in_svg, svg
from zinnet.bench.document import Document
from zinnet.films.catalogue import Film, film_kinds
from zinnet.films.support import support
from zinnet.geometry.region import union
from zinnet.geometry.transform import moved
from zinnet.job.edits import choose_film, pass_finding, set_blank, set_placement
from zinnet.job.model import Design, Job
from zinnet.output.cut_files import write_cut_files
from zinnet.placement.place import PlacementSpec
from zinnet.plan.composed import Composition
from zinnet.workshop.model import standard_workshop

RED, BLUE, CREAM = "#d62828", "#1f57c3", "#f4ead5"
MM = 2.0
TOP_MM = 60.0
KINDS = tuple(film_kinds())
FILMS = tuple(
    Film(id=f"{kind}-{number}", name=f"{kind} {number}", kind=kind, colour=colour)
    for kind in KINDS
    for number, colour in ((1, RED), (2, BLUE), (3, CREAM))
)


def box_of(shape):
    """Return (left, top, right, bottom) of a shape: a rectangle as SVG."""
    _, x, y, wide, high = shape
    return np.array([x, y, x + wide, y + high])


def drawn(shapes):
    return svg(
        "".join(
            f'<rect x="{x}" y="{y}" width="{wide}" height="{high}" fill="{fill}"/>' for fill, x, y, wide, high in shapes
        ),
        'viewBox="-50 -50 300 300"',
    )


def job_of(pictures, films=(), group=()):
    """Return a job of pictures (tuples of rectangles), each a design, that together lie as they are drawn."""
    boxes = np.array([box_of(shape) for picture in pictures for shape in picture])
    middle, top = (boxes[:, 0].min() + boxes[:, 2].max()) / 2, boxes[:, 1].min()
    designs = []
    for number, picture in enumerate(pictures):
        own = np.array([box_of(shape) for shape in picture])
        left, right = own[:, 0].min(), own[:, 2].max()
        spec = PlacementSpec(
            width_mm=(right - left) * MM,
            from_centre_mm=((left + right) / 2 - middle) * MM,
            from_reference_mm=TOP_MM + (own[:, 1].min() - top) * MM,
        )
        designs.append(Design.of(f"{number}.svg", drawn(picture), spec).model_copy(update={"group": group}))
    job = Job(designs=tuple(designs))
    for colour, film in films:
        job = choose_film(colour, film).change(job)
    return job


def document_of(pictures, films=(), group=()):
    workshop = standard_workshop().model_copy(update={"films": (*standard_workshop().films, *FILMS)})
    return Document(workshop, job_of(pictures, films, group))


def layers_on_panel(plan):
    """Return (order, colours, film, region on the panel) of all that is cut on the first size."""
    found = []
    for composed in plan.garments[0].compositions:
        for row in composed.layers:
            at = union([moved(row.layer.region, matrix) for matrix in composed.placement.matrices])
            found.append((row.layer.order, row.colours, row.film and row.film.id, at))
    return sorted(found, key=lambda one: one[:2])


def assert_same_layers(one, other, of_all=1e-4):
    assert [row[:3] for row in one] == [row[:3] for row in other]
    for (*_, a), (*_, b) in zip(one, other, strict=True):
        assert shapely.symmetric_difference(a, b).area <= of_all * max(a.area, 1.0)


def pieces(plan):
    """Return the film, the side and the area of every piece that is cut, with how often."""
    return sorted(
        (nest.film.id, nest.mirrored, round(part.region.area, 1), len(part.region.geoms))
        for nest in plan.nests
        for part in nest.parts
    )


def found_in(plan):
    """Return what is found, by its id, but that designs lie on one another, which one drawing can't."""
    return sorted({finding.id for finding in plan.findings} - {"designs-overlap"})


def steps_of(plan):
    return [(step.kind, step.heat and (step.heat.heat_c, step.heat.seconds)) for step in plan.presses[0].steps]


LOWER, UPPER = (RED, 0, 0, 60, 40), (BLUE, 40, 20, 60, 40)


@pytest.mark.parametrize(("lower", "upper"), list(itertools.product(KINDS, repeat=2)))
def test_two_designs_on_one_another_come_to_what_one_drawing_of_them_comes_to(lower, upper):
    films = ((RED, f"{lower}-1"), (BLUE, f"{upper}-2"))
    whole = document_of([(LOWER, UPPER)], films).plan
    torn = document_of([(LOWER,), (UPPER,)], films).plan
    assert isinstance(torn.garments[0].compositions[0], Composition)
    assert_same_layers(layers_on_panel(whole), layers_on_panel(torn))
    assert pieces(whole) == pieces(torn)
    assert steps_of(whole) == steps_of(torn)
    assert found_in(whole) == found_in(torn)
    barred = not support(FILMS[0].model_copy(update={"kind": lower}), FILMS[0].model_copy(update={"kind": upper})).holds
    levels = [finding.level for finding in torn.findings if finding.id == "designs-overlap"]
    assert levels == (["stop"] if barred else [])


def outlines_cut(document, folder):
    """Return the lengths and areas of the outlines in every cut file, as another reader has them, file by file."""
    for finding in document.plan.open_stops:
        document.apply(pass_finding(finding.id, "laid so on purpose", finding.subject))
    found = []
    written = write_cut_files(nested(document).plan, folder, ("svg",), arcs=False)
    for path in (one for one in written if one.suffix == ".svg"):
        rings = [shapely.Polygon(ring) for ring in outlines_in_svg(path.read_text()) if len(ring) > 3]
        found.append(sorted((ring.length, ring.area) for ring in rings))
    return found


@pytest.mark.parametrize(("lower", "upper"), list(itertools.product(KINDS, repeat=2)))
def test_their_cut_files_hold_the_same_outlines(lower, upper, tmp_path):
    films = ((RED, f"{lower}-1"), (BLUE, f"{upper}-2"))
    whole, torn = (
        outlines_cut(document_of(pictures, films), tmp_path / name)
        for name, pictures in (("whole", [(LOWER, UPPER)]), ("torn", [(LOWER,), (UPPER,)]))
    )
    assert [len(rings) for rings in whole] == [len(rings) for rings in torn]
    for one, other in zip(whole, torn, strict=True):
        assert len(one) > 0
        assert np.allclose(one, other, rtol=1e-4)


RECTANGLES = st.tuples(
    st.sampled_from((RED, BLUE, CREAM)), st.integers(0, 60), st.integers(0, 60), st.integers(4, 50), st.integers(4, 50)
)


@settings(max_examples=cases(25, 400))
@given(st.lists(RECTANGLES, min_size=2, max_size=7), st.data())
def test_a_drawing_torn_into_designs_comes_to_the_same(shapes, data):
    cuts = data.draw(st.lists(st.integers(1, len(shapes) - 1), min_size=1, max_size=4, unique=True))
    ends = [0, *sorted(cuts), len(shapes)]
    pictures = [tuple(shapes[a:b]) for a, b in itertools.pairwise(ends)]
    kinds = data.draw(st.tuples(*[st.sampled_from(("smooth", "glitter", "flock", "patterned"))] * 3))
    films = tuple(
        (colour, f"{kind}-{k}") for k, (colour, kind) in enumerate(zip((RED, BLUE, CREAM), kinds, strict=True), 1)
    )
    whole, torn = (document_of(one, films).plan for one in ([tuple(shapes)], pictures))
    if len(torn.garments[0].compositions) == 1:
        assert_same_plans(whole, torn)
    assert_same_plans(whole, document_of(pictures, films, group=("all",)).plan)
    covered = [union([row[3] for row in layers_on_panel(plan)]) for plan in (whole, torn)]
    assert shapely.symmetric_difference(*covered).area < 1e-4 * covered[0].area


def assert_same_plans(whole, torn):
    """Hold a drawing and what it was torn into against each other: layers, depth, presses, findings and pieces."""
    assert_same_layers(layers_on_panel(whole), layers_on_panel(torn))
    (drawing,), (composed,) = whole.garments[0].compositions, torn.garments[0].compositions
    assert composed.stack.deepest == drawing.stack.deepest
    assert pieces(whole) == pieces(torn)
    assert steps_of(whole) == steps_of(torn)
    assert found_in(whole) == found_in(torn)


@pytest.mark.parametrize(("behind", "front", "level"), [("glitter", "smooth", None), ("smooth", "glitter", "stop")])
def test_on_the_back_of_glass_what_is_seen_in_front_lies_below(behind, front, level):
    job = job_of([(LOWER,), (UPPER,)], ((RED, f"{behind}-1"), (BLUE, f"{front}-2")))
    job = set_blank("glass", kind="glass-plate", size=None).change(job)
    for design in (0, 1):
        middle = {"from_centre_mm": 20.0 * design, "from_reference_mm": 10.0 * design, "width_mm": 60.0}
        job = set_placement("x", design=design, place="underside", **middle).change(job)
    workshop = standard_workshop().model_copy(update={"films": (*standard_workshop().films, *FILMS)})
    plan = Document(workshop, job).plan
    (composed,) = plan.garments[0].compositions
    assert composed.stack.through_glass
    found = [finding.level for finding in plan.findings if finding.id == "designs-overlap"]
    assert found == ([level] if level else [])
