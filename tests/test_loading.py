"""The mats as they are loaded, the preflight before anything leaves, and what is sent, kept and written down."""

import datetime
import json

import pytest
import shapely

from tests.helpers import RED_AND_BLUE, document_of, first_of, nested
from zinnet.base.errors import CutError, NestError
from zinnet.bench import cutting_run
from zinnet.bench.cut_journal import (
    Broken,
    JournalError,
    adopt_journal,
    forget_journal,
    journal_of,
    keep_journal,
    mark_of,
)
from zinnet.cutting.link import Report
from zinnet.cutting.settings import CutSettings, CutTest
from zinnet.cutting.stand_in.cutter import Failure, StandIn
from zinnet.cutting.stand_in.port import StandInPort
from zinnet.job.edits import (
    choose_film,
    override_side,
    pass_finding,
    say_loaded,
    set_copies,
    set_cutting,
    set_film_settings,
    set_nesting,
    set_placement,
    set_title,
)
from zinnet.job.file import load_job, save_job
from zinnet.machines.cutters import shipped_machines
from zinnet.output.cut_files import log_export, write_cut_files, write_job_sheet
from zinnet.output.preflight import refuse_unready, wrong_sides
from zinnet.plan.derive import derive
from zinnet.plan.loading import safe_name
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.stock import StockItem
from zinnet.workshop.store import WorkshopStore

TALL = '<path d="M0 0H100V20H60V130H100V150H0V130H40V20H0Z" fill="#f4ead5"/>'
PASS_SCARLET = pass_finding("wrong-cut-side", "I know", "scarlet")
BOX = '<rect width="60" height="40" fill="#f4ead5"/>'


def boxes(*edits, copies=2):
    return nested(document_of(BOX, set_placement("x", width_mm=60.0), set_copies(copies), *edits))


def wrong(film="cream", body=BOX):
    return nested(document_of(body, override_side(film, False, "I said so")))


# the mats


def test_mats_follow_one_another_by_kind_of_film_and_say_what_changes():
    document = nested(document_of(RED_AND_BLUE, choose_film("#d62828", "gold-glitter")))
    first, second = document.plan.loads
    assert first.changes == ()
    assert second.before is first
    assert any("force" in change for change in second.changes)
    assert second.settings != first.settings
    assert "strong grip" in next(load for load in (first, second) if "litter" in load.mats[0].nest.film.kind).grip


def test_a_yes_to_loading_is_about_this_very_mat_and_ends_when_it_changes():
    document = boxes()
    (load,) = document.plan.loads
    document.apply(say_loaded(load.key))
    assert document.plan.loads[0].is_loaded
    document.apply(set_cutting("names", names="{job}-{mat}"))
    assert document.plan.loads[0].is_loaded
    document.apply(set_copies(3))
    nested(document)
    assert not document.plan.loads[0].is_loaded


def test_the_jobs_own_settings_win_over_what_worked_and_that_over_the_typical():
    document = boxes()
    assert document.plan.loads[0].known.is_typical
    tested = CutSettings(force_g=105, blade_mm=0.16, speed_mm_s=180)
    test = CutTest(machine="table", film="cream", settings=tested, outcome="clean")
    document.use_workshop(document.workshop.model_copy(update={"tests": (test,)}))
    assert document.plan.loads[0].settings == tested
    own = tested.model_copy(update={"force_g": 130.0})
    document.apply(set_film_settings("cream", own))
    assert document.plan.loads[0].settings == own
    assert document.plan.loads[0].known.source == "set for this job"
    document.apply(set_film_settings("cream", None))
    assert document.plan.loads[0].settings == tested


def test_the_machine_follows_the_mat_and_gives_knife_and_overcut_unless_the_user_does():
    assert boxes().plan.cutting.machine == "table"
    wide = boxes(set_nesting("x", mat="roll-24in"))
    assert wide.plan.cutting.machine == "wide"
    assert wide.plan.cutting.knife.offset_mm == 0.3
    assert "FS" in wide.plan.loads[0].program().head
    wide.apply(set_cutting("x", knife_offset_mm=0.7, overcut_mm=0.0))
    assert (wide.plan.cutting.knife.offset_mm, wide.plan.cutting.knife.overcut_mm) == (0.7, 0.0)
    with pytest.raises(NestError, match="no machine"):
        shipped_machines().cutter("spaceship", "12x12in")


