"""How long the window's event loop stands still, while a nest runs and while the artwork is dragged."""

import os
import time

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import tempfile
from pathlib import Path

import numpy as np
from PySide6.QtCore import QSettings, QTimer

from zinnet.demo import demo_document
from zinnet.edits import set_copies, set_nesting, set_placement
from zinnet.ui.app import make_application
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow


def stalls(seconds: float, begin: object) -> tuple[float, float]:
    """Return the longest and the 99th percentile of the gaps (ms) between ticks of a 1 ms timer."""
    app = make_application()
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
    begin()  # type: ignore[operator]
    end = time.perf_counter() + seconds
    last = time.perf_counter()
    while time.perf_counter() < end:
        app.processEvents()
        time.sleep(0.0005)
    timer.stop()
    return max(gaps), float(np.percentile(gaps, 99))


def run() -> None:
    """Gaps between the event loop's turns."""
    make_application()
    folder = Path(tempfile.mkdtemp())
    session = Session(folder)
    window = MainWindow(session, QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window.show()
    session.show_document(demo_document())
    for station in ("fit", "nest"):
        window.go_to(station)
        session.apply(set_copies(12 if station == "fit" else 16))
        longest, most = stalls(
            7.0, lambda: session.apply(set_nesting("x", keep_together=False, seconds=3.0, seed=len(station)))
        )
        print(
            f"nest of {len(session.plan.mats)} mats, {station} shown: longest gap {longest:.0f} ms, 99 % under {most:.0f} ms"
        )
    window.go_to("fit")
    times = []
    for step in range(60):
        begun = time.perf_counter()
        session.apply(set_placement("x", merge="x", from_centre_mm=step * 0.5))
        make_application().processEvents()
        times.append((time.perf_counter() - begun) * 1000)
    print(f"one step of a drag, derived and drawn: median {np.median(times):.0f} ms, longest {max(times):.0f} ms")
    session.document.saved = session.job
    session.close()
