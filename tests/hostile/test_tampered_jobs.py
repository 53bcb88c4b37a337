"""Jobs that somebody changed: nothing that a file says is believed, and no wrong cut leaves by any way."""

import json
import zipfile
from itertools import chain

import numpy as np
import pytest

from tests.helpers import document_of, nested, outlines_in_svg
from tests.helpers import run_command as run
from zinnet.base.errors import CutError, SettingsError
from zinnet.bench.cutting_run import prepare
from zinnet.bench.document import Document
from zinnet.job.edits import override_side, pass_finding, say_loaded, set_copies, set_placement
from zinnet.job.file import load_job

pytestmark = pytest.mark.usefixtures("nests_here")
BOX = '<rect width="60" height="40" fill="#f4ead5"/><circle cx="80" cy="20" r="12" fill="#f4ead5"/>'
LETTERLESS = ["    ", "\u200b\u200b\u200b\u200b", "\u2060\ufeff\u200d\u200c", "...", "\u0301\u0301\u0301\u0301", "1234"]


@pytest.fixture(scope="module")
def whole(tmp_path_factory):
    """Return a sound nested job, its entries, and what is cut of it."""
    folder = tmp_path_factory.mktemp("whole")
    document = nested(document_of(BOX, set_placement("x", width_mm=120.0), set_copies(2)))
    document.save(folder / "tees.zinnet")
    with zipfile.ZipFile(folder / "tees.zinnet") as archive:
        entries = {name: archive.read(name) for name in archive.namelist()}
    assert run("cut", folder / "tees.zinnet", "--out", folder / "out").returncode == 0
    return document, entries, cut_lines(folder / "out")


def cut_lines(folder):
    return [outlines_in_svg(path.read_text()) for path in sorted(folder.glob("*.svg"))]


def placed(layouts):
    """Return the copies on the first mat of the first nest, to be changed in place."""
    return next(iter(layouts.values()))["sheets"][0]["placed"]


def moved(**fields):
    def change(job, layouts, document):
        for layout in layouts.values():
            layout["verified"] = True
        for name, value in fields.items():
            placed(layouts)[0][name] = value

    return change


def on_each_other(by):
    def change(job, layouts, document):
        one, other = placed(layouts)[:2]
        other |= {"x_mm": one["x_mm"] + by, "y_mm": one["y_mm"], "turn_deg": one["turn_deg"]}

    return change


def layout_of(**fields):
    def change(job, layouts, document):
        for layout in layouts.values():
            layout |= fields

    return change


def first_sheet(**fields):
    def change(job, layouts, document):
        for layout in layouts.values():
            layout["sheets"][0] |= fields

    return change


def say_it_is_loaded(job, layouts, document):
    job["cutting"]["loaded"] = [load.key for load in document.plan.loads]
    job["cutting"]["confirmed"] = ["cream", "stray-film", "1"]


def turned_over(reason):
    def change(job, layouts, document):
        job["layers"]["sides"] = [{"film": "cream", "mirrored": False, "reason": reason}]

    return change


def passed_by(reason):
    def change(job, layouts, document):
        moved(x_mm=5000.0)(job, layouts, document)
        named = ("off-sheet", "pieces-overlap", "wrong-cut-side", "pieces-too-close")
        job["overrides"] = [{"finding": name, "reason": reason} for name in named]

    return change


def pinned(**where):
    def change(job, layouts, document):
        one = placed(layouts)[0]
        pin = {"piece": one["piece"], "copy_number": one["copy_number"], "mat": 0, "x_mm": 1.0, "y_mm": 1.0} | where
        job["nesting"]["moved"] = [pin]

    return change


def twice(job, layouts, document):
    placed(layouts)[1] = dict(placed(layouts)[0])


def left_out(job, layouts, document):
    del placed(layouts)[0]


def one_too_many(job, layouts, document):
    placed(layouts).append(dict(placed(layouts)[0], copy_number=77))


def beside_and_passed(reason):
    def change(job, layouts, document):
        on_each_other(0.0)(job, layouts, document)
        job["overrides"] = [{"finding": "pieces-overlap", "reason": reason}]

    return change


