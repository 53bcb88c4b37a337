"""A mend is a promise: what mends nothing, loses a letter's part or takes another film without a word does not hold."""

import json

import pytest

from tests.helpers import document_of, run_command
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.job.edits import Edit, add_source, choose_film, one_step, set_nesting, set_placement
from zinnet.plan.proof import prove
from zinnet.workshop.model import standard_workshop

TWO = '<rect width="30" height="30" fill="#d62828"/><rect x="50" width="30" height="30" fill="#1f57c3"/>'
DOTS = (
    '<circle cx="10" cy="10" r="9" fill="#d62828"/><circle cx="30" cy="10" r="9" fill="#d62828"/>'
    '<rect y="40" width="40" height="12" fill="#d62828"/>'
)
GLITTERS = (choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter"))


def text(words, width_mm):
    document = Document(standard_workshop())
    document.apply(add_source("words", TextArt(text=TextSpec(text=words))))
    document.apply(set_placement("x", width_mm=width_mm))
    return document


def finding(document, finding_id):
    return next(one for one in document.plan.findings if one.id == finding_id)


def mend(finding, begins):
    return next(one for one in finding.mends if one.name.startswith(begins))


def named(name, edit):
    return Edit(name, edit.change)


def test_a_mend_that_mends_holds_and_says_what_it_changes_in_numbers():
    document = document_of(DOTS, set_placement("x", width_mm=50.0), choose_film("#d62828", "white-puff"))
    gap = finding(document, "gap-will-close")
    proof = prove(document.plan, gap, gap.mend)
    assert proof.against == ()
    assert proof.changes[0] == "a gap will close: 1 to 0"


def test_a_mend_that_changes_nothing_does_not_hold():
    document = document_of(DOTS, set_placement("x", width_mm=50.0), choose_film("#d62828", "white-puff"))
    proof = prove(document.plan, finding(document, "gap-will-close"), Edit("wish it away", lambda job: job))
    assert len(proof.against) == 1
    assert "still there" in proof.against[0]


@pytest.mark.parametrize(("words", "width_mm"), [("is raised", 28.0), ("iii", 7.0), ("jump!", 20.0)])
def test_the_dots_of_letters_are_never_dropped(words, width_mm):
    document = text(words, width_mm)
    speck = finding(document, "weed-speck")
    drops = [one for one in speck.mends if one.name.startswith(("drop", "fill"))]
    assert drops
    for one in drops:
        assert any(said.startswith("letters would have") for said in prove(document.plan, speck, one).against)


def test_parts_of_a_drawing_are_dropped_where_the_name_says_how_many():
    specks = "".join(f'<circle cx="{10 * k + 5}" cy="50" r="0.6" fill="#d62828"/>' for k in range(4))
    document = document_of(f'<rect width="60" height="40" fill="#d62828"/>{specks}', set_placement("x", width_mm=60.0))
    speck = finding(document, "weed-speck")
    drop = mend(speck, "drop 4 parts")
    assert prove(document.plan, speck, drop).holds
    silent = prove(document.plan, speck, named("tidy up", drop))
    assert silent.against == ("the drawing would have 4 parts less",)


def test_two_colours_do_not_become_one_film_in_silence():
    document = document_of(TWO, *GLITTERS)
    note = finding(document, "blank-not-measured")
    both = [choose_film(colour, "scarlet") for colour in ("#d62828", "#1f57c3")]
    against = prove(document.plan, note, one_step("use Scarlet", both)).against
    assert "2 films would become 1" in against
    assert any("Scarlet is matt" in said for said in against)


def test_a_film_of_another_name_is_not_taken_in_silence():
    document = document_of(TWO, *GLITTERS)
    note = finding(document, "blank-not-measured")
    edit = choose_film("#d62828", "scarlet")
    said = prove(document.plan, note, named("choose film", edit)).against
    assert "#d62828 would be cut from Scarlet instead of Gold glitter" in said
    named_so = prove(document.plan, note, named("use Scarlet, matt", edit))
    assert not [one for one in named_so.against if "instead of" in one or "Scarlet is" in one]
    assert "Gold glitter to Scarlet" in named_so.changes


def test_a_mend_that_makes_something_graver_does_not_hold():
    document = document_of(TWO, set_placement("x", width_mm=150.0))
    note = finding(document, "blank-not-measured")
    out = set_placement("off the panel", width_mm=150.0, from_centre_mm=260.0)
    assert any("usable" in said for said in prove(document.plan, note, out).against)


def test_by_command_a_mend_that_does_not_hold_is_refused_and_its_numbers_are_in_the_json(tmp_path):
    path = tmp_path / "words.zinnet"
    text("is raised", 28.0).save(path)
    before = path.read_bytes()
    rows = json.loads(run_command("check", path, "--json").stdout)
    mends = next(row["mends"] for row in rows if row["id"] == "weed-speck")
    drop = next(row for row in mends if row["label"].startswith(("drop", "fill")))
    refused = run_command("job", "mend", path, "weed-speck", "--number", drop["number"])
    assert refused.returncode != 0
    assert "letters would have" in refused.stderr
    assert path.read_bytes() == before
    assert drop["holds"] is False
    assert drop["changes"][0].startswith("specks will be lost in weeding: ")


def test_all_safe_mends_are_made_at_once_and_change_no_more_than_outlines(tmp_path):
    body = (
        '<rect width="40" height="60" fill="#d62828"/><rect x="40" y="30" width="60" height="0.4" fill="#d62828"/>'
        '<path fill-rule="evenodd" fill="#1f57c3" d="M0 70H100V100H0Z M50 75h.3v20h-.3Z"/>'
    )
    path = tmp_path / "bars.zinnet"
    document_of(body, set_placement("x", width_mm=100.0)).save(path)
    asked = run_command("job", "mend", path, "--all-safe")
    assert asked.returncode == 0
    assert "mend all that is safe" in asked.stdout
    left = {row["id"] for row in json.loads(run_command("check", path, "--json").stdout)}
    assert not left & {"too-thin", "gap-will-close"}
    before = path.read_bytes()
    again = run_command("job", "mend", path, "--all-safe")
    assert again.returncode != 0
    assert path.read_bytes() == before


def test_what_would_be_larger_than_the_mat_is_not_enlarged():
    bar = '<rect width="30" height="60" fill="#d62828"/><rect x="30" y="30" width="70" height="0.22" fill="#d62828"/>'
    document = document_of(bar, set_placement("x", width_mm=280.0), set_nesting("small", mat="12x12in"))
    (thin,) = [one for one in document.plan.findings if one.id == "too-thin"]
    larger = set_placement("enlarge by 40 %, to 400 mm", width_mm=400.0)
    assert any("larger than the mat" in said for said in prove(document.plan, thin, larger).against)


def test_flattening_a_blend_holds_though_its_colours_are_others():
    blend = (
        '<linearGradient id="g"><stop stop-color="#d62828"/><stop offset="1" stop-color="#f4ead5"/></linearGradient>'
        '<rect width="80" height="60" fill="url(#g)"/>'
    )
    document = document_of(blend)
    one = finding(document, "blend-not-cuttable")
    assert [said for said in prove(document.plan, one, one.mend).against if "lost" in said or "part" in said] == []
