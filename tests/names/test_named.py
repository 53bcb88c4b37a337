"""Jobs for lists of names: every name in its field, never stretched, cut once for each garment."""

import json
import random

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, nested, run_command
from tests.names.bags import NAMES, bags
from zinnet.artwork.lettering.lines import text_region
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import OutlinedNameArt, TextArt
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.blanks.model import BlankSpec
from zinnet.geometry.transform import moved
from zinnet.job.edits import (
    add_source,
    drop_names,
    set_name_field,
    set_names,
    set_recipe,
)
from zinnet.job.file import load_job, save_job
from zinnet.job.model import Design, Job
from zinnet.job.names.model import NameField, NameList, NameRow
from zinnet.job.names.sizes import WordBox, fit_words
from zinnet.job.names.words import columns_in, filled
from zinnet.nesting.verify import faults
from zinnet.output.papers.names_list import names_list_pdf
from zinnet.output.preflight import wrong_sides
from zinnet.plan.check_list import name_lines, name_list_csv
from zinnet.plan.fitting import fitting_of
from zinnet.plan.named import name_garments
from zinnet.workshop.model import standard_workshop


@pytest.mark.parametrize("sizing", ["one size", "each its own"])
def test_every_name_lies_in_its_field_in_its_own_proportions(sizing):
    document = bags(sizing=sizing, width_mm=180.0, height_mm=50.0)
    ems = []
    for one in document.plan.named:
        (design,) = one.designs
        left, top, right, bottom = design.art.bounds
        assert right - left <= 180.0 + 0.05
        assert bottom - top <= 50.0 + 0.05
        assert shapely.covers(shapely.buffer(design.panel.usable, 0.05), design.art)
        alone = proportions(one.words)
        assert (right - left) / (bottom - top) == pytest.approx(alone, rel=2e-3)
        ems.append(document.plan.garments[0].designs[0].words.ems[one.row])
    assert (len(set(ems)) == 1) == (sizing == "one size")


def proportions(word):
    """Return the proportions of a word, set by itself."""
    left, top, right, bottom = text_region(TextSpec(text=word, font="dancing-script")).bounds
    return (right - left) / (bottom - top)


def test_names_are_centred_like_any_design_of_their_place():
    for one in bags().plan.named:
        (design,) = one.designs
        left, _, right, _ = design.art.bounds
        x, _ = design.placement.reference
        assert (left + right) / 2 == pytest.approx(x, abs=0.05)


def test_each_name_is_cut_as_often_as_it_is_asked_for_and_lies_on_its_garment_as_worn():
    document = bags()
    rows = document.job.names.rows
    names = document.job.names.model_copy(update={"rows": (rows[0].model_copy(update={"count": 3}), *rows[1:])})
    document.apply(set_names(names))
    nested(document)
    plan = document.plan
    assert plan.garments[0].copies == 3 + len(NAMES) - 1
    cut = [mat.nest.part(placed.piece).row for mat in plan.mats for placed in mat.layout.placed]
    assert sorted(cut) == sorted([0, 0, *range(len(NAMES))])
    for nest in plan.nests:
        assert faults(nest.task, nest.layout) == []
    for mat in plan.mats:
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            part = mat.nest.part(placed.piece)
            back = np.linalg.inv(placed.matrix @ plan.panel_to_cut(part, placed.copy_number))
            worn = moved(region, back)
            design = plan.named[part.row].compositions[part.composition]
            assert shapely.symmetric_difference(worn, design.art).area < 0.01 * design.art.area
    assert list(wrong_sides(plan)) == []


def test_words_with_outlines_keep_them_within_the_field():
    spec = OutlinedNameArt(name=OutlinedNameSpec(name="{name}", second="{team}"))
    job = Job(blank=BlankSpec(kind="tee", size="adult-m"), designs=(Design(source=spec),))
    document = Document(standard_workshop(), job)
    rows = tuple(NameRow(values=(word, "Drums")) for word in ("Ada", "Bartholomew"))
    fields = (NameField(design=0, width_mm=150.0, height_mm=60.0, sizing="each its own"),)
    document.apply(set_names(NameList(columns=("name", "team"), rows=rows, fields=fields)))
    for one in document.plan.named:
        left, top, right, bottom = one.designs[0].art.bounds
        assert right - left <= 150.05
        assert bottom - top <= 60.05
        assert max((right - left) / 150, (bottom - top) / 60) > 0.97
    assert len(document.plan.named[0].designs[0].layers) == 2


def test_sizes_and_films_follow_the_list():
    job = Job(blank=BlankSpec(kind="tee", size="adult-m"), designs=(Design(source=TextArt(text=TextSpec(text="{n}"))),))
    document = Document(standard_workshop(), job)
    amber = document.workshop.film("amber").colour
    rows = (
        NameRow(values=("Ada",), size="youth-m"),
        NameRow(values=("Bo",), size="adult-l", colour=amber, count=2),
        NameRow(values=("Cleo",), size="youth-m"),
    )
    document.apply(set_names(NameList(columns=("n",), rows=rows)))
    assert {garment.size: garment.copies for garment in document.plan.garments} == {"youth-m": 2, "adult-l": 2}
    by_film = {nest.film.id: sum(piece.copies for piece in nest.task.pieces) for nest in document.plan.nests}
    assert by_film["amber"] == 2
    assert sum(by_film.values()) == 4
    document.apply(drop_names())
    assert document.plan.named == ()
    assert document.plan.nests


