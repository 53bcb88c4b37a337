"""Two fonts or weights in one line: what is set, what a change of the text leaves of it, words, lists of names."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, run_command
from zinnet.artwork.lettering.runs import Run, carried_over, letters_at, marked, pieces_of
from zinnet.artwork.lettering.text import TextSpec, shape_line, text_artwork
from zinnet.artwork.source import TextArt
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.job.edits import add_source, retype
from zinnet.job.names.model import NameList, NameRow
from zinnet.job.names.words import filled
from zinnet.plan.words import words_apart
from zinnet.workshop.model import standard_workshop

BITTER, DANCING = ("bitter", None), ("dancing-script", None)


def spec(text, *runs):
    return TextSpec(text=text, runs=runs)


def fonts_of(text, runs):
    return [letters_at(text, runs, k) for k in range(len(text))]


def test_each_piece_is_shaped_in_its_own_font_and_stands_where_the_one_before_ends():
    made = text_artwork(spec("reed walk", Run(line=0, letter=5, count=4, font="bitter")), size_mm=1.0)
    plain = shape_line("reed ", "atkinson")
    other = shape_line("walk", "bitter")
    assert [shape.name for shape in made.shapes] == [f"line-1-{k}" for k in (1, 2, 3, 4, 6, 7, 8, 9)]
    begin = sum(glyph.advance for glyph in plain)
    for shape, glyph in zip(made.shapes[4:], other, strict=True):
        assert shape.matrix[0, 2] == pytest.approx(begin + glyph.x)
        assert all(np.array_equal(a.cubics, b.cubics) for a, b in zip(shape.subpaths, glyph.subpaths, strict=True))


def test_two_weights_of_one_font_in_one_word():
    made = text_artwork(spec("Wrenfield", Run(line=0, letter=4, count=5, font="atkinson", style="bold")), size_mm=1.0)
    bold = shape_line("field", "atkinson", "bold")
    assert [len(shape.subpaths) for shape in made.shapes[4:]] == [len(glyph.subpaths) for glyph in bold]
    assert made.remarks == ()


def test_a_font_that_is_not_here_is_said_and_its_letters_are_set_in_that_of_the_text():
    made = text_artwork(spec("reed walk", Run(line=0, letter=5, count=4, font="nowhere")))
    assert [remark.message for remark in made.remarks] == ["the font nowhere is not here; set in Atkinson Hyperlegible"]
    assert len(made.shapes) == 8


TEXTS = st.text("ab \n", min_size=1, max_size=14)


@given(TEXTS, st.data())
def test_marking_letters_gives_these_and_no_others_the_font(text, data):
    first, last = sorted(data.draw(st.tuples(*[st.integers(0, len(text))] * 2)))
    before = marked(text, (), 0, len(text) // 2, BITTER)
    runs = marked(text, before, first, last, DANCING)
    for k, letter in enumerate(text):
        if letter != "\n":
            expected = DANCING if first <= k < last else BITTER if k < len(text) // 2 else None
            assert letters_at(text, runs, k) == expected
    for row, line in enumerate(text.split("\n")):
        assert "".join(piece.text for piece in pieces_of(row, line, ("atkinson", None), runs)) == line


@given(TEXTS, TEXTS, TEXTS, st.data())
def test_letters_before_and_behind_a_change_keep_their_font(before, middle, behind, data):
    old = before + data.draw(TEXTS) + behind
    first, last = sorted(data.draw(st.tuples(*[st.integers(0, len(old))] * 2)))
    runs = marked(old, (), first, last, BITTER)
    new = before + middle + behind
    kept = fonts_of(new, carried_over(old, new, runs))
    was = fonts_of(old, runs)
    shared = min(len(old), len(new))
    head = next((k for k in range(shared) if old[k] != new[k]), shared)
    assert [f for f, c in zip(kept[:head], new, strict=False) if c != "\n"] == [
        f for f, c in zip(was[:head], old, strict=False) if c != "\n"
    ]
    tail = next((k for k in range(shared - head) if old[-1 - k] != new[-1 - k]), shared - head)
    for k in range(1, tail + 1):
        if new[-k] != "\n":
            assert kept[-k] == was[-k]


def job_of(text, *runs):
    document = Document(standard_workshop())
    document.apply(add_source("words", TextArt(text=spec(text, *runs))))
    return document


def test_other_words_keep_the_font_of_what_stays():
    document = job_of("LANTERN walk", Run(line=0, letter=8, count=4, font="dancing-script"))
    document.apply(retype("GREAT LANTERN walk"))
    text = document.job.designs[0].source.text
    assert text.runs == (Run(line=0, letter=14, count=4, font="dancing-script"),)
    document.undo()
    assert document.job.designs[0].source.text.runs[0].letter == 8


def test_words_set_apart_keep_their_fonts():
    document = job_of("LANTERN walk", Run(line=0, letter=6, count=4, font="bitter"))
    document.apply(words_apart(document.job, document.plan.garments[0].designs[0]))
    first, second = (design.source.text for design in document.job.designs)
    assert (first.text, first.runs) == ("LANTERN", (Run(line=0, letter=6, count=1, font="bitter"),))
    assert (second.text, second.runs) == ("walk", (Run(line=0, letter=0, count=2, font="bitter"),))


def test_a_name_takes_the_font_of_its_braces():
    runs = (Run(line=0, letter=0, count=6, font="dancing-script"),)
    rows = (NameRow(values=("Ada",)), NameRow(values=("Bartholomew",)))
    names = NameList(columns=("name",), rows=rows)
    for row in rows:
        made = filled(TextArt(text=spec("{name} crew", *runs)), names, row).text
        assert made.runs == (Run(line=0, letter=0, count=len(row.values[0]), font="dancing-script"),)


def test_by_command_letters_in_another_font(tmp_path):
    path = tmp_path / "tee.zinnet"
    document_of('<rect width="40" height="10" fill="#d62828"/>').save(path)
    run_command("job", "add", path, "--text", "LANTERN walk", "--in-font", "walk=dancing-script")
    runs = Document.open(path, standard_workshop()).job.designs[1].source.text.runs
    assert runs == (Run(line=0, letter=8, count=4, font="dancing-script"),)
    wrong = run_command("job", "add", path, "--text", "LANTERN walk", "--in-font", "moon=bitter")
    assert wrong.returncode != 0
    assert "letters of the text" in wrong.stderr


def test_a_style_that_a_font_has_not_is_refused(tmp_path):
    path = tmp_path / "tee.zinnet"
    document_of('<rect width="40" height="10" fill="#d62828"/>').save(path)
    wrong = run_command("job", "add", path, "--text", "LANTERN walk", "--in-font", "walk=bitter/thin")
    assert "has no style" in wrong.stderr
    with pytest.raises(ZinnetError):
        shape_line("walk", "bitter", "thin")