def test_passes_cut_every_line_so_often():
    document = boxes(copies=1)
    once = document.plan.loads[0].program().blocks[0].text
    settings = document.plan.loads[0].settings.model_copy(update={"passes": 2})
    document.apply(set_film_settings("cream", settings))
    assert document.plan.loads[0].program().blocks[0].text == once * 2


def test_lines_through_the_waste_stay_in_the_frame_and_off_the_pieces():
    document = nested(
        document_of(
            TALL,
            set_placement("x", width_mm=260.0),
            set_nesting("x", mat="12x24in", weed_frame="mat"),
            set_cutting("x", weed_lines=True),
        )
    )
    for load in document.plan.loads:
        kinds = [path.kind for path in load.cut_sheet().paths]
        assert "line" in kinds
        assert kinds == sorted(kinds, key=lambda kind: {"frame": 1, "line": 2}.get(kind, 0))
        frame = shapely.Polygon(next(path.points for path in load.cut_sheet().paths if path.kind == "frame"))
        pieces = shapely.union_all(load.mats[0].regions)
        for path in load.cut_sheet().paths:
            if path.kind == "line":
                line = shapely.LineString(path.points)
                assert frame.buffer(0.1).covers(line)
                assert line.distance(pieces) > 0.5
    document.apply(set_nesting("x", weed_frame="none"))
    nested(document)
    assert all(path.kind != "line" for load in document.plan.loads for path in load.cut_sheet().paths)


def test_the_test_cut_lies_in_its_spot_and_is_a_square_with_a_triangle_that_is_cut_first():
    document = boxes(set_nesting("x", test_cut=True))
    (load,) = document.plan.loads
    settings = load.settings
    program = load.test_program(settings)
    assert [block.path.piece for block in program.blocks] == ["test-cut-triangle", "test-cut-square"]
    (spot,) = load.test_spots
    triangle, square = (shapely.Polygon(block.path.points) for block in program.blocks)
    assert square.symmetric_difference(spot).area < 0.1
    assert square.contains(triangle)
    assert not any(path.piece.startswith("test-cut") for path in load.cut_sheet().paths)
    assert boxes().plan.loads[0].test_program(settings) is None


def test_the_test_cut_alone_is_sent_and_no_spot_is_said():
    document = boxes(set_nesting("x", test_cut=True))
    load = document.plan.loads[0]
    with StandInPort(times=None) as port:
        report = cutting_run.send_test(load, cutting_run.PortSettings(port.name), load.settings).wait(10)
        assert len(port.cutter.head.strokes) == 2
    assert report.is_whole
    assert cutting_run.broken_mat(load, mark_of(document.job)) is None
    with pytest.raises(CutError, match="no spot"):
        cutting_run.send_test(boxes().plan.loads[0], cutting_run.PortSettings("nowhere"), load.settings)


def test_films_that_share_a_mat_but_not_their_settings_are_found():
    document = document_of(
        RED_AND_BLUE, set_placement("x", width_mm=60.0), set_nesting("x", from_shelf=True, share_mats=True)
    )
    films = [row.film.id for row in first_of(document.plan).layers]
    stock = tuple(
        StockItem(number=k, film=film, kind="sheet", width_mm=100, length_mm=120) for k, film in enumerate(films, 1)
    )
    document.use_workshop(document.workshop.model_copy(update={"stock": stock}))
    nested(document)
    (load,) = document.plan.loads
    assert load.set_otherwise == ()
    assert load.cut_sheet().films == tuple(dict.fromkeys(path.film for path in load.cut_sheet().paths))
    assert len(load.mats) == 2
    assert load.stem.startswith("mat-01-02-")
    other = load.settings.model_copy(update={"force_g": 150.0})
    document.apply(set_film_settings(load.mats[1].nest.film.id, other))
    assert document.plan.loads[0].set_otherwise == (load.mats[1].nest.film.name,)
    finding = next(one for one in document.plan.findings if one.id == "settings-changed")
    document.apply(finding.mend)
    nested(document)
    assert all(not load.set_otherwise for load in document.plan.loads)


