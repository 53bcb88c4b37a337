"""The invariant above all others: lay every cut piece where its place says, and the artwork comes back."""

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import as_worn, document_of, first_of, outlines_in_hpgl, outlines_in_svg
from zinnet.cutting.hpgl import cut_hpgl
from zinnet.cutting.svg_file import cut_svg
from zinnet.job.edits import (
    choose_film,
    set_copies,
    set_layers,
    set_nesting,
    set_placement,
)
from zinnet.nesting.model import Layout, Placed, SheetLayout
from zinnet.output.plan_json import plan_json

COLOURS = {"#d62828": "scarlet", "#1f57c3": "blue", "#f4ead5": "cream"}
FILMS = ["cream", "moss-flock", "gold-glitter", "white-adhesive", "black"]

shape = st.tuples(
    st.sampled_from(list(COLOURS)),
    st.integers(5, 80),
    st.integers(5, 80),
    st.integers(6, 30),
    st.sampled_from(["circle", "rect", "ring", "curve"]),
)


def body_of(shapes):
    found = []
    for colour, x, y, r, kind in shapes:
        if kind == "circle":
            found.append(f'<circle cx="{x}" cy="{y}" r="{r}" fill="{colour}"/>')
        elif kind == "rect":
            found.append(f'<rect x="{x}" y="{y}" width="{r}" height="{r / 2}" fill="{colour}"/>')
        elif kind == "ring":
            found.append(f'<circle cx="{x}" cy="{y}" r="{r}" fill="none" stroke="{colour}" stroke-width="4"/>')
        else:
            found.append(f'<path d="M{x} {y}c{r} 0 0 {r} {r} {r}s-{r} 4 -{2 * r} 0z" fill="{colour}"/>')
    return "".join(found)


def scattered(nest, rng):
    """Return a layout that puts each copy on a sheet of its own, at any allowed turn: any plan must hold."""
    sheets = []
    for piece in nest.task.pieces:
        for copy in range(1, piece.copies + 1):
            turn = float(rng.choice(piece.allowed_turns))
            placed = Placed(
                piece=piece.name,
                copy_number=copy,
                x_mm=rng.uniform(100, 300),
                y_mm=rng.uniform(100, 300),
                turn_deg=turn,
            )
            sheets.append(SheetLayout(placed=(placed,), used_length_mm=300))
    return Layout(sheets=tuple(sheets))


def moved_by(region, matrix, shift):
    return shapely.transform(region, lambda points: points @ matrix.T + shift)


def upright(rings, mat):
    """Return HP-GL's outlines, y up, in the mat's own coordinates, y down."""
    return [ring * (1, -1) + (0, mat.sheet.height_mm) for ring in rings]


def within(one, other, mm):
    """Tell whether two regions differ nowhere by more than a distance.

    Threads no wider than two flattened lines may differ, 0.02 mm each, are nothing.
    """
    near = [shapely.buffer(region, mm, quad_segs=3) for region in (one, other)]
    left = [shapely.difference(a, b) for a, b in ((one, near[1]), (other, near[0]))]
    return all(shapely.buffer(rest, -0.02).area < 1e-9 for rest in left)


@given(
    st.lists(shape, min_size=1, max_size=4),
    st.lists(st.sampled_from(FILMS), min_size=3, max_size=3),
    st.floats(-180, 180),
    st.floats(-60, 60),
    st.floats(20, 150),
    st.floats(60, 260),
    st.sampled_from(["auto", "cut-away", "stack", "lap"]),
    st.booleans(),
    st.integers(0, 10_000),
)
def test_laying_the_cut_pieces_gives_the_artwork_back(shapes, films, turn, off, below, width, method, together, seed):
    document = document_of(
        body_of(shapes),
        set_layers("x", method=method, lap_mm=2.0),
        set_copies(2),
        set_nesting("x", cut_apart="whole" if together else "parts"),
        set_placement("x", width_mm=width, turn_deg=turn, from_centre_mm=off, from_reference_mm=below),
        *(choose_film(colour, film) for colour, film in zip(COLOURS, films, strict=True)),
        attributes='viewBox="-100 -100 300 300"',
    )
    rng = np.random.default_rng(seed)
    for nest in document.plan.nests:
        document.keep_layout(nest.key, scattered(nest, rng))
    plan = document.plan
    said = plan_json(plan)
    assert first_of(plan).split is not None
    to_panel = np.array(said["placement"]["artwork_to_panel"])
    for copy in (1, 2):
        laid = {row["order"]: [] for row in said["layers"]}
        for mat, row in zip(plan.mats, said["mats"], strict=True):
            (sheet,) = [load.cut_sheet() for load in plan.loads if mat in load.mats]
            (piece,) = row["pieces"]
            if piece["copy"] != copy:
                continue
            back = np.linalg.inv(np.array(piece["cut_to_sheet"]) @ np.array(piece["panel_to_cut"]))
            for read in (outlines_in_svg(cut_svg(sheet, arcs=False)), upright(outlines_in_hpgl(cut_hpgl(sheet)), mat)):
                on_panel = as_worn([ring @ back[:2, :2].T + back[:2, 2] for ring in read])
                laid[piece["layer"]].append(on_panel)
        # What is seen of what is laid, against the artwork's own colours brought to the panel by plan.json alone.
        to_units = first_of(plan).split.source_box[2] / first_of(plan).split.width_mm * np.eye(2)
        colours = {layer.colour: layer.region for layer in first_of(plan).split.layers}
        for kind in (0, 1):
            pressed = {order: shapely.union_all(files[kind::2]) for order, files in laid.items()}
            for row in said["layers"]:
                above = [region for order, region in pressed.items() if order > row["order"]]
                seen = shapely.difference(pressed[row["order"]], shapely.union_all(above))
                drawn = shapely.union_all([colours[colour] for colour in row["colours"]])
                source = moved_by(drawn, to_units, np.array(first_of(plan).split.source_box[:2]))
                worn = moved_by(source, to_panel[:2, :2], to_panel[:2, 2])
                assert within(seen, worn, 0.05)