def test_rows_without_a_size_are_of_the_first_size_where_the_blank_names_none():
    source = TextArt(text=TextSpec(text="{n}"))
    document = Document(standard_workshop(), Job(blank=BlankSpec(kind="tee"), designs=(Design(source=source),)))
    own = document.plan.blank.size
    rows = (
        NameRow(values=("Ada",)),
        NameRow(values=("Bo",), size=own),
        NameRow(values=("Bartholomew",), size="adult-l"),
    )
    document.apply(set_names(NameList(columns=("n",), rows=rows)))
    assert {garment.size: garment.copies for garment in document.plan.garments} == {own: 2, "adult-l": 1}
    assert [len(one.designs) for one in document.plan.named] == [1, 1, 1]
    shown = document.plan.garments[0].designs[0].words
    assert set(shown.widths) == {0, 1}


def test_a_text_without_braces_becomes_the_field():
    document = bags(text="Example")
    assert columns_in(document.job.designs[0].source) == ("name",)
    assert {one.words for one in document.plan.named} == set(NAMES)


def test_a_job_without_a_text_or_with_two_says_where_the_braces_belong():
    document = document_of('<rect width="9" height="9"/>')
    names = NameList(columns=("name",), rows=(NameRow(values=("Ada",)),))
    with pytest.raises(ZinnetError, match=r"no text for names; write \{name\}"):
        document.apply(set_names(names))
    for word in ("One", "Two"):
        document.apply(add_source(word, TextArt(text=TextSpec(text=word))))
    with pytest.raises(ZinnetError, match="several texts"):
        document.apply(set_names(names))


def test_a_column_that_is_not_there_is_named():
    with pytest.raises(ZinnetError, match="no column “surname”; it has: name"):
        bags(text="{surname}")


def test_a_row_without_a_word_has_no_piece_for_it():
    source = TextArt(text=TextSpec(text="{nick}"))
    assert filled(source, NameList(columns=("nick",), rows=()), NameRow(values=(" ",))) is None
    job = Job(blank=BlankSpec(kind="tote", size="one"), designs=(Design(source=source),))
    document = Document(standard_workshop(), job)
    rows = (NameRow(values=("Ada", "Addy")), NameRow(values=("Bo", "")))
    document.apply(set_names(NameList(columns=("name", "nick"), rows=rows)))
    assert [len(one.designs) for one in document.plan.named] == [1, 0]
    assert [line.pieces for line in name_lines(document.plan)][1] == ()


def findings(document):
    return {finding.id: finding for finding in document.plan.findings}


def test_a_long_name_a_name_twice_and_a_missing_letter_are_found():
    found = findings(bags(("Ada", "Bo", "Eli", "Bartholomew of the Long Reed Bank", "Bo")))
    assert "every name gets them" in found["name-too-long"].measured
    assert "(no. 4)" in found["name-too-long"].measured
    assert "“Bo” (no. 2)" in found["name-twice"].measured
    assert not {"name-too-long", "name-twice", "missing-glyph"} & set(findings(bags()))
    document = bags(("Ada", "Ωmega"), font="dancing-script")
    missing = findings(document)["missing-glyph"]
    assert "“Ωmega” (no. 2)" in missing.measured
    document.apply(missing.mend)
    assert "missing-glyph" not in findings(document)


def test_a_field_wider_than_the_bag_is_outside_for_every_name_that_is():
    found = findings(bags(("Adalbert", "Bernhard"), sizing="each its own", width_mm=400.0, height_mm=200.0))
    assert "outside-usable-area" in found


def test_a_field_too_small_for_outlines_is_refused():
    spec = OutlinedNameArt(name=OutlinedNameSpec(name="{name}"))
    document = Document(standard_workshop(), Job(designs=(Design(source=spec),)))
    names = NameList(columns=("name",), rows=(NameRow(values=("Ada",)),), fields=(NameField(design=0, height_mm=5.0),))
    with pytest.raises(ZinnetError, match="too small"):
        document.apply(set_names(names))


def test_fields_and_fonts_can_be_changed_and_taken_back():
    document = bags()
    before = document.plan.garments[0].designs[0].words
    document.apply(set_name_field(0, width_mm=120.0))
    assert document.plan.garments[0].designs[0].words.width_mm == 120.0
    document.apply(set_recipe("font", "text", 0, font="bebas-neue"))
    document.undo()
    document.undo()
    assert document.plan.garments[0].designs[0].words.width_mm == before.width_mm