@pytest.mark.parametrize("text", ["../../etc/passwd", "a/b\\c", "  ", "..", "mat\n1", "x" * 500, "Mütze, rot"])
def test_names_of_files_are_safe(text):
    name = safe_name(text)
    assert name
    assert len(name) <= 120
    assert not set(name) & set("/\\\n")
    assert not name.startswith(".")


# before anything leaves


def test_a_wrong_side_is_neither_written_nor_sent_without_an_override(tmp_path):
    document = wrong()
    for action in (
        lambda: write_cut_files(document.plan, tmp_path),
        lambda: cutting_run.prepare(document.plan, 1, loaded=True),
        lambda: refuse_unready(document.plan),
    ):
        with pytest.raises(CutError, match="wrong-cut-side"):
            action()
    document.apply(pass_finding("wrong-cut-side", "the maker says so", "cream"))
    assert write_cut_files(document.plan, tmp_path)
    assert cutting_run.prepare(document.plan, 1, loaded=True)


def test_an_override_for_one_film_is_none_for_another(tmp_path):
    document = nested(document_of(RED_AND_BLUE, override_side("scarlet", False, "I know"), PASS_SCARLET))
    assert write_cut_files(document.plan, tmp_path)
    film = next(mat.nest.film.id for mat in document.plan.mats if mat.nest.film.id != "scarlet")
    document.apply(override_side(film, False, "and this"))
    nested(document)
    with pytest.raises(CutError, match="wrong-cut-side"):
        write_cut_files(document.plan, tmp_path)


def test_the_sides_are_judged_from_the_pieces_whatever_the_findings_say():
    """A plan whose findings are gone is still refused: the pieces themselves lie the wrong way round."""
    from dataclasses import replace

    plan = replace(wrong().plan, findings=())
    assert not plan.open_stops
    assert [mat.number for mat, _ in wrong_sides(plan)] == [1]
    with pytest.raises(CutError, match="wrong side"):
        refuse_unready(plan)
    assert not list(wrong_sides(boxes().plan))


@pytest.mark.parametrize("reason", ["", "\u200b\u200b\u200b", "the maker says so"])
def test_a_job_file_that_was_tampered_with_cuts_nothing_from_the_wrong_side(tmp_path, reason):
    import zipfile

    document = wrong()
    path = tmp_path / "job.zinnet"
    document.save(path)
    with zipfile.ZipFile(path) as archive:
        entries = {name: archive.read(name) for name in archive.namelist()}
    data = json.loads(entries["job.json"])
    data["layers"]["sides"][0]["reason"] = reason
    data["cutting"]["confirmed"] = ["wrong-cut-side", "cream"]
    entries["job.json"] = json.dumps(data).encode()
    with zipfile.ZipFile(path, "w") as archive:
        for name, content in entries.items():
            archive.writestr(name, content)
    job, layouts = load_job(path)
    plan = derive(job, document.workshop, layouts)
    if reason == "the maker says so":
        with pytest.raises(CutError, match="wrong-cut-side"):
            write_cut_files(plan, tmp_path)
    else:
        assert first_of(plan).layers[0].side == first_of(plan).layers[0].derived_side, "a word without words is none"
        assert list(wrong_sides(plan)) == []


def test_nothing_is_sent_before_somebody_says_it_is_loaded():
    document = boxes()
    with pytest.raises(CutError, match="Confirm first how mat"):
        cutting_run.prepare(document.plan, 1)
    document.apply(say_loaded(document.plan.loads[0].key))
    assert cutting_run.prepare(document.plan, 1)
    with pytest.raises(CutError, match="no mat 7"):
        cutting_run.prepare(document.plan, 7)


def test_passed_stops_stand_on_the_job_sheet_and_in_the_log(tmp_path):
    import pypdfium2

    document = wrong()
    document.apply(pass_finding("wrong-cut-side", "a film of the seventh kind", "cream"))
    page = pypdfium2.PdfDocument(write_job_sheet(document.plan, tmp_path))[0].get_textpage().get_text_range()
    text = " ".join(page.split())
    assert "a film of the seventh kind" in text
    assert "12 x 12 in mat" in text
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    log_export(document.plan, store, tmp_path)
    (entry,) = CutBook(store).entries()
    assert entry.what == "cut files"
    assert "a film of the seventh kind" in entry.said


