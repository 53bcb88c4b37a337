"""Jobs that somebody changed, in the real window: nothing wrong is sent or written, by the pages or by the bench."""

import pytest
from PySide6.QtCore import Qt

from tests.hostile.test_tampered_jobs import WAYS, cut_lines, same_pieces, tampered, whole
from zinnet.bench import cutting_run

pytestmark = pytest.mark.usefixtures("narrow_nests")
NEAR_MM = 0.01
__all__ = ["whole"]


@pytest.fixture
def sent(monkeypatch):
    """Return the programs that would go to the cutter; none of them does."""
    programs = []

    class Kept(cutting_run.Sending):
        def start(self):
            programs.append(self.program)
            return self

    monkeypatch.setattr(cutting_run, "Sending", Kept)
    return programs


def is_right(programs, document):
    """Tell whether these programs together cut what the sound job cuts, on the mat, and nothing else."""
    expected = [block.path for load in document.plan.loads for block in load.program().blocks]
    found = [block.path for program in programs for block in program.blocks]
    lengths, ours = (sorted(path.length_mm for path in paths) for paths in (expected, found))
    on_mat = all(
        -NEAR_MM <= x <= load.size[0] + NEAR_MM and -NEAR_MM <= y <= load.size[1] + NEAR_MM
        for load in document.plan.loads
        for path in found
        for x, y in path.points.tolist()
    )
    return on_mat and ours == pytest.approx(lengths, abs=0.05)


@pytest.mark.parametrize("way", WAYS)
def test_nothing_wrong_leaves_the_window(whole, way, window, qtbot, tmp_path, sent):
    session = window.session
    said = []
    session.said.connect(said.append)
    before = session.document
    window.files.opener.open_job(tampered(whole, way, tmp_path))
    qtbot.waitUntil(lambda: not session.background.is_busy)
    if session.document is before:
        assert len(said[-1]) > 15
        assert not window.stations["cut"].control.send()
        assert sent == []
        return
    window.go_to("cut")
    control, bench = window.stations["cut"].control, window.benches["cut"]
    qtbot.waitUntil(lambda: not session.nester.is_running)
    session.exporter.export(session.plan, session.books.store, tmp_path / "out", ("svg",))
    qtbot.waitUntil(lambda: not session.background.is_busy)
    written = list((tmp_path / "out").glob("*.svg"))
    assert not written or same_pieces(cut_lines(tmp_path / "out"), whole[2])
    for load in control.loads:
        control.choose(load)
        qtbot.waitUntil(lambda load=load: control.sheet_of(load) is not None)
        assert not control.send(), "nobody said yes to the loading of this mat"
        assert sent == []
    window.enter_bench()
    for load in control.loads:
        control.choose(load)
        qtbot.keyClick(bench, Qt.Key.Key_Space)
        qtbot.keyClick(bench, Qt.Key.Key_Space)
        if control.run is not None:
            control.run.report = control.run.sending.report
    window.leave_bench()
    assert not sent or is_right(sent, whole[0])
    assert bool(sent) == bool(written), "the bench and the files are judged alike"
