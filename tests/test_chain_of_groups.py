"""The chain of transforms for groups: cut files of grouped designs, laid where their places say, are the picture."""

import itertools

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import as_worn, cases, outlines_in_hpgl, outlines_in_svg
from tests.test_chain import scattered, upright, within
from tests.test_compositions import BLUE, CREAM, MM, RECTANGLES, RED, TOP_MM, box_of, document_of
from zinnet.cutting.hpgl import cut_hpgl
from zinnet.cutting.svg_file import cut_svg
from zinnet.job.edits import set_nesting, set_placement
from zinnet.output.plan_json import plan_json


def painted(shapes, reference):
    """Return what is seen of each colour where rectangles lie over one another, worked out by hand on the panel."""
    boxes = np.array([box_of(shape) for shape in shapes])
    middle, top = (boxes[:, 0].min() + boxes[:, 2].max()) / 2, boxes[:, 1].min()
    seen = {}
    for fill, x, y, wide, high in shapes:
        left, up = reference[0] + (x - middle) * MM, reference[1] + TOP_MM + (y - top) * MM
        box = shapely.box(left, up, left + wide * MM, up + high * MM)
        seen = {colour: shapely.difference(region, box) for colour, region in seen.items()}
        seen[fill] = shapely.union(seen.get(fill, shapely.Polygon()), box)
    return {colour: region for colour, region in seen.items() if not region.is_empty}


def on_the_panel(plan):
    """Return what is laid of each layer, by order: by the files that are read back, once SVG, once HP-GL."""
    said, laid = plan_json(plan), {}
    for mat, row in zip(plan.mats, said["mats"], strict=True):
        (sheet,) = [load.cut_sheet() for load in plan.loads if mat in load.mats]
        (piece,) = row["pieces"]
        back = np.linalg.inv(np.array(piece["cut_to_sheet"]) @ np.array(piece["panel_to_cut"]))
        for kind, read in enumerate(
            (outlines_in_svg(cut_svg(sheet, arcs=False)), upright(outlines_in_hpgl(cut_hpgl(sheet)), mat))
        ):
            worn = as_worn([ring @ back[:2, :2].T + back[:2, 2] for ring in read])
            laid.setdefault(kind, {}).setdefault(piece["layer"], []).append(worn)
    return laid


@settings(max_examples=cases(20, 200))
@given(st.lists(RECTANGLES, min_size=2, max_size=6), st.booleans(), st.integers(-40, 40), st.data())
def test_cut_files_of_grouped_designs_laid_by_the_plan_are_the_picture(shapes, together, off, data):
    cuts = data.draw(st.lists(st.integers(1, len(shapes) - 1), min_size=1, max_size=3, unique=True))
    pictures = [tuple(shapes[a:b]) for a, b in itertools.pairwise([0, *sorted(cuts), len(shapes)])]
    films = tuple((colour, f"smooth-{k}") for k, colour in enumerate((RED, BLUE, CREAM), 1))
    document = document_of(pictures, films, group=("all",))
    for design, one in enumerate(document.job.designs):
        across = one.placement.from_centre_mm + off
        document.apply(set_placement("aside", design=design, width_mm=one.placement.width_mm, from_centre_mm=across))
    document.apply(set_nesting("x", cut_apart="whole" if together else "parts"))
    rng = np.random.default_rng(data.draw(st.integers(0, 1000)))
    for nest in document.plan.nests:
        document.keep_layout(nest.key, scattered(nest, rng))
    (composed,) = document.plan.garments[0].compositions
    panel, place = composed.panel, composed.placement.place
    x, y = panel.references[place.reference]
    reference = (x + off, y)
    expected = painted(shapes, reference)
    for laid in on_the_panel(document.plan).values():
        pressed = {order: shapely.union_all(parts) for order, parts in laid.items()}
        for row in composed.stack.in_press_order:
            above = [region for order, region in pressed.items() if order > row.layer.order]
            seen = shapely.difference(pressed[row.layer.order], shapely.union_all(above))
            assert within(seen, shapely.union_all([expected[colour] for colour in row.colours]), 0.05)
