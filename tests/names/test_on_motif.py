"""Names that lie on a motif: each is cut out of a motif of its own; what has no name keeps the plain one."""

from collections import Counter

import pytest
import shapely

from tests.helpers import document_of, nested
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.job.edits import add_source, choose_film, set_names, set_placement, set_sizes
from zinnet.job.names.model import NameList, NameRow
from zinnet.placement.arrange import Rows
from zinnet.plan.check_list import name_lines
from zinnet.plan.run_garments import run_presses

HEAD = '<circle cx="50" cy="50" r="50" fill="#d62828"/>'
ROWS = (
    NameRow(values=("Ada",)),
    NameRow(values=("Bo",), count=2),
    NameRow(values=("",)),
    NameRow(values=("Mila",), size="adult-l"),
)


@pytest.fixture
def document():
    document = document_of(
        HEAD,
        choose_film("#d62828", "gold-glitter"),
        set_placement("x", width_mm=160.0, from_reference_mm=70.0),
        set_sizes((("adult-l", 1),)),
        add_source("names", TextArt(text=TextSpec(text="{name}", colour="#1f57c3"))),
        choose_film("#1f57c3", "rose-glitter"),
        set_placement("x", design=1, width_mm=90.0, from_reference_mm=130.0),
        set_names(NameList(columns=("name",), rows=ROWS)),
    )
    document.apply(next(one.mend for one in document.plan.findings if one.id == "designs-overlap"))
    return nested(document)


def test_every_garment_gets_its_motif_and_its_name_once(document):
    cut = Counter(
        (mat.nest.film.id, mat.nest.part(placed.piece).row)
        for mat in document.plan.mats
        for placed in mat.layout.placed
    )
    heads = {("gold-glitter", row): count for row, count in ((0, 1), (1, 2), (3, 1), (None, 1))}
    names = {("rose-glitter", row): count for row, count in ((0, 1), (1, 2), (3, 1))}
    assert cut == heads | names
    pieces = [dict(line.pieces) for line in name_lines(document.plan)]
    assert [row.get("Gold glitter") for row in pieces] == [1, 2, 1, 1]
    assert [row.get("Rose glitter") for row in pieces] == [1, 2, None, 1]


def test_a_name_on_one_of_several_motifs_takes_none_of_the_others_away():
    """The places that the name does not touch are cut for its garment all the same."""
    document = document_of(
        HEAD,
        choose_film("#d62828", "gold-glitter"),
        set_placement("x", width_mm=60.0, arrangement=Rows(rows=2, columns=2, stagger=False)),
    )
    places = len(document.plan.garments[0].designs[0].placement.matrices)
    x, y = document.plan.garments[0].designs[0].placement.centre
    top = document.plan.blank.main.references["collar"][1]
    for edit in (
        add_source("names", TextArt(text=TextSpec(text="{name}", colour="#1f57c3"))),
        choose_film("#1f57c3", "rose-glitter"),
        set_placement("x", design=1, width_mm=40.0, from_centre_mm=x, from_reference_mm=y - top - 5),
        set_names(NameList(columns=("name",), rows=(NameRow(values=("Ada",)), NameRow(values=("",), count=3)))),
    ):
        document.apply(edit)
    (nest,) = [nest for nest in document.plan.nests if nest.film.id == "gold-glitter"]
    copies = {piece.name: piece.copies for piece in nest.task.pieces}
    cut: Counter[int | None] = Counter()
    for part in nest.parts:
        cut[part.row] += copies[part.name]
    assert places == 4
    assert cut == {0: 4, None: 12}


def test_each_name_is_cut_out_of_its_own_motif(document):
    for one in document.plan.named:
        for composed in one.compositions:
            head, name = (row.layer.region for row in composed.layers)
            assert shapely.intersection(head, name).area < 0.01
            assert shapely.distance(head, name) < 0.01


def test_at_the_bench_every_garment_is_pressed_with_its_motif_and_its_name(document):
    """Also the one whose row has no words, and the plain one; a name is cut out of the motif that it lies on."""
    films = [
        (press.garment.copies, sorted(piece.film.id for work in press.works for piece in work.pieces))
        for _, press in run_presses(document.plan)
    ]
    both, alone = ["gold-glitter", "rose-glitter"], ["gold-glitter"]
    assert Counter((copies, tuple(found)) for copies, found in films) == {
        (1, tuple(both)): 2,
        (2, tuple(both)): 1,
        (1, tuple(alone)): 1,
    }


def test_a_motif_beside_the_name_is_pressed_with_it():
    document = document_of(
        HEAD,
        set_placement("x", width_mm=80.0, from_reference_mm=70.0),
        add_source("names", TextArt(text=TextSpec(text="{name}", colour="#1f57c3"))),
        set_placement("x", design=1, width_mm=90.0, from_reference_mm=220.0),
        set_names(NameList(columns=("name",), rows=ROWS[:2])),
    )
    for _, press in run_presses(document.plan):
        assert len({piece.design for work in press.works for piece in work.pieces}) == 2