def test_making_names_can_be_watched_and_stopped():
    document = bags()
    plan = document.plan
    seen = []

    def each(done, of):
        seen.append((done, of))
        return len(seen) < 3

    job = document.job.model_copy(
        update={"title": "again", "layers": document.job.layers.model_copy(update={"spread": "outline"})}
    )
    found = name_garments(fitting_of(job, document.workshop), plan.garments, each)
    assert 3 <= len(found) < len(NAMES)
    assert seen[0][1] == len(NAMES)


def test_the_check_list_accounts_for_every_garment(tmp_path):
    document = nested(bags())
    lines = name_lines(document.plan)
    assert [line.words for line in lines] == list(NAMES)
    assert all(line.mats and sum(count for _, count in line.pieces) == 1 for line in lines)
    assert all(line.steps == len(document.plan.presses[0].steps) for line in lines)
    rows = name_list_csv(lines).splitlines()
    assert len(rows) == 1 + len(NAMES)
    import pypdfium2

    text = pypdfium2.PdfDocument(names_list_pdf(document.plan))[0].get_textpage().get_text_range()
    for line in lines:
        assert line.words in text
        assert f"{line.sizes[0][0]:.1f} x {line.sizes[0][1]:.1f} mm" in text
    with pytest.raises(ZinnetError, match="no list of names"):
        names_list_pdf(document_of('<rect width="9" height="9"/>').plan)


def test_a_job_with_names_is_saved_and_opened_again(tmp_path):
    document = bags()
    path = tmp_path / "bags.zinnet"
    save_job(path, document.job, {})
    job, _ = load_job(path)
    assert job == document.job


def test_the_command_makes_the_job_and_its_list(tmp_path):
    job = bags(text="Example").job.model_copy(update={"names": NameList()})
    save_job(tmp_path / "bags.zinnet", job, {})
    (tmp_path / "names.csv").write_text("name,count\nAda,2\nBo,1\n", encoding="utf-8")
    out = tmp_path / "named.zinnet"
    listed = tmp_path / "list.pdf"
    found = run_command(
        "names", tmp_path / "bags.zinnet", "--csv", tmp_path / "names.csv", "--out", out, "--list", listed, "--json"
    )
    assert found.returncode == 0, found.stderr
    assert [line["count"] for line in json.loads(found.stdout)["names"]] == [2, 1]
    assert listed.read_bytes().startswith(b"%PDF")
    assert len(load_job(out)[0].names.rows) == 2
    wrong = run_command(
        "names", tmp_path / "bags.zinnet", "--csv", tmp_path / "names.csv", "--list", tmp_path / "x.doc"
    )
    assert wrong.returncode == 2
    assert "as .csv or .pdf" in wrong.stderr


boxes = st.dictionaries(
    st.integers(0, 50),
    st.builds(WordBox, st.floats(0.3, 20), st.floats(0.3, 3), st.floats(0, 3)),
    min_size=1,
    max_size=20,
)


@given(boxes, st.floats(20, 500), st.floats(20, 500), st.sampled_from(["one size", "each its own"]))
def test_fitted_words_are_as_large_as_can_be(found, width, height, sizing):
    words = fit_words(found, width, height, sizing)
    used = []
    for row, box in found.items():
        wide, high = words.widths[row], box.height * words.ems[row] + 2 * box.rim_mm
        assert wide <= width + 1e-6
        assert high <= height + 1e-6
        used.append(max(wide / width, high / height))
    assert max(used) == pytest.approx(1.0)
    if sizing == "each its own":
        assert min(used) == pytest.approx(1.0)
    assert words.widths[words.widest] == max(words.widths.values())


def test_random_scripts_and_fonts_stay_in_their_field():
    luck = random.Random(3)
    words = tuple("".join(luck.choice("abdefgjlpqty") for _ in range(luck.randint(1, 9))).title() for _ in range(12))
    for font in ("dancing-script", "bebas-neue", "atkinson"):
        document = bags(words, font=font, sizing="each its own", width_mm=150.0, height_mm=40.0)
        for one in document.plan.named:
            left, top, right, bottom = one.designs[0].art.bounds
            assert right - left <= 150.05
            assert bottom - top <= 40.05


@pytest.mark.parametrize(
    "source",
    [
        TextArt(text=TextSpec(text="{name}", font="bitter")),
        OutlinedNameArt(name=OutlinedNameSpec(name="{name}", font="bitter")),
    ],
)
def test_a_letter_of_a_name_that_the_font_lacks_is_said_whatever_makes_the_words(source):
    document = Document(standard_workshop())
    document.apply(add_source("name", source))
    rows = tuple(NameRow(values=(name,)) for name in ("Ada", "Elżbieta"))
    document.apply(set_names(NameList(columns=("name",), rows=rows)))
    (finding,) = [one for one in document.plan.findings if one.id == "missing-glyph" and one.subject == "names 0"]
    assert "Elżbieta" in finding.measured
    document.apply(finding.mend)
    assert "missing-glyph" not in [one.id for one in document.plan.findings]