def test_a_plain_job_sheet_names_every_mat_with_settings_and_time(tmp_path):
    import pypdfium2

    document = nested(document_of(RED_AND_BLUE, choose_film("#d62828", "gold-glitter")))
    page = pypdfium2.PdfDocument(write_job_sheet(document.plan, tmp_path))[0].get_textpage().get_text_range()
    text = " ".join(page.split())
    for load in document.plan.loads:
        assert load.films in text
        assert f"{load.settings.force_g:.0f} g" in text
    assert "Passed" not in text


# sending, breaks and the books


def sent(load, program, mark, cutter=None):
    with StandInPort(cutter, times=None) as port:
        settings = cutting_run.PortSettings(port.name, answer_s=0.3)
        return cutting_run.send(load, settings, program, mark).wait(20), port.cutter


def test_a_broken_mat_goes_on_where_it_stopped_and_its_journal_is_forgotten_when_it_is_whole(tmp_path):
    document = boxes(copies=6)
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    load = cutting_run.prepare(document.plan, 1, loaded=True)
    mark = mark_of(document.job)
    report, first = sent(load, load.program(), mark, StandIn(failure=Failure("jam", len(load.program().text) // 2)))
    cutting_run.write_down(document.plan, load, load.program(), report, store)
    broken = cutting_run.broken_mat(load, mark)
    assert (broken.done, broken.doubtful) == (report.done, report.doubtful)
    with pytest.raises(CutError, match="nobody knows"):
        cutting_run.program_left(load, mark)
    rest = cutting_run.program_left(load, mark, again=False)
    report, second = sent(load, rest, mark)
    cutting_run.write_down(document.plan, load, rest, report, store)
    assert report.is_whole
    assert cutting_run.broken_mat(load, mark) is None
    with pytest.raises(CutError, match="cut already"):
        cutting_run.program_left(load, mark)
    forget_journal(load)
    assert cutting_run.program_left(load, mark) is load.program()
    assert len(first.head.strokes) + len(second.head.strokes) >= 5
    whats = [entry.what for entry in CutBook(store).entries()]
    assert whats == ["cut", "cut, broken off"]
    (blade,) = CutBook(store).blades()
    cut = sum(block.path.length_mm for block in load.program().blocks)
    assert blade.metres == pytest.approx(cut / 1000), "the blade may have gone over a line in doubt: it is counted"


def test_lines_that_were_left_in_doubt_are_not_cut_behind_ones_back_later():
    document = boxes(copies=8)
    load = cutting_run.prepare(document.plan, 1, loaded=True)
    mark = mark_of(document.job)
    report, _ = sent(load, load.program(), mark, StandIn(failure=Failure("jam", 250)))
    left = cutting_run.program_left(load, mark, again=False)
    again, _ = sent(load, left, mark, StandIn(failure=Failure("noise", 200)))
    assert not again.is_whole
    last = cutting_run.program_left(load, mark, again=False)
    names = {block.path.name for block in last.blocks}
    assert not names & {*report.done, *report.doubtful, *again.done, *again.doubtful}


@pytest.mark.parametrize("text", ["{broken", "[]", '{"done": 5, "doubtful": []}', '{"done": []}', ""])
def test_of_a_journal_that_can_not_be_read_is_asked_before_anything_is_sent(text):
    document = boxes()
    load, mark = document.plan.loads[0], mark_of(document.job)
    path = journal_of(load)
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(text)
    with pytest.raises(CutError, match="journal can't be read: nobody knows which"):
        cutting_run.program_left(load, mark)
    forget_journal(load)
    assert cutting_run.program_left(load, mark) is load.program()


def test_a_journal_that_names_other_lines_than_were_kept_is_damaged_and_no_film_is_taken_for_its_own():
    document = boxes()
    load, mark = document.plan.loads[0], mark_of(document.job)
    first, second, *_ = (block.path.name for block in load.program().blocks)
    keep_journal(load, mark, Broken((first,), ()))
    path = journal_of(load)
    path.write_text(path.read_text().replace(first, second))
    with pytest.raises(CutError, match="journal can't be read: nobody knows which"):
        cutting_run.program_left(load, mark)
    with pytest.raises(CutError, match="nobody knows which of its lines are cut"):
        adopt_journal(load, mark)
    with pytest.raises(CutError, match="journal can't be read: nobody knows which"):
        cutting_run.program_left(load, mark)


@pytest.mark.parametrize("whose", ["another job", "another day"])
def test_the_same_lines_of_another_job_or_day_are_asked_about_and_none_is_left_out(whose):
    """The second customer's tee has the very lines of the first one's: its film is new."""
    first, second = boxes(), boxes()
    second.apply(set_title("The second customer's"))
    load = cutting_run.prepare(first.plan, 1, loaded=True)
    mark = mark_of(first.job)
    report, _ = sent(load, load.program(), mark)
    assert report.is_whole
    cutting_run.finish_journal(load, mark)
    assert cutting_run.was_cut(load, mark)
    later = datetime.date.today() + datetime.timedelta(days=3)
    other = mark_of(second.job) if whose == "another job" else mark_of(first.job, later)
    same_lines = cutting_run.prepare(second.plan, 1, loaded=True)
    assert not cutting_run.was_cut(same_lines, other)
    with pytest.raises(CutError, match=f"were begun before, for “{first.job.title}”, {mark.day}"):
        cutting_run.program_left(same_lines, other)
    adopt_journal(same_lines, other)
    with pytest.raises(CutError, match="cut already"):
        cutting_run.program_left(same_lines, other)
    forget_journal(same_lines)
    assert len(cutting_run.program_left(same_lines, other).blocks) == len(load.program().blocks)


def test_a_journal_that_can_not_be_kept_is_said_before_anything_is_sent():
    document = boxes()
    load, mark = cutting_run.prepare(document.plan, 1, loaded=True), mark_of(document.job)
    journal_of(load).mkdir(parents=True)
    with StandInPort(times=None) as port:
        settings = cutting_run.PortSettings(port.name, answer_s=0.3)
        with pytest.raises(JournalError, match="journal of the cut can't be kept"):
            cutting_run.send(load, settings, load.program(), mark)
        assert port.cutter.bytes_in == 0
        assert cutting_run.send(load, settings, load.program(), mark, without_journal=True).wait(20).is_whole


def test_what_became_of_a_mat_is_said_with_every_line_that_is_not_cut():
    from zinnet.cutting.link import Report

    broken = Report("failed", ("a",), ("b",), ("c", "d"), "the link is lost")
    said = cutting_run.in_words(broken, 4)
    assert said == "the link is lost: 1 of 4 lines are cut; in doubt: b; look at the mat; not cut: c, d"
    assert cutting_run.in_words(Report("done", ("a",), (), (), "", 3.0), 1) == "all 1 lines are cut, in 3 s"


def test_an_older_job_is_read_with_the_usual_cutting(tmp_path):
    document = boxes()
    save_job(tmp_path / "a.zinnet", document.job, {})
    job, _ = load_job(tmp_path / "a.zinnet")
    assert job.cutting == document.job.cutting


def test_metres_of_the_blade_count_every_pass_and_lines_in_doubt_after_a_break(tmp_path):
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    book = CutBook(store)
    book.put_in_blade("table")
    document = boxes(copies=2)
    plain = document.plan.loads[0]
    twice = plain.settings.model_copy(update={"passes": 2})
    document.apply(set_film_settings(plain.mats[0].nest.film.id, twice))
    load = cutting_run.prepare(document.plan, 1, loaded=True)
    lengths = {block.path.name: block.path.length_mm for block in load.program().blocks}
    done, doubtful = list(lengths)[:1], list(lengths)[1:2]
    report = Report("failed", tuple(done), tuple(doubtful), (), "jam")
    cutting_run.write_down(document.plan, load, load.program(), report, store)
    (blade,) = book.blades()
    assert blade.metres == pytest.approx(2 * (lengths[done[0]] + lengths[doubtful[0]]) / 1000)
