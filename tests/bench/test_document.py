"""The open document over time: undo, nests in use, and the user's own machines."""

import os
import stat

import pytest

from tests.helpers import LANTERN, document_of, nested
from zinnet.base.errors import ZinnetError
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.bench.document import MOST_LAYOUTS, Document
from zinnet.job.edits import set_copies, set_nesting, set_title
from zinnet.machines.cutters import machines_file
from zinnet.nesting.model import Layout
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import open_settings

LONG_MAT = """
[mats.long]
name = "my long mat"
width_mm = {width}
height_mm = 400
margin_mm = 5
"""


def test_an_undo_that_can_not_be_derived_leaves_job_plan_and_history_as_they_were(own_folders):
    machines_file().parent.mkdir(parents=True, exist_ok=True)
    machines_file().write_text(LONG_MAT.format(width=900))
    document = Document(open_settings())
    document.apply(set_nesting("long mat", mat="long"))
    document.apply(set_nesting("usual mat", mat="12x12in"))
    document.use_workshop(standard_workshop())
    before = document.job, document.plan, document.undo_name
    with pytest.raises(ZinnetError, match="no mat"):
        document.undo()
    assert (document.job, document.plan, document.undo_name) == before
    document.use_workshop(open_settings())
    document.undo()
    assert document.job.nesting.mat == document.plan.job.nesting.mat == "long"


def test_nests_follow_a_mat_of_ones_own_that_was_changed_in_its_file(own_folders):
    machines_file().parent.mkdir(parents=True, exist_ok=True)
    machines_file().write_text(LONG_MAT.format(width=900))
    document = document_of(LANTERN)
    document.use_workshop(open_settings())
    document.apply(set_nesting("long mat", mat="long"))
    assert {nest.task.sheet.width_mm for nest in document.plan.nests} == {900}
    machines_file().write_text(LONG_MAT.format(width=700))
    document.use_workshop(open_settings())
    assert {nest.task.sheet.width_mm for nest in document.plan.nests} == {700}
    assert {load.bed.width_mm for load in nested(document).plan.loads} == {700}


def test_nests_that_are_in_use_outlive_any_number_of_others():
    document = nested(document_of(LANTERN))
    assert document.plan.is_nested
    for number in range(3 * MOST_LAYOUTS):
        document.keep_layout(f"another nest {number}", Layout())
    document.apply(set_title("the nests are still there"))
    document.apply(set_copies(2))
    document.undo()
    assert document.plan.is_nested
    assert len(document.layouts) <= MOST_LAYOUTS + len(document.plan.nests)


@pytest.mark.parametrize("mode", [0o644, 0o664, 0o600])
def test_saving_keeps_the_mode_of_the_file(tmp_path, mode):
    document, path = document_of(LANTERN), tmp_path / "walk.zinnet"
    document.save(path)
    path.chmod(mode)
    document.apply(set_copies(3))
    document.save(path)
    assert stat.S_IMODE(path.stat().st_mode) == mode


def test_a_new_file_can_be_read_by_those_whom_the_mask_lets(tmp_path):
    before = os.umask(0o022)
    try:
        document_of(LANTERN).save(tmp_path / "walk.zinnet")
    finally:
        os.umask(before)
    assert stat.S_IMODE((tmp_path / "walk.zinnet").stat().st_mode) == 0o644


def test_a_copy_is_found_though_another_process_has_the_number_of_the_one_that_crashed(tmp_path):
    """A process that crashed and whose number is given out again: here it is that of the test's own parent."""
    copy = AutomaticCopy(tmp_path)
    copy.path = tmp_path / f"{os.getppid()}-1.zinnet"
    copy.keep(document_of(LANTERN).job)
    copy._note.close()
    assert [one.path for one in AutomaticCopy(tmp_path).left_behind()] == [copy.path]


def test_saving_through_a_link_writes_what_it_points_at(tmp_path):
    real, link = tmp_path / "real.zinnet", tmp_path / "link.zinnet"
    document = document_of(LANTERN)
    document.save(real)
    link.symlink_to(real)
    document.apply(set_copies(7))
    document.save(link)
    assert link.is_symlink()
    assert Document.open(real, standard_workshop()).job.copies == 7
    assert sorted(path.name for path in tmp_path.glob("*.zinnet*")) == ["link.zinnet", "real.zinnet"]
    assert not list(tmp_path.glob(".*"))


def test_falling_back_from_an_undo_keeps_what_was_done_before():
    document = document_of(LANTERN, set_copies(3), set_title("three"))
    document.turn(undo=True)
    assert document.is_behind
    document.fall_back()
    assert not document.is_behind
    document.undo()
    assert document.job.copies == 1
