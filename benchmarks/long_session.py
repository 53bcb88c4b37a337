"""A long session in the real window: memory, descriptors and processes after thousands of edits and many jobs."""

import os
import sys
import tempfile
import threading
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEvent, QSettings
from PySide6.QtTest import QTest

from tests.helpers import LANTERN, RED_AND_BLUE, document_of
from zinnet.base.memory import memory_in_use
from zinnet.base.workers import living_workers
from zinnet.demo import demo_document
from zinnet.job.edits import Edit, set_copies, set_placement, set_title
from zinnet.ui.application import make_application
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow

SAID_EVERY = 10


def _state() -> str:
    descriptors = len(os.listdir("/proc/self/fd"))
    ours = [one for one in Path(tempfile.gettempdir()).iterdir() if one.name.startswith("zinnet")]
    return (
        f"{memory_in_use() / 2**20:.0f} MB, {descriptors} descriptors, {threading.active_count()} threads, "
        f"{len(living_workers())} processes of its own, {len(ours)} temporary folders"
    )


def _edit(number: int) -> Edit:
    match number % 4:
        case 0:
            return set_placement("nudge", from_centre_mm=(number % 97) / 10)
        case 1:
            return set_placement("width", width_mm=120 + (number * 7 % 1200) / 10)
        case 2:
            return set_copies(1 + number % 5)
    return set_title(f"evening {number}")


def run() -> None:
    """Memory, descriptors and processes over ``--edits N`` edits and ``--jobs N`` jobs that are opened."""
    words = dict(zip(sys.argv, sys.argv[1:], strict=False))
    edits, jobs = int(words.get("--edits", 2000)), int(words.get("--jobs", 200))
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        os.environ.update(dict.fromkeys(("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"), name))
        app = make_application()
        session = Session(folder / "copies")
        window = MainWindow(session, QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
        window.show()
        session.show_document(demo_document())
        session.nester.stop()
        app.processEvents()
        print(f"the demo is open: {_state()}", flush=True)
        began = time.perf_counter()
        for number in range(edits):
            session.apply(_edit(number))
            while session.is_working:
                app.processEvents()
                time.sleep(0.001)
            session.nester.stop()
            app.processEvents()
            app.sendPostedEvents(None, QEvent.Type.DeferredDelete)  # as the event loop does, which does not run here
            if number % (edits // SAID_EVERY or 1) == 0:
                print(f"  {number:5} edits: {_state()}", flush=True)
        took = time.perf_counter() - began
        print(f"{edits} edits, {took / edits * 1000:.0f} ms each: {_state()}", flush=True)
        for number, body in enumerate((LANTERN, RED_AND_BLUE)):
            document_of(body).save(folder / f"{number}.zinnet")
        for number in range(jobs):
            path = folder / f"{number % 2}.zinnet"
            window.files.opener.open_job(path)
            while session.document.path != path or session.background.is_busy:
                QTest.qWait(5)
            session.nester.stop()
            if number % (jobs // SAID_EVERY or 1) == 0:
                print(f"  {number:5} jobs: {_state()}", flush=True)
        print(f"{jobs} jobs: {_state()}", flush=True)
        session.document.saved = session.job
        window.close()
