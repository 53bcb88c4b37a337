"""How long the window's event loop stands still, while a nest runs and while the artwork is dragged."""

import os
import time

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import tempfile
from pathlib import Path

import numpy as np
from PySide6.QtCore import QSettings, QTimer
from PySide6.QtWidgets import QApplication

from zinnet.demo import demo_document
from zinnet.job.edits import set_copies, set_nesting, set_placement
from zinnet.ui.application import make_application
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow


def stalls(app: QApplication, seconds: float) -> tuple[float, float]:
    """Return the longest and the 99th percentile of the gaps (ms) between ticks of a 1 ms timer."""
    gaps: list[float] = []
    last = time.perf_counter()

    def tick() -> None:
        nonlocal last
        now = time.perf_counter()
        gaps.append((now - last) * 1000)
        last = now

    timer = QTimer(interval=1)
    timer.timeout.connect(tick)
    timer.start()
    end = time.perf_counter() + seconds
    while time.perf_counter() < end:
        app.processEvents()
        time.sleep(0.0005)
    timer.stop()
    return max(gaps), float(np.percentile(gaps, 99))


def run() -> None:
    """Gaps between the event loop's turns."""
    app = make_application()
    folder = Path(tempfile.mkdtemp())
    session = Session(folder)
    window = MainWindow(session, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window.show()
    session.show_document(demo_document())
    for station, copies, together in (("fit", 8, True), ("nest", 8, True), ("fit", 16, False), ("nest", 12, False)):
        window.go_to(station)
        app.processEvents()
        session.apply(set_copies(copies))
        way, seed = "whole" if together else "parts", session.job.nesting.seed + 1
        session.apply(set_nesting("x", cut_apart=way, seconds=3.0, seed=seed))
        longest, most = stalls(app, 7.0)
        pieces = sum(len(mat.layout.placed) for mat in session.plan.mats)
        print(f"nest of {pieces} pieces, {station} shown: longest gap {longest:.0f} ms, 99 % under {most:.0f} ms")
    window.go_to("fit")
    times = []
    for step in range(60):
        begun = time.perf_counter()
        session.apply(set_placement("x", merge="x", from_centre_mm=step * 0.5))
        app.processEvents()
        times.append((time.perf_counter() - begun) * 1000)
    print(f"one step of a drag, derived and drawn: median {np.median(times):.0f} ms, longest {max(times):.0f} ms")
    session.document.saved = session.job
    session.close()