WAYS = {
    "five metres away": moved(x_mm=5000.0),
    "five metres up": moved(y_mm=-5000.0),
    "a little over the margin": moved(x_mm=-3.0),
    "beside the mat": moved(x_mm=400.0),
    "turned by any angle": moved(turn_deg=33.0),
    "without end": moved(x_mm=1e308),
    "no number": moved(x_mm=float("nan")),
    "a word for a number": moved(x_mm="left"),
    "another piece's name": moved(piece="layer-99"),
    "a copy number below one": moved(copy_number=-1),
    "copies on one another": on_each_other(0.0),
    "copies half on one another": on_each_other(20.0),
    "copies that just touch": on_each_other(2.0),
    "one copy twice": twice,
    "one copy left out": left_out,
    "one copy too many": one_too_many,
    "all found no room": layout_of(unplaced=["layer-1"] * 2),
    "no sheets": layout_of(sheets=[]),
    "another kind of sheet": first_sheet(sheet=99),
    "a sheet below none": first_sheet(sheet=-1),
    "a length below none": first_sheet(used_length_mm=-5.0),
    "said to be loaded": say_it_is_loaded,
    "another side, no words": turned_over("   "),
    "another side, signs without width": turned_over("\u200b\u200b\u200b"),
    "another side, with words": turned_over("I said so"),
    "all passed, without words": passed_by("\u200b\u200b\u200b"),
    "all passed, with words": passed_by("trust me, it is right"),
    "pieces on one another, passed": beside_and_passed("they are the same"),
    "moved off the mat by hand": pinned(x_mm=5000.0, held=True),
    "moved onto another by hand": lambda job, layouts, document: pinned(
        x_mm=placed(layouts)[1]["x_mm"], y_mm=placed(layouts)[1]["y_mm"], turn_deg=placed(layouts)[1]["turn_deg"]
    )(job, layouts, document),
    "moved to a mat that is not there": pinned(mat=500),
    "layouts that are a list": lambda job, layouts, document: layouts.clear(),
}


def tampered(whole, way, folder):
    document, entries, _ = whole
    job, layouts = json.loads(entries["job.json"]), json.loads(entries["layouts.json"])
    WAYS[way](job, layouts, document)
    path = folder / "tees.zinnet"
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in entries.items():
            text = {"job.json": job, "layouts.json": layouts}.get(name)
            archive.writestr(name, data if text is None else json.dumps(text))
    return path


@pytest.mark.parametrize("way", WAYS)
def test_whatever_was_changed_nothing_wrong_is_written_or_sent(whole, way, tmp_path, monkeypatch):
    sent = []
    monkeypatch.setattr("zinnet.bench.cutting_run.Sending.start", lambda self: sent.append(self) or self)
    path = tampered(whole, way, tmp_path)
    done = run("cut", path, "--out", tmp_path / "out")
    assert done.returncode in (0, 1, 2)
    assert done.returncode == 0 or done.stderr.strip()
    if done.returncode == 0:
        assert same_pieces(cut_lines(tmp_path / "out"), whole[2])
    else:
        assert not list(tmp_path.glob("out/*.svg"))
    assert run("send", path, "--mat", 1, "--port", tmp_path / "no-port").returncode != 0
    assert sent == [], "nobody said yes to the loading of this mat"


def same_pieces(found, expected):
    """Tell whether the same outlines are cut, wherever they lie: each by its length and its turning sense."""
    ours, theirs = (sorted(map(measures, chain.from_iterable(files))) for files in (found, expected))
    return ours == pytest.approx(theirs, abs=0.05)


def measures(ring):
    steps = np.diff(np.vstack([ring, ring[:1]]), axis=0)
    return round(float(np.hypot(*steps.T).sum()), 1)


def test_what_was_said_at_the_machine_is_forgotten_with_the_file(whole, tmp_path):
    document, *_ = whole
    (load, *_) = document.plan.loads
    said = Document(document.workshop, document.job)
    said.apply(say_loaded(load.key))
    said.save(tmp_path / "said.zinnet")
    job, _ = load_job(tmp_path / "said.zinnet")
    assert job.cutting.loaded == job.cutting.confirmed == ()


@pytest.mark.parametrize("reason", LETTERLESS)
def test_a_reason_without_words_passes_nothing(reason):
    for edit in (pass_finding("off-sheet", reason), override_side("cream", False, reason)):
        with pytest.raises(SettingsError, match="A reason has words"):
            document_of(BOX, edit)


def test_what_is_said_at_the_machine_is_no_mend_of_a_file(whole, tmp_path):
    document, *_ = whole
    path = tmp_path / "tees.zinnet"
    document.save(path)
    before = path.read_bytes()
    (asked,) = [finding for finding in document.plan.findings if finding.id == "loading-side"]
    done = run("job", "mend", path, "loading-side", "--subject", asked.subject)
    assert done.returncode == 2
    assert "no file keeps it" in done.stderr
    assert path.read_bytes() == before


def test_pieces_on_one_another_are_a_stop_that_no_reason_passes(whole, tmp_path):
    path = tampered(whole, "pieces on one another, passed", tmp_path)
    document = Document.open(path, whole[0].workshop)
    found = [finding for finding in document.plan.findings if finding.id == "pieces-overlap"]
    assert [finding.level for finding in found] == ["stop"]
    assert found[0].passed
    with pytest.raises(CutError, match="lie on one another"):
        prepare(document.plan, 1, loaded=True)
